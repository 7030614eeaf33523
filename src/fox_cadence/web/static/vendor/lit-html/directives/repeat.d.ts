export function repeat<T>(
  items: Iterable<T>,
  key: (item: T, index: number) => unknown,
  template: (item: T, index: number) => unknown,
): unknown;

export function classMap(classes: Record<string, boolean>): unknown;

export function guard(inputs: unknown[], make: () => unknown): unknown;

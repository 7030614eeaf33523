export function live(value: unknown): unknown;

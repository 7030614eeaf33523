// What we use of lit-html 3.3.3 (its own declarations need another package's).
export type TemplateResult = { readonly _$litType$: number; readonly strings: TemplateStringsArray };
export const nothing: unique symbol;
export function html(strings: TemplateStringsArray, ...values: unknown[]): TemplateResult;
export function svg(strings: TemplateStringsArray, ...values: unknown[]): TemplateResult;
export function render(value: unknown, container: HTMLElement | DocumentFragment): unknown;

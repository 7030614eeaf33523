// Lists as templates: the one place that names the library which draws them (docs/dependencies.md).

export { html, nothing, render, svg } from "../vendor/lit-html/lit-html.js";
export { classMap } from "../vendor/lit-html/directives/class-map.js";
export { guard } from "../vendor/lit-html/directives/guard.js";
export { live } from "../vendor/lit-html/directives/live.js";
export { repeat } from "../vendor/lit-html/directives/repeat.js";

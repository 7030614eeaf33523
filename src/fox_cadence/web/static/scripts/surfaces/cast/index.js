/** @type {import("../surface.d.ts").Make} */
export const makeCast = () => ({ show() {}, setPlayhead() {}, follow() {} });

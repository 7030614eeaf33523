/** @type {import("../surface.d.ts").Make} */
export const makeDocket = () => ({ show() {}, setPlayhead() {}, follow() {} });

/** @type {import("../surface.d.ts").Make} */
export const makeProofSheet = () => ({ show() {}, setPlayhead() {}, follow() {} });

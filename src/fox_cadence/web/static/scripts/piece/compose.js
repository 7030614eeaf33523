// A page's state in parts, put together with getters kept as getters.

/** @typedef {import("./state.d.ts").State} State */

/**
 * One part. In its methods `this` is the whole state, with what all other parts bring.
 *
 * @template {object} T
 * @param {T & ThisType<State>} made
 * @returns {T}
 */
export const part = (made) => made;

/** Two parts may not bring the same name: one would silently take the place of the other. @param {...object} parts @returns {any} */
export function compose(...parts) {
  const made = {};
  for (const part of parts) {
    const twice = Object.keys(part).find((name) => Object.hasOwn(made, name));
    if (twice) throw new Error(`two parts of the page bring ${twice}`);
    Object.defineProperties(made, Object.getOwnPropertyDescriptors(part));
  }
  return made;
}

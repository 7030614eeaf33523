// What the page of a project draws and plays with; kept out of Alpine's reach, which would wrap it.

/** @type {{surfaces: import("../surfaces/surfaces.js").Surfaces, stage: import("../frame/stage.js").Stage,
 *   player: import("../frame/player.js").Player, told: import("../timeline.js").Told,
 *   state: import("../types.d.ts").ProjectJson}} */
export const page = /** @type {any} */ ({});

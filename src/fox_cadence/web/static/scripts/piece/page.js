// What the page of a project draws and plays with; kept out of Alpine's reach, which would wrap it.

/** @type {{sheet: import("../sheet/sheet.js").Sheet, stage: import("../frame/stage.js").Stage,
 *   player: import("../frame/player.js").Player, pointing: import("../sheet/pointing.js").Pointing,
 *   told: import("../timeline.js").Told, state: import("../types.d.ts").ProjectJson}} */
export const page = /** @type {any} */ ({});

// The picture of a shot as it is seen: framed, then adjusted. A whole picture on a colour is adjusted without the colour.

import { adjust, isAdjusted, shade } from "./adjusting.js";
import { drawFramed, viewOf } from "./framing.js";

/** @typedef {{framing: import("../answers.d.ts").FramingJson, adjustment: import("../answers.d.ts").AdjustmentJson}} Seen */
/** What can be tried of a shot. @typedef {Seen & {laid: import("../answers.d.ts").LaidJson[]}} Tried */

/**
 * @param {CanvasRenderingContext2D} context @param {CanvasImageSource} image
 * @param {[number, number]} picture width and height of it @param {Seen} seen
 * @param {number} share of the shot that has passed @param {Uint8Array|null} table of its colours
 */
export function drawShot(context, image, picture, { framing, adjustment }, share, table) {
  drawFramed(context, image, picture, framing, share);
  if (!isAdjusted(adjustment)) return;
  const { width, height } = context.canvas;
  let area = { left: 0, top: 0, width, height };
  if (framing.fit === "colour") {
    const view = viewOf(framing, picture, [width, height], share);
    const [w, h] = [width / view.width, height / view.height];
    area = { left: -view.left * w, top: -view.top * h, width: w, height: h };
  }
  adjust(context, adjustment, table, area);
  shade(context, adjustment.vignette);
}

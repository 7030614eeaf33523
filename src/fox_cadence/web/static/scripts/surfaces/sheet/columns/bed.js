// The bed column: the music as a band that narrows where it ducks under the words.

import { svg } from "../../../svg.js";
import { part } from "../layer.js";

/** @typedef {import("../sheet.js").Sheet} Sheet */
/** @typedef {import("../../surface.d.ts").View} View */

const WIDE = 60;

/** @type {import("../sheet.js").Column} */
export const bed = {
  name: "bed",
  title: "Bed",
  parts: (sheet, view, _, [from, to]) => [bedPart(sheet, view, from, to)],
};

/** @param {Sheet} sheet @param {View} view @param {number} from @param {number} to */
function bedPart(sheet, view, from, to) {
  const { beds, duck, total_frames: frames } = view.t;
  return part("bed", [from, to, view.scale, frames, beds.length, duck], () => {
    const holder = svg("svg", {
      class: "bed",
      width: WIDE,
      height: Math.max(1, to - from),
      "aria-hidden": "true",
    });
    holder.style.top = `${from}px`;
    if (!beds.length) return holder;
    const end = frames * sheet.frameSeconds;
    const half = (/** @type {number} */ db) => 24 * Math.pow(10, db / 26);
    /** @type {Array<[number, number]>} */
    const inside = duck.filter(([s]) => s > 0 && s < end);
    const first = duck.findLast(([s]) => s <= 0)?.[1] ?? 0;
    const points = /** @type {Array<[number, number]>} */ ([
      [0, first],
      ...inside,
      [end, inside.at(-1)?.[1] ?? first],
    ]);
    const right = points.map(([s, db]) => `${WIDE / 2 + half(db)},${sheet.y(s) - from}`);
    const left = points.map(([s, db]) => `${WIDE / 2 - half(db)},${sheet.y(s) - from}`).reverse();
    holder.append(svg("polygon", { points: [...right, ...left].join(" "), class: "bed-ink" }));
    return holder;
  });
}

// Words dragged on the frame: to thirds, the middle, the safe area and other words, which they snap to.

import { drag } from "../drag.js";
import { svg } from "../svg.js";
import { part } from "./compose.js";
import { page } from "./page.js";

/** @typedef {import("../types.d.ts").OnScreen} OnScreen */
/** @typedef {[number, number, number, number]} Box */

/** Of the frame, that words keep clear of (core/lettering/placing.py). */
export const SAFE = 0.05;
const SNAP_PX = 7;

export const placing = part({
  /** Take hold of what is under the pointer in the frame. @param {PointerEvent} event */
  holdFrame(event) {
    if (this.pass === "lettering") return this.holdWords(event);
    return this.holdPicture(event);
  },

  /** @param {PointerEvent} event */
  holdWords(event) {
    if (event.button !== 0) return;
    const frame = /** @type {HTMLElement} */ (event.currentTarget).getBoundingClientRect();
    const scale = this.t.width / frame.width;
    const at = [(event.clientX - frame.left) * scale, (event.clientY - frame.top) * scale];
    const items = page.stage.standing();
    const held = items.findLast(({ box: [x, y, wide, high] }) => inside(at, [x, y, wide, high]));
    if (!held) return this.holdFigure(event, at, scale);
    event.preventDefault();
    if (this.letterDesk === "figures") this.setLetterDesk("words");
    if (this.t.titles.some((title) => title.id === held.item.id)) this.chooseTitleHere(held.item.id);
    else if (held.item.id !== this.caption || this.title) this.chooseCaptionHere(held.item.id);
    const others = items.filter(({ item }) => item.id !== held.item.id).map(({ box }) => box);
    const [x, y] = [event.clientX, event.clientY];
    let moved = [0, 0];
    const move = (/** @type {PointerEvent} */ e) => {
      const wanted = [(e.clientX - x) * scale, (e.clientY - y) * scale];
      const found = e.altKey
        ? { dx: wanted[0] ?? 0, dy: wanted[1] ?? 0, guides: [] }
        : snapped(held.box, wanted, others, [this.t.width, this.t.height], SNAP_PX * scale);
      moved = [found.dx, found.dy];
      page.stage.tryPlace(held.item.id, found.dx, found.dy);
      drawGuides(found.guides, this.t.width, this.t.height);
    };
    const end = (/** @type {boolean} */ keep) => {
      drawGuides([], this.t.width, this.t.height);
      const [dx, dy] = [moved[0] ?? 0, moved[1] ?? 0];
      if (!keep || (Math.abs(dx) < 1 && Math.abs(dy) < 1)) return page.stage.tryPlace("", 0, 0);
      this.dropWords(held.item, dx, dy);
    };
    drag(move, end);
  },

  /** Words were dragged so many pixels of the frame: their place, or that of their style, follows. @param {OnScreen} item @param {number} dx @param {number} dy */
  async dropWords(item, dx, dy) {
    const style = this.t.lettering.styles[item.style];
    if (!style) return;
    const from = item.place ?? style.place;
    const own = this.letterScope === "caption" || "own_style" in item === false || this.chosenTitle;
    // the shift may be more than what was asked for: the words had made room for others
    const [sx, sy] = item.place || from.clear ? [0, 0] : item.shift;
    const side = page.stage.backwards(item) && style.align !== "middle" ? -1 : 1;
    const x = near(from.x + (side * (dx + sx)) / this.t.width);
    const y = near(from.y + (dy + sy) / this.t.height);
    const place = { ...from, x, y };
    const edit =
      own || item.place
        ? this.edit({ kind: "words_place", ids: [item.id], place })
        : this.restyle({ place: { x, y } });
    const made = await edit;
    if (!made) page.stage.tryPlace("", 0, 0);
  },

  /** @param {string} id */
  chooseTitleHere(id) {
    this.title = id;
    this.redraw();
  },

  /** A caption on the frame is chosen without leaving the moment. @param {string} id */
  chooseCaptionHere(id) {
    const { at } = this;
    this.chooseCaption(id);
    if (!this.playing) this.moved(at, false);
  },
});

/** @param {number[]} at @param {Box} box */
const inside = ([px = 0, py = 0], [x, y, wide, high]) =>
  px >= x && px <= x + wide && py >= y && py <= y + high;

/** @param {number} share */
const near = (share) => Math.round(Math.min(1, Math.max(0, share)) * 10_000) / 10_000;

/**
 * Where a box that is dragged comes to lie, and the lines it snaps to.
 *
 * @param {Box} box @param {number[]} wanted @param {Box[]} others @param {number[]} frame @param {number} reach
 * @returns {{dx: number, dy: number, guides: Array<{across: boolean, at: number}>}}
 */
export function snapped([x, y, wide, high], [wx = 0, wy = 0], others, [width = 1, height = 1], reach) {
  const lines = (/** @type {number} */ size) =>
    [SAFE, 1 / 3, 0.5, 2 / 3, 1 - SAFE].map((share) => share * size);
  const across = [...lines(width), ...others.flatMap((other) => [other[0], other[0] + other[2]])];
  const down = [...lines(height), ...others.flatMap((other) => [other[1], other[1] + other[3]])];
  const [dx, atX] = toNearest([x + wx, x + wx + wide / 2, x + wx + wide], across, reach);
  const [dy, atY] = toNearest([y + wy, y + wy + high / 2, y + wy + high], down, reach);
  const guides = [];
  if (atX !== null) guides.push({ across: false, at: atX });
  if (atY !== null) guides.push({ across: true, at: atY });
  return { dx: wx + dx, dy: wy + dy, guides };
}

/** @param {number[]} edges @param {number[]} lines @param {number} reach @returns {[number, number|null]} */
function toNearest(edges, lines, reach) {
  /** @type {[number, number|null]} */
  let best = [0, null];
  let least = reach;
  for (const edge of edges)
    for (const line of lines)
      if (Math.abs(line - edge) < least) {
        least = Math.abs(line - edge);
        best = [line - edge, line];
      }
  return best;
}

/** @param {Array<{across: boolean, at: number}>} guides @param {number} width @param {number} height */
export function drawGuides(guides, width, height) {
  const target = document.getElementById("guides");
  if (!target) return;
  target.setAttribute("viewBox", `0 0 ${width} ${height}`);
  target.replaceChildren(
    ...guides.map(({ across, at }) =>
      svg("line", across ? { x1: 0, x2: width, y1: at, y2: at } : { x1: at, x2: at, y1: 0, y2: height }),
    ),
  );
}

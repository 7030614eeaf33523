// The beds: music as a band that is as wide as it is loud, its beats as ticks, its level as a line with points.

import { element, svg } from "../../svg.js";
import { part } from "../sheet/layer.js";
import { bars, loudest } from "./peaks.js";

/** @typedef {import("./peaks.js").Peaks} Peaks */
/** @typedef {import("../../answers.d.ts").BedJson} Bed */
/** @typedef {import("../../answers.d.ts").BedBeatsJson} Heard */
/** @typedef {import("../sheet/sheet.js").Sheet} Sheet */
/** @typedef {import("../surface.d.ts").View} View */
/** @typedef {[number, number]} Point seconds of the bed, decibels */

const [LOWEST_DB, HIGHEST_DB] = [-36, 6];
const TICKS = 22;

/** How wide a bed's part of the column is, and half its band at its own level. @param {number} count */
export const room = (count) => Math.max(46, Math.floor(166 / Math.max(1, count)));
/** @param {number} wide */
const reach = (wide) => (wide - TICKS) / 2 - 4;
/** @param {number} wide */
const middle = (wide) => TICKS + (wide - TICKS) / 2 - 2;

/** Half a band of a level. @param {number} db @param {number} wide */
export const halfOf = (db, wide) =>
  (reach(wide) * (Math.max(LOWEST_DB, Math.min(HIGHEST_DB, db)) - LOWEST_DB)) / (HIGHEST_DB - LOWEST_DB);

/** The level of a place across. @param {number} x @param {number} wide */
export function levelAt(x, wide) {
  const db = ((x - middle(wide)) / reach(wide)) * (HIGHEST_DB - LOWEST_DB) + LOWEST_DB;
  return Math.round(Math.max(LOWEST_DB, Math.min(HIGHEST_DB, db)) * 2) / 2;
}

/** The level of a curve at a second. @param {Point[]} points @param {number} s */
export function along(points, s) {
  if (!points.length) return 0;
  const after = points.findIndex(([at]) => at >= s);
  if (after === 0) return points[0][1];
  if (after < 0) return points[points.length - 1][1];
  const [[from, low], [to, high]] = [points[after - 1], points[after]];
  return low + ((high - low) * (s - from)) / Math.max(1e-9, to - from);
}

export class Beds {
  name = "music";
  title = "Beds";

  /** @param {Peaks} peaks */
  constructor(peaks) {
    this.peaks = peaks;
    /** A level curve while it is dragged. @type {{bed: string, points: Point[]}|null} */
    this.tried = null;
  }

  /** The points of a bed's level curve, as they are or as they are dragged. @param {Bed} bed @returns {Point[]} */
  pointsOf(bed) {
    return this.tried?.bed === bed.id ? this.tried.points : bed.levels;
  }

  /** @param {Sheet} sheet @param {View} view @param {(top: number, end: number) => boolean} seen @param {[number, number]} reaches */
  *parts(sheet, view, seen, [from, to]) {
    const { beds } = view.t;
    for (const [place, bed] of beds.entries()) {
      const heard = view.sound?.beds.find((each) => each.bed === bed.id) ?? null;
      const end = ends(sheet, view, bed, heard);
      if (seen(sheet.y(bed.start_s), sheet.y(end)))
        yield this.#bed(sheet, view, bed, heard, place, end, from, to);
      const wide = room(beds.length);
      for (const [n, [at, db]] of this.pointsOf(bed).entries()) {
        const y = sheet.y(bed.start_s + at);
        if (seen(y, y)) yield this.#point(bed, n, y, db, place * wide, wide);
      }
    }
  }

  /** @param {Sheet} sheet @param {View} view @param {Bed} bed @param {Heard|null} heard @param {number} place @param {number} end @param {number} from @param {number} to */
  #bed(sheet, view, bed, heard, place, end, from, to) {
    const wide = room(view.t.beds.length);
    const peaks = this.peaks.of(`/media/clips/${bed.clip_hash}/peaks`);
    const points = this.pointsOf(bed);
    const chosen = view.bed === bed.id;
    const look = [from, to, view.scale, bed, points, heard, peaks !== null, wide, place, end, chosen];
    return part(`music-${bed.id}`, look, () => {
      const holder = svg("svg", { class: `music${chosen ? " chosen" : ""}`, width: wide, height: to - from });
      holder.dataset.bed = bed.id;
      holder.style.top = `${from}px`;
      holder.style.left = `${place * wide}px`;
      const [top, bottom] = [Math.max(0, sheet.y(bed.start_s) - from), Math.min(to, sheet.y(end)) - from];
      const x = middle(wide);
      const second = (/** @type {number} */ y) => sheet.secondsAt(y + from);
      const level = (/** @type {number} */ s) => along(points, s - bed.start_s);
      const ducked = (/** @type {number} */ s) => along(heard?.duck ?? [], s);
      const [right, left, line] = [[""], [""], [""]].map(() => /** @type {string[]} */ ([]));
      for (let y = top; y <= bottom; y += 4) {
        const s = second(y);
        const half = halfOf(level(s) + ducked(s), wide);
        right.push(`${(x + half).toFixed(1)},${y.toFixed(1)}`);
        left.unshift(`${(x - half).toFixed(1)},${y.toFixed(1)}`);
        line.push(`${(x + halfOf(level(s), wide)).toFixed(1)},${y.toFixed(1)}`);
      }
      holder.append(svg("polygon", { class: "music-band", points: [...right, ...left].join(" ") }));
      if (heard && peaks)
        holder.append(waveOf(heard, peaks, sheet, from, top, bottom, x, level, ducked, wide));
      if (heard) holder.append(beatsOf(heard, sheet, from, top, bottom));
      holder.append(svg("polyline", { class: "music-level", points: line.join(" ") }));
      const grip = svg("polyline", { class: "music-grip", points: line.join(" ") });
      grip.dataset.level = bed.id;
      holder.append(grip);
      return holder;
    });
  }

  /** @param {Bed} bed @param {number} n @param {number} y @param {number} db @param {number} left @param {number} wide */
  #point(bed, n, y, db, left, wide) {
    const x = left + middle(wide) + halfOf(db, wide);
    return part(`level-${bed.id}-${n}`, [y, x, db], () => {
      const made = element("button", "level-point");
      made.dataset.key = `level-${bed.id}-${n}`;
      made.dataset.bed = bed.id;
      made.dataset.point = String(n);
      made.style.left = `${x.toFixed(1)}px`;
      made.style.top = `${y.toFixed(1)}px`;
      made.setAttribute("aria-label", `Point ${n + 1} of the level curve, ${db.toFixed(1)} dB`);
      return made;
    });
  }
}

/** When a bed ends in the piece. @param {Sheet} sheet @param {View} view @param {Bed} bed @param {Heard|null} heard */
function ends(sheet, view, bed, heard) {
  const last = heard?.runs.at(-1);
  if (last) return last[0] + last[2];
  const total = view.t.total_frames * sheet.frameSeconds;
  return bed.length_s === null ? total : Math.min(total, bed.start_s + bed.length_s);
}

/** @param {Heard} heard @param {number[]} peaks @param {Sheet} sheet @param {number} from @param {number} top @param {number} bottom @param {number} x
 * @param {(s: number) => number} level @param {(s: number) => number} ducked @param {number} wide */
function waveOf(heard, peaks, sheet, from, top, bottom, x, level, ducked, wide) {
  let run = 0;
  const most = Math.max(1, ...peaks.slice(0, 60_000)) / 255;
  const shape = bars(top, bottom, x, (y, next) => {
    const s = sheet.secondsAt(y + from);
    while (run + 1 < heard.runs.length && heard.runs[run + 1][0] <= s) run++;
    const [at, source, length] = heard.runs[run] ?? [0, 0, 0];
    if (s < at || s > at + length) return 0;
    const now = source + s - at;
    const step = sheet.secondsAt(next + from) - s;
    return Math.max(0.5, (loudest(peaks, now, now + step) / most) * halfOf(level(s) + ducked(s), wide));
  });
  return svg("path", { class: "music-wave", d: shape });
}

/** Beats as ticks, bars as longer ones. @param {Heard} heard @param {Sheet} sheet @param {number} from @param {number} top @param {number} bottom */
function beatsOf(heard, sheet, from, top, bottom) {
  const bar = new Set(heard.bars.map((s) => s.toFixed(2)));
  const shape = heard.beats
    .map((s) => [sheet.y(s) - from, bar.has(s.toFixed(2)) ? 13 : 6])
    .filter(([y]) => y >= top && y <= bottom)
    .map(([y, long]) => `M2 ${y.toFixed(1)}h${long}`)
    .join("");
  return svg("path", { class: "music-beats", d: shape });
}

// The loudest sample of each hundredth of a second, of takes and clips: fetched once, drawn as bars across.

import { get } from "../../api.js";

export const PER_SECOND = 100;
const STEP = 2.4;

export class Peaks {
  /** @param {() => void} redraw called when some have arrived */
  constructor(redraw) {
    this.redraw = redraw;
    /** @type {Map<string, number[]|null>} */
    this.known = new Map();
  }

  /** @param {string} path @returns {number[]|null} null while they are on their way */
  of(path) {
    const known = this.known.get(path);
    if (known !== undefined) return known;
    this.known.set(path, null);
    get(path).then(
      (data) => {
        this.known.set(path, data.peaks);
        this.redraw();
      },
      () => {},
    );
    return null;
  }
}

/**
 * Bars across a middle, from one pixel to another.
 *
 * @param {number} top @param {number} bottom
 * @param {number} middle
 * @param {(y: number, next: number) => number} half half the width of the bar of these pixels; 0 for none
 */
export function bars(top, bottom, middle, half) {
  const parts = [];
  for (let y = Math.max(0, top); y < bottom; y += STEP) {
    const wide = half(y, y + STEP);
    if (wide > 0) parts.push(`M${(middle - wide).toFixed(1)} ${y.toFixed(1)}h${(2 * wide).toFixed(1)}`);
  }
  return parts.join("");
}

/** The loudest of a stretch of seconds, 0 to 1. @param {number[]} peaks @param {number} from @param {number} to */
export function loudest(peaks, from, to) {
  let level = 0;
  const last = Math.max(Math.floor(from * PER_SECOND) + 1, Math.floor(to * PER_SECOND));
  for (let i = Math.max(0, Math.floor(from * PER_SECOND)); i < last; i++)
    level = Math.max(level, peaks[i] ?? 0);
  return level / 255;
}

// What is changed of a picture in the preview: as core/adjustment.py has it for the export. The tables of colours come
// from the core; a colour between their points is found by trilinear interpolation.

import { bytes } from "../api.js";

/** @typedef {import("../answers.d.ts").AdjustmentJson} Adjustment */
/** @typedef {{left: number, top: number, width: number, height: number}} Area in pixels of the canvas */

const POINTS = 33;
const SHARP_SIGMA = 0.0012;
const MOST_KEPT = 80;
/** @type {Array<[number, number]>} */
const VIGNETTE = [
  [0.35, 0],
  [0.5, 0.06],
  [0.65, 0.24],
  [0.8, 0.55],
  [1, 1],
];

/** Nothing is changed. @type {Adjustment} */
export const UNADJUSTED = {
  exposure: 0,
  contrast: 1,
  warmth: 0,
  tint: 0,
  saturation: 1,
  sharpness: 0,
  vignette: 0,
  look: "",
  look_share: 1,
};

/** The name of the colours of an adjustment; empty where they stay as they are. @param {Adjustment} of @returns {string} */
export function coloursKey(of) {
  const share = of.look ? of.look_share : 1;
  const values = [of.exposure, of.contrast, of.warmth, of.tint, of.saturation, share];
  const same = [0, 1, 0, 0, 1, 1].every((value, place) => values[place] === value);
  return same && !of.look ? "" : [...values, of.look || "-"].join("_");
}

/** @param {Adjustment} of @returns {boolean} */
export const isAdjusted = (of) => of.sharpness > 0 || of.vignette > 0 || coloursKey(of) !== "";

/** Tables of colours, fetched one after the other, the newest wanted first. */
export class Colours {
  /** @param {() => void} onCome called when one is there */
  constructor(onCome) {
    this.onCome = onCome;
    /** @type {Map<string, Uint8Array>} */
    this.tables = new Map();
    /** @type {string[]} */
    this.wanted = [];
    this.fleeting = "";
    this.asking = false;
  }

  /** The table of a key if it is at hand; else it is fetched. @param {string} key @param {boolean} [fleeting] only for a moment: another such one takes its turn */
  get(key, fleeting = false) {
    if (!key) return null;
    const table = this.tables.get(key);
    if (table) return table;
    if (fleeting && this.fleeting !== key) {
      this.wanted = this.wanted.filter((each) => each !== this.fleeting);
      this.fleeting = key;
    }
    if (!this.wanted.includes(key)) this.wanted.push(key);
    this.#fetch();
    return null;
  }

  async #fetch() {
    if (this.asking) return;
    this.asking = true;
    for (let key = this.wanted.pop(); key; key = this.wanted.pop()) {
      try {
        this.tables.set(key, new Uint8Array(await bytes(`/media/colours/${key}/table`)));
      } catch {
        break; // the picture stays as it is until it is wanted again; the page says what else does not answer
      }
      for (const old of this.tables.keys()) {
        if (this.tables.size <= MOST_KEPT) break;
        this.tables.delete(old);
      }
      this.onCome();
    }
    this.asking = false;
  }
}

/**
 * Sharpness and colours of an area of the canvas.
 *
 * @param {CanvasRenderingContext2D} context @param {Adjustment} adjustment @param {Uint8Array|null} table
 * @param {Area} area
 */
export function adjust(context, adjustment, table, area) {
  if (!table && !adjustment.sharpness) return;
  const left = Math.max(0, Math.round(area.left));
  const top = Math.max(0, Math.round(area.top));
  const width = Math.min(context.canvas.width, Math.round(area.left + area.width)) - left;
  const height = Math.min(context.canvas.height, Math.round(area.top + area.height)) - top;
  if (width < 1 || height < 1) return;
  const image = context.getImageData(left, top, width, height);
  const longer = Math.max(context.canvas.width, context.canvas.height);
  if (adjustment.sharpness) sharpen(image, adjustment.sharpness, SHARP_SIGMA * longer);
  if (table) lookUp(image.data, table);
  context.putImageData(image, left, top);
}

const BLUE = 3;
const GREEN = POINTS * BLUE;
const RED = POINTS * GREEN;

/** For each byte of red, green and blue where the point below it is in a table, and how far it is from there. */
const [BELOW_RED, BELOW_GREEN, BELOW_BLUE] = [RED, GREEN, BLUE].map((step) =>
  Int32Array.from({ length: 256 }, (_, value) => pointBelow(value) * step),
);
const FAR = Float32Array.from(
  { length: 256 },
  (_, value) => (value / 255) * (POINTS - 1) - pointBelow(value),
);

/** @param {number} value of a byte */
function pointBelow(value) {
  return Math.min(POINTS - 2, Math.floor((value / 255) * (POINTS - 1)));
}

/** Written out for each corner of the cube: this runs for every pixel of every frame. @param {Uint8ClampedArray} data @param {Uint8Array} table */
function lookUp(data, table) {
  for (let i = 0; i < data.length; i += 4) {
    const red = data[i];
    const green = data[i + 1];
    const blue = data[i + 2];
    let p = BELOW_RED[red] + BELOW_GREEN[green] + BELOW_BLUE[blue];
    const x = FAR[red];
    const y = FAR[green];
    const z = FAR[blue];
    for (let c = i; c < i + 3; c++, p++) {
      const a = table[p];
      const b = table[p + GREEN];
      const d = table[p + RED];
      const e = table[p + RED + GREEN];
      const near = a + (table[p + BLUE] - a) * z;
      const far = d + (table[p + RED + BLUE] - d) * z;
      const front = near + (b + (table[p + GREEN + BLUE] - b) * z - near) * y;
      const back = far + (e + (table[p + RED + GREEN + BLUE] - e) * z - far) * y;
      data[c] = front + (back - front) * x; // which rounds
    }
  }
}

/** More of what a small blur takes from the luma. @param {ImageData} image @param {number} amount @param {number} sigma in pixels, under 1 */
function sharpen({ data, width, height }, amount, sigma) {
  const side = Math.min(0.33, (sigma * sigma) / 2); // three points with the variance of the blur
  const luma = new Float32Array(width * height);
  for (let p = 0; p < luma.length; p++)
    luma[p] = 0.2126 * data[4 * p] + 0.7152 * data[4 * p + 1] + 0.0722 * data[4 * p + 2];
  const across = new Float32Array(luma.length);
  for (let p = 0; p < luma.length; p++) {
    const column = p % width;
    const before = luma[column ? p - 1 : p];
    const after = luma[column < width - 1 ? p + 1 : p];
    across[p] = luma[p] + side * (before + after - 2 * luma[p]);
  }
  for (let p = 0; p < luma.length; p++) {
    const above = across[p >= width ? p - width : p];
    const below = across[p < luma.length - width ? p + width : p];
    const more = amount * (luma[p] - across[p] - side * (above + below - 2 * across[p]));
    for (let c = 0; c < 3; c++) data[4 * p + c] += more;
  }
}

/** Darken the corners of the whole frame. @param {CanvasRenderingContext2D} context @param {number} amount */
export function shade(context, amount) {
  if (!amount) return;
  const { width, height } = context.canvas;
  const reach = Math.SQRT1_2; // a corner, where the frame is one unit wide and one high
  const dark = context.createRadialGradient(0, 0, 0, 0, 0, reach);
  for (const [place, share] of VIGNETTE) dark.addColorStop(place, `rgba(0, 0, 0, ${amount * share})`);
  context.save();
  context.translate(width / 2, height / 2);
  context.scale(width, height);
  context.fillStyle = dark;
  context.fillRect(-0.5, -0.5, 1, 1);
  context.restore();
}

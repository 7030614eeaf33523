// The drawings of captions and titles and when they move, fetched a few at a time around where the piece is shown,
// and kept by what they were made from.

import { post } from "../api.js";

/** @typedef {import("../types.d.ts").Timeline} Timeline */
/** @typedef {import("../types.d.ts").OnScreen} OnScreen */
/** @typedef {import("../types.d.ts").Drawing} Drawing */
/** @typedef {import("../answers.d.ts").MomentsJson} Moments */

const AHEAD_S = 15;
const MOST_AT_ONCE = 24;
const MOST_KEPT = 400;

/** All words on the screen of a piece, in the order in which they are painted. @param {Timeline} t @returns {OnScreen[]} */
export const wordsOf = (t) => [...t.titles, ...t.captions];

export class Drawings {
  /** @param {() => void} onCome called when new ones are there */
  constructor(onCome) {
    this.onCome = onCome;
    /** @type {Map<string, Drawing>} */
    this.kept = new Map();
    /** @type {Map<string, Moments>} */
    this.when = new Map();
    this.asking = false;
  }

  /** @param {Timeline} t @param {OnScreen} item */
  #key(t, item) {
    const breaks = "breaks" in item ? item.breaks.join(",") : "";
    return `${item.style} ${t.width}x${t.height} ${t.language} ${breaks} ${item.text}`;
  }

  /** @param {Timeline} t @param {OnScreen} item */
  #timeKey(t, item) {
    return `${item.out - item.in} ${spokenFrom(item).join(";")} ${this.#key(t, item)}`;
  }

  /** The drawing of words if it is at hand. @param {Timeline} t @param {OnScreen} item @returns {Drawing|null} */
  get(t, item) {
    return this.kept.get(this.#key(t, item)) ?? null;
  }

  /** When its parts move, if that is known. @param {Timeline} t @param {OnScreen} item @returns {Moments|null} */
  moments(t, item) {
    return this.when.get(this.#timeKey(t, item)) ?? null;
  }

  /** Fetch those shown from a frame on that are not at hand. @param {Timeline} t @param {number} frame */
  prepare(t, frame) {
    const until = frame + (AHEAD_S * t.rate.numerator) / t.rate.denominator;
    const near = wordsOf(t).filter((item) => item.out > frame && item.in < until);
    const now = near.filter((item) => item.in <= frame);
    return this.fetch(t, now.some((item) => !this.get(t, item)) ? now : near); // what is shown goes before what will be
  }

  /** Fetch those that are not at hand, a few at a time. @param {Timeline} t @param {OnScreen[]} items */
  async fetch(t, items) {
    if (this.asking) return;
    const missing = items
      .filter((item) => item.drawn && !(this.get(t, item) && this.moments(t, item)))
      .slice(0, MOST_AT_ONCE);
    if (!missing.length) return;
    this.asking = true;
    const styles = Object.fromEntries(missing.map(({ style }) => [style, t.lettering.styles[style]]));
    try {
      const found = await post(`/api/projects/${t.project}/drawings`, {
        styles,
        words: missing.map((item) => ({
          text: item.text,
          style: item.style,
          breaks: "breaks" in item ? item.breaks : [],
          frames: Math.max(0, item.out - item.in),
          spoken: spokenFrom(item),
          known: this.get(t, item) !== null,
        })),
      });
      missing.forEach((item, place) => {
        const made = found[place];
        if (made?.drawing) this.kept.set(this.#key(t, item), made.drawing);
        if (made) this.when.set(this.#timeKey(t, item), made.moments);
      });
      forget(this.kept);
      forget(this.when);
    } catch {
      return; // the frame stays without words until the next try; the page says what else does not answer
    } finally {
      this.asking = false;
    }
    this.onCome(); // and what is shown meanwhile is asked for
  }
}

/** When the words of something are spoken, in frames from its in frame on. @param {OnScreen} item @returns {Array<[number, number]>} */
export const spokenFrom = (item) =>
  "spoken" in item ? item.spoken.map(([begins, ends]) => [begins - item.in, ends - item.in]) : [];

/** @param {Map<string, unknown>} kept */
function forget(kept) {
  for (const old of kept.keys()) {
    if (kept.size <= MOST_KEPT) break;
    kept.delete(old);
  }
}

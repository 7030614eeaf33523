// The drawings of captions, fetched a few at a time around where the piece is shown, and kept by what they say.

import { post } from "../api.js";

/** @typedef {import("../types.d.ts").Timeline} Timeline */
/** @typedef {import("../types.d.ts").Caption} Caption */
/** @typedef {import("../types.d.ts").Drawing} Drawing */

const AHEAD_S = 15;
const MOST_AT_ONCE = 24;
const MOST_KEPT = 400;

export class Drawings {
  /** @param {() => void} onCome called when new ones are there */
  constructor(onCome) {
    this.onCome = onCome;
    /** @type {Map<string, Drawing>} */
    this.kept = new Map();
    this.asking = false;
  }

  /** @param {Timeline} t @param {Caption} caption */
  #key(t, caption) {
    return `${t.style} ${t.width}x${t.height} ${caption.text}`;
  }

  /** The drawing of a caption if it is at hand. @param {Timeline} t @param {Caption} caption @returns {Drawing|null} */
  get(t, caption) {
    return this.kept.get(this.#key(t, caption)) ?? null;
  }

  /** Fetch those shown from a frame on that are not at hand. @param {Timeline} t @param {number} frame */
  prepare(t, frame) {
    const until = frame + (AHEAD_S * t.rate.numerator) / t.rate.denominator;
    const near = t.captions.filter((item) => item.out > frame && item.in < until);
    const now = near.filter((item) => item.in <= frame);
    return this.fetch(t, now.some((item) => !this.get(t, item)) ? now : near); // what is shown goes before what will be
  }

  /** Fetch those of some captions that are not at hand, a few at a time. @param {Timeline} t @param {Caption[]} captions */
  async fetch(t, captions) {
    if (this.asking) return;
    const missing = captions.filter((item) => item.drawn && !this.get(t, item)).slice(0, MOST_AT_ONCE);
    if (!missing.length) return;
    this.asking = true;
    try {
      const found = await post(`/api/projects/${t.project}/drawings`, {
        texts: missing.map((item) => item.text),
        style: t.style,
      });
      missing.forEach((item, place) => {
        if (found[place]) this.kept.set(this.#key(t, item), found[place]);
      });
      for (const old of this.kept.keys()) {
        if (this.kept.size <= MOST_KEPT) break;
        this.kept.delete(old);
      }
    } catch {
      return; // the frame stays without words until the next try; the page says what else does not answer
    } finally {
      this.asking = false;
    }
    this.onCome(); // and what is shown meanwhile is asked for
  }
}

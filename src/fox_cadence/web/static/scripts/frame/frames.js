// Frames of clips from their packs (media/proxies.py), decoded when they are needed and kept for a while.

import { bytes } from "../api.js";
import { ticks } from "../format.js";
import { isWaiting, pictureAt } from "./clip_pictures.js";

const KEPT = 240;

/** One clip's small frames. */
class Pack {
  /** @param {ArrayBuffer} data */
  constructor(data) {
    const length = new DataView(data).getUint32(8, true);
    const header = JSON.parse(new TextDecoder().decode(new Uint8Array(data, 12, length)));
    this.data = data;
    this.base = 12 + length;
    /** @type {number[]} */
    this.ticks = header.ticks;
    /** @type {number[]} */
    this.offsets = header.offsets;
    /** @type {number[]} */
    this.sizes = header.sizes;
  }

  /** The frame on the screen at a time of the clip: the last that has begun. @param {number} seconds */
  indexAt(seconds) {
    const until = ticks(seconds) + 2;
    let low = 0;
    let high = this.ticks.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.ticks[middle] <= until) low = middle;
      else high = middle - 1;
    }
    return low;
  }

  /** @param {number} index */
  blob(index) {
    return new Blob([new Uint8Array(this.data, this.base + this.offsets[index], this.sizes[index])], {
      type: "image/jpeg",
    });
  }
}

/** All packs of a project. */
export class Frames {
  constructor() {
    /** @type {Map<string, Promise<Pack>>} */
    this.packs = new Map();
    /** @type {Map<string, Pack>} */
    this.ready = new Map();
    /** @type {Map<string, ImageBitmap>} */
    this.bitmaps = new Map();
    /** @type {Map<string, Promise<ImageBitmap|null>>} */
    this.decoding = new Map();
    /** Of clips that are still prepared. @type {Map<string, ImageBitmap>} */
    this.posters = new Map();
  }

  /** @param {string} hash */
  load(hash) {
    let pack = this.packs.get(hash);
    if (!pack) {
      pack = bytes(`/media/clips/${hash}/pack`).then((data) => {
        const made = new Pack(data);
        this.ready.set(hash, made);
        return made;
      });
      pack.catch(() => this.packs.delete(hash));
      this.packs.set(hash, pack);
    }
    return pack;
  }

  /** A frame if it is decoded already. @param {string} hash @param {number} seconds @returns {ImageBitmap|null} */
  peek(hash, seconds) {
    if (isWaiting(hash)) return this.posters.get(hash) ?? null;
    const pack = this.ready.get(hash);
    return pack ? (this.bitmaps.get(`${hash}/${pack.indexAt(seconds)}`) ?? null) : null;
  }

  /** @param {string} hash @param {number} seconds @returns {Promise<ImageBitmap|null>} */
  async at(hash, seconds) {
    if (isWaiting(hash)) return this.#poster(hash);
    const pack = await this.load(hash);
    const index = pack.indexAt(seconds);
    const key = `${hash}/${index}`;
    const known = this.bitmaps.get(key);
    if (known) return known;
    let decoding = this.decoding.get(key);
    if (!decoding) {
      decoding = createImageBitmap(pack.blob(index)).then((made) => {
        this.decoding.delete(key);
        this.bitmaps.set(key, made);
        for (const old of this.bitmaps.keys()) {
          if (this.bitmaps.size <= KEPT) break;
          this.bitmaps.get(old)?.close();
          this.bitmaps.delete(old);
        }
        return made;
      });
      this.decoding.set(key, decoding);
    }
    return decoding;
  }

  /** @param {string} hash @returns {Promise<ImageBitmap>} */
  async #poster(hash) {
    const known = this.posters.get(hash);
    if (known) return known;
    const answer = await fetch(pictureAt(hash, 0));
    const made = await createImageBitmap(await answer.blob());
    this.posters.set(hash, made);
    return made;
  }
}

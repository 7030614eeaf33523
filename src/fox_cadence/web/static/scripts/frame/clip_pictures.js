// Small pictures of clips by their time. Of a clip that is still prepared on the server, its poster stands for all of them.

import { ticks } from "../format.js";

const POSTER = "?poster";

/** Clips that have no small frames yet. @type {Set<string>} */
const waiting = new Set();

/** @param {string} hash */
export const isWaiting = (hash) => waiting.has(hash);

/** The address of a clip's picture at a time. @param {string} hash @param {number} seconds */
export function pictureAt(hash, seconds) {
  return `/media/clips/${hash}/at/${ticks(seconds)}.jpg${isWaiting(hash) ? POSTER : ""}`;
}

/** Say which clips are still prepared. Pictures on the page get their own instead of the poster. @param {string[]} hashes @returns {string[]} those that are ready now */
export function setWaiting(hashes) {
  const now = new Set(hashes);
  const ready = [...waiting].filter((hash) => !now.has(hash));
  waiting.clear();
  for (const hash of hashes) waiting.add(hash);
  for (const hash of ready)
    for (const image of document.querySelectorAll(`img[src*="${hash}"][src$="${POSTER}"]`))
      if (image instanceof HTMLImageElement) image.src = image.src.slice(0, -POSTER.length);
  return ready;
}

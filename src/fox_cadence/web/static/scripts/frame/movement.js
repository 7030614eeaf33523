// How words on the screen move: the poses are rows told by the core, and here only looked up for a frame
// (core/lettering/motion.py says the same for the export).

import { get } from "../api.js";

/** @typedef {import("../types.d.ts").Drawing} Drawing */
/** @typedef {import("../answers.d.ts").MomentsJson} Moments */
/** @typedef {[number, number, number, number, number, number]} Pose dx, dy, scale, turn, alpha, seen */
/** @typedef {{units: Pose[], whole: Pose, word: number|null, swell: Pose, part: number}} Shown */

/** @type {Pose} */
export const REST = [0, 0, 1, 0, 1, 1];
/** @type {Pose} */
const HIDDEN = [0, 0, 1, 0, 0, 1];
const SEEN = 5;

/** @type {import("../answers.d.ts").MovementsJson|null} */
let rows = null;
/** @type {Promise<void>|null} */
let asked = null;

/** Fetch the rows, once. @returns {Promise<void>} */
export function learnMovements() {
  asked ??= get("/api/movements").then(
    (found) => {
      rows = found;
    },
    () => {
      asked = null; // asked for again when they are needed again; until then words stand
    },
  );
  return asked;
}

/** @param {Pose[]|undefined} row @param {number} share @returns {Pose} */
function poseAt(row, share) {
  if (!row?.length) return REST;
  const last = row[row.length - 1] ?? REST;
  if (share >= 1) return last;
  const at = Math.max(0, share) * (row.length - 1);
  const before = Math.floor(at);
  const [one, two] = [row[before] ?? last, row[before + 1] ?? last];
  return /** @type {Pose} */ (one.map((value, n) => value + ((two[n] ?? value) - value) * (at - before)));
}

/** A drawing with all its words there; one of them as it is once it has been spoken. @param {Drawing} drawing @param {number|null} word @returns {Shown} */
export function atRest(drawing, word) {
  const units = drawing.units.map(() => REST);
  return { units, whole: REST, word: drawing.spoken_as === "none" ? null : word, swell: REST, part: 1 };
}

/**
 * How a drawing is shown in a frame.
 *
 * @param {Drawing} drawing
 * @param {Moments|null} when frames from its in frame on
 * @param {Array<[number, number]>} spoken frames [begin, end) of each word, from its in frame on
 * @param {number} frame from its in frame on
 * @param {boolean} calm the viewer wants nothing to move
 * @returns {Shown}
 */
export function shownAt(drawing, when, spoken, frame, calm) {
  let word = null;
  const words = (drawing.of.at(-1) ?? -1) + 1;
  const times = spoken.length === words ? drawing.of.map((number) => spoken[number] ?? [0, 0]) : [];
  if (drawing.spoken_as !== "none")
    for (const [number, [begins]] of times.entries()) if (begins <= frame) word = number;
  const still = atRest(drawing, word);
  if (when && rows) {
    const comes = (drawing.backwards ? rows.coming_back : rows.coming)[drawing.comes];
    still.units = drawing.units.map((unit, number) => {
      const [first, frames] = when.comes[number] ?? [0, 0];
      if (frame < first) return HIDDEN;
      const own = drawing.units.length === 1 || number ? comes : comes && rows?.coming.fade;
      return calmed(stepped(poseAt(own, Math.min(1, (frame - first + 1) / (frames + 1))), unit.edges), calm);
    });
    const [from, frames] = when.goes;
    if (frames && frame >= from) {
      const goes = (drawing.backwards ? rows.going_back : rows.going)[drawing.goes];
      still.whole = calmed(poseAt(goes, (frame - from + 1) / (frames + 1)), calm);
    }
  }
  const now = still.word === null ? undefined : times[still.word];
  if (!now) return still;
  const share = Math.min(1, Math.max(0, (frame - now[0] + 1) / Math.max(1, now[1] - now[0])));
  if (drawing.spoken_as === "swell" && !calm) still.swell = poseAt(rows?.swelling, share);
  if (drawing.spoken_as === "fill" || drawing.spoken_as === "underline") still.part = calm ? 1 : share;
  return still;
}

/** What is typed ends after a sign. @param {Pose} pose @param {number[]} edges @returns {Pose} */
function stepped(pose, edges) {
  if (!edges.length || pose[SEEN] >= 1) return pose;
  let seen = 0;
  for (const edge of edges) if (edge <= pose[SEEN] + 1e-9) seen = edge;
  return [pose[0], pose[1], pose[2], pose[3], pose[4], seen];
}

/** Of a movement only that it fades, for those who asked for less of it. @param {Pose} pose @param {boolean} calm @returns {Pose} */
const calmed = (pose, calm) => (calm ? [0, 0, 1, 0, pose[4] && Math.min(pose[4], pose[SEEN]), 1] : pose);

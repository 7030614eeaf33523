// The ruler, and what goes across all columns: seconds, cuts, the end.

import { clock } from "../../../format.js";
import { element, place } from "../../../svg.js";
import { ghostCuts } from "../ghosts.js";
import { part } from "../layer.js";
import { noteParts } from "../notes.js";
import { cutParts } from "./picture.js";
import { syncParts } from "./speech.js";

/** @typedef {import("../sheet.js").Sheet} Sheet */
/** @typedef {import("../sheet.js").Column} Column */
/** @typedef {import("../../surface.d.ts").View} View */

/** Room for the times, which stand on the rules that go across, and for the notes of reviews. @type {Column} */
export const ruler = {
  name: "ruler",
  title: "",
  parts: (sheet, view, seen) => noteParts(sheet, view, seen),
};

/** @type {Column} */
export const across = {
  name: "across",
  title: "",
  *parts(sheet, view, seen, [from, to]) {
    yield* seconds(sheet, view, from, to);
    for (const [number, shot] of view.t.shots.entries()) {
      if (seen(sheet.yf(shot.start), sheet.yf(shot.end))) yield* cutParts(sheet, shot, number);
    }
    const last = view.t.shots.at(-1);
    if (last) yield endRule(sheet, last.end);
    for (const line of view.t.lines) {
      if (line.syncs.length) yield* syncParts(sheet, view, line, seen);
    }
    if (view.proposal?.status === "solved") yield* ghostCuts(sheet, view, view.proposal, seen);
  },
};

/** @param {Sheet} sheet @param {View} view @param {number} from @param {number} to */
function* seconds(sheet, view, from, to) {
  const end = view.t.total_frames * sheet.frameSeconds;
  const first = Math.max(0, Math.floor(sheet.secondsAt(from)));
  for (let s = first; s <= Math.min(end + 0.01, sheet.secondsAt(to)); s++) {
    const y = sheet.y(s);
    yield part(`second-${s}`, [y], () => {
      const line = element("div", s % 5 ? "second" : "second second-five");
      place(line, y, 1);
      line.append(element("span", "", `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`));
      return line;
    });
  }
}

/** @param {Sheet} sheet @param {number} frame */
function endRule(sheet, frame) {
  return part("end", [sheet.yf(frame), frame], () => {
    const rule = element("div", "cut cut-end");
    place(rule, sheet.yf(frame), 1);
    rule.append(element("span", "mono", clock(frame * sheet.frameSeconds)));
    return rule;
  });
}

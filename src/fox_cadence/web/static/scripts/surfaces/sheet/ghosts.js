// What a proposal would change, drawn over what is there now.

import { counted } from "../../format.js";
import { element, place } from "../../svg.js";
import { part } from "./layer.js";

/** @typedef {import("../../types.d.ts").Proposal} Proposal */
/** @typedef {import("./sheet.js").Sheet} Sheet */
/** @typedef {import("../surface.d.ts").View} View */

/** Pixels a second from which on the words of the chosen line are written beside it. */
export const WORDS_SHOWN = 60;

/** @typedef {(top: number, end: number) => boolean} Seen */

/** @param {Sheet} sheet @param {View} view @param {Proposal} proposal @param {Seen} seen */
export function* ghostCuts(sheet, view, proposal, seen) {
  for (const [number, shot] of proposal.t.shots.entries()) {
    const y = sheet.yf(shot.end);
    const now = view.t.shots[number];
    if (now?.end === shot.end || !seen(y, y)) continue;
    const change = shot.length - (now?.length ?? 0);
    yield part(`ghost-cut-${shot.id}`, [y, change], () => {
      const ghost = element("div", "ghost-cut");
      place(ghost, y, 1);
      if (change) {
        const sign = change > 0 ? "+" : "−";
        ghost.append(
          element("span", "mono", `shot ${number + 1} ${sign}${counted(Math.abs(change), "frame")}`),
        );
      }
      return ghost;
    });
  }
}

/** @param {Sheet} sheet @param {View} view @param {Proposal} proposal @param {Seen} seen */
export function* ghostCaptions(sheet, view, proposal, seen) {
  const captions = new Map(view.t.captions.map((caption) => [caption.id, caption]));
  for (const caption of proposal.t.captions) {
    const now = captions.get(caption.id);
    const [top, end] = [sheet.yf(caption.in), sheet.yf(caption.out)];
    if (!seen(top, end) || (now && now.in === caption.in && now.out === caption.out)) continue;
    yield part(`ghost-caption-${caption.id}`, [top, end], () => {
      const ghost = element("div", "ghost-caption");
      place(ghost, top, end - top);
      return ghost;
    });
  }
}

/** @param {Sheet} sheet @param {View} view @param {Proposal} proposal @param {Seen} seen */
export function* ghostVoices(sheet, view, proposal, seen) {
  for (const plan of proposal.t.lines) {
    const [top, end] = [sheet.y(plan.start_s), sheet.y(plan.end_s)];
    if (!seen(top, end)) continue;
    const aside = plan.id === view.line && view.scale >= WORDS_SHOWN ? " aside" : "";
    yield part(`ghost-voice-${plan.id}`, [top, end, plan.state, aside], () => {
      const ghost = element("div", `ghost-voice ghost-${plan.state}${aside}`);
      place(ghost, top, end - top);
      ghost.append(element("i", `glyph glyph-${plan.state}`));
      return ghost;
    });
  }
}

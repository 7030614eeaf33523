// What a proposal would change, drawn over what is there now.

import { counted } from "../format.js";
import { element, place } from "../svg.js";
import { part } from "./layer.js";
import { WORDS_SHOWN } from "./voice_column.js";

/** @typedef {import("../types.js").Proposal} Proposal */
/** @typedef {import("./sheet.js").Sheet} Sheet */
/** @typedef {import("./sheet.js").View} View */

/** @param {Sheet} sheet @param {View} view @param {Proposal} proposal @param {(top: number, end: number) => boolean} seen */
export function* ghostParts(sheet, view, proposal, seen) {
  for (const [number, shot] of proposal.shots.entries()) {
    const y = sheet.yf(shot.end_frame);
    if (view.t.shots[number]?.end === shot.end_frame || !seen(y, y)) continue;
    yield part(`ghost-cut-${shot.id}`, [y, shot.change_frames], () => {
      const ghost = element("div", "ghost-cut");
      place(ghost, y, 1);
      if (shot.change_frames) {
        const sign = shot.change_frames > 0 ? "+" : "−";
        ghost.append(element("span", "mono", `shot ${number + 1} ${sign}${counted(Math.abs(shot.change_frames), "frame")}`));
      }
      return ghost;
    });
  }
  const captions = new Map(view.t.captions.map((caption) => [caption.id, caption]));
  for (const caption of proposal.captions) {
    const now = captions.get(caption.id);
    const [top, end] = [sheet.yf(caption.in_frame), sheet.yf(caption.out_frame)];
    if (!seen(top, end) || (now && now.in === caption.in_frame && now.out === caption.out_frame)) continue;
    yield part(`ghost-caption-${caption.id}`, [top, end], () => {
      const ghost = element("div", "ghost-caption");
      place(ghost, top, end - top);
      return ghost;
    });
  }
  for (const plan of proposal.lines) {
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

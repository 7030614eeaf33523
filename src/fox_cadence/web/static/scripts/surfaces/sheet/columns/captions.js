// The caption column: words as long as they are on the screen, with edges that can be taken hold of.

import { timecode } from "../../../format.js";
import { element, place } from "../../../svg.js";
import { ghostCaptions } from "../ghosts.js";
import { part } from "../layer.js";

/** @typedef {import("../../../types.d.ts").Caption} Caption */
/** @typedef {import("../sheet.js").Sheet} Sheet */
/** @typedef {import("../../surface.d.ts").View} View */

/** @type {import("../sheet.js").Column} */
export const captions = {
  name: "captions",
  title: "Caption",
  *parts(sheet, view, seen) {
    for (const [number, caption] of view.t.captions.entries()) {
      if (seen(sheet.yf(caption.in), sheet.yf(caption.out))) yield captionPart(sheet, view, caption, number);
    }
    if (view.proposal?.status === "solved") yield* ghostCaptions(sheet, view, view.proposal, seen);
  },
};

/** @param {Sheet} sheet @param {View} view @param {Caption} caption @param {number} number */
function captionPart(sheet, view, caption, number) {
  const top = sheet.yf(caption.in);
  const height = sheet.yf(caption.out) - top;
  const line = view.t.lines.find((item) => item.id === caption.line);
  const colour = (view.t.roles.find((item) => item.id === line?.role)?.colour ?? 0) % 6;
  const chosen = line?.id === view.line;
  const inputs = [
    top,
    height,
    number,
    colour,
    chosen,
    caption.text,
    caption.locked,
    caption.pinned,
    caption.too_fast,
    caption.line,
    caption.in,
    caption.out,
  ];
  return part(`caption-${caption.id}`, inputs, () => {
    const card = element("div", `caption role-${colour}${chosen ? " chosen" : ""}`);
    place(card, top + 1, height - 2);
    card.dataset.caption = caption.id;
    card.dataset.line = caption.line ?? "";
    card.dataset.key = `caption-${caption.id}`;
    card.tabIndex = 0;
    card.setAttribute("role", "group");
    card.setAttribute(
      "aria-label",
      `Caption ${number + 1}, frames ${caption.in} to ${caption.out}${caption.locked ? ", locked" : ""}. Enter changes the words.`,
    );
    card.append(element("p", "", caption.text));
    if (caption.locked || caption.pinned)
      card.append(element("span", "lock", caption.locked ? "locked" : "pinned"));
    if (caption.too_fast) card.append(element("span", "remark", "too fast to read"));
    for (const edge of ["in", "out"]) {
      const handle = element("div", `caption-edge caption-${edge}`);
      handle.dataset.edge = edge;
      handle.dataset.caption = caption.id;
      handle.dataset.key = `edge-${caption.id}-${edge}`;
      handle.tabIndex = 0;
      handle.setAttribute("role", "slider");
      handle.setAttribute("aria-orientation", "vertical");
      handle.setAttribute("aria-label", `${edge === "in" ? "In" : "Out"} time of caption ${number + 1}`);
      const frame = edge === "in" ? caption.in : caption.out;
      handle.setAttribute("aria-valuenow", String(frame));
      handle.setAttribute("aria-valuetext", timecode(frame, view.t.rate));
      handle.title = edge === "in" ? "Drag the in time" : "Drag the out time";
      card.append(handle);
    }
    return card;
  });
}

// The picture as a surface: each shot beside its whole clip, of which it shows a part, and what is said over it; below,
// the clips of the project.

import { element } from "../../svg.js";
import { picture } from "../sheet/columns/picture.js";
import { across, ruler } from "../sheet/columns/ruler.js";
import { Pointing } from "../sheet/pointing.js";
import { Sheet } from "../sheet/sheet.js";
import { material } from "./material.js";
import { over } from "./over.js";
import { Places } from "./places.js";
import { Shelf } from "./shelf.js";
import { Windows } from "./windows.js";

/** @type {import("../surface.d.ts").Make} */
export function makePicture(holder, tells) {
  holder.classList.add("picture-room");
  const upper = element("div", "sheet");
  holder.append(upper);
  /** @type {Sheet} */
  const sheet = new Sheet(upper, [ruler, picture, material, over], across, "picture-page");
  const pointing = new Pointing(sheet, {
    commit: async (edit) => void (await tells.pictureEdit(edit)),
    attempt: (edit) => tells.attempt([edit]),
    follow: (proposal) => tells.follow(proposal),
    say: (text) => tells.announce(text),
    refuse: (text) => tells.tell(text, "note"),
    letGo: () => tells.givenBack(),
  });
  const windows = new Windows(sheet, tells);
  const places = new Places(sheet, tells);
  const shelf = new Shelf(tells);
  holder.append(shelf.holder);
  sheet.page.addEventListener("click", ({ target }) => {
    if (pointing.justDragged || windows.justDragged || places.justDragged || !(target instanceof Element))
      return;
    const line = target.closest("[data-line]");
    const shot = target.closest("[data-shot]");
    if (line instanceof HTMLElement && line.dataset.line) tells.choose(line.dataset.line);
    else if (shot instanceof HTMLElement && shot.dataset.shot) tells.chooseShot(shot.dataset.shot);
  });
  return {
    show(view) {
      sheet.show(view);
      shelf.show(view);
    },
    setPlayhead: (s) => sheet.setPlayhead(s),
    follow: (from, until) => sheet.follow(from, until),
  };
}

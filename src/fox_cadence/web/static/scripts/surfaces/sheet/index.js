// The sheet as a surface: picture, captions, speech and bed side by side, with time running down.

import { element } from "../../svg.js";
import { bed } from "./columns/bed.js";
import { captions } from "./columns/captions.js";
import { picture } from "./columns/picture.js";
import { across, ruler } from "./columns/ruler.js";
import { Speech } from "./columns/speech.js";
import { followNotes } from "./notes.js";
import { Pointing } from "./pointing.js";
import { Sheet } from "./sheet.js";

/** @typedef {import("../surface.d.ts").Tells} Tells */

/** @type {import("../surface.d.ts").Make} */
export function makeSheet(holder, tells) {
  holder.classList.add("sheet");
  /** @type {Sheet} */
  const sheet = new Sheet(holder, [ruler, picture, captions, new Speech(() => sheet.draw()), bed], across);
  const pointing = new Pointing(sheet, {
    commit: (edit) => tells.dropped(edit),
    attempt: (edit) => tells.attempt([edit]),
    follow: (proposal) => tells.follow(proposal),
    say: (text) => tells.announce(text),
    refuse: (text) => tells.tell(text, "note"),
    letGo: () => tells.givenBack(),
  });
  sheet.page.addEventListener("click", (event) => {
    if (!pointing.justDragged) clicked(event, sheet, tells);
  });
  followNotes(sheet, tells);
  sheet.heads.append(scale(tells));
  const empty = nothing(tells);
  sheet.scroller.prepend(empty);
  const show = sheet.show.bind(sheet);
  sheet.show = (view) => {
    empty.hidden = view.t.shots.length > 0;
    show(view);
  };
  return sheet;
}

/** What to do while there is neither picture nor word. @param {Tells} tells */
function nothing(tells) {
  const made = element("p", "nothing");
  made.hidden = true;
  made.append(element("span", "", "There is neither picture nor word yet."));
  for (const [text, pass] of /** @type {const} */ ([
    ["Write the script", "words"],
    ["Add pictures", "picture"],
  ])) {
    const button = element("button", "btn", text);
    button.addEventListener("click", () => tells.setPass(pass));
    made.append(button);
  }
  return made;
}

/** What a click on the sheet means. @param {MouseEvent} event @param {Sheet} sheet @param {Tells} tells */
function clicked(event, sheet, tells) {
  const target = /** @type {HTMLElement} */ (event.target);
  if (target.closest("textarea, .note-mark, .note-open, [data-cut], [data-edge], [data-rest]")) return;
  const line = /** @type {HTMLElement|null} */ (target.closest("[data-line]"));
  const shot = /** @type {HTMLElement|null} */ (target.closest("[data-shot]"));
  const card = /** @type {HTMLElement|null} */ (target.closest("[data-caption]"));
  // not "dblclick": the first click may have drawn the sheet anew, and then its target is gone
  if (card?.dataset.caption && event.detail === 2) tells.typeCaption(card.dataset.caption);
  else if (card?.dataset.caption) tells.chooseCaption(card.dataset.caption);
  else if (line?.dataset.line) tells.choose(line.dataset.line);
  else if (shot?.dataset.shot) tells.chooseShot(shot.dataset.shot);
  else tells.seek(sheet.secondsAt(event.clientY - sheet.page.getBoundingClientRect().top));
}

/** How long a second is, to be made shorter or longer. @param {Tells} tells */
function scale(tells) {
  const made = element("span", "head-scale");
  for (const [text, title, step] of /** @type {Array<[string, string, number]>} */ ([
    ["Wider", "Shorter seconds", -1],
    ["Closer", "Longer seconds", 1],
  ])) {
    const button = element("button", "btn btn-small btn-text", text);
    button.title = title;
    button.addEventListener("click", () => tells.zoom(step));
    made.append(button);
  }
  return made;
}

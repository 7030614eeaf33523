// The levels as a surface: speech, beds, the shots' own sound, effects and loudness side by side, with time running
// down.

import { element } from "../../svg.js";
import { followNotes } from "../sheet/notes.js";
import { picture } from "../sheet/columns/picture.js";
import { across, ruler } from "../sheet/columns/ruler.js";
import { Sheet } from "../sheet/sheet.js";
import { Beds } from "./beds.js";
import { Effects, MovingEffects } from "./effects.js";
import { Levels } from "./levels.js";
import { loudness } from "./loudness.js";
import { own } from "./own.js";
import { Peaks } from "./peaks.js";
import { speech } from "./speech.js";

/** @typedef {import("../surface.d.ts").Tells} Tells */
/** @typedef {import("../surface.d.ts").View} View */

/** Columns that have a level, by the name they have on the sheet. @type {Array<[string, string, string]>} */
const MIXED = [
  ["voices", "speech", "Speech"],
  ["music", "bed", "Beds"],
  ["own", "own", "The shots’ own sound"],
  ["effects", "effects", "Effects"],
];

/** @type {import("../surface.d.ts").Make} */
export function makeLevels(holder, tells) {
  holder.classList.add("sheet", "sound-room");
  /** @type {Sheet} */
  let sheet;
  const peaks = new Peaks(() => sheet.draw());
  const [beds, effects] = [new Beds(peaks), new Effects()];
  sheet = new Sheet(
    holder,
    [ruler, picture, speech(peaks), beds, own(peaks), effects, loudness],
    across,
    "sound-page",
  );
  const levels = new Levels(sheet, beds, tells);
  const moving = new MovingEffects(sheet, effects, tells);
  followNotes(sheet, tells);
  const heads = MIXED.map(([column, name, text]) => new Head(sheet.heads, column, name, text, tells));
  sheet.page.addEventListener("click", (event) => {
    if (levels.justDragged || moving.justDragged || !(event.target instanceof Element)) return;
    if (event.target.closest(".note-mark, .note-open")) return;
    const found = (/** @type {string} */ name) => {
      const at = /** @type {HTMLElement|SVGElement|null} */ (
        /** @type {Element} */ (event.target).closest(`[data-${name}]`)
      );
      return at?.dataset[name] ?? "";
    };
    if (found("effect")) tells.chooseEffect(found("effect"));
    else if (found("line")) tells.choose(found("line"));
    else if (found("shot")) tells.chooseShot(found("shot"));
    else {
      if (found("bed")) tells.chooseBed(found("bed"));
      tells.seek(sheet.secondsAt(event.clientY - sheet.page.getBoundingClientRect().top));
    }
  });
  const show = sheet.show.bind(sheet);
  sheet.show = (view) => {
    for (const head of heads) head.show(view);
    show(view);
  };
  return sheet;
}

/** The head of a column: its level, and whether it is heard. */
class Head {
  /** @param {HTMLElement} heads @param {string} column @param {string} name @param {string} text @param {Tells} tells */
  constructor(heads, column, name, text, tells) {
    this.name = name;
    const place = heads.querySelector(`.head-${column}`);
    const row = element("span", "head-mix");
    this.level = /** @type {HTMLInputElement} */ (element("input", "mono"));
    this.level.type = "number";
    this.level.step = "1";
    this.level.min = "-60";
    this.level.max = "12";
    this.level.setAttribute("aria-label", `Level of ${text.toLowerCase()}, dB`);
    this.level.addEventListener("change", () =>
      tells.edit({ kind: "mix", [`${name}_db`]: Number(this.level.value) }),
    );
    this.mute = element("button", "btn btn-small btn-text", "mute");
    this.solo = element("button", "btn btn-small btn-text", "solo");
    for (const [button, what] of /** @type {Array<[HTMLElement, "muted"|"solo"]>} */ ([
      [this.mute, "muted"],
      [this.solo, "solo"],
    ])) {
      button.setAttribute("aria-label", `${what === "solo" ? "Solo" : "Mute"}: ${text.toLowerCase()}`);
      button.addEventListener("click", () => tells.hearColumn(name, what));
    }
    row.append(this.level, this.mute, this.solo);
    place?.append(row);
  }

  /** @param {View} view */
  show(view) {
    const mix = view.t.mix;
    const level = mix[/** @type {"speech_db"|"bed_db"|"own_db"|"effects_db"} */ (`${this.name}_db`)];
    if (document.activeElement !== this.level) this.level.value = String(level);
    this.mute.setAttribute("aria-pressed", String(mix.muted.includes(this.name)));
    this.solo.setAttribute("aria-pressed", String(mix.solo.includes(this.name)));
  }
}

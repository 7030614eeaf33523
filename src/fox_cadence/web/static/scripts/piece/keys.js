// Keys of the page. The list that `?` shows is in web/pages.py; a test keeps both in step.

import { part } from "./compose.js";
import { page } from "./page.js";

export const keys = part({
  keysShown: false,
  /** @type {KeyboardEvent[]} Pressed while the piece was still on its way. */
  pressedEarly: [],

  /** @param {KeyboardEvent} event */
  key(event) {
    if (!this.loaded) {
      this.pressedEarly.push(event);
      return;
    }
    const target = /** @type {HTMLElement} */ (event.target);
    const inField =
      target.closest(
        "textarea, select, input:not([type=checkbox], [type=radio], [type=file], [type=color])",
      ) !== null;
    const ticked = target.closest("input") !== null && !inField; // takes the space bar, and no other key
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z" && !inField) {
      event.preventDefault();
      this.step(event.shiftKey ? "redo" : "undo");
      return;
    }
    if (event.ctrlKey || event.metaKey || event.altKey || inField) return;
    const action = this.actions()[event.key];
    if (
      !action ||
      (ticked && event.key === " ") ||
      (target.closest("button, a, summary") && (event.key === " " || event.key === "Enter"))
    )
      return;
    event.preventDefault();
    action();
  },

  /** What was pressed before there was anything to press it on is done now, as it was meant. */
  doPressedEarly() {
    for (const event of this.pressedEarly.splice(0)) this.key(event);
  },

  /** @returns {Record<string, () => any>} */
  actions() {
    /** @type {Record<string, () => any>} */
    const table = {
      " ": () => this.toggle(),
      k: () => page.player.stop(),
      l: () => this.play(),
      j: () => this.seek(this.at - 2),
      ArrowLeft: () => this.nudge(-1),
      ArrowRight: () => this.nudge(1),
      ArrowUp: () => this.chooseNext(-1),
      ArrowDown: () => this.chooseNext(1),
      h: () => this.hearLine(),
      p: () => this.hearInPlace(),
      r: () => this.loopShot(),
      v: () => this.voice(),
      e: () => this.weighNext(),
      y: () => this.hearOwnLine(),
      w: () => this.hearPicked(false),
      n: () => this.toWordsDesk("direct"),
      o: () => this.seeWithout(true),
      x: () => this.hearHeld(true),
      u: () => this.pass === "picture" && this.splitShot(),
      f: () => this.fit(),
      a: () => this.accept(),
      d: () => this.drop(),
      b: () => this.flip(),
      Enter: () => {
        const card = /** @type {HTMLElement|null} */ (document.activeElement?.closest(".caption"));
        const caption = card?.dataset.caption ?? this.chosenCaption?.id; // the one that has the focus goes first
        if (caption) this.typeCaption(caption);
      },
      "+": () => this.zoom(1),
      "-": () => this.zoom(-1),
      "?": () => {
        this.keysShown = !this.keysShown;
      },
      Escape: () => {
        this.keysShown = false;
        this.message = "";
      },
    };
    this.t.passes.forEach(({ name }, place) => {
      table[String(place + 1)] = () => this.setPass(name);
    });
    return table;
  },
});

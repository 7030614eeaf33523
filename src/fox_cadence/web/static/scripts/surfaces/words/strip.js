// What can be done with words that are chosen in the script, in a strip below them.

import { counted } from "../../format.js";
import { element } from "../../svg.js";

/** @typedef {import("../surface.d.ts").Tells} Tells */

export class Strip {
  /** @param {HTMLElement} scroller @param {HTMLElement} page @param {import("./index.js").Script} script @param {Tells} tells */
  constructor(scroller, page, script, tells) {
    this.page = page;
    this.script = script;
    this.tells = tells;
    this.holder = element("div", "strip-bar");
    this.holder.id = "strip";
    this.holder.setAttribute("role", "toolbar");
    this.holder.setAttribute("aria-label", "The chosen words");
    this.holder.hidden = true;
    this.name = element("b", "");
    this.holder.append(this.name);
    for (const [text, key, act] of /** @type {Array<[string, string, () => unknown]>} */ ([
      ["Stress", "E", () => tells.weighNext()],
      ["Pause after", "", () => tells.pauseAfterPicked()],
      ["Pace, pitch", "", () => tells.toWordsDesk("direct", "span-pace")],
      ["Sounds like", "", () => tells.toWordsDesk("direct", "said-as")],
      ["Hear", "W", () => tells.hearPicked(false)],
    ])) {
      const button = element("button", "strip-button", text);
      if (key) button.append(" ", element("kbd", "", key));
      button.addEventListener("click", act);
      this.holder.append(button);
    }
    this.holder.addEventListener("pointerdown", (event) => event.preventDefault()); // the words stay chosen
    scroller.append(this.holder);
    /** @type {{line: string, from: number, end: number}|null} */
    this.chosen = null;
    document.addEventListener("selectionchange", () => this.#chosen());
  }

  #chosen() {
    if (this.page.offsetParent === null) return;
    const field = this.script.typing.fieldOf(document.activeElement);
    if (!field || !this.page.contains(field)) return; // what was chosen last stays chosen, for the keys
    const line = this.script.lineOf(field.dataset.line ?? "");
    const before = line && field.dataset.kind === "shown" ? this.script.wordsBefore(field) : 0;
    const words = field.words(line?.said_words.slice(before) ?? []);
    const means = field.dataset.kind === "said" || (field.dataset.kind === "shown" && !line?.own_words);
    if (!line || !words || !means || field.dirty) return this.hide();
    this.chosen = { line: line.id, from: before + words[0], end: before + words[1] };
    this.tells.choose(line.id, false);
    this.tells.pick(this.chosen.from, false);
    this.tells.pick(this.chosen.end - 1, true);
    const texts = line.said_words.slice(this.chosen.from, this.chosen.end);
    this.name.textContent = texts.length > 3 ? counted(texts.length, "word") : texts.join(" ");
    this.holder.hidden = false;
    this.place();
  }

  /** Below the row of the chosen words, as far as there is room. */
  place() {
    if (!this.chosen || this.holder.hidden) return;
    const row = this.script.rowOf(this.chosen.line);
    if (!row) return this.hide();
    this.holder.style.top = `${row.offsetTop + row.offsetHeight - 2}px`;
  }

  hide() {
    this.chosen = null;
    this.holder.hidden = true;
  }
}

// How long what is being typed would last: asked at every keystroke, one question on its way at a time.

import { post } from "../../api.js";

/** @typedef {import("./rows.js").Estimate} Estimate */
/** @typedef {import("./script_text.js").ScriptText} ScriptText */
/** @typedef {import("../surface.d.ts").Tells} Tells */
/** @typedef {import("../../types.d.ts").Timeline} Timeline */

export class Estimates {
  /** @param {import("./index.js").Script} script @param {Tells} tells */
  constructor(script, tells) {
    this.script = script;
    this.tells = tells;
    /** @type {Map<string, Estimate>} */
    this.found = new Map();
    /** @type {Estimate|null} */
    this.ofDraft = null;
    /** @type {ScriptText|null} */
    this.waiting = null;
    this.asking = false;
  }

  /** @param {string} line */
  of(line) {
    return this.found.get(line);
  }

  /** What has been kept is told by the line itself. @param {Timeline} t */
  forget(t) {
    const typing = this.script.typing?.fieldOf(document.activeElement);
    for (const id of this.found.keys())
      if (!(typing?.dirty && typing.dataset.line === id) || !t.lines.some((line) => line.id === id))
        this.found.delete(id);
  }

  /** @param {ScriptText} field */
  ask(field) {
    this.waiting = field;
    if (!this.asking) this.#next();
  }

  async #next() {
    this.asking = true;
    while (this.waiting) {
      const field = this.waiting;
      this.waiting = null;
      try {
        await this.#one(field);
      } catch {
        // the length is only not known then; what was typed is kept all the same
      }
    }
    this.asking = false;
  }

  /** @param {ScriptText} field */
  async #one(field) {
    const { kind, line } = field.dataset;
    if (kind === "heading") return;
    const path = `/api/projects/${this.tells.project}/estimate`;
    if (kind === "draft") {
      const after = this.script.draft?.after ?? null;
      this.ofDraft = await post(path, { line_id: after, text: field.text, fitted: false, alone: true });
    } else if (line) {
      const found = this.script.lineOf(line);
      if (kind !== "said" && found?.own_words) return;
      const text = kind === "shown" ? this.script.shownText(line) : field.text;
      this.found.set(line, await post(path, { line_id: line, text, fitted: false }));
    }
    this.script.refresh();
  }
}

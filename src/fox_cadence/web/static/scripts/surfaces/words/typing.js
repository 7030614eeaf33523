// Typing on the script page: what the keys of a text editor do, each as one step that can be undone.

import { cutAt, pasteParagraphs } from "./pasting.js";
import { ScriptText } from "./script_text.js";

/** @typedef {import("../surface.d.ts").Tells} Tells */
/** @typedef {import("./index.js").Script} Script */

/** Typing that rests for so long is kept. */
const REST_MS = 900;

const hasWords = (/** @type {string} */ text) => /[\p{L}\p{N}]/u.test(text);

export class Typing {
  /** @param {HTMLElement} page @param {Script} script @param {Tells} tells */
  constructor(page, script, tells) {
    this.page = page;
    this.script = script;
    this.tells = tells;
    /** Keys pressed while a step was on its way: they go where the caret is then. @type {Array<{key: string, alt: boolean}>} */
    this.ahead = [];
    this.stepping = false;
    /** @type {ReturnType<typeof setTimeout>|undefined} */
    this.resting = undefined;
    page.addEventListener("keydown", (event) => this.#key(event));
    page.addEventListener("input", (event) => this.#input(event));
    page.addEventListener("paste", (event) => this.#paste(event));
    page.addEventListener("focusin", (event) => this.#focusIn(event));
    page.addEventListener("focusout", (event) => this.#focusOut(event));
    page.addEventListener("dragstart", (event) => event.preventDefault());
  }

  /** @param {EventTarget|null} target @returns {ScriptText|null} */
  fieldOf(target) {
    const found = target instanceof Element ? target.closest("script-text") : null;
    return found instanceof ScriptText ? found : null;
  }

  /** Keep what was typed in a field. @param {ScriptText} field @returns {Promise<any>} */
  async keep(field) {
    clearTimeout(this.resting);
    const edit = this.editOf(field);
    if (field.dataset.kind === "draft") return;
    if (!edit) return;
    field.painted = { ...field.painted, text: field.text };
    await this.tells.edits([edit]);
  }

  /** The edit that makes what stands in a field so; null where nothing was changed. @param {ScriptText} field @param {string} [text] @returns {object|null} */
  editOf(field, text = field.text) {
    const words = text.trim().replace(/ {2,}/g, " ");
    const { kind, id, line } = field.dataset;
    if (words === field.painted.text.trim()) return null;
    switch (kind) {
      case "shown":
        return { kind: "caption_text", caption_id: id, text: words };
      case "unshown":
        return words ? { kind: "show_line", line_id: line, shown: true, text: words } : null;
      case "said":
        return {
          kind: "said",
          line_id: line,
          text: words && words !== this.script.shownText(line ?? "") ? words : null,
        };
      case "heading":
        return words ? { kind: "heading", heading_id: id, text: words } : null;
      default:
        return null;
    }
  }

  // one step after the other

  /** A step that changes rows: keys that are pressed meanwhile wait for it. @param {() => Promise<unknown>} make */
  async step(make) {
    if (this.stepping) return;
    this.stepping = true;
    clearTimeout(this.resting);
    try {
      await make();
    } finally {
      this.stepping = false;
      this.#catchUp();
    }
  }

  /** Do what was typed while a step was on its way. */
  #catchUp() {
    while (this.ahead.length && !this.stepping) {
      const next = this.ahead.shift();
      const field = this.fieldOf(document.activeElement);
      if (!next || !field) continue;
      if (next.key.length === 1) field.insert(next.key);
      else if (next.key === "Escape") this.leave(field);
      else if (!this.#structure(field, next.key, next.alt)) field.erase(next.key);
    }
  }

  // events

  /** @param {KeyboardEvent} event */
  #key(event) {
    const field = this.fieldOf(event.target);
    if (!field || event.isComposing) return;
    event.stopPropagation(); // the page's own keys are for what is not typed into
    const control = event.ctrlKey || event.metaKey;
    if (this.stepping && !control && (event.key.length === 1 || STRUCTURE.has(event.key))) {
      event.preventDefault();
      this.ahead.push({ key: event.key, alt: event.altKey });
      return;
    }
    if (control && ["z", "y"].includes(event.key.toLowerCase())) {
      event.preventDefault();
      const back = event.key.toLowerCase() === "z" && !event.shiftKey;
      this.step(async () => {
        await this.keep(field);
        await this.tells.step(back ? "undo" : "redo");
      });
      return;
    }
    if (control) return;
    if (event.key === "Escape") {
      event.preventDefault();
      this.leave(field);
      return;
    }
    if (this.#structure(field, event.key, event.altKey, event.shiftKey)) event.preventDefault();
  }

  /** What a key does to rows or to the place of the caret; false where it is the field's own. @param {ScriptText} field @param {string} key @param {boolean} alt @param {boolean} [shift] */
  #structure(field, key, alt, shift = false) {
    const [from, to] = field.range() ?? [0, 0];
    const still = from === to;
    const end = field.text.length;
    if (alt && (key === "ArrowUp" || key === "ArrowDown")) {
      this.move(field, key === "ArrowUp" ? -1 : 1);
      return true;
    }
    if (alt || (shift && key !== "Enter")) return false;
    if (key === "Enter") {
      this.enter(field);
      return true;
    }
    if (key === "Backspace" && still && from === 0) {
      this.joinBefore(field);
      return true;
    }
    if (key === "Delete" && still && to === end) {
      const next = this.script.neighbour(field, 1);
      if (next && field.dataset.kind !== "draft") this.joinBefore(next);
      return true;
    }
    const up = key === "ArrowUp" && field.atEdgeRow(false);
    const down = key === "ArrowDown" && field.atEdgeRow(true);
    if (up || down) return this.script.goTo(field, up ? -1 : 1, from);
    if (key === "ArrowLeft" && still && from === 0) return this.script.goTo(field, -1, Infinity);
    if (key === "ArrowRight" && still && to === end) return this.script.goTo(field, 1, 0);
    return false;
  }

  /** @param {Event} event */
  #input(event) {
    const field = this.fieldOf(event.target);
    if (!field || /** @type {InputEvent} */ (event).isComposing) return;
    this.script.estimates.ask(field);
    clearTimeout(this.resting);
    if (field.dataset.kind !== "draft") this.resting = setTimeout(() => this.keep(field), REST_MS);
  }

  /** @param {FocusEvent} event */
  #focusIn(event) {
    const field = this.fieldOf(event.target);
    if (!field) return;
    const line = field.dataset.line;
    if (field.dataset.kind === "said" && line && !field.painted.text) {
      field.painted = { text: this.script.shownText(line) };
      field.paint(field.painted);
    }
    if (line) this.tells.choose(line, true);
  }

  /** @param {FocusEvent} event */
  #focusOut(event) {
    const field = this.fieldOf(event.target);
    if (!field || this.stepping || this.script.writing) return;
    if (field.dataset.kind === "draft") {
      if (!field.text.trim()) {
        if (this.script.view?.t.lines.length) this.script.write(null);
      } else this.step(() => this.writeDraft(field));
      return;
    }
    if (field.dirty) this.keep(field);
    else this.script.settle(field);
  }

  /** @param {ClipboardEvent} event */
  #paste(event) {
    const field = this.fieldOf(event.target);
    if (!field) return;
    event.preventDefault();
    const text = event.clipboardData?.getData("text/plain") ?? "";
    const paragraphs = text.split(/\r?\n/).filter((each) => each.trim());
    if (paragraphs.length > 1) this.step(() => pasteParagraphs(this, field, paragraphs));
    else if (paragraphs.length) field.insert(text.replace(/\s+/g, " "));
  }

  /** Typing ends: what stands there is kept, and the keys of the page are for the line. @param {ScriptText} field */
  leave(field) {
    if (field.dataset.kind !== "draft") {
      this.keep(field);
      this.script.focusRow(field);
    } else if (field.text.trim()) {
      this.step(async () => {
        const made = await this.writeDraft(field);
        if (made) this.script.rowOf(made)?.focus({ preventScroll: true });
      });
    } else {
      if (this.script.view?.t.lines.length) this.script.write(null); // else the first line stays to be written
      this.script.scroller.focus({ preventScroll: true });
    }
  }

  // what the keys do

  /** Enter: the next line begins, with what stood after the caret. @param {ScriptText} field */
  enter(field) {
    const { kind, line } = field.dataset;
    const [before, after] = cutAt(field);
    if (kind === "draft") {
      if (field.text.trim()) this.step(() => this.writeDraft(field, true));
      return;
    }
    if (kind === "heading") {
      this.step(async () => {
        await this.keep(field);
        this.script.write({
          after: this.script.lineBefore(field),
          shot: field.dataset.shot ?? null,
          shown: true,
        });
      });
      return;
    }
    const found = this.script.lineOf(line ?? "");
    if (!found) return;
    const spoken = kind === "said" && found.own_words && found.captions.length > 0;
    if (spoken || (kind === "said" && found.captions.length > 0 && !after.trim())) {
      this.script.goTo(field, 1, 0);
      return;
    }
    const shown = kind === "shown";
    const upTo = `${shown ? this.script.textBefore(field) : ""} ${before}`.trim();
    const all = (shown ? this.script.shownText(found.id) : field.text).trim();
    const following = !hasWords(upTo) && hasWords(all);
    this.step(async () => {
      if (!hasWords(upTo) || !hasWords(all.slice(upTo.length))) {
        await this.keep(field);
        const own = found.captions.length > 0 || kind === "unshown";
        this.script.write({
          after: following ? this.script.lineBefore(field) : found.id,
          shot: following ? found.first_shot : null,
          shown: own,
        });
        return;
      }
      const typed = this.editOf(field, `${before.trimEnd()} ${after.trimStart()}`);
      const split = { kind: "split_line", line_id: found.id, after_text: upTo };
      if (await this.tells.edits(typed ? [typed, split] : [split])) this.script.focusAfter(found.id, 0);
    });
  }

  /** Backspace at a beginning: joined to what stands before. @param {ScriptText} field */
  joinBefore(field) {
    const { kind, id, line } = field.dataset;
    const before = this.script.neighbour(field, -1);
    if (kind === "draft") {
      this.script.write(null);
      if (before) this.script.focusField(before, Infinity);
      return;
    }
    if (kind === "heading") {
      if (field.text.trim())
        return this.tells.tell("A heading is not joined to a line. Empty it to delete it.", "note");
      this.step(async () => {
        await this.tells.edits([{ kind: "delete_heading", scene_text_id: id }]);
      });
      return;
    }
    if (kind === "unshown" || !line) return;
    if (kind === "said" && this.script.lineOf(line)?.captions.length) return;
    const part = kind === "shown" && this.script.textBefore(field) !== "";
    const empty = !field.text.trim() && !part;
    const joint = before
      ? before.text.trimEnd().length + (field.text.trim() && before.text.trim() ? 1 : 0)
      : 0;
    const typed = this.editOf(field);
    const join = part
      ? { kind: "join_captions", caption_id: id }
      : empty
        ? { kind: "delete_line", line_id: line }
        : { kind: "join_lines", line_id: line };
    if (!empty && !before) return;
    const target = before?.dataset;
    this.step(async () => {
      if (await this.tells.edits(typed && !empty ? [typed, join] : [join]))
        this.script.focusSame(target, joint);
    });
  }

  /** The line that is being written becomes one; its id, if it did. @param {ScriptText} field @param {boolean} [next] begin another after it */
  async writeDraft(field, next = false) {
    const draft = this.script.draft;
    if (!draft || !field.text.trim()) return null;
    const made = await this.tells.typeParagraphs({
      paragraphs: [field.text],
      after_line_id: draft.after,
      shot_id: draft.shot,
      shown: draft.shown,
    });
    const heading = made.length === 0 && field.text.trim().startsWith("#");
    if (!made.length && !heading) return null;
    const last = made.at(-1) ?? null;
    const following = { after: last ?? draft.after, shot: heading ? draft.shot : null, shown: draft.shown };
    this.script.write(next ? following : null);
    if (last) this.tells.choose(last, true);
    return last;
  }

  /** A line, or a section by its heading, moves before the one before, or after the next. @param {HTMLElement} inside @param {number} way */
  move(inside, way) {
    const field = this.fieldOf(inside);
    this.step(async () => {
      if (field) await this.keep(field);
      const edit = this.script.moveEdit(inside, way);
      if (!edit) return;
      const kept = field ? { ...field.dataset } : null;
      const caret = field?.caret ?? 0;
      if (await this.tells.edits([edit])) {
        if (kept) this.script.focusSame(kept, caret);
        else this.script.focusRow(inside);
      }
    });
  }
}

/** Keys that wait for a step that is on its way, beside those that write. */
const STRUCTURE = new Set([
  "Escape",
  "Enter",
  "Backspace",
  "Delete",
  "ArrowUp",
  "ArrowDown",
  "ArrowLeft",
  "ArrowRight",
]);

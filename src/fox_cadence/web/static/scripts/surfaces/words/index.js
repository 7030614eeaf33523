// The script as a surface: a page that is typed into, with the room each line has.

import { html, render, repeat } from "../../lit.js";
import { clock, counted, seconds } from "../../format.js";
import { element } from "../../svg.js";
import { saidContent } from "./content.js";
import { Estimates } from "./estimates.js";
import { Moving } from "./moving.js";
import { draftRow, headingRow, lineRow, rowsOf } from "./rows.js";
import { ScriptText, places } from "./script_text.js";
import { Strip } from "./strip.js";
import { Typing } from "./typing.js";

/** @typedef {import("../surface.d.ts").View} View */
/** @typedef {import("../surface.d.ts").Tells} Tells */
/** @typedef {import("./rows.js").Draft} Draft */

/** The longest a bar shows; what is longer is cut off. */
const LONGEST_S = 9;
const BAR_PX = 112;

/** @type {import("../surface.d.ts").Make} */
export const makeScript = (holder, tells) => new Script(holder, tells);

export class Script {
  /** @param {HTMLElement} holder @param {Tells} tells */
  constructor(holder, tells) {
    holder.classList.add("script");
    this.tells = tells;
    /** @type {View|null} */
    this.view = null;
    /** Where a line that is being written will stand. @type {Draft|null} */
    this.draft = null;
    const heads = element("div", "heads shead");
    for (const title of [
      "Begins",
      "Role",
      "Shown",
      "Said, where it differs, with its direction",
      "Length in its room",
    ])
      heads.append(element("span", "", title));
    this.scroller = element("div", "scroller");
    this.scroller.id = "script-scroller";
    this.scroller.tabIndex = -1;
    this.page = element("div", "spage");
    this.page.id = "script";
    this.scroller.append(this.page);
    holder.append(heads, this.scroller);
    this.estimates = new Estimates(this, tells);
    this.typing = new Typing(this.page, this, tells);
    this.strip = new Strip(this.scroller, this.page, this, tells);
    new Moving(this.page, this, tells);
    this.page.addEventListener("change", (event) => this.#changed(event));
    this.page.addEventListener("click", (event) => this.#clicked(event));
    holder.addEventListener("dragover", (event) => {
      event.preventDefault();
      holder.classList.add("over");
    });
    holder.addEventListener("dragleave", () => holder.classList.remove("over"));
    holder.addEventListener("drop", (event) => {
      event.preventDefault();
      holder.classList.remove("over");
      if (!event.dataTransfer?.files.length) return;
      tells.toWordsDesk("script");
      tells.wordsDropped(event);
    });
    /** @type {HTMLElement|null} */
    this.spoken = null;
    this.writing = false;
  }

  /** @param {View} view */
  show(view) {
    if (this.view?.t !== view.t) this.estimates.forget(view.t);
    this.view = view;
    this.#draw();
  }

  #draw() {
    const view = this.view;
    if (!view) return;
    const { t } = view;
    const begins = !t.lines.length && !this.draft;
    if (begins) this.draft = { after: null, shot: null, shown: true };
    const rows = rowsOf(t, this.draft);
    const longest = Math.min(
      LONGEST_S,
      Math.max(1, ...t.lines.map((line) => Math.max(line.room_s, line.end_s - line.start_s))),
    );
    const scale = BAR_PX / longest;
    const role = t.roles.find((each) => each.id === this.#roleOfDraft());
    const key = (/** @type {import("./rows.js").Row} */ row) =>
      row.kind === "line" ? row.line.id : row.kind === "heading" ? `heading ${row.id}` : "draft";
    const made = repeat(rows, key, (row) => {
      if (row.kind === "heading") return headingRow(row, false);
      if (row.kind === "draft")
        return draftRow(
          role?.name ?? "narrator",
          (role?.colour ?? 0) % 6,
          this.estimates.ofDraft,
          !t.lines.length,
        );
      const { line, captions } = row;
      const said = saidContent(line, captions.length > 0);
      return lineRow(row, t.roles, line.id === view.line, this.estimates.of(line.id), said, scale);
    });
    render(html`${made}${this.#end(view)}`, this.page);
    this.strip.place();
    if (begins && document.activeElement === document.body)
      this.focusField(this.page.querySelector('script-text[data-kind="draft"]'), 0);
  }

  /** The sum at the end of the page. @param {View} view */
  #end({ t }) {
    const ends = t.total_frames * (t.rate.denominator / t.rate.numerator);
    const { left_s: left, words_left: words } = t.amount;
    const room =
      left === null || words === null
        ? html`${counted(t.amount.words, "word")}, ${seconds(t.amount.speech_s)} of speech.`
        : left >= 0
          ? html`<b class="mono">${seconds(left)}</b> left of <b class="mono">${clock(t.longest_s ?? 0)}</b>,
              room for about ${counted(words, "more word")}.`
          : html`<span class="alarm"
              >${seconds(-left)} longer than the ${clock(t.longest_s ?? 0)} allowed.</span
            >`;
    return html`<div class="send">
      <p>Ends at <b class="mono">${clock(ends)}</b>. ${room}</p>
      <p class="soft">
        Enter begins the next line, Backspace at a beginning joins it to the one before, Tab goes to what is
        said. Drop a script here to import it.
      </p>
      <p><button class="btn btn-small" id="write-line">Write a line at the end</button></p>
    </div>`;
  }

  #roleOfDraft() {
    const t = this.view?.t;
    return t?.lines.find((line) => line.id === this.draft?.after)?.role ?? t?.roles[0]?.id ?? "";
  }

  /** @param {number} s */
  setPlayhead(s) {
    const line = this.view?.t.lines.find((each) => each.start_s <= s && s < each.end_s);
    const row = line ? this.rowOf(line.id) : null;
    if (row === this.spoken) return;
    this.spoken?.classList.remove("now");
    row?.classList.add("now");
    this.spoken = row;
  }

  /** @param {number} from */
  follow(from) {
    const t = this.view?.t;
    const line = t?.lines.findLast((each) => each.start_s <= from + 1e-6) ?? t?.lines[0];
    const row = line && this.rowOf(line.id);
    if (!row) return;
    const [box, seen] = [row.getBoundingClientRect(), this.scroller.getBoundingClientRect()];
    if (box.top < seen.top + 8 || box.bottom > seen.bottom - 8)
      this.scroller.scrollTop += box.top - seen.top - seen.height * 0.3;
  }

  focus() {
    this.focusLine(this.view?.line ?? "", 0);
  }

  leave() {
    const field = this.typing.fieldOf(document.activeElement);
    if (field) field.blur();
    this.strip.hide();
  }

  /** Begin a line, or stop writing one. @param {Draft|null} draft */
  write(draft) {
    this.draft = draft;
    this.estimates.ofDraft = null;
    this.writing = true; // a field that goes is left, and must not be kept once more
    const field = this.page.querySelector('script-text[data-kind="draft"]');
    if (field instanceof ScriptText) field.textContent = "";
    this.#draw();
    this.writing = false;
    if (draft) this.focusField(this.page.querySelector('script-text[data-kind="draft"]'), 0);
  }

  /** Drawn again with what is known of lengths now. */
  refresh() {
    this.#draw();
  }

  // finding things on the page

  /** @param {string} id */
  lineOf(id) {
    return this.view?.t.lines.find((line) => line.id === id) ?? null;
  }

  /** @param {string} id @returns {HTMLElement|null} */
  rowOf(id) {
    return this.page.querySelector(`.srow[data-line="${CSS.escape(id)}"]`);
  }

  /** What the captions of a line show, as they are typed now. @param {string} id */
  shownText(id) {
    const fields = this.rowOf(id)?.querySelectorAll('script-text[data-kind="shown"]') ?? [];
    return [...fields].map((field) => /** @type {ScriptText} */ (field).text.trim()).join(" ");
  }

  /** What a line's captions before that of a field show. @param {ScriptText} field */
  textBefore(field) {
    const fields = [...(field.parentElement?.querySelectorAll("script-text") ?? [])];
    const before = fields.slice(0, fields.indexOf(field));
    return before.map((each) => /** @type {ScriptText} */ (each).text.trim()).join(" ");
  }

  /** How many words of a line its captions before that of a field show. @param {ScriptText} field */
  wordsBefore(field) {
    const words = this.lineOf(field.dataset.line ?? "")?.said_words;
    return places(this.textBefore(field), words).length;
  }

  /** The line that stands before the row of a field; null before the first. @param {HTMLElement} inside @returns {string|null} */
  lineBefore(inside) {
    const rows = /** @type {HTMLElement[]} */ ([...this.page.querySelectorAll(".srow")]);
    const at = rows.findIndex((row) => row.contains(inside));
    return rows.slice(0, at).findLast((row) => row.dataset.line)?.dataset.line ?? null;
  }

  /** The field before or after one in its column. @param {ScriptText} field @param {number} step @returns {ScriptText|null} */
  neighbour(field, step) {
    const said = field.dataset.kind === "said";
    const all = /** @type {ScriptText[]} */ ([...this.page.querySelectorAll("script-text")]);
    const fields = all.filter((each) => (each.dataset.kind === "said") === said);
    const found = fields[fields.indexOf(field) + step];
    return found instanceof ScriptText ? found : null;
  }

  // the caret

  /** @param {Element|null|undefined} field @param {number} at */
  focusField(field, at) {
    if (!(field instanceof ScriptText)) return;
    field.focus({ preventScroll: true });
    field.caret = Math.min(at, field.text.length);
    field.scrollIntoView({ block: "nearest" });
  }

  /** To the next or the last field of the column, the caret as far in as it was. @param {ScriptText} field @param {number} step @param {number} at */
  goTo(field, step, at) {
    const next = this.neighbour(field, step);
    if (next) this.focusField(next, at);
    return next !== null;
  }

  /** @param {string} line @param {number} at */
  focusLine(line, at) {
    this.focusField(this.rowOf(line)?.querySelector("script-text"), at);
  }

  /** The line after one. @param {string} line @param {number} at */
  focusAfter(line, at) {
    const lines = this.view?.t.lines ?? [];
    const next = lines[lines.findIndex((each) => each.id === line) + 1];
    if (next) this.focusLine(next.id, at);
  }

  /** The field a field was, when the page has been drawn again. @param {Record<string, string|undefined>|undefined} data @param {number} at */
  focusSame(data, at) {
    if (!data) return;
    const { kind, id, line } = data;
    const by = id ? `[data-id="${CSS.escape(id)}"]` : `[data-line="${CSS.escape(line ?? "")}"]`;
    this.focusField(this.page.querySelector(`script-text[data-kind="${kind}"]${by}`), at);
  }

  /** @param {HTMLElement} inside */
  focusRow(inside) {
    /** @type {HTMLElement|null} */ (inside.closest(".srow"))?.focus({ preventScroll: true });
  }

  /** A field that is left shows what it showed before it was taken to. @param {ScriptText} field */
  settle(field) {
    const line = this.lineOf(field.dataset.line ?? "");
    if (field.dataset.kind !== "said" || !line) return;
    const content = saidContent(line, line.captions.length > 0) ?? { text: "" };
    field.painted = content;
    field.paint(content);
  }

  /** Lines and headings a row moves with, and the edit that moves them on. @param {HTMLElement} inside @param {number} way @returns {object|null} */
  moveEdit(inside, way) {
    const block = this.blockOf(inside);
    const lines = this.view?.t.lines ?? [];
    if (!block.lines.length) return null;
    const first = lines.findIndex((line) => line.id === block.lines[0]);
    const end = first + block.lines.length;
    if (way < 0 ? first === 0 : end >= lines.length) return null;
    const steps = block.headings.length ? this.#sectionSteps(first, end, way) : 1;
    const before = way < 0 ? lines[first - steps] : lines[end + steps];
    return {
      kind: "move_lines",
      line_ids: block.lines,
      before_line_id: before?.id ?? null,
      heading_ids: block.headings,
    };
  }

  /** How many lines the section before, or after, has. @param {number} first @param {number} end @param {number} way */
  #sectionSteps(first, end, way) {
    const rows = this.view ? rowsOf(this.view.t, null) : [];
    const sections = [0];
    for (const row of rows) {
      if (row.kind === "heading") sections.push(0);
      else sections[sections.length - 1]++;
    }
    let at = 0;
    for (const count of sections) {
      if (way < 0 && at + count === first) return count || 1;
      if (way > 0 && at === end && count) return count;
      at += count;
    }
    return way < 0 ? first : (this.view?.t.lines.length ?? 0) - end;
  }

  /** What moves with a row: a line alone, a heading with the lines up to the next. @param {HTMLElement} inside @returns {{lines: string[], headings: string[]}} */
  blockOf(inside) {
    const row = /** @type {HTMLElement|null} */ (inside.closest(".srow"));
    if (!row) return { lines: [], headings: [] };
    if (row.dataset.line) return { lines: [row.dataset.line], headings: [] };
    const lines = [];
    let next = /** @type {HTMLElement|null} */ (row.nextElementSibling);
    while (next && next.dataset.heading === undefined) {
      if (next.dataset.line) lines.push(next.dataset.line);
      next = /** @type {HTMLElement|null} */ (next.nextElementSibling);
    }
    return { lines, headings: [row.dataset.heading ?? ""] };
  }

  // what is not typing

  /** @param {Event} event */
  #changed(event) {
    const target = event.target;
    if (!(target instanceof HTMLSelectElement) || target.dataset.role === undefined) return;
    const row = /** @type {HTMLElement|null} */ (target.closest(".srow"));
    this.tells.edits([{ kind: "line_role", line_id: row?.dataset.line, role_id: target.value }]);
  }

  /** @param {MouseEvent} event */
  #clicked(event) {
    const target = /** @type {HTMLElement} */ (event.target);
    if (target.id === "write-line") {
      this.write({ after: this.view?.t.lines.at(-1)?.id ?? null, shot: null, shown: true });
      return;
    }
    const row = /** @type {HTMLElement|null} */ (target.closest(".srow[data-line]"));
    if (row?.dataset.line && row.dataset.line !== this.view?.line) this.tells.choose(row.dataset.line);
  }
}

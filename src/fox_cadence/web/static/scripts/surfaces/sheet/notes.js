// Notes of a review on the sheet: a mark at the moment, and what was said opened beside it, to be answered there.

import { clock } from "../../format.js";
import { element, place } from "../../svg.js";
import { part } from "./layer.js";

/** @typedef {import("./sheet.js").Sheet} Sheet */
/** @typedef {import("../surface.d.ts").View} View */
/** @typedef {import("../surface.d.ts").Tells} Tells */

const MARK_PX = 24;
/** Answers that are being typed, by the note: closing one, or seeing to it, loses no word. @type {Map<string, string>} */
const drafts = new Map();

/** @param {Sheet} sheet @param {View} view @param {(top: number, end: number) => boolean} seen */
export function* noteParts(sheet, view, seen) {
  let below = -Infinity;
  for (const [index, note] of view.notes.entries()) {
    const y = sheet.yf(note.frame);
    if (!seen(y, y + MARK_PX)) continue;
    const top = Math.max(y, below); // two at one moment stand one under the other
    below = top + MARK_PX;
    const open = view.noteOpen === note.id;
    yield part(`note-${note.id}`, [top, index, note.done_at, note.answer, open], () => {
      const mark = element("button", note.done_at ? "note-mark note-done" : "note-mark", String(index + 1));
      place(mark, top, MARK_PX);
      mark.dataset.note = note.id;
      mark.dataset.key = `note-${note.id}`;
      mark.setAttribute("aria-expanded", String(open));
      mark.setAttribute(
        "aria-label",
        `${index + 1}: note of ${note.author} at ${clock(note.frame * sheet.frameSeconds)}`,
      );
      return mark;
    });
    if (open) yield part("note-open", [top, note], () => opened(note, top + MARK_PX));
  }
}

/** @param {View["notes"][number]} note @param {number} top */
function opened(note, top) {
  const holder = element("form", "note-open");
  holder.dataset.answers = note.id;
  holder.style.top = `${top}px`;
  const words = element("p");
  words.append(element("b", "", note.author), " ", element("span", "", note.text));
  const label = element("label", "field", "Your answer, on the page of the review");
  const field = document.createElement("textarea");
  field.id = "note-answer";
  field.rows = 2;
  field.maxLength = 2000;
  field.value = drafts.get(note.id) ?? note.answer;
  field.addEventListener("input", () => drafts.set(note.id, field.value));
  label.append(field);
  const row = element("p", "choices");
  for (const [name, text, kind] of [
    ["answer", "Answer", "btn btn-small btn-fox"],
    ["done", note.done_at ? "Not done yet" : "Done", "btn btn-small"],
    ["close", "Close", "btn btn-small btn-text"],
  ]) {
    const button = element("button", kind, text);
    button.dataset.does = name;
    button.dataset.key = `note-${name}`;
    row.append(button);
  }
  holder.append(words, label, row);
  return holder;
}

/** What is clicked and typed of notes. @param {Sheet} sheet @param {Tells} tells */
export function followNotes(sheet, tells) {
  sheet.page.addEventListener("submit", (event) => event.preventDefault());
  sheet.page.addEventListener("keydown", (event) => {
    const holder = /** @type {HTMLElement} */ (event.target).closest(".note-open");
    if (!holder || event.key !== "Escape") return;
    event.stopPropagation();
    /** @type {HTMLElement} */ (document.activeElement)?.blur();
    tells.openNote("");
  });
  sheet.page.addEventListener("click", async (event) => {
    const target = /** @type {HTMLElement} */ (event.target);
    const mark = /** @type {HTMLElement|null} */ (target.closest("[data-note]"));
    if (mark?.dataset.note) tells.openNote(mark.dataset.note);
    const button = /** @type {HTMLElement|null} */ (target.closest("[data-does]"));
    const holder = /** @type {HTMLElement|null} */ (target.closest("[data-answers]"));
    const id = holder?.dataset.answers;
    if (!button || !holder || !id) return;
    if (button.dataset.does === "close") tells.openNote("");
    if (button.dataset.does === "answer") {
      const text = /** @type {HTMLTextAreaElement} */ (holder.querySelector("textarea")).value;
      if (await tells.answerNote(id, text)) drafts.delete(id);
    }
    if (button.dataset.does === "done") await tells.markNote(id, button.textContent === "Done");
  });
}

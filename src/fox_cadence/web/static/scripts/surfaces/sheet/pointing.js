// Dragging on the sheet, by pointer and by arrow keys: a rule with the number that changes, the proposal following live.

import { drag } from "../../drag.js";
import { element } from "../../svg.js";
import { GRIPS, gripOf } from "./grips.js";

/** @typedef {import("./sheet.js").Sheet} Sheet */
/** @typedef {import("./grips.js").Step} Step */
/**
 * @typedef {{commit: (edit: object) => Promise<void>, attempt: (edit: object) => Promise<any>,
 *   follow: (proposal: any) => string, say: (text: string) => void, refuse: (text: string) => void, letGo: () => void}} Answers
 */

const BEGINS_PX = 4;

export class Pointing {
  /** @param {Sheet} sheet @param {Answers} answers */
  constructor(sheet, answers) {
    this.sheet = sheet;
    this.answers = answers;
    this.justDragged = false;
    this.rule = element("div", "drag-rule");
    this.chip = element("span", "drag-chip mono");
    this.rule.append(this.chip);
    this.rule.hidden = true;
    this.attempts = new Attempts(answers, (text) => {
      this.outcome = text;
      this.#write();
    });
    this.text = "";
    this.outcome = "";
    sheet.page.append(this.rule);
    sheet.page.addEventListener("pointerdown", (event) => this.#begin(event));
    sheet.page.addEventListener("keydown", (event) => this.#key(event));
  }

  /** @param {PointerEvent} event */
  #begin(event) {
    this.justDragged = false;
    const target = event.target instanceof Element ? event.target.closest(GRIPS) : null;
    if (!(target instanceof HTMLElement) || event.button !== 0 || event.target instanceof HTMLTextAreaElement)
      return;
    const moves = target.dataset.move !== undefined; // a line is chosen by a click and moved by a drag
    if (!moves) event.preventDefault();
    if (document.activeElement instanceof HTMLElement && !moves) document.activeElement.blur(); // keys now belong to the sheet
    const { grip, refusal } = gripOf(this.sheet, target);
    if (!grip) {
      if (refusal && !moves) this.answers.refuse(refusal);
      return;
    }
    const from = event.clientY + this.sheet.scroller.scrollTop;
    /** @type {Step|null} */
    let last = null;
    let begun = !moves;
    const move = (/** @type {PointerEvent} */ e) => {
      const pixels = e.clientY + this.sheet.scroller.scrollTop - from;
      if (!begun && Math.abs(pixels) < BEGINS_PX) return;
      begun = true;
      last = grip(pixels / (this.sheet.view?.scale ?? 28) / this.sheet.frameSeconds, e.shiftKey, !e.altKey);
      this.#show(last);
      if (last.edit) this.attempts.ask(last.edit);
    };
    const end = (/** @type {boolean} */ keep) => {
      this.rule.hidden = true;
      this.attempts.stop();
      this.justDragged = last !== null;
      if (keep && last?.edit) this.answers.commit(last.edit);
      else if (last) this.answers.letGo();
    };
    drag(move, end);
  }

  /** Arrow keys on what has the focus: one frame, with Shift ten; a line moves with Shift and the arrows. @param {KeyboardEvent} event */
  #key(event) {
    const target = event.target;
    const way = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (!(target instanceof HTMLElement) || !way || !target.matches(GRIPS)) return;
    if (target.dataset.move && !event.shiftKey) return;
    event.preventDefault();
    event.stopPropagation();
    const { grip, refusal } = gripOf(this.sheet, target);
    const step = grip?.(way * (event.shiftKey && !target.dataset.move ? 10 : 1), false, false);
    if (!step) return this.answers.refuse(refusal);
    this.answers.say(step.text);
    if (step.edit) this.answers.commit(step.edit);
  }

  /** @param {Step} step */
  #show(step) {
    if (this.rule.hidden) this.outcome = "";
    this.rule.hidden = false;
    this.rule.style.transform = `translateY(${this.sheet.yf(step.frame).toFixed(1)}px)`; // moved as a layer, not laid out
    this.text = step.text;
    this.#write();
  }

  #write() {
    this.chip.textContent = this.outcome ? `${this.text} · ${this.outcome}` : this.text;
  }
}

/** Asks for the newest edit only: while one answer is on its way, later wishes wait and only the last is asked. */
class Attempts {
  /** @param {Answers} answers @param {(text: string) => void} tell */
  constructor(answers, tell) {
    this.answers = answers;
    this.tell = tell;
    /** @type {object|null} */
    this.waiting = null;
    this.asking = false;
    this.round = 0;
  }

  /** @param {object} edit */
  ask(edit) {
    this.waiting = edit;
    if (!this.asking) this.#next();
  }

  stop() {
    this.waiting = null;
    this.round++;
  }

  async #next() {
    const round = this.round;
    this.asking = true;
    while (this.waiting) {
      const edit = this.waiting;
      this.waiting = null;
      const answer = await this.answers
        .attempt(edit)
        .catch((error) => (error instanceof Error ? error.message : ""));
      if (round !== this.round) break;
      this.tell(typeof answer === "string" ? answer : this.answers.follow(answer));
      await drawn(); // asked while we draw, the next answer would come later, not sooner
    }
    this.asking = false;
    if (this.waiting) this.#next();
  }
}

/** Resolves when what was changed stands on the screen. @returns {Promise<void>} */
function drawn() {
  return new Promise((done) => requestAnimationFrame(() => setTimeout(done)));
}

// Dragging on the sheet: cuts and caption edges, by pointer and by arrow keys. Says the number that changes.

import { timecode } from "../format.js";
import { element, place } from "../svg.js";

/** @typedef {import("./sheet.js").Sheet} Sheet */
/** @typedef {import("../types.js").Shot} Shot */
/** @typedef {import("../types.js").Caption} Caption */
/** @typedef {{frame: number, text: string, edit: object|null}} Step one moment of a drag */

const NEAR_PX = 7;

export class Drags {
  /**
   * @param {Sheet} sheet
   * @param {(edit: object) => Promise<void>} commit
   * @param {(message: string) => void} say
   */
  constructor(sheet, commit, say) {
    this.sheet = sheet;
    this.commit = commit;
    this.say = say;
    this.rule = element("div", "drag-rule");
    this.chip = element("span", "drag-chip mono");
    this.rule.append(this.chip);
    this.rule.hidden = true;
    sheet.page.append(this.rule);
    sheet.page.addEventListener("pointerdown", (event) => this.#begin(event));
    sheet.page.addEventListener("keydown", (event) => this.#key(event));
  }

  /** @param {PointerEvent} event */
  #begin(event) {
    const target = event.target instanceof HTMLElement ? event.target.closest("[data-cut], [data-edge]") : null;
    if (!(target instanceof HTMLElement) || event.button !== 0) return;
    event.preventDefault();
    event.stopPropagation();
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur(); // keys now belong to the sheet
    const from = event.clientY + this.sheet.scroller.scrollTop;
    const make = this.#maker(target);
    if (!make) return;
    /** @type {Step|null} */
    let last = null;
    const move = (/** @type {PointerEvent} */ e) => {
      const pixels = e.clientY + this.sheet.scroller.scrollTop - from;
      last = make(pixels / (this.sheet.view?.scale ?? 28) / this.sheet.frameSeconds, e.shiftKey, !e.altKey);
      this.#show(last);
    };
    const end = (/** @type {boolean} */ keep) => {
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", up);
      window.removeEventListener("keydown", key, true);
      this.rule.hidden = true;
      if (keep && last?.edit) this.commit(last.edit);
    };
    const up = () => end(true);
    const key = (/** @type {KeyboardEvent} */ e) => {
      if (e.key !== "Escape") return;
      e.stopPropagation();
      end(false);
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", up);
    window.addEventListener("keydown", key, true);
  }

  /** Arrow keys on a focused cut or caption: one frame, with Shift ten. @param {KeyboardEvent} event */
  #key(event) {
    const target = event.target;
    if (!(target instanceof HTMLElement) || !target.dataset.cut) return;
    const way = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    const step = this.#maker(target)?.(way * (event.shiftKey ? 10 : 1), false, false);
    if (!step) return;
    this.say(step.text);
    if (step.edit) this.commit(step.edit);
  }

  /** @param {Step} step */
  #show(step) {
    this.rule.hidden = false;
    place(this.rule, this.sheet.yf(step.frame), 1);
    this.chip.textContent = step.text;
  }

  /**
   * What a movement by some frames would do to the thing that was taken hold of.
   *
   * @param {HTMLElement} target
   * @returns {((frames: number, shift: boolean, snap: boolean) => Step)|null}
   */
  #maker(target) {
    const view = this.sheet.view;
    if (!view) return null;
    if (target.dataset.cut) {
      const number = view.t.shots.findIndex((item) => item.id === target.dataset.cut);
      const shot = view.t.shots[number];
      if (!shot) return null;
      if (shot.locked) {
        this.say(`Shot ${number + 1} is locked. Unlock it in Picture to change its length.`);
        return null;
      }
      return (frames, shift, snap) => this.#cut(shot, number, frames, shift, snap);
    }
    const caption = view.t.captions.find((item) => item.id === target.dataset.caption);
    if (!caption) return null;
    if (caption.locked) {
      this.say("This caption is locked. Unlock it in Words to move it.");
      return null;
    }
    return (frames, _, snap) => this.#edge(caption, target.dataset.edge === "in", frames, snap);
  }

  /** @param {Shot} shot @param {number} number @param {number} frames @param {boolean} shift @param {boolean} snap @returns {Step} */
  #cut(shot, number, frames, shift, snap) {
    let cut = Math.round(shot.end + frames);
    if (snap) cut = this.#snapped(cut, this.#words());
    const most = shot.handle === null ? shot.longest * 4 : shot.end - shot.start + shot.handle;
    const length = Math.max(1, Math.min(most, cut - shot.start));
    const change = length - (shot.end - shot.start);
    const atEnd = length === most && shot.handle !== null ? ", end of its clip" : "";
    const how = shift ? "next shot gives" : "what follows moves";
    const text = `shot ${number + 1}: ${length} frames, ${change >= 0 ? "+" : "−"}${Math.abs(change)} (${how})${atEnd}`;
    const edit = { kind: "shot_length", shot_id: shot.id, length_frames: length, take_from_next: shift };
    return { frame: shot.start + length, text, edit: change ? edit : null };
  }

  /** @param {Caption} caption @param {boolean} isIn @param {number} frames @param {boolean} snap @returns {Step} */
  #edge(caption, isIn, frames, snap) {
    const view = this.sheet.view;
    const total = view?.t.total_frames ?? 0;
    let frame = Math.round((isIn ? caption.in : caption.out) + frames);
    if (snap) frame = this.#snapped(frame, [...this.#cuts(), ...this.#words()]);
    frame = isIn ? Math.max(0, Math.min(frame, caption.out - 2)) : Math.min(total, Math.max(frame, caption.in + 2));
    const edit = {
      kind: "caption_times", caption_id: caption.id,
      in_frame: isIn ? frame : caption.in, out_frame: isIn ? caption.out : frame,
    };
    const rate = view?.t.rate ?? { numerator: 30, denominator: 1 };
    const changed = frame !== (isIn ? caption.in : caption.out);
    return { frame, text: `${isIn ? "in" : "out"} ${timecode(frame, rate)}`, edit: changed ? edit : null };
  }

  #cuts() {
    return this.sheet.view?.t.shots.flatMap((shot) => [shot.start, shot.end]) ?? [];
  }

  /** Frames at which words begin or end. */
  #words() {
    const frame = this.sheet.frameSeconds;
    return this.sheet.view?.t.lines.flatMap((line) => line.words.flatMap(([a, b]) => [Math.floor(a / frame), Math.ceil(b / frame)])) ?? [];
  }

  /** @param {number} frame @param {number[]} places */
  #snapped(frame, places) {
    const near = NEAR_PX / (this.sheet.view?.scale ?? 28) / this.sheet.frameSeconds;
    let best = frame;
    for (const at of places) {
      if (Math.abs(at - frame) <= near && (best === frame || Math.abs(at - frame) < Math.abs(best - frame))) best = at;
    }
    return best;
  }
}

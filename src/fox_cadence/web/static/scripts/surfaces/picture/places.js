// The places of shots: dragged by their names, moved by keys; files and clips dropped between them.

import { drag } from "../../drag.js";
import { element } from "../../svg.js";

/** @typedef {import("../sheet/sheet.js").Sheet} Sheet */
/** @typedef {import("../surface.d.ts").Tells} Tells */

const BEGINS_PX = 6;
export const CLIP_TYPE = "application/x-clip-of-project";

export class Places {
  /** @param {Sheet} sheet @param {Tells} tells */
  constructor(sheet, tells) {
    this.sheet = sheet;
    this.tells = tells;
    this.justDragged = false;
    this.rule = element("div", "drag-rule");
    this.chip = element("span", "drag-chip mono");
    this.rule.append(this.chip);
    this.rule.hidden = true;
    sheet.page.append(this.rule);
    sheet.page.addEventListener("pointerdown", (event) => this.#begin(event));
    sheet.page.addEventListener("keydown", (event) => this.#key(event));
    const { scroller } = sheet;
    scroller.addEventListener("dragover", (event) => this.#over(event));
    scroller.addEventListener("dragleave", () => {
      this.rule.hidden = true;
    });
    scroller.addEventListener("drop", (event) => this.#drop(event));
  }

  get shots() {
    return this.sheet.view?.t.shots ?? [];
  }

  /** Before which shot a height of the page is, counted from 0: the cut that is nearest. @param {number} clientY */
  #gap(clientY) {
    const y = clientY - this.sheet.page.getBoundingClientRect().top;
    const place = this.shots.findIndex(
      ({ start, end }) => y < (this.sheet.yf(start) + this.sheet.yf(end)) / 2,
    );
    return place < 0 ? this.shots.length : place;
  }

  /** @param {number} gap @param {string} text */
  #show(gap, text) {
    const frame = this.shots[gap]?.start ?? this.shots.at(-1)?.end ?? 0;
    this.rule.hidden = false;
    this.rule.style.transform = `translateY(${this.sheet.yf(frame).toFixed(1)}px)`;
    this.chip.textContent = text;
  }

  /** Where something comes, in words. @param {number} gap */
  #where(gap) {
    return gap === 0 ? "before shot 1" : `after shot ${gap}`;
  }

  /** @param {PointerEvent} event */
  #begin(event) {
    this.justDragged = false;
    const label = event.target instanceof Element ? event.target.closest(".shot-label") : null;
    const held = /** @type {HTMLElement|null} */ (label?.closest("[data-shot]") ?? null);
    const place = this.shots.findIndex((shot) => shot.id === held?.dataset.shot);
    if (place < 0 || event.button !== 0) return;
    const from = event.clientY;
    let gap = -1;
    const move = (/** @type {PointerEvent} */ e) => {
      if (gap < 0 && Math.abs(e.clientY - from) < BEGINS_PX) return;
      gap = this.#gap(e.clientY);
      this.#show(gap, `shot ${place + 1} ${this.#where(gap)}`);
    };
    const end = (/** @type {boolean} */ keep) => {
      this.rule.hidden = true;
      this.justDragged = gap >= 0;
      const to = gap > place ? gap - 1 : gap;
      if (keep && gap >= 0 && to !== place) this.#move(this.shots[place].id, to);
    };
    drag(move, end);
  }

  /** @param {string} id @param {number} to */
  #move(id, to) {
    return this.tells.pictureEdit({ kind: "move_shot", shot_id: id, to });
  }

  /** Alt and the arrows move the shot whose name has the focus. @param {KeyboardEvent} event */
  #key(event) {
    const way = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    const target =
      event.target instanceof Element ? event.target.closest(".shot-label, [data-window]") : null;
    const held = /** @type {HTMLElement|null} */ (target?.closest("[data-shot]") ?? null);
    if (!way || !event.altKey || !held) return;
    event.preventDefault();
    event.stopPropagation();
    const place = this.shots.findIndex((shot) => shot.id === held.dataset.shot);
    const to = place + way;
    if (place < 0 || to < 0 || to >= this.shots.length) return;
    this.#move(this.shots[place].id, to);
  }

  /** @param {DragEvent} event */
  #over(event) {
    const types = event.dataTransfer?.types ?? [];
    if (!types.includes("Files") && !types.includes(CLIP_TYPE)) return;
    event.preventDefault();
    const gap = this.#gap(event.clientY);
    this.#show(gap, this.#where(gap));
  }

  /** @param {DragEvent} event */
  #drop(event) {
    this.rule.hidden = true;
    const carried = event.dataTransfer;
    const clip = carried?.getData(CLIP_TYPE);
    const files = [...(carried?.files ?? [])];
    if (!clip && !files.length) return;
    event.preventDefault();
    event.stopPropagation();
    const gap = this.#gap(event.clientY);
    if (clip) this.tells.placeClip(clip, gap);
    else this.tells.bringIn(files, gap);
  }
}

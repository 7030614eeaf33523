// Lines and sections moved by their handles.

import { drag } from "../../drag.js";
import { element } from "../../svg.js";

/** @typedef {import("../surface.d.ts").Tells} Tells */

const BEGINS_PX = 5;

export class Moving {
  /** @param {HTMLElement} page @param {import("./index.js").Script} script @param {Tells} tells */
  constructor(page, script, tells) {
    this.page = page;
    this.script = script;
    this.tells = tells;
    this.mark = element("div", "smove");
    this.mark.hidden = true;
    page.parentElement?.append(this.mark);
    page.addEventListener("pointerdown", (event) => this.#begin(event));
    page.addEventListener("keydown", (event) => {
      const target = /** @type {HTMLElement} */ (event.target);
      if (!event.altKey || !target.matches(".srow")) return;
      const way = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" ? 1 : 0;
      if (!way) return;
      event.preventDefault();
      event.stopPropagation();
      script.typing.move(target, way);
    });
  }

  /** @param {PointerEvent} event */
  #begin(event) {
    const grip = event.target instanceof Element ? event.target.closest("[data-grip]") : null;
    if (!(grip instanceof HTMLElement) || event.button !== 0) return;
    event.preventDefault();
    const block = this.script.blockOf(grip);
    const from = event.clientY;
    let begun = false;
    /** @type {string|null|undefined} */
    let before;
    const move = (/** @type {PointerEvent} */ e) => {
      if (!begun && Math.abs(e.clientY - from) < BEGINS_PX) return;
      begun = true;
      before = this.#show(e.clientY, block.lines);
    };
    const end = (/** @type {boolean} */ keep) => {
      this.mark.hidden = true;
      if (!begun || !keep || before === undefined || !block.lines.length) return;
      this.tells.edits([
        {
          kind: "move_lines",
          line_ids: block.lines,
          before_line_id: before,
          heading_ids: block.headings,
        },
      ]);
    };
    drag(move, end);
  }

  /** The line the block would stand before (null: at the end; undefined: where it is). @param {number} y @param {string[]} moving */
  #show(y, moving) {
    const rows = /** @type {HTMLElement[]} */ ([...this.page.querySelectorAll(".srow[data-line]")]);
    const next = rows.find((row) => {
      const box = row.getBoundingClientRect();
      return y < box.top + box.height / 2;
    });
    const last = rows[rows.length - 1];
    this.mark.hidden = false;
    this.mark.style.top = `${next ? next.offsetTop - 2 : last.offsetTop + last.offsetHeight}px`;
    const id = next?.dataset.line ?? null;
    const ids = rows.map((row) => row.dataset.line ?? "");
    const after = ids[ids.indexOf(moving[moving.length - 1]) + 1] ?? null;
    const still = (id !== null && moving.includes(id)) || id === after;
    this.mark.classList.toggle("still", still);
    return still ? undefined : id;
  }
}

// The number of what is being dragged, beside it.

import { element } from "../../svg.js";

/** @typedef {import("../sheet/sheet.js").Sheet} Sheet */

export class Chip {
  /** @param {Sheet} sheet @param {string} column beside whose left edge it stands */
  constructor(sheet, column) {
    this.sheet = sheet;
    this.column = column;
    this.shown = element("span", "material-chip level-chip mono");
    this.shown.hidden = true;
    sheet.page.append(this.shown);
  }

  /** The left edge of the column, on the screen. */
  get left() {
    return this.sheet.page.querySelector(`.column-${this.column}`)?.getBoundingClientRect().left ?? 0;
  }

  /** @param {string} text @param {number} top pixels of the page @param {number} [in_] pixels from the edge */
  show(text, top, in_ = 0) {
    this.shown.hidden = false;
    this.shown.textContent = text;
    this.shown.style.top = `${top}px`;
    this.shown.style.left = `${this.left - this.sheet.page.getBoundingClientRect().left + in_}px`;
  }

  hide() {
    this.shown.hidden = true;
  }
}

// The sheet: time runs down the page. Holds the scale and draws what is visible, column by column.

import { timecode } from "../../format.js";
import { element } from "../../svg.js";
import { Layer } from "./layer.js";

/** @typedef {import("../surface.d.ts").View} View */
/** @typedef {import("./layer.js").Part} Part */
/**
 * A column: its name (also that of its CSS variable of width), its heading, and what of it is to be drawn. `seen` tells
 * whether a stretch of the page, in pixels, is near enough to be drawn.
 *
 * @typedef {{name: string, title: string,
 *   parts: (sheet: Sheet, view: View, seen: (top: number, end: number) => boolean, reach: [number, number]) => Iterable<Part>}} Column
 */

export const TOP = 12;
const MARGIN = 600;

export class Sheet {
  /** @param {HTMLElement} holder @param {Column[]} columns those side by side @param {Column} across what goes over all of them @param {string} [id] of its page */
  constructor(holder, columns, across, id = "page") {
    const wide = columns.map(({ name }) => `var(--${name})`).join(" ");
    this.heads = element("div", "heads");
    this.heads.style.gridTemplateColumns = wide;
    this.heads.append(...columns.map(({ name, title }) => element("span", `head-${name}`, title)));
    this.scroller = element("div", "scroller");
    this.scroller.id = id === "page" ? "scroller" : `${id}-scroller`;
    this.scroller.tabIndex = -1;
    this.page = element("div", "page");
    this.page.id = id;
    this.page.style.gridTemplateColumns = wide;
    this.scroller.append(this.page);
    holder.append(this.heads, this.scroller);
    /** @type {View|null} */
    this.view = null;
    /** @type {Array<{column: Column, layer: Layer}>} */
    this.drawn = [
      { column: across, layer: this.#layer("across") }, // first, or its rules would run over the words
      ...columns.map((column) => ({ column, layer: this.#layer(`column column-${column.name}`) })),
    ];
    this.playhead = element("div", "playhead");
    this.playhead.append(element("span", "playhead-time"));
    this.page.append(this.playhead);
    /** Where it was scrolled to when it was drawn last: what is drawn reaches well past both edges. */
    this.drawnAt = 0;
    this.scroller.addEventListener(
      "scroll",
      () => {
        if (Math.abs(this.scroller.scrollTop - this.drawnAt) > MARGIN / 2)
          requestAnimationFrame(() => this.draw());
      },
      { passive: true },
    );
  }

  /** @param {string} className */
  #layer(className) {
    const layer = new Layer(element("div", className));
    this.page.append(layer.holder);
    return layer;
  }

  get frameSeconds() {
    const rate = this.view?.t.rate ?? { numerator: 30, denominator: 1 };
    return rate.denominator / rate.numerator;
  }

  /** Pixel of a time. @param {number} s */
  y(s) {
    return TOP + s * (this.view?.scale ?? 28);
  }

  /** Pixel of a frame. @param {number} frame */
  yf(frame) {
    return this.y(frame * this.frameSeconds);
  }

  /** Time at a pixel of the page. @param {number} y */
  secondsAt(y) {
    return Math.max(0, (y - TOP) / (this.view?.scale ?? 28));
  }

  /** @param {View} view */
  show(view) {
    this.view = view;
    const end = Math.max(view.t.total_frames, view.proposal?.t.total_frames ?? 0);
    const height = `${this.yf(end) + 80}px`;
    if (this.page.style.height !== height) this.page.style.height = height; // or the scroll place is laid out anew
    this.draw();
  }

  /** @param {number} s */
  setPlayhead(s) {
    if (!this.view) return;
    this.playhead.style.transform = `translateY(${this.y(s).toFixed(1)}px)`;
    const frame = Math.floor(s / this.frameSeconds + 1e-6);
    /** @type {HTMLElement} */ (this.playhead.firstChild).textContent = timecode(frame, this.view.t.rate);
  }

  /** Keep a moment, or a stretch, on the screen. @param {number} s @param {number} [until] */
  follow(s, until = s) {
    const top = this.scroller.scrollTop;
    const height = this.scroller.clientHeight;
    const above = this.y(s) < top + 20;
    const below = this.y(until) > top + height - 60;
    if (above || below) this.scroller.scrollTop = Math.max(0, this.y(s) - height * 0.25);
  }

  draw() {
    const view = this.view;
    if (!view) return;
    const active = document.activeElement;
    if (active instanceof HTMLTextAreaElement && this.page.contains(active)) return; // words are being typed here
    this.drawnAt = this.scroller.scrollTop;
    const from = this.scroller.scrollTop - MARGIN;
    const to = this.scroller.scrollTop + this.scroller.clientHeight + MARGIN;
    const seen = (/** @type {number} */ a, /** @type {number} */ b) => b >= from && a <= to;
    for (const { column, layer } of this.drawn)
      layer.show([...column.parts(this, view, seen, [Math.max(0, from), to])]);
  }
}

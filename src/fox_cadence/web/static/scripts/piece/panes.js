// The borders between the surface and the right part, and between frame and desk: dragged, and remembered.

import { part } from "./compose.js";

const KEPT = "fox-cadence-panes";
const STEP = 16;

/** The least and the most of each, in pixels, and what must be left beside it. */
const LIMITS = { right: { least: 340, rest: 560 }, frame: { least: 120, rest: 220 } };

/** @typedef {"right"|"frame"} Pane the width of the right part, the height of the frame */

export const panes = part({
  /** @type {Partial<Record<Pane, number>>} */
  paneSizes: {},

  setUpPanes() {
    try {
      this.paneSizes = JSON.parse(localStorage.getItem(KEPT) ?? "{}");
    } catch {
      this.paneSizes = {};
    }
    for (const pane of /** @type {Pane[]} */ (["right", "frame"]))
      if (this.paneSizes[pane]) this.setPane(pane, this.paneSizes[pane]);
  },

  /** How large a pane is now, in pixels. @param {Pane} pane @returns {number} */
  paneNow(pane) {
    const box = document.querySelector(pane === "right" ? ".right" : ".stage")?.getBoundingClientRect();
    return Math.round((pane === "right" ? box?.width : box?.height) ?? 0);
  },

  /** @param {Pane} pane @param {number} size pixels */
  setPane(pane, size) {
    const { least, rest } = LIMITS[pane];
    const whole = pane === "right" ? window.innerWidth : window.innerHeight - 100;
    const set = Math.round(Math.max(least, Math.min(size, whole - rest)));
    /** @type {HTMLElement|null} */ (document.querySelector(".project"))?.style.setProperty(
      `--pane-${pane}`,
      `${set}px`,
    );
    this.paneSizes = { ...this.paneSizes, [pane]: set };
    localStorage.setItem(KEPT, JSON.stringify(this.paneSizes));
    if (this.loaded) this.redraw();
  },

  /** Drag a border; its size follows the pointer. @param {PointerEvent} event @param {Pane} pane */
  dragPane(event, pane) {
    event.preventDefault();
    const handle = /** @type {HTMLElement} */ (event.currentTarget);
    handle.setPointerCapture(event.pointerId);
    const from = pane === "right" ? event.clientX : event.clientY;
    const size = this.paneNow(pane);
    const move = (/** @type {PointerEvent} */ e) =>
      this.setPane(pane, pane === "right" ? size + from - e.clientX : size + e.clientY - from);
    handle.addEventListener("pointermove", move);
    handle.addEventListener("lostpointercapture", () => handle.removeEventListener("pointermove", move), {
      once: true,
    });
  },

  /** Arrow keys move a border. @param {KeyboardEvent} event @param {Pane} pane */
  nudgePane(event, pane) {
    const [more, less] = pane === "right" ? ["ArrowLeft", "ArrowRight"] : ["ArrowDown", "ArrowUp"];
    const step = event.key === more ? STEP : event.key === less ? -STEP : 0;
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    this.setPane(pane, this.paneNow(pane) + step);
  },

  /** Back to the size it has by itself. @param {Pane} pane */
  freePane(pane) {
    /** @type {HTMLElement|null} */ (document.querySelector(".project"))?.style.removeProperty(
      `--pane-${pane}`,
    );
    const { [pane]: _, ...others } = this.paneSizes;
    this.paneSizes = others;
    localStorage.setItem(KEPT, JSON.stringify(others));
  },
});

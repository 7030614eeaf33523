// The sheet: time runs down the page. Holds the scale and draws what is visible; each column has a module of its own.

import { clock, timecode } from "../format.js";
import { element, place } from "../svg.js";
import { bedPart } from "./bed_column.js";
import { captionPart } from "./caption_column.js";
import { ghostParts } from "./ghosts.js";
import { Layer, part } from "./layer.js";
import { shotParts } from "./shot_column.js";
import { VoiceColumn } from "./voice_column.js";

/** @typedef {import("../types.d.ts").Timeline} Timeline */
/** @typedef {import("../types.d.ts").Proposal} Proposal */
/** @typedef {{t: Timeline, proposal: Proposal|null, line: string, shot: string, scale: number}} View */

export const TOP = 12;
const MARGIN = 600;

export class Sheet {
  /** @param {HTMLElement} scroller @param {HTMLElement} page */
  constructor(scroller, page) {
    this.scroller = scroller;
    this.page = page;
    /** @type {View|null} */
    this.view = null;
    this.voices = new VoiceColumn(() => this.draw());
    this.playhead = element("div", "playhead");
    this.playhead.append(element("span", "playhead-time"));
    this.layer = new Layer(element("div", "sheet-layer"));
    page.append(this.layer.holder, this.playhead);
    /** Where it was scrolled to when it was drawn last: what is drawn reaches well past both edges. */
    this.drawnAt = 0;
    scroller.addEventListener(
      "scroll",
      () => {
        if (Math.abs(scroller.scrollTop - this.drawnAt) > MARGIN / 2)
          requestAnimationFrame(() => this.draw());
      },
      { passive: true },
    );
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
    if (active instanceof HTMLTextAreaElement && this.layer.holder.contains(active)) return; // words are being typed here
    this.drawnAt = this.scroller.scrollTop;
    const from = this.scroller.scrollTop - MARGIN;
    const to = this.scroller.scrollTop + this.scroller.clientHeight + MARGIN;
    const seen = (/** @type {number} */ a, /** @type {number} */ b) => b >= from && a <= to;
    const parts = [...this.#ruler(view, from, to)];
    view.t.shots.forEach((shot, number) => {
      if (seen(this.yf(shot.start), this.yf(shot.end))) parts.push(...shotParts(this, view, shot, number));
    });
    const last = view.t.shots.at(-1);
    if (last) parts.push(this.#endRule(last.end));
    view.t.captions.forEach((caption, number) => {
      if (seen(this.yf(caption.in), this.yf(caption.out)))
        parts.push(captionPart(this, view, caption, number));
    });
    view.t.lines.forEach((line, number) => {
      const reach = Math.max(line.end_s, line.window_end_s);
      if (seen(this.y(line.window_start_s) - 40, this.y(reach) + 60)) {
        parts.push(...this.voices.parts(this, view, line, number));
      }
    });
    parts.push(bedPart(this, view, Math.max(0, from), to));
    if (view.proposal?.status === "solved") parts.push(...ghostParts(this, view, view.proposal, seen));
    this.layer.show(parts);
  }

  /** @param {View} view @param {number} from @param {number} to */
  *#ruler(view, from, to) {
    const end = view.t.total_frames * this.frameSeconds;
    const first = Math.max(0, Math.floor(this.secondsAt(from)));
    for (let s = first; s <= Math.min(end + 0.01, this.secondsAt(to)); s++) {
      const y = this.y(s);
      yield part(`second-${s}`, [y], () => {
        const line = element("div", s % 5 ? "second" : "second second-five");
        place(line, y, 1);
        line.append(element("span", "", `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`));
        return line;
      });
    }
  }

  /** @param {number} frame */
  #endRule(frame) {
    return part("end", [this.yf(frame), frame], () => {
      const rule = element("div", "cut cut-end");
      place(rule, this.yf(frame), 1);
      rule.append(element("span", "mono", clock(frame * this.frameSeconds)));
      return rule;
    });
  }
}

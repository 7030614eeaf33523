// The sheet: time runs down the page. Draws what is visible; dragging is in drag.js, voices in voice_column.js.

import { clock, seconds, timecode } from "./format.js";
import { element, place, svg } from "./svg.js";
import { VoiceColumn } from "./voice_column.js";

/** @typedef {import("./types.js").Timeline} Timeline */
/** @typedef {import("./types.js").Proposal} Proposal */
/** @typedef {{t: Timeline, proposal: Proposal|null, line: string, shot: string, scale: number}} View */

export const TOP = 12;
const MARGIN = 500;
const TILE = 56;

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
    this.layer = element("div", "sheet-layer");
    page.append(this.layer, this.playhead);
    scroller.addEventListener("scroll", () => requestAnimationFrame(() => this.draw()), { passive: true });
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
    const end = Math.max(view.t.total_frames, view.proposal?.total_frames ?? 0);
    this.page.style.height = `${this.yf(end) + 80}px`;
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
    const focused = document.activeElement instanceof HTMLElement ? document.activeElement.dataset.key : undefined;
    if (document.activeElement instanceof HTMLTextAreaElement && this.layer.contains(document.activeElement)) return;
    const from = this.scroller.scrollTop - MARGIN;
    const to = this.scroller.scrollTop + this.scroller.clientHeight + MARGIN;
    const seen = (/** @type {number} */ a, /** @type {number} */ b) => b >= from && a <= to;
    /** @type {Element[]} */
    const parts = [...this.#ruler(view, from, to)];
    view.t.shots.forEach((shot, number) => {
      if (seen(this.yf(shot.start), this.yf(shot.end))) parts.push(...this.#shot(view, shot, number));
    });
    const last = view.t.shots.at(-1);
    if (last) parts.push(this.#endRule(last.end));
    view.t.captions.forEach((caption, number) => {
      if (seen(this.yf(caption.in), this.yf(caption.out))) parts.push(this.#caption(view, caption, number));
    });
    view.t.lines.forEach((line, number) => {
      const reach = Math.max(line.end_s, line.window_end_s);
      if (seen(this.y(line.window_start_s) - 40, this.y(reach) + 60)) {
        parts.push(...this.voices.line(this, view, line, number));
      }
    });
    parts.push(this.#bed(view, Math.max(0, from), to));
    if (view.proposal?.status === "solved") parts.push(...this.#ghosts(view, view.proposal));
    this.layer.replaceChildren(...parts);
    if (focused) /** @type {HTMLElement|null} */ (this.layer.querySelector(`[data-key="${focused}"]`))?.focus({ preventScroll: true });
  }

  /** @param {View} view @param {number} from @param {number} to */
  *#ruler(view, from, to) {
    const end = view.t.total_frames * this.frameSeconds;
    const first = Math.max(0, Math.floor(this.secondsAt(from)));
    for (let s = first; s <= Math.min(end + 0.01, this.secondsAt(to)); s++) {
      const line = element("div", s % 5 ? "second" : "second second-five");
      place(line, this.y(s), 1);
      line.append(element("span", "", `${Math.floor(s / 60)}:${String(s % 60).padStart(2, "0")}`));
      yield line;
    }
  }

  /** @param {View} view @param {import("./types.js").Shot} shot @param {number} number */
  *#shot(view, shot, number) {
    const top = this.yf(shot.start);
    const height = this.yf(shot.end) - top;
    const rule = element("div", "cut");
    place(rule, top, 1);
    yield rule;
    const item = element("div", `shot${shot.id === view.shot ? " chosen" : ""}`);
    item.dataset.shot = shot.id;
    place(item, top, height);
    const strip = element("div", "strip");
    if (shot.clip) {
      const tiles = Math.max(1, Math.round(height / TILE));
      for (let tile = 0; tile < tiles; tile++) {
        const at = shot.source_in_s + ((tile + 0.5) / tiles) * (shot.end - shot.start) * this.frameSeconds;
        const image = document.createElement("img");
        image.src = `/media/clips/${shot.clip}/at/${Math.round(at * 705600000)}.jpg`;
        image.alt = "";
        image.draggable = false;
        strip.append(image);
      }
    } else strip.style.backgroundColor = shot.colour;
    const label = element("button", "shot-label");
    label.dataset.key = `shot-${shot.id}`;
    label.setAttribute("aria-label", `Shot ${number + 1}, ${shot.name}, ${seconds((shot.end - shot.start) * this.frameSeconds)}${shot.locked ? ", locked" : ""}`);
    label.append(element("b", "", String(number + 1)), element("span", "shot-name", shot.name));
    label.append(element("span", "mono", seconds((shot.end - shot.start) * this.frameSeconds)));
    if (shot.locked) label.append(element("span", "lock", "locked"));
    item.append(strip, label);
    yield item;
    yield this.#cutHandle(shot, number, top + height);
  }

  /** @param {import("./types.js").Shot} shot @param {number} number @param {number} y */
  #cutHandle(shot, number, y) {
    const handle = element("div", `cut-handle${shot.locked ? " held" : ""}`);
    place(handle, y - 12, 24);
    handle.tabIndex = 0;
    handle.dataset.key = `cut-${shot.id}`;
    handle.dataset.cut = shot.id;
    handle.setAttribute("role", "slider");
    handle.setAttribute("aria-orientation", "vertical");
    handle.setAttribute("aria-label", `End of shot ${number + 1}`);
    handle.setAttribute("aria-valuemin", String(shot.shortest));
    handle.setAttribute("aria-valuemax", String(shot.longest));
    handle.setAttribute("aria-valuenow", String(shot.end - shot.start));
    handle.setAttribute("aria-valuetext", `${shot.end - shot.start} frames`);
    handle.title = shot.locked ? "Locked" : "Drag to change the shot; with Shift the next shot gives or takes";
    return handle;
  }

  /** @param {number} frame */
  #endRule(frame) {
    const rule = element("div", "cut cut-end");
    place(rule, this.yf(frame), 1);
    rule.append(element("span", "mono", clock(frame * this.frameSeconds)));
    return rule;
  }

  /** @param {View} view @param {import("./types.js").Caption} caption @param {number} number */
  #caption(view, caption, number) {
    const top = this.yf(caption.in);
    const line = view.t.lines.find((item) => item.id === caption.line);
    const role = view.t.roles.find((item) => item.id === line?.role);
    const card = element("div", `caption role-${(role?.colour ?? 0) % 6}${line?.id === view.line ? " chosen" : ""}`);
    place(card, top + 1, this.yf(caption.out) - top - 2);
    card.dataset.caption = caption.id;
    card.dataset.line = caption.line ?? "";
    card.dataset.key = `caption-${caption.id}`;
    card.tabIndex = 0;
    card.setAttribute("role", "group");
    card.setAttribute("aria-label", `Caption ${number + 1}, frames ${caption.in} to ${caption.out}${caption.locked ? ", locked" : ""}. Enter changes the words.`);
    card.append(element("p", "", caption.text));
    if (caption.locked) card.append(element("span", "lock", "locked"));
    if (caption.too_fast) card.append(element("span", "remark", "too fast to read"));
    for (const edge of ["in", "out"]) {
      const handle = element("div", `caption-edge caption-${edge}`);
      handle.dataset.edge = edge;
      handle.dataset.caption = caption.id;
      handle.title = edge === "in" ? "Drag the in time" : "Drag the out time";
      card.append(handle);
    }
    return card;
  }

  /** @param {View} view @param {number} from @param {number} to */
  #bed(view, from, to) {
    const holder = svg("svg", { class: "bed", width: 60, height: Math.max(1, to - from), "aria-hidden": "true" });
    holder.style.top = `${from}px`;
    const bed = view.t.bed;
    if (!bed) return holder;
    const end = view.t.total_frames * this.frameSeconds;
    const half = (/** @type {number} */ db) => 24 * Math.pow(10, db / 26);
    /** @type {Array<[number, number]>} */
    const inside = bed.points.filter(([s]) => s > 0 && s < end);
    const first = bed.points.findLast(([s]) => s <= 0)?.[1] ?? 0;
    const points = /** @type {Array<[number, number]>} */ ([[0, first], ...inside, [end, inside.at(-1)?.[1] ?? first]]);
    const right = points.map(([s, db]) => `${30 + half(db)},${this.y(s) - from}`);
    const left = points.map(([s, db]) => `${30 - half(db)},${this.y(s) - from}`).reverse();
    holder.append(svg("polygon", { points: [...right, ...left].join(" "), class: "bed-ink" }));
    return holder;
  }

  /** What the proposal would change. @param {View} view @param {Proposal} proposal */
  *#ghosts(view, proposal) {
    for (const [number, shot] of proposal.shots.entries()) {
      if (view.t.shots[number]?.end === shot.end_frame) continue;
      const ghost = element("div", "ghost-cut");
      place(ghost, this.yf(shot.end_frame), 1);
      if (shot.change_frames) {
        ghost.append(element("span", "mono", `shot ${number + 1} ${shot.change_frames > 0 ? "+" : "−"}${Math.abs(shot.change_frames)} frames`));
      }
      yield ghost;
    }
    for (const caption of proposal.captions) {
      const now = view.t.captions.find((item) => item.id === caption.id);
      if (now && now.in === caption.in_frame && now.out === caption.out_frame) continue;
      const ghost = element("div", "ghost-caption");
      place(ghost, this.yf(caption.in_frame), this.yf(caption.out_frame) - this.yf(caption.in_frame));
      yield ghost;
    }
    for (const plan of proposal.lines) {
      const ghost = element("div", `ghost-voice ghost-${plan.state}`);
      ghost.style.setProperty("--lean", `${this.voices.slant(plan.pace)}px`);
      place(ghost, this.y(plan.start_s), this.y(plan.end_s) - this.y(plan.start_s));
      yield ghost;
    }
  }
}

// Moving the window over a clip: as a whole to another part, by its ends to show more or less.

import { drag } from "../../drag.js";
import { counted } from "../../format.js";
import { element } from "../../svg.js";
import { windowOf } from "./material.js";

/** @typedef {import("../../types.d.ts").Shot} Shot */
/** @typedef {import("../sheet/sheet.js").Sheet} Sheet */
/** @typedef {import("../surface.d.ts").Tells} Tells */
/** @typedef {"whole"|"start"|"end"} Hold */
/** @typedef {{source: number, length: number}} Window in frames: where it begins in its clip, how long the shot is */

export class Windows {
  /** @param {Sheet} sheet @param {Tells} tells */
  constructor(sheet, tells) {
    this.sheet = sheet;
    this.tells = tells;
    this.justDragged = false;
    this.chip = element("span", "material-chip mono");
    sheet.page.addEventListener("pointerdown", (event) => this.#begin(event));
    sheet.page.addEventListener("keydown", (event) => this.#key(event));
  }

  /** @param {Element|null} target */
  #held(target) {
    const window = /** @type {HTMLElement|null} */ (target?.closest("[data-window]") ?? null);
    const shots = this.sheet.view?.t.shots ?? [];
    const number = shots.findIndex((each) => each.id === window?.dataset.window);
    return window && number >= 0 ? { window, shot: shots[number], number } : null;
  }

  /** @param {PointerEvent} event */
  #begin(event) {
    this.justDragged = false;
    const target = event.target instanceof HTMLElement ? event.target : null;
    const found = this.#held(target);
    if (!found || event.button !== 0) return;
    const { window: frame, shot, number } = found;
    if (shot.locked)
      return this.tells.tell(`Shot ${number + 1} is locked. Unlock it to show another part.`, "note");
    event.preventDefault();
    frame.focus({ preventScroll: true });
    const hold = /** @type {Hold} */ (target?.dataset.windowEnd ?? "whole");
    const clipFrames = shot.clip_s / this.sheet.frameSeconds;
    const wide = frame.parentElement?.getBoundingClientRect().width ?? 1;
    const [x, left, width] = [event.clientX, frame.style.left, frame.style.width];
    /** @type {Window|null} */
    let last = null;
    frame.append(this.chip);
    const move = (/** @type {PointerEvent} */ e) => {
      const by = Math.round(((e.clientX - x) / wide) * clipFrames);
      last = moved(shot, hold, by, clipFrames);
      const shares = windowOf(
        {
          ...shot,
          source_in_s: last.source * this.sheet.frameSeconds,
          end: shot.start + last.length,
        },
        this.sheet.frameSeconds,
      );
      frame.style.left = `${shares.from * 100}%`;
      frame.style.width = `${shares.share * 100}%`;
      this.chip.textContent = said(shot, hold, last);
    };
    const end = (/** @type {boolean} */ keep) => {
      this.chip.remove();
      this.justDragged = last !== null;
      if (keep && last && changes(shot, last)) return this.#commit(shot, last);
      frame.style.left = left;
      frame.style.width = width;
    };
    drag(move, end);
  }

  /** Left and right: another part, by a frame; with Shift by ten; with Alt the shot ends earlier or later. @param {KeyboardEvent} event */
  #key(event) {
    const way = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    const found = way && event.target instanceof Element ? this.#held(event.target) : null;
    if (!found) return;
    event.preventDefault();
    event.stopPropagation();
    const { shot, number } = found;
    if (shot.locked)
      return this.tells.tell(`Shot ${number + 1} is locked. Unlock it to show another part.`, "note");
    const by = way * (event.shiftKey ? 10 : 1);
    const hold = event.altKey ? "end" : "whole";
    const made = moved(shot, hold, by, shot.clip_s / this.sheet.frameSeconds);
    this.tells.announce(said(shot, hold, made));
    if (changes(shot, made)) this.#commit(shot, made);
  }

  /** @param {Shot} shot @param {Window} window */
  #commit(shot, window) {
    return this.tells.pictureEdit({
      kind: "window",
      shot_id: shot.id,
      source_in_frames: window.source,
      length_frames: window.length,
    });
  }
}

/** @param {Shot} shot @param {Window} window */
const changes = (shot, window) =>
  window.source !== shot.source_in_frames || window.length !== shot.end - shot.start;

/** The window after a movement, which never leaves the clip. @param {Shot} shot @param {Hold} hold @param {number} by frames of the clip @param {number} clipFrames @returns {Window} */
function moved(shot, hold, by, clipFrames) {
  const speed = shot.speed_percent / 100;
  const [source, length] = [shot.source_in_frames, shot.end - shot.start];
  const end = source + length * speed;
  if (hold === "whole") {
    const latest = Math.max(source, Math.floor(clipFrames - length * speed + 1e-6));
    return { source: Math.min(latest, Math.max(0, source + by)), length };
  }
  if (hold === "end") {
    const longest = Math.max(length, Math.floor((clipFrames - source) / speed + 1e-6));
    return { source, length: Math.min(longest, Math.max(1, length + Math.round(by / speed))) };
  }
  const from = Math.min(Math.floor(end - speed), Math.max(0, source + by));
  return { source: from, length: Math.max(1, Math.round((end - from) / speed)) };
}

/** @param {Shot} shot @param {Hold} hold @param {Window} window */
function said(shot, hold, window) {
  const change = window.length - (shot.end - shot.start);
  if (hold === "whole") return `from frame ${window.source}`;
  return `${counted(window.length, "frame")}, ${change < 0 ? "−" : "+"}${Math.abs(change)}`;
}

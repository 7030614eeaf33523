// Dragging the points of a level curve: across for the level, along for the time; a press on the line makes one.

import { drag } from "../../drag.js";
import { clock } from "../../format.js";
import { along, levelAt, room } from "./beds.js";
import { Chip } from "./chip.js";

/** @typedef {import("./beds.js").Beds} Beds */
/** @typedef {import("./beds.js").Point} Point */
/** @typedef {import("../sheet/sheet.js").Sheet} Sheet */
/** @typedef {import("../surface.d.ts").Tells} Tells */

const NEAR_S = 0.05;

export class Levels {
  /** @param {Sheet} sheet @param {Beds} beds @param {Tells} tells */
  constructor(sheet, beds, tells) {
    this.sheet = sheet;
    this.beds = beds;
    this.tells = tells;
    this.justDragged = false;
    this.chip = new Chip(sheet, "music");
    sheet.page.addEventListener("pointerdown", (event) => this.#begin(event));
    sheet.page.addEventListener("keydown", (event) => this.#key(event));
  }

  /** @param {Element|null} target */
  #of(target) {
    const id =
      target instanceof HTMLElement || target instanceof SVGElement
        ? (target.dataset.bed ?? target.dataset.level)
        : "";
    const beds = this.sheet.view?.t.beds ?? [];
    const place = beds.findIndex((each) => each.id === id);
    return place < 0 ? null : { bed: beds[place], place, wide: room(beds.length) };
  }

  /** @param {PointerEvent} event */
  #begin(event) {
    this.justDragged = false;
    const target = event.target instanceof Element ? event.target : null;
    const grip = target?.closest("[data-point], [data-level]") ?? null;
    const found = this.#of(grip);
    if (!grip || !found || event.button !== 0) return;
    event.preventDefault();
    const { bed, place, wide } = found;
    const left = this.chip.left + place * wide;
    const top = this.sheet.page.getBoundingClientRect().top;
    const second = (/** @type {number} */ y) => Math.max(0, this.sheet.secondsAt(y - top) - bed.start_s);
    /** @type {Point[]} */
    let points = this.beds.pointsOf(bed).map(([s, db]) => [s, db]);
    let number = Number(grip instanceof HTMLElement ? grip.dataset.point : Number.NaN);
    if (Number.isNaN(number)) {
      const at = second(event.clientY);
      const made = /** @type {Point} */ ([at, along(points, at)]);
      points = [...points, made].sort((a, b) => a[0] - b[0]);
      number = points.indexOf(made);
    }
    this.#try(bed.id, points, number);
    drag(
      (e) => {
        const low = number > 0 ? points[number - 1][0] + NEAR_S : 0;
        const high = number + 1 < points.length ? points[number + 1][0] - NEAR_S : Number.POSITIVE_INFINITY;
        points[number] = [Math.max(low, Math.min(high, second(e.clientY))), levelAt(e.clientX - left, wide)];
        this.justDragged = true;
        this.#try(bed.id, points, number);
      },
      (keep) => {
        this.chip.hide();
        this.justDragged = true; // also a press that only made a point
        if (keep) this.#set(bed.id, points);
        else this.#let();
      },
    );
  }

  /** @param {string} bed @param {Point[]} points @param {number} number */
  #try(bed, points, number) {
    this.beds.tried = { bed, points };
    const [s, db] = points[number];
    const start = this.sheet.view?.t.beds.find((each) => each.id === bed)?.start_s ?? 0;
    this.chip.show(
      `${clock(start + s)}, ${db > 0 ? "+" : ""}${db.toFixed(1)} dB`,
      this.sheet.y(start + s) + 8,
      20,
    );
    this.sheet.draw();
  }

  #let() {
    this.beds.tried = null;
    this.sheet.draw();
  }

  /** @param {string} bed @param {Point[]} points */
  async #set(bed, points) {
    await this.tells.edit({ kind: "bed_levels", bed_id: bed, points });
    this.#let();
  }

  /** Arrow keys on a point: half a decibel across, a tenth of a second along; Delete takes it away. @param {KeyboardEvent} event */
  #key(event) {
    const target = event.target;
    if (!(target instanceof HTMLElement) || target.dataset.point === undefined) return;
    const found = this.#of(target);
    if (!found) return;
    const number = Number(target.dataset.point);
    /** @type {Point[]} */
    const points = found.bed.levels.map(([s, db]) => [s, db]);
    const [s, db] = points[number] ?? [0, 0];
    const far = event.shiftKey ? 10 : 1;
    /** @type {Record<string, Point>} */
    const moves = {
      ArrowRight: [s, Math.min(6, db + 0.5 * far)],
      ArrowLeft: [s, Math.max(-36, db - 0.5 * far)],
      ArrowDown: [s + 0.1 * far, db],
      ArrowUp: [Math.max(0, s - 0.1 * far), db],
    };
    const moved = moves[event.key];
    if (!moved && event.key !== "Delete" && event.key !== "Backspace") return;
    event.preventDefault();
    event.stopPropagation();
    if (moved) points[number] = moved;
    else points.splice(number, 1);
    points.sort((a, b) => a[0] - b[0]);
    this.tells.announce(
      moved ? `${moved[1].toFixed(1)} dB at ${clock(found.bed.start_s + moved[0])}` : "Point taken away",
    );
    this.#set(found.bed.id, points);
  }
}

// Spot effects as blocks; dragged along the piece they stay with what they are held to.

import { drag } from "../../drag.js";
import { clock } from "../../format.js";
import { element, place } from "../../svg.js";
import { part } from "../sheet/layer.js";
import { Chip } from "./chip.js";

/** @typedef {import("../../answers.d.ts").EffectJson} Effect */
/** @typedef {import("../sheet/sheet.js").Sheet} Sheet */
/** @typedef {import("../surface.d.ts").Tells} Tells */
/** @typedef {import("../surface.d.ts").View} View */

const SNAP_S = 0.12;

export class Effects {
  name = "effects";
  title = "Effects";
  /** While one is dragged: which, and from when on. @type {{id: string, start: number}|null} */
  tried = null;

  /** @param {Sheet} sheet @param {View} view @param {(top: number, end: number) => boolean} seen */
  *parts(sheet, view, seen) {
    for (const effect of view.t.effects) {
      const start = this.tried?.id === effect.id ? this.tried.start : effect.start_s;
      const clip = view.t.clips[effect.clip_hash];
      const [top, end] = [sheet.y(start), sheet.y(start + (clip?.length_s ?? 0.2))];
      if (!seen(top, end)) continue;
      const chosen = view.effect === effect.id;
      yield part(`effect-${effect.id}`, [top, end, effect.held, clip?.name, chosen, effect.gain_db], () => {
        const made = element("button", `effect-block${chosen ? " chosen" : ""}`);
        made.dataset.effect = effect.id;
        made.dataset.key = `effect-${effect.id}`;
        place(made, top, Math.max(15, end - top));
        const held = { cut: "with its shot", word: "with a word", title: "with a title" }[effect.held] ?? "";
        const name = (clip?.name ?? "").replace(/\.wav$/, "");
        const told = `, effect at ${clock(start)}, ${effect.gain_db.toFixed(0)} dB`;
        made.append(
          element("b", "", name),
          " ",
          element("span", "soft", held),
          element("span", "sr-only", told),
        );
        return made;
      });
    }
  }
}

export class MovingEffects {
  /** @param {Sheet} sheet @param {Effects} effects @param {Tells} tells */
  constructor(sheet, effects, tells) {
    this.sheet = sheet;
    this.effects = effects;
    this.tells = tells;
    this.justDragged = false;
    this.chip = new Chip(sheet, "effects");
    sheet.page.addEventListener("pointerdown", (event) => this.#begin(event));
    sheet.page.addEventListener("keydown", (event) => this.#key(event));
  }

  /** @param {EventTarget|null} target */
  #of(target) {
    const block = target instanceof Element ? target.closest("[data-effect]") : null;
    const id = block instanceof HTMLElement ? block.dataset.effect : "";
    return this.sheet.view?.t.effects.find((each) => each.id === id) ?? null;
  }

  /** @param {PointerEvent} event */
  #begin(event) {
    this.justDragged = false;
    const effect = this.#of(event.target);
    if (!effect || event.button !== 0) return;
    const from = event.clientY;
    /** @type {number|null} */
    let start = null;
    drag(
      (e) => {
        if (start === null && Math.abs(e.clientY - from) < 4) return;
        const by = (e.clientY - from) / (this.sheet.view?.scale ?? 28);
        start = this.#snapped(effect, Math.max(0, effect.start_s + by));
        this.justDragged = true;
        this.effects.tried = { id: effect.id, start };
        this.chip.show(clock(start), this.sheet.y(start) - 22);
        this.sheet.draw();
      },
      async (keep) => {
        this.chip.hide();
        if (keep && start !== null) await this.#move(effect, start);
        this.effects.tried = null;
        this.sheet.draw();
      },
    );
  }

  /** On a cut that is near. @param {Effect} effect @param {number} s */
  #snapped(effect, s) {
    if (effect.held !== "cut") return s;
    const cuts = (this.sheet.view?.t.shots ?? []).map((shot) => shot.start * this.sheet.frameSeconds);
    return cuts.find((cut) => Math.abs(cut - s) < SNAP_S) ?? s;
  }

  /** @param {Effect} effect @param {number} start */
  #move(effect, start) {
    const moved = start - effect.start_s;
    const held = { kind: "hold_effect", effect_id: effect.id };
    if (effect.held === "word")
      return this.tells.edit({
        ...held,
        line_id: effect.line,
        word: effect.word,
        offset_s: effect.offset_s + moved,
      });
    if (effect.held === "title")
      return this.tells.edit({ ...held, title_id: effect.title, offset_s: effect.offset_s + moved });
    const shots = this.sheet.view?.t.shots ?? [];
    const frame = start / this.sheet.frameSeconds + 1e-6;
    const shot = shots.findLast((each) => each.start <= frame) ?? shots[0];
    const offset = start - shot.start * this.sheet.frameSeconds;
    return this.tells.edit({ ...held, shot_id: shot.id, offset_s: Math.max(0, offset) });
  }

  /** Shift and the arrow keys move it by a frame; Delete takes it off. @param {KeyboardEvent} event */
  #key(event) {
    const effect = this.#of(event.target);
    if (!effect) return;
    const way = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    const gone = event.key === "Delete" || event.key === "Backspace";
    if ((!way || !event.shiftKey) && !gone) return;
    event.preventDefault();
    event.stopPropagation();
    if (gone) this.tells.edit({ kind: "delete_effect", effect_id: effect.id });
    else this.#move(effect, Math.max(0, effect.start_s + way * this.sheet.frameSeconds));
  }
}

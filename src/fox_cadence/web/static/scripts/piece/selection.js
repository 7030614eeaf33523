// What is chosen: a line, a shot, a pass, a scale; and what a click on the sheet means.

import { bare } from "../surfaces/sheet/grips.js";
import { part } from "./compose.js";
import { page } from "./page.js";

const SCALES = [14, 20, 28, 40, 60, 90, 140];

export const selection = part({
  /** @type {import("../answers.d.ts").PassJson["name"]} */
  pass: "fit",
  line: "",
  shot: "",
  caption: "",
  scale: 28,
  deskOf: "line",

  /** @returns {import("../types.d.ts").Line|null} */
  get chosenLine() {
    return this.t.lines.find((item) => item.id === this.line) ?? null;
  },
  /** @returns {import("../types.d.ts").Shot|null} */
  get chosenShot() {
    return this.t.shots.find((item) => item.id === this.shot) ?? null;
  },
  /** The clip the chosen shot shows, if it shows one. @returns {import("../answers.d.ts").ClipJson|null} */
  get chosenClip() {
    return this.t.clips[this.chosenShot?.clip ?? ""] ?? null;
  },
  /** @returns {import("../types.d.ts").Caption|null} */
  get chosenCaption() {
    return this.t.captions.find((item) => item.id === this.caption) ?? null;
  },
  /** The first caption of a line, or ''. @param {string} line @returns {string} */
  captionOf(line) {
    return this.t.captions.find((item) => item.line === line)?.id ?? "";
  },
  /** @returns {import("../types.d.ts").Caption[]} */
  get chosenCaptions() {
    return this.t.captions.filter((item) => item.line === this.line);
  },
  /** @returns {import("../types.d.ts").Role|null} */
  get chosenRole() {
    return this.t.roles.find((item) => item.id === this.chosenLine?.role) ?? null;
  },
  /** @returns {string} */
  get missingSigns() {
    return this.chosenCaption?.missing.join(" ") ?? "";
  },
  /** @returns {import("../types.d.ts").Caption[]} */
  get undrawn() {
    return this.t.captions.filter((item) => item.missing.length);
  },
  /** @returns {string} */
  get stillOpen() {
    return this.t.passes.at(-1)?.open ?? "";
  },
  /** The word of the chosen line at a place, without its signs. @param {number} index */
  wordAt(index) {
    return bare(this.chosenLine?.words[index]?.[2] ?? "");
  },

  /** Where a word is held, in words. @param {{shot: string, frames: number}} sync */
  placeOf(sync) {
    const number = this.t.shots.findIndex((item) => item.id === sync.shot) + 1;
    return sync.frames === 0 ? `the cut to shot ${number}` : `frame ${sync.frames} of shot ${number}`;
  },

  /** @returns {number} */
  get lineNumber() {
    return this.t.lines.findIndex((item) => item.id === this.line) + 1;
  },
  /** @returns {number} */
  get shotNumber() {
    return this.t.shots.findIndex((item) => item.id === this.shot) + 1;
  },
  /** @returns {number} */
  get captionNumber() {
    return this.t.captions.findIndex((item) => item.line === this.line) + 1;
  },
  /** @returns {number} */
  get openCount() {
    return this.t.coverage?.whole.open_ids.length ?? 0;
  },
  /** @returns {number} */
  get frameSeconds() {
    return this.t.rate.denominator / this.t.rate.numerator;
  },
  /** @returns {number} */
  get frameNow() {
    return Math.floor(this.at / this.frameSeconds + 1e-6);
  },
  /** @returns {import("../types.d.ts").Shot|null} */
  get shotNow() {
    return this.shown.shots.findLast((item) => item.start <= this.frameNow) ?? null;
  },

  /** @param {string} id @param {boolean} [move] */
  choose(id, move = true) {
    const line = this.t.lines.find((item) => item.id === id);
    if (!line) return;
    if (id !== this.line) {
      this.picked = { from: 0, to: 0 };
      this.punctuated = null;
      if (this.ways.length) this.dropWays();
    }
    this.line = id;
    this.caption = this.captionOf(id);
    this.title = "";
    this.shot = line.first_shot;
    if (this.deskOf === "shot") this.deskOf = "line";
    this.forget();
    this.redraw();
    if (move && !this.playing) this.moved(line.start_s, false);
    page.surfaces.follow(line.start_s, line.end_s);
    this.explain();
    this.askTold();
    this.askTakes();
    this.takeOver();
  },

  /** A caption, and with it the line that says it, if there is one. @param {string} id */
  chooseCaption(id) {
    const caption = this.t.captions.find((item) => item.id === id);
    if (!caption) return;
    if (caption.line) this.choose(caption.line, false);
    this.caption = id;
    this.title = "";
    this.shot = caption.shot;
    this.redraw();
    if (!this.playing) this.moved(caption.in * this.frameSeconds, false);
    page.surfaces.follow(caption.in * this.frameSeconds, caption.out * this.frameSeconds);
  },

  /** @param {string} id */
  chooseShot(id) {
    this.shot = id;
    if (this.pass === "fit") this.deskOf = "shot";
    this.forget();
    this.redraw();
    if (!this.playing) this.moved((this.chosenShot?.start ?? 0) * this.frameSeconds, false);
    this.explain();
  },

  /** @param {number} step */
  chooseNext(step) {
    const lines = this.t.lines;
    const index = lines.findIndex((item) => item.id === this.line);
    const next = lines[Math.max(0, Math.min(lines.length - 1, index + step))];
    if (next) this.choose(next.id);
  },

  /** The next line in a state, after the chosen one and around. @param {string} state */
  chooseState(state) {
    const lines = this.t.lines;
    const from = lines.findIndex((item) => item.id === this.line) + 1;
    const next = [...lines.slice(from), ...lines.slice(0, from)].find((item) => item.state === state);
    if (next) this.choose(next.id);
  },

  /** @returns {number} */
  get lockedShots() {
    return this.t.shots.filter((item) => item.locked).length;
  },
  /** The lines that spill, by their numbers. @returns {string} */
  get spillingText() {
    const numbers = this.t.lines.flatMap((line, index) => (line.state === "spills" ? [index + 1] : []));
    const named = numbers.slice(0, 4).join(", ");
    return numbers.length
      ? `${numbers.length === 1 ? "line" : "lines"} ${named}${numbers.length > 4 ? " …" : ""}`
      : "";
  },

  /** The next line in a state, where it is seen in its time. @param {string} state */
  showState(state) {
    this.setPass("fit");
    this.chooseState(state);
  },

  /** @param {import("../answers.d.ts").PassJson["name"]} name */
  setPass(name) {
    this.pieceShown = false;
    if (this.revisionsShown) this.toggleRevisions();
    this.pass = name;
    if (page.surfaces.turnTo(name)) {
      this.redraw();
      const line = this.chosenLine;
      if (this.playing || !line) page.surfaces.follow(this.at);
      else page.surfaces.follow(line.start_s, line.end_s);
    }
    this.askSound();
    this.askProofs();
    this.explain();
    this.askTold();
    this.askTakes();
  },

  /** @param {string} what */
  setDesk(what) {
    this.deskOf = what;
    this.explain();
  },

  /** @param {number} step */
  zoom(step) {
    const index = SCALES.indexOf(this.scale) + step;
    if (index < 0 || index >= SCALES.length) return;
    this.scale = SCALES[index];
    this.redraw();
    page.surfaces.follow(this.at);
  },
});

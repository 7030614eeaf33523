// The frame: what the viewer sees at a moment, picture on a canvas and the caption over it as SVG.

import { Frames } from "./frames.js";
import { drawCaption } from "../svg.js";

/** @typedef {import("../types.js").Timeline} Timeline */

const AHEAD = 6;

export class Stage {
  /** @param {HTMLCanvasElement} canvas @param {SVGElement} overlay */
  constructor(canvas, overlay) {
    this.canvas = canvas;
    this.overlay = overlay;
    this.frames = new Frames();
    /** @type {Timeline|null} */
    this.timeline = null;
    this.frame = 0;
    this.shown = "";
    this.wanted = 0;
  }

  /** @param {Timeline} timeline */
  setTimeline(timeline) {
    this.timeline = timeline;
    const scale = Math.min(1, 640 / Math.max(timeline.width, timeline.height));
    this.canvas.width = Math.round(timeline.width * scale);
    this.canvas.height = Math.round(timeline.height * scale);
    this.shown = "";
    for (const shot of timeline.shots) if (shot.clip) this.frames.load(shot.clip).catch(() => {});
    this.show(this.frame);
  }

  get frameSeconds() {
    const rate = this.timeline?.rate ?? { numerator: 30, denominator: 1 };
    return rate.denominator / rate.numerator;
  }

  /** Show a frame of the piece. @param {number} frame */
  show(frame) {
    const t = this.timeline;
    if (!t || t.total_frames === 0) return;
    this.frame = Math.max(0, Math.min(t.total_frames - 1, frame));
    this.#picture();
    this.#caption();
  }

  #picture() {
    const t = /** @type {Timeline} */ (this.timeline);
    const shot = t.shots.find((item) => this.frame < item.end);
    if (!shot) return;
    if (!shot.clip) {
      this.#plain(shot.colour);
      return;
    }
    const at = shot.source_in_s + (this.frame - shot.start) * this.frameSeconds;
    const ready = this.frames.peek(shot.clip, at);
    const asked = ++this.wanted;
    if (ready) this.#cover(ready);
    else {
      this.frames.at(shot.clip, at).then(
        (image) => {
          if (image && asked === this.wanted) this.#cover(image);
        },
        () => this.#plain("#5a5f5c"),
      );
    }
    for (let step = 1; step <= AHEAD; step++) this.#fetchAhead(this.frame + step);
  }

  /** @param {number} frame */
  #fetchAhead(frame) {
    const t = /** @type {Timeline} */ (this.timeline);
    const shot = t.shots.find((item) => frame < item.end);
    if (shot?.clip) {
      this.frames.at(shot.clip, shot.source_in_s + (frame - shot.start) * this.frameSeconds).catch(() => {});
    }
  }

  /** @param {string} colour */
  #plain(colour) {
    const context = this.canvas.getContext("2d");
    if (!context) return;
    context.fillStyle = colour;
    context.fillRect(0, 0, this.canvas.width, this.canvas.height);
  }

  /** Fill the frame, what is over cut off at both sides, as the export does. @param {ImageBitmap} image */
  #cover(image) {
    const { width, height } = this.canvas;
    const scale = Math.max(width / image.width, height / image.height);
    const w = image.width * scale;
    const h = image.height * scale;
    this.canvas.getContext("2d")?.drawImage(image, (width - w) / 2, (height - h) / 2, w, h);
  }

  #caption() {
    const t = /** @type {Timeline} */ (this.timeline);
    const caption = t.captions.find((item) => item.drawing && item.in <= this.frame && this.frame < item.out);
    let lit = null;
    for (const [from, word] of caption?.lit ?? []) if (from <= this.frame) lit = word;
    const key = caption ? `${t.revision}/${caption.id}/${lit}` : "";
    if (key === this.shown) return;
    this.shown = key;
    if (caption?.drawing) drawCaption(this.overlay, caption.drawing, lit);
    else this.overlay.replaceChildren();
    this.overlay.setAttribute("aria-label", caption ? `Caption: ${caption.text}` : "No caption");
  }
}

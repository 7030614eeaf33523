// The frame: what the viewer sees at a moment, picture on a canvas and the caption over it as SVG.

import { Drawings, spokenFrom, wordsOf } from "./drawings.js";
import { isWaiting } from "./clip_pictures.js";
import { Figures } from "./figures.js";
import { Frames } from "./frames.js";
import { UNADJUSTED, Colours, coloursKey } from "./adjusting.js";
import { drawLaid } from "./laid.js";
import { drawShot } from "./shot_picture.js";
import { drawNext } from "./transition.js";
import { learnMovements, shownAt } from "./movement.js";
import { WordsLayer } from "./words_layer.js";
import { clipSeconds } from "../timeline.js";

/** @typedef {import("../types.d.ts").Timeline} Timeline */

const AHEAD = 6;
/** At the latest after so long, where a page is never idle. */
const IDLE_MS = 800;

/** @param {() => void} then called when the page has nothing more urgent to do */
const whenIdle = (then) => void window.requestIdleCallback(then, { timeout: IDLE_MS });

/** Of the longer side of the picture. */
const [LEAST_PX, LARGEST_PX] = [320, 640];

export class Stage {
  /** @param {HTMLCanvasElement} canvas @param {SVGElement} figures @param {SVGElement} overlay */
  constructor(canvas, figures, overlay) {
    this.canvas = canvas;
    this.overlay = overlay;
    this.frames = new Frames();
    this.words = new WordsLayer(overlay);
    this.figures = new Figures(figures, () => this.show(this.frame));
    /** Called when words have come that were not at hand. */
    this.onDrawn = () => {};
    this.drawings = new Drawings(() => {
      this.show(this.frame);
      this.onDrawn();
    });
    /** Words shown elsewhere than they are, while they are dragged. @type {{id: string, dx: number, dy: number}} */
    this.triedPlace = { id: "", dx: 0, dy: 0 };
    this.calm = window.matchMedia("(prefers-reduced-motion: reduce)");
    learnMovements().then(() => this.show(this.frame));
    /** @type {Timeline|null} */
    this.timeline = null;
    this.frame = 0;
    this.wanted = 0;
    /** @type {HTMLCanvasElement|null} */
    this.aside = null;
    this.colours = new Colours(() => this.show(this.frame));
    /** The colours last shown of a shot, which stay until those that are wanted have come. @type {Map<string, Uint8Array>} */
    this.lastColours = new Map();
    /** @type {{shot: string, change: Partial<import("./shot_picture.js").Tried>}|null} */
    this.tried = null;
    new ResizeObserver(() => this.#fit() && this.show(this.frame)).observe(canvas);
    /** The frame whose picture is on the canvas. */
    this.painted = -1;
    /** Adjustments are left out for a moment. */
    this.without = false;
  }

  /** @param {Timeline} timeline */
  setTimeline(timeline) {
    this.timeline = timeline;
    this.#fit();
    this.tried = null;
    this.triedPlace = { id: "", dx: 0, dy: 0 };
    this.figures.tried = { id: "", dx: 0, dy: 0 };
    for (const shot of timeline.shots) if (shot.clip) this.colours.get(coloursKey(shot.adjustment));
    this.show(this.frame);
    whenIdle(() => this.#loadAll());
  }

  /** The frames of all clips, megabytes: what is seen at first does not wait for them. */
  #loadAll() {
    for (const shot of this.timeline?.shots.toReversed() ?? [])
      if (shot.clip && !isWaiting(shot.clip)) this.frames.load(shot.clip).catch(() => {});
  }

  /** The frames of some clips are there now, which a poster stood for. @param {string[]} hashes */
  async clipsReady(hashes) {
    await Promise.all(hashes.map((hash) => this.frames.load(hash).catch(() => {})));
    this.show(this.frame);
  }

  /** Make the picture as large as it is seen, and not larger: each of its pixels is worked on. @returns {boolean} whether it has another size now */
  #fit() {
    const t = this.timeline;
    if (!t) return false;
    const { canvas } = this;
    const seen = Math.max(canvas.clientWidth, canvas.clientHeight) * window.devicePixelRatio;
    const longer = Math.min(LARGEST_PX, Math.max(LEAST_PX, Math.ceil(seen)));
    const scale = Math.min(1, longer / Math.max(t.width, t.height));
    const [width, height] = [Math.round(t.width * scale), Math.round(t.height * scale)];
    if (canvas.width === width && canvas.height === height) return false;
    canvas.width = width;
    canvas.height = height;
    return true;
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
    this.figures.show(t, this.frame, this.calm.matches);
    this.#caption();
  }

  /** Show a shot framed, adjusted or laid over otherwise than it is, until an empty id is given. @param {string} shot @param {Partial<import("./shot_picture.js").Tried>|null} change */
  tryShot(shot, change) {
    this.tried = change ? { shot, change } : null;
    this.show(this.frame);
  }

  /** Width and height of the picture of a shot; null while none of it is at hand. @param {import("../types.d.ts").Shot} shot @returns {[number, number]|null} */
  pictureOf(shot) {
    const image = shot.clip ? this.frames.peek(shot.clip, this.#clipTime(shot, this.frame)) : null;
    return image ? [image.width, image.height] : null;
  }

  #picture() {
    const t = /** @type {Timeline} */ (this.timeline);
    const on = t.shots.filter((item) => item.start <= this.frame && this.frame < item.end);
    const asked = ++this.wanted;
    const { frame } = this;
    const paint = (/** @type {Array<ImageBitmap|null>} */ images) => {
      on.forEach((shot, number) => this.#paint(shot, images[number], on[number - 1]));
      this.painted = frame;
    };
    const draw = async () => {
      const images = await Promise.all(on.map((shot) => this.#imageOf(shot)));
      if (asked === this.wanted) paint(images);
    };
    const ready = on.map((shot) =>
      shot.clip ? this.frames.peek(shot.clip, this.#clipTime(shot, this.frame)) : null,
    );
    if (on.every((shot, number) => ready[number] || !shot.clip)) paint(ready);
    else draw();
    for (let step = 1; step <= AHEAD; step++) this.#fetchAhead(this.frame + step);
  }

  /** @param {import("../types.d.ts").Shot} shot @param {number} frame */
  #clipTime(shot, frame) {
    return clipSeconds(shot, (frame - shot.start) * this.frameSeconds);
  }

  /** @param {import("../types.d.ts").Shot} shot @returns {Promise<ImageBitmap|null>} */
  #imageOf(shot) {
    return shot.clip
      ? this.frames.at(shot.clip, this.#clipTime(shot, this.frame)).catch(() => null)
      : Promise.resolve(null);
  }

  /** @param {import("../types.d.ts").Shot} shot @param {ImageBitmap|null} image @param {import("../types.d.ts").Shot} [before] the shot that is just becoming this one */
  #paint(shot, image, before) {
    const context = this.canvas.getContext("2d", { willReadFrequently: true });
    if (!context) return;
    if (!before) return this.#whole(shot, image, context);
    // painted aside first: what shows through is the shot before, not the ground of this one
    this.aside ??= document.createElement("canvas");
    this.aside.width = this.canvas.width;
    this.aside.height = this.canvas.height;
    const aside = this.aside.getContext("2d", { willReadFrequently: true });
    if (!aside) return;
    this.#whole(shot, image, aside);
    const share = (this.frame - shot.start + 1) / (before.end - shot.start + 1); // in even steps, as the export
    drawNext(context, this.aside, share, before.transition_kind, before.transition_colour);
  }

  /** @param {import("../types.d.ts").Shot} shot @param {ImageBitmap|null} image @param {CanvasRenderingContext2D} context */
  #whole(shot, image, context) {
    const share = (this.frame - shot.start) / Math.max(1, shot.end - shot.start - 1);
    this.#own(shot, image, context, share);
    const tried = this.tried?.shot === shot.id ? this.tried.change.laid : null;
    drawLaid(context, tried ?? shot.laid, share);
  }

  /** The shot without what is laid over it. @param {import("../types.d.ts").Shot} shot @param {ImageBitmap|null} image @param {CanvasRenderingContext2D} context @param {number} share */
  #own(shot, image, context, share) {
    if (image) {
      const trying = this.tried?.shot === shot.id;
      const seen = trying ? { ...shot, ...this.tried?.change } : shot;
      const shown = this.without ? { ...seen, adjustment: UNADJUSTED } : seen;
      const key = coloursKey(shown.adjustment);
      const table = this.colours.get(key, trying) ?? (key && this.lastColours.get(shot.id)) ?? null;
      if (table) this.lastColours.set(shot.id, table);
      drawShot(context, image, [image.width, image.height], shown, share, table || null);
      return;
    }
    context.fillStyle = shot.clip ? "#5a5f5c" : shot.colour;
    context.fillRect(0, 0, context.canvas.width, context.canvas.height);
  }

  /** Of each shot that is seen then: of two while one becomes the other. @param {number} frame */
  #fetchAhead(frame) {
    const t = /** @type {Timeline} */ (this.timeline);
    for (const shot of t.shots)
      if (shot.clip && shot.start <= frame && frame < shot.end)
        this.frames.at(shot.clip, this.#clipTime(shot, frame)).catch(() => {});
  }

  /** All words of the moment, one over the other in their order, as the export paints them. */
  #caption() {
    const t = /** @type {Timeline} */ (this.timeline);
    this.drawings.prepare(t, this.frame);
    const shown = wordsOf(t).filter((item) => item.drawn && item.in <= this.frame && this.frame < item.out);
    const items = shown.flatMap((item) => {
      const drawing = this.drawings.get(t, item);
      if (!drawing) return [];
      const when = this.drawings.moments(t, item);
      const how = shownAt(drawing, when, spokenFrom(item), this.frame - item.in, this.calm.matches);
      return { id: item.id, drawing, shown: how, shift: this.#shift(item) };
    });
    this.words.show(items);
    const words = shown.map(({ text }) => text).join("; ");
    this.overlay.setAttribute("aria-label", words ? `On the screen: ${words}` : "No words on the screen");
  }
  /** @param {import("../types.d.ts").OnScreen} item @returns {[number, number]} */
  #shift(item) {
    const tried = this.triedPlace;
    return tried.id === item.id ? [item.shift[0] + tried.dx, item.shift[1] + tried.dy] : item.shift;
  }

  /** Show words so many pixels of the frame from where they are, until an empty id is given. @param {string} id @param {number} dx @param {number} dy */
  tryPlace(id, dx, dy) {
    this.triedPlace = { id, dx, dy };
    this.show(this.frame);
  }

  /** Show a figure so many pixels of the frame from where it is, until an empty id is given. @param {string} id @param {number} dx @param {number} dy */
  tryFigure(id, dx, dy) {
    this.figures.tried = { id, dx, dy };
    this.show(this.frame);
  }

  /** The words on the screen now with the room they take, in pixels of the frame. @returns {Array<{item: import("../types.d.ts").OnScreen, box: [number, number, number, number]}>} */
  standing() {
    const t = /** @type {Timeline} */ (this.timeline);
    return wordsOf(t).flatMap((item) => {
      const drawing = this.drawings.get(t, item);
      if (!drawing || item.in > this.frame || item.out <= this.frame) return [];
      const [x, y, wide, high] = drawing.block;
      return [{ item, box: [x + item.shift[0], y + item.shift[1], wide, high] }];
    });
  }

  /** Whether words run from right to left. @param {import("../types.d.ts").OnScreen} item */
  backwards(item) {
    return (this.timeline && this.drawings.get(this.timeline, item)?.backwards) ?? false;
  }
}

// Words on the screen as SVG: the same outlines, in the same order, as the export paints (media/caption_paint.py).

import { REST } from "./movement.js";
import { svg } from "../svg.js";

/** @typedef {import("../types.d.ts").Drawing} Drawing */
/** @typedef {import("./movement.js").Shown} Shown */
/** @typedef {import("./movement.js").Pose} Pose */
/** @typedef {{drawing: Drawing, shown: Shown, shift: [number, number], id: string}} Item */

const ALPHA = 4;

let clips = 0;

/** The words of one frame, one caption over the other; what is there already is only moved. */
export class WordsLayer {
  /** @param {SVGElement} target */
  constructor(target) {
    this.target = target;
    /** @type {Map<string, DrawnWords>} */
    this.drawn = new Map();
  }

  /** @param {Item[]} items in the order in which they are painted */
  show(items) {
    const first = items[0]?.drawing;
    if (first) this.target.setAttribute("viewBox", `0 0 ${first.width} ${first.height}`);
    const before = this.drawn;
    this.drawn = new Map();
    for (const item of items) {
      const known = before.get(item.id);
      const words = known?.drawing === item.drawing ? known : new DrawnWords(item.drawing);
      words.show(item.shown, item.shift);
      this.drawn.set(item.id, words);
    }
    const nodes = [...this.drawn.values()].map((words) => words.node);
    const same =
      nodes.length === this.target.children.length &&
      nodes.every((node, place) => this.target.children[place] === node);
    if (!same) this.target.replaceChildren(...nodes);
  }
}

/** One drawing in a picture of its own. @param {SVGElement} target @param {Drawing} drawing @param {Shown} shown @param {[number, number]} [shift] */
export function drawWords(target, drawing, shown, shift = [0, 0]) {
  const words = new DrawnWords(drawing);
  words.show(shown, shift);
  target.setAttribute("viewBox", `0 0 ${drawing.width} ${drawing.height}`);
  target.replaceChildren(words.node);
}

/** A drawing as SVG elements: what stands behind the words, the edges of all, then their ink; each with its unit. */
class DrawnWords {
  /** @param {Drawing} drawing */
  constructor(drawing) {
    this.drawing = drawing;
    this.node = svg("g");
    this.inner = svg("g");
    this.node.append(this.inner);
    this.clip = new Clip(this.node);
    this.unitClips = drawing.units.map(() => new Clip(this.node));
    /** @type {Array<{node: SVGElement, unit: number, opacity: number, word: number|null}>} */
    this.parts = [];
    for (const mark of drawing.marks) {
      const line = { fill: "none", stroke: mark.colour, "stroke-width": mark.width };
      const ink = mark.width ? line : { fill: mark.colour };
      this.#add([svg("path", { d: mark.d, ...ink })], mark.unit, mark.opacity, null);
    }
    for (const [number, word] of drawing.words.entries()) {
      const around = drawing.edges.map((edge) => {
        const line = {
          fill: "none",
          stroke: edge.colour,
          "stroke-width": edge.width,
          "stroke-linejoin": "round",
        };
        const ink = edge.width ? line : { fill: edge.colour };
        const at = { transform: `translate(${edge.dx} ${edge.dy})`, opacity: edge.opacity };
        return svg("path", { d: word.d, ...ink, ...at });
      });
      if (around.length) this.#add(around, word.unit, 1, number); // seen through as one, as they are painted
    }
    this.words = drawing.words.map((word, number) => this.#word(word, number));
  }

  /** @param {SVGElement[]} children @param {number} unit @param {number} opacity @param {number|null} word */
  #add(children, unit, opacity, word) {
    const node = svg("g");
    node.append(...children);
    this.inner.append(node);
    this.parts.push({ node, unit, opacity, word });
    return node;
  }

  /** @param {import("../answers.d.ts").DrawnWordJson} word @param {number} number */
  #word(word, number) {
    const ink = svg("path", { d: word.d });
    const node = this.#add([ink], word.unit, 1, number);
    for (const picture of word.pictures)
      node.append(
        svg("path", {
          d: picture.d,
          fill: picture.colour,
          opacity: picture.opacity,
          "fill-rule": picture.even_odd ? "evenodd" : "nonzero",
        }),
      );
    const clip = new Clip(this.node);
    let mark = null;
    if (word.spoken) {
      mark = svg("path", { d: word.spoken, fill: this.drawing.lit });
      node.prepend(mark);
    } else if (this.drawing.spoken_as === "fill") {
      mark = svg("path", { d: word.d, fill: this.drawing.lit });
      ink.after(mark);
    }
    return { ink, mark, clip };
  }

  /** @param {Shown} shown @param {[number, number]} shift */
  show(shown, shift) {
    const { drawing } = this;
    const whole = drawing.units[0];
    if (!whole) return;
    this.node.setAttribute("transform", `translate(${shift[0]} ${shift[1]})`);
    this.inner.setAttribute("transform", posed(shown.whole, whole.box, drawing.em));
    this.clip.cut(this.inner, whole.box, shown.whole[5], drawing.backwards);
    // what only fades is seen through as a whole, what moves as well in its parts: so it is painted
    const fades = shown.whole.every((value, place) => place === ALPHA || value === REST[place]);
    this.inner.setAttribute("opacity", String(fades ? shown.whole[ALPHA] : 1));
    const alpha = fades ? 1 : shown.whole[ALPHA];
    for (const [number, unit] of drawing.units.entries()) {
      const pose = shown.units[number] ?? REST;
      const clip = this.unitClips[number];
      for (const part of this.parts) {
        if (part.unit !== number) continue;
        const box = part.word === null ? null : drawing.words[part.word]?.box;
        const swell = part.word === shown.word && box ? ` ${posed(shown.swell, box, drawing.em)}` : "";
        part.node.setAttribute("transform", posed(pose, unit.box, drawing.em) + swell);
        part.node.setAttribute("opacity", String(part.opacity * pose[ALPHA] * alpha));
        clip?.cut(part.node, unit.box, pose[5], unit.backwards);
      }
    }
    for (const [number, { ink, mark, clip }] of this.words.entries()) {
      const now = shown.word !== null && drawing.of[number] === drawing.of[shown.word];
      const as = drawing.spoken_as;
      const past = as === "fill" && shown.word !== null && number < shown.word && !now;
      ink.setAttribute("fill", past || (now && (as === "lit" || as === "swell")) ? drawing.lit : drawing.ink);
      if (!mark) continue;
      mark.setAttribute("display", now ? "inline" : "none");
      const word = drawing.words[number];
      if (now && word) clip.cut(mark, word.box, shown.part, word.backwards);
    }
  }
}

/** @param {Pose} pose @param {[number, number, number, number]} box @param {number} em */
function posed([dx, dy, scale, turn], [left, top, wide, high], em) {
  if (!dx && !dy && scale === 1 && !turn) return "";
  const [x, y] = [left + wide / 2, top + high / 2];
  return `translate(${x + dx * em} ${y + dy * em}) rotate(${turn}) scale(${scale}) translate(${-x} ${-y})`;
}

/** A part of a box from where it begins, cut out of an element. */
class Clip {
  /** @param {SVGElement} holder */
  constructor(holder) {
    this.holder = holder;
    /** @type {SVGElement|null} */
    this.rect = null;
    this.id = "";
  }

  /** @param {SVGElement} node @param {[number, number, number, number]} box @param {number} share @param {boolean} backwards */
  cut(node, [x, y, wide, high], share, backwards) {
    if (share >= 1) return node.removeAttribute("clip-path");
    if (!this.rect) {
      this.id = `words-clip-${++clips}`;
      this.rect = svg("rect");
      const path = svg("clipPath", { id: this.id, clipPathUnits: "userSpaceOnUse" });
      path.append(this.rect);
      this.holder.append(path);
    }
    const left = backwards ? x + wide * (1 - share) : x;
    const at = { x: left, y: y - high, width: wide * share, height: 3 * high };
    for (const [name, value] of Object.entries(at)) this.rect.setAttribute(name, String(value));
    node.setAttribute("clip-path", `url(#${this.id})`);
  }
}

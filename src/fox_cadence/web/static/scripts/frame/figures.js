// Figures in the frame: drawings and poses come from the core, and the same sums are done with them as the export
// does (core/figures/drawing.py): every point goes as far as each part of a pose says.

import { post } from "../api.js";
import { svg } from "../svg.js";

/** @typedef {import("../types.d.ts").Timeline} Timeline */
/** @typedef {import("../answers.d.ts").FigurePartJson} Part */
/** @typedef {import("../answers.d.ts").ActedJson} Acted */
/** @typedef {import("../answers.d.ts").FigureRow} FigureRow */
/** @typedef {{left: number, top: number, scale: number}} Stands */

/** @type {[number, number]} */
export const BOX = [800, 1000];
const POSE = 9;
const [NOD, LOOK, SEEN] = [6, 7, 8];
const AHEAD_S = 20;
/** How many numbers follow a command of a path. @type {Record<string, number>} */
const COORDINATES = { M: 2, L: 2, C: 6, Z: 0 };

export class Figures {
  /** @param {SVGElement} target @param {() => void} onCome called when poses are there */
  constructor(target, onCome) {
    this.target = target;
    this.onCome = onCome;
    /** @type {Map<string, Part[]>} */
    this.drawings = new Map();
    /** What was told last, until something newer is there. @type {Acted[]} */
    this.acted = [];
    this.version = "";
    this.until = 0;
    this.from = 0;
    this.asking = false;
    /** @type {Map<string, DrawnFigure>} */
    this.drawn = new Map();
    /** A figure shown elsewhere than it is, while it is dragged. @type {{id: string, dx: number, dy: number}} */
    this.tried = { id: "", dx: 0, dy: 0 };
  }

  /** Fetch what figures do from a frame on, where that is not known. @param {Timeline} t @param {number} frame */
  async prepare(t, frame) {
    if (!t.figures.length || this.asking) return;
    const ahead = Math.round((AHEAD_S * t.rate.numerator) / t.rate.denominator);
    const here = this.version === t.version && frame >= this.from;
    if (here && Math.min(frame + ahead / 2, t.total_frames) <= this.until) return;
    this.asking = true;
    const first = Math.max(0, frame - Math.round(ahead / 4)); // somebody may be looking backwards
    const end = Math.min(t.total_frames, frame + ahead);
    try {
      const found = /** @type {import("../answers.d.ts").ActingJson} */ (
        await post(`/api/projects/${t.project}/acting`, { first, end, known: [...this.drawings.keys()] })
      );
      for (const [key, parts] of Object.entries(found.drawings)) this.drawings.set(key, parts);
      this.acted = found.figures;
      [this.version, this.from, this.until] = [t.version, first, end];
    } catch {
      return; // the frame stays without figures until the next try; the page says what else does not answer
    } finally {
      this.asking = false;
    }
    this.onCome();
  }

  /** @param {Timeline} t @param {number} frame @param {boolean} calm the viewer wants as little as possible to move */
  show(t, frame, calm) {
    this.prepare(t, frame);
    const before = this.drawn;
    this.drawn = new Map();
    this.target.setAttribute("viewBox", `0 0 ${t.width} ${t.height}`);
    for (const each of this.acted) {
      const row = t.figures.find((figure) => figure.id === each.id);
      const parts = this.drawings.get(each.drawing);
      const pose = poseAt(each, frame);
      if (!row || !parts || !pose) continue;
      if (calm) pose[NOD] = pose[LOOK] = 0;
      const known = before.get(each.id);
      const figure = known?.parts === parts ? known : new DrawnFigure(each.id, parts);
      figure.show(pose, this.#stands(row, t));
      figure.node.dataset.frame = String(frame);
      this.drawn.set(each.id, figure);
    }
    const nodes = [...this.drawn.values()].map((figure) => figure.node);
    const { children } = this.target;
    const same = nodes.length === children.length && nodes.every((node, place) => children[place] === node);
    if (!same) this.target.replaceChildren(...nodes);
  }

  /** @param {FigureRow} row @param {Timeline} t @returns {Stands} */
  #stands(row, t) {
    const { dx, dy } = this.tried.id === row.id ? this.tried : { dx: 0, dy: 0 };
    const { left, top, scale } = standing(row, t);
    return { left: left + dx, top: top + dy, scale };
  }

  /** The figures that are seen in a frame with the room they take, the last on top. @param {Timeline} t @param {number} frame @returns {Array<{id: string, box: [number, number, number, number]}>} */
  seen(t, frame) {
    return t.figures
      .filter(({ id }) => this.acted.some((each) => each.id === id && poseAt(each, frame)))
      .map((row) => {
        const { left, top, scale } = standing(row, t);
        return { id: row.id, box: [left, top, BOX[0] * scale, BOX[1] * scale] };
      });
  }
}

/** Where a figure stands in the frame, in pixels of it (core/figures/drawing.py). @param {FigureRow} row @param {{width: number, height: number}} frame @returns {Stands} */
export function standing({ x, y, size }, { width, height }) {
  const scale = (size * Math.min(width, height)) / BOX[1];
  return { left: x * width - (BOX[0] * scale) / 2, top: y * height - (BOX[1] * scale) / 2, scale };
}

/** What a figure does in a frame; null where it is not seen, or that is not known. @param {Acted} each @param {number} frame */
export function poseAt({ poses, first }, frame) {
  const from = (frame - first) * POSE;
  const pose = from >= 0 ? poses.slice(from, from + POSE) : [];
  return pose.length === POSE && pose[SEEN] ? pose : null;
}

/** One character as SVG paths. */
export class DrawnFigure {
  /** @param {string} id @param {Part[]} parts */
  constructor(id, parts) {
    this.parts = parts;
    this.node = svg("svg", { "data-figure": id, overflow: "hidden", viewBox: `0 0 ${BOX.join(" ")}` });
    this.group = svg("g");
    this.node.append(this.group);
    this.paths = parts.map((part) => svg("path", { fill: part.colour }));
    this.group.append(...this.paths);
    /** @type {string[]} */
    this.last = [];
  }

  /** @param {number[]} pose @param {Stands} stands */
  show(pose, { left, top, scale }) {
    const at = { x: left, y: top, width: BOX[0] * scale, height: BOX[1] * scale };
    for (const [name, value] of Object.entries(at)) this.node.setAttribute(name, String(value));
    this.group.setAttribute("opacity", String((pose[SEEN] ?? 0) / 100));
    this.parts.forEach((part, number) => {
      const told = part.moves.map(([which]) => pose[which]).join(" ");
      if (this.last[number] === told) return;
      this.last[number] = told;
      this.paths[number]?.setAttribute("d", posed(part, pose));
    });
  }
}

/** The outline of a part in a pose. @param {Part} part @param {number[]} pose */
export function posed(part, pose) {
  const points = [...part.base];
  for (const [which, by] of part.moves) {
    const share = (pose[which] ?? 0) / 100;
    if (share) by.forEach((move, place) => (points[place] = (points[place] ?? 0) + share * move));
  }
  let at = 0;
  let d = "";
  for (const name of part.commands) {
    const count = COORDINATES[name] ?? 0;
    d += name + points.slice(at, at + count).join(" ");
    at += count;
  }
  return d;
}

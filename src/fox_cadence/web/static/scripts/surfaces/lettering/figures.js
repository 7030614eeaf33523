// Figures on the cards of the proof sheet: what they do in the frame of the card.

import { post } from "../../api.js";
import { DrawnFigure, poseAt, standing } from "../../frame/figures.js";

/** @typedef {import("../../types.d.ts").Timeline} Timeline */

export class CardFigures {
  constructor() {
    /** @type {Map<string, import("../../answers.d.ts").FigurePartJson[]>} */
    this.drawings = new Map();
  }

  /** The figures of a frame of the piece in a picture, unless they are there already. @param {Timeline} t @param {number} at @param {SVGElement} target */
  async draw(t, at, target) {
    const asked = t.figures.length ? `${t.version} ${at}` : "";
    if (target.dataset.drawn === asked) return;
    target.dataset.drawn = asked;
    target.setAttribute("viewBox", `0 0 ${t.width} ${t.height}`);
    if (!asked) return target.replaceChildren();
    const wanted = { first: at, end: at + 1, known: [...this.drawings.keys()] };
    /** @type {import("../../answers.d.ts").ActingJson|null} */
    const found = await post(`/api/projects/${t.project}/acting`, wanted).catch(() => null);
    if (!found || target.dataset.drawn !== asked) return;
    for (const [key, parts] of Object.entries(found.drawings)) this.drawings.set(key, parts);
    const nodes = found.figures.flatMap((each) => {
      const pose = poseAt(each, at);
      const parts = this.drawings.get(each.drawing);
      const row = t.figures.find(({ id }) => id === each.id);
      if (!pose || !parts || !row) return [];
      const figure = new DrawnFigure(each.id, parts);
      figure.show(pose, standing(row, t));
      return [figure.node];
    });
    target.replaceChildren(...nodes);
  }
}

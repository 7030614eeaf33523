// Figures: drawn characters that speak the lines of a role; chosen, placed, coloured.

import { get } from "../api.js";
import { drag } from "../drag.js";
import { svg } from "../svg.js";
import { BOX } from "../frame/figures.js";
import { part } from "./compose.js";
import { page } from "./page.js";
import { drawGuides, snapped } from "./placing.js";

/** @typedef {import("../answers.d.ts").CharacterJson} Character */
/** @typedef {import("../answers.d.ts").FigureRow} Figure */

const SNAP_PX = 7;

export const figures = part({
  letterDesk: "words",
  figure: "",
  /** For whom the next figure will speak. */
  newFigureRole: "",
  /** @type {Character[]} */
  characters: [],

  /** @param {string} desk */
  async setLetterDesk(desk) {
    this.letterDesk = desk;
    if (desk !== "figures" || this.characters.length) return;
    try {
      this.characters = await get("/api/characters");
    } catch (error) {
      this.failed(error);
    }
  },

  /** @returns {Figure|undefined} */
  get chosenFigure() {
    return this.t.figures.find((each) => each.id === this.figure) ?? this.t.figures[0];
  },

  /** @param {Figure} figure */
  figureName(figure) {
    const character = this.characters.find((each) => each.id === figure.character);
    const role = this.t.roles.find((each) => each.id === figure.role);
    return `${character ? character.name : figure.character}, ${role ? role.name : ""}`;
  },

  /** @param {string} id */
  chooseFigure(id) {
    this.figure = id;
    return this.setLetterDesk("figures");
  },

  /** @param {string} character */
  async addFigure(character) {
    const role_id = this.newFigureRole || this.t.roles[0]?.id;
    if (!role_id) return;
    const before = new Set(this.t.figures.map((each) => each.id));
    if (!(await this.edit({ kind: "add_figure", role_id, character }))) return;
    this.figure = this.t.figures.find((each) => !before.has(each.id))?.id ?? "";
  },

  /** @param {Record<string, unknown>} change */
  setFigure(change) {
    const figure = this.chosenFigure;
    if (figure) return this.edit({ kind: "figure", figure_id: figure.id, ...change });
  },

  /** A number of the chosen figure, told in per cent. @param {Event} event @param {"x"|"y"|"size"} field */
  setFigureShare(event, field) {
    const value = Number(/** @type {HTMLInputElement} */ (event.target).value);
    if (Number.isFinite(value)) return this.setFigure({ [field]: value / 100 });
  },

  /** What of the chosen figure has a colour, each with the one it has. @returns {Array<{name: string, label: string, colour: string}>} */
  get figureColours() {
    const figure = this.chosenFigure;
    const character = this.characters.find((each) => each.id === figure?.character);
    return (character?.colours ?? []).map((each) => ({
      ...each,
      colour: figure?.colours[each.name] ?? each.colour,
    }));
  },

  /** @param {Event} event @param {string} name */
  colourFigure(event, name) {
    const colour = /** @type {HTMLInputElement} */ (event.target).value;
    return this.setFigure({ colours: { ...this.chosenFigure?.colours, [name]: colour } });
  },

  deleteFigure() {
    const figure = this.chosenFigure;
    if (figure) return this.edit({ kind: "delete_figure", figure_id: figure.id });
  },

  /** Draw the picture of a character into a button. @param {HTMLElement} holder @param {Character} character */
  drawPortrait(holder, character) {
    const picture = svg("svg", { viewBox: `0 0 ${BOX.join(" ")}`, "aria-hidden": "true" });
    picture.append(...character.portrait.map(({ d, colour }) => svg("path", { d, fill: colour })));
    holder.replaceChildren(picture);
  },

  /** Take hold of a figure in the frame. @param {PointerEvent} event @param {number[]} at @param {number} scale pixels of the frame to one of the screen */
  holdFigure(event, [px = 0, py = 0], scale) {
    const items = page.stage.figures.seen(this.t, page.stage.frame);
    const held = items.findLast(
      ({ box: [x, y, wide, high] }) => px >= x && px <= x + wide && py >= y && py <= y + high,
    );
    const figure = this.t.figures.find((each) => each.id === held?.id);
    if (!held || !figure) return;
    event.preventDefault();
    this.chooseFigure(held.id);
    const { width, height } = this.t;
    const [x, y] = [event.clientX, event.clientY];
    let moved = [0, 0];
    drag(
      (e) => {
        const wanted = [(e.clientX - x) * scale, (e.clientY - y) * scale];
        const found = e.altKey
          ? { dx: wanted[0] ?? 0, dy: wanted[1] ?? 0, guides: [] }
          : snapped(held.box, wanted, [[0, 0, width, height]], [width, height], SNAP_PX * scale);
        moved = [found.dx, found.dy];
        page.stage.tryFigure(held.id, found.dx, found.dy);
        drawGuides(found.guides, width, height);
      },
      async (keep) => {
        drawGuides([], width, height);
        const [dx = 0, dy = 0] = moved;
        const far = keep && (Math.abs(dx) >= 1 || Math.abs(dy) >= 1);
        const place = { x: near(figure.x + dx / width), y: near(figure.y + dy / height) };
        const made = far && (await this.edit({ kind: "figure", figure_id: figure.id, ...place }));
        if (!made) page.stage.tryFigure("", 0, 0);
      },
    );
  },
});

/** @param {number} share */
const near = (share) => Math.round(Math.min(1.5, Math.max(-0.5, share)) * 10_000) / 10_000;

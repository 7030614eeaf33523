// Pictures laid over the chosen shot: their rows on the desk.

import { part } from "./compose.js";
import { page } from "./page.js";

/** @typedef {import("../answers.d.ts").LaidJson} Laid */
/** @typedef {"x"|"y"|"size"|"turn"|"opacity"|"begins"|"ends"} Number_ */

/** What an edit takes of a row. @param {Laid} row */
const asEdit = ({ id, picture, x, y, size, turn, colour, opacity, begins, ends }) => ({
  id,
  picture,
  x,
  y,
  size,
  turn,
  colour,
  opacity,
  begins,
  ends,
});

export const laying = part({
  /** What is being slid and not kept yet. @type {Laid[]|null} */
  laidTried: null,

  /** @returns {Laid[]} */
  get laid() {
    return this.laidTried ?? this.chosenShot?.laid ?? [];
  },

  /** Change what is laid over the chosen shot. @param {(rows: Laid[]) => object[]} change */
  setLaid(change) {
    this.laidTried = null;
    return this.changeShot(this.shot, async (shot) => {
      const made = await this.pictureEdit({ kind: "laid", shot_id: shot.id, laid: change(shot.laid) });
      if (!made) page.stage.tryShot("", null);
    });
  },

  /** Lay a picture over the chosen shot. @param {string} picture */
  layOver(picture) {
    if (!this.chosenShot) return this.tell("Choose a shot to lay it over.", "note");
    return this.pictureEdit({ kind: "lay_over", shot_id: this.shot, picture });
  },

  /** @param {string} id @param {object} change */
  changeLaid(id, change) {
    return this.setLaid((rows) =>
      rows.map((row) => (row.id === id ? { ...asEdit(row), ...change } : asEdit(row))),
    );
  },

  /** @param {Event} event @param {string} id @param {Number_} field */
  keepLaid(event, id, field) {
    return this.changeLaid(id, { [field]: Number(/** @type {HTMLInputElement} */ (event.target).value) });
  },

  /** @param {Event} event @param {string} id @param {Number_} field */
  slideLaid(event, id, field) {
    const shot = this.chosenShot;
    if (!shot) return;
    const value = Number(/** @type {HTMLInputElement} */ (event.target).value);
    this.laidTried = this.laid.map((row) => (row.id === id ? { ...row, [field]: value } : row));
    page.stage.tryShot(shot.id, { laid: this.laidTried });
  },

  /** @param {string} id */
  takeOff(id) {
    return this.setLaid((rows) => rows.filter((row) => row.id !== id).map(asEdit));
  },
});

// How the chosen shot's clip fills the frame: its rows on the desk, and its point of interest dragged on the frame.

import { drag } from "../drag.js";
import { viewOf } from "../frame/framing.js";
import { part } from "./compose.js";
import { page } from "./page.js";

/** @typedef {import("../answers.d.ts").FramingJson} Framing */
/** @typedef {"zoom"|"amount"|"x"|"y"|"to_x"|"to_y"|"to_zoom"} Placed */

export const framing = part({
  /** What is being dragged or slid and not kept yet. @type {Framing|null} */
  framingTried: null,

  /** @returns {Framing|null} */
  get framing() {
    return this.framingTried ?? this.chosenShot?.framing ?? null;
  },

  /** @param {object} change */
  setFraming(change) {
    this.framingTried = null;
    return this.changeShot(this.shot, async (shot) => {
      const framing = { ...shot.framing, ...change };
      const made = await this.pictureEdit({ kind: "framing", shot_id: shot.id, framing });
      if (!made) page.stage.tryShot("", null); // it was refused, and looks as it did
    });
  },

  /** The end of a movement to another view is what is being set. */
  farEnd: false,

  /** Which number of the framing a row is about. @param {"zoom"|"amount"|"x"|"y"} field @returns {Placed} */
  placeField(field) {
    const far = this.farEnd && this.framing?.movement === "to" && field !== "amount";
    return far ? /** @type {Placed} */ (`to_${field}`) : field;
  },

  /** @param {string} movement */
  setMovement(movement) {
    const shot = this.chosenShot;
    if (!shot) return;
    const { x, y, zoom } = shot.framing;
    const begins = shot.framing.movement === movement;
    this.farEnd = false;
    // a little nearer at first, so that something is seen to move
    const ends = { to_x: x, to_y: y, to_zoom: Math.min(4, zoom * 1.25) };
    return this.setFraming({ movement, ...(movement === "to" && !begins ? ends : {}) });
  },

  /** Set where the movement ends, or where it begins, with that frame shown. @param {boolean} far */
  setEnd(far) {
    const shot = this.chosenShot;
    if (!shot) return;
    this.farEnd = far;
    this.seek((far ? shot.end - 1 : shot.start) * this.frameSeconds);
  },

  frameAllLikeThis() {
    if (this.chosenShot) return this.pictureEdit({ kind: "framing", framing: this.chosenShot.framing });
  },

  /** @param {Event} event @param {"zoom"|"amount"|"x"|"y"} field */
  slideFraming(event, field) {
    const value = Number(/** @type {HTMLInputElement} */ (event.target).value);
    this.tryFraming({ [this.placeField(field)]: value });
  },

  /** @param {Event} event @param {"zoom"|"amount"|"x"|"y"} field */
  keepFraming(event, field) {
    const value = Number(/** @type {HTMLInputElement} */ (event.target).value);
    return this.setFraming({ [this.placeField(field)]: value });
  },

  /** Show how it would look. @param {object} change */
  tryFraming(change) {
    const shot = this.chosenShot;
    if (!shot) return;
    this.framingTried = { ...(this.framingTried ?? shot.framing), ...change };
    page.stage.tryShot(shot.id, { framing: this.framingTried });
  },

  /** Take hold of the picture in the frame: its point of interest follows. @param {PointerEvent} event */
  holdPicture(event) {
    const shot = this.chosenShot;
    const box = /** @type {HTMLElement} */ (event.currentTarget);
    if (this.pass !== "picture" || !shot?.clip || event.button !== 0) return;
    if (this.shotNow?.id !== shot.id) return this.tell("Go to the chosen shot to place its picture.", "note");
    const picture = page.stage.pictureOf(shot);
    if (!picture) return;
    event.preventDefault();
    const from = shot.framing;
    const rect = box.getBoundingClientRect();
    const share = (page.stage.frame - shot.start) / Math.max(1, shot.end - shot.start - 1);
    const seen = viewOf(from, picture, [this.t.width, this.t.height], share);
    const [across, down] = /** @type {["x", "y"]} */ ([this.placeField("x"), this.placeField("y")]);
    const [x, y] = [event.clientX, event.clientY];
    let moved = false;
    const move = (/** @type {PointerEvent} */ e) => {
      const right = ((x - e.clientX) / rect.width) * seen.width;
      const below = ((y - e.clientY) / rect.height) * seen.height;
      const [dx, dy] = unturned(from, right, below);
      moved = true;
      this.tryFraming({ [across]: within(from[across] + dx), [down]: within(from[down] + dy) });
    };
    const end = (/** @type {boolean} */ keep) => {
      const tried = this.framingTried;
      this.framingTried = null;
      page.stage.tryShot("", null);
      if (keep && moved && tried) this.setFraming({ [across]: tried[across], [down]: tried[down] });
    };
    drag(move, end);
  },
});

/** @param {number} share */
const within = (share) => Math.round(Math.min(1, Math.max(0, share)) * 10_000) / 10_000;

/** A way in the turned picture as one in the picture itself. @param {Framing} framing @param {number} right @param {number} down */
function unturned(framing, right, down) {
  let [x, y] = [right, down];
  for (let turn = 0; turn < framing.turns; turn++) [x, y] = [y, -x];
  return [framing.mirror ? -x : x, y];
}

// How the chosen shot's clip fills the frame: its rows on the desk, and its point of interest dragged on the frame.

import { drag } from "../drag.js";
import { viewOf } from "../frame/framing.js";
import { part } from "./compose.js";
import { page } from "./page.js";

/** @typedef {import("../answers.d.ts").FramingJson} Framing */

export const framing = part({
  /** What is being dragged or slid and not kept yet. @type {Framing|null} */
  framingTried: null,

  /** @returns {Framing|null} */
  get framing() {
    return this.framingTried ?? this.chosenShot?.framing ?? null;
  },

  /** @param {object} change */
  async setFraming(change) {
    const shot = this.chosenShot;
    this.framingTried = null;
    if (!shot) return;
    const framing = { ...shot.framing, ...change };
    const made = await this.pictureEdit({ kind: "framing", shot_id: shot.id, framing });
    if (!made) page.stage.tryFraming("", null); // it was refused, and looks as it did
  },

  frameAllLikeThis() {
    if (this.chosenShot) return this.pictureEdit({ kind: "framing", framing: this.chosenShot.framing });
  },

  /** @param {Event} event @param {"zoom"|"amount"|"x"|"y"} field */
  slideFraming(event, field) {
    const value = Number(/** @type {HTMLInputElement} */ (event.target).value);
    this.tryFraming({ [field]: value });
  },

  /** @param {Event} event @param {"zoom"|"amount"|"x"|"y"} field */
  keepFraming(event, field) {
    const value = Number(/** @type {HTMLInputElement} */ (event.target).value);
    return this.setFraming({ [field]: value });
  },

  /** Show how it would look. @param {object} change */
  tryFraming(change) {
    const shot = this.chosenShot;
    if (!shot) return;
    this.framingTried = { ...(this.framingTried ?? shot.framing), ...change };
    page.stage.tryFraming(shot.id, this.framingTried);
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
    const seen = viewOf(from, picture, [this.t.width, this.t.height], 0);
    const [x, y] = [event.clientX, event.clientY];
    let moved = false;
    const move = (/** @type {PointerEvent} */ e) => {
      const right = ((x - e.clientX) / rect.width) * seen.width;
      const down = ((y - e.clientY) / rect.height) * seen.height;
      const [dx, dy] = unturned(from, right, down);
      moved = true;
      this.tryFraming({ x: within(from.x + dx), y: within(from.y + dy) });
    };
    const end = (/** @type {boolean} */ keep) => {
      const tried = this.framingTried;
      this.framingTried = null;
      page.stage.tryFraming("", null);
      if (keep && moved && tried) this.setFraming({ x: tried.x, y: tried.y });
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

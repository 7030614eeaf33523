// What is changed of the chosen shot's picture: its rows on the desk, the looks, and the picture without it.

import { UNADJUSTED } from "../frame/adjusting.js";
import { part } from "./compose.js";
import { page } from "./page.js";

/** @typedef {import("../answers.d.ts").AdjustmentJson} Adjustment */
/** @typedef {Exclude<keyof Adjustment, "look">} Amount */

export const adjusting = part({
  /** What is being slid and not kept yet. @type {Adjustment|null} */
  adjustmentTried: null,
  /** What was copied from a shot. @type {Adjustment|null} */
  adjustmentCopied: null,

  /** @returns {Adjustment|null} */
  get adjustment() {
    return this.adjustmentTried ?? this.chosenShot?.adjustment ?? null;
  },

  /** @param {Partial<Adjustment>} change */
  setAdjustment(change) {
    return this.changeShot(this.shot, (shot) =>
      this.adjustShots([shot.id], { ...shot.adjustment, ...change }),
    );
  },

  /** @param {string[]} shots none for all @param {Adjustment} adjustment */
  async adjustShots(shots, adjustment) {
    this.adjustmentTried = null;
    const made = await this.pictureEdit({ kind: "adjustment", shot_ids: shots, adjustment });
    if (!made) page.stage.tryShot("", null);
  },

  resetAdjustment() {
    return this.setAdjustment(UNADJUSTED);
  },

  adjustAll() {
    if (this.chosenShot) return this.adjustShots([], this.chosenShot.adjustment);
  },

  copyAdjustment() {
    this.adjustmentCopied = this.chosenShot?.adjustment ?? null;
    this.tell("Copied. Choose another shot and apply it there.", "note");
  },

  applyCopied() {
    if (this.adjustmentCopied) return this.setAdjustment(this.adjustmentCopied);
  },

  /** @param {Event} event @param {Amount} field */
  slideAdjustment(event, field) {
    const shot = this.chosenShot;
    if (!shot) return;
    const value = Number(/** @type {HTMLInputElement} */ (event.target).value);
    this.adjustmentTried = { ...(this.adjustmentTried ?? shot.adjustment), [field]: value };
    page.stage.tryShot(shot.id, { adjustment: this.adjustmentTried });
  },

  /** @param {Event} event @param {Amount} field */
  keepAdjustment(event, field) {
    return this.setAdjustment({ [field]: Number(/** @type {HTMLInputElement} */ (event.target).value) });
  },

  /** The looks that were brought in. @returns {Array<{id: string, name: string}>} */
  get ownLooks() {
    return Object.entries(this.t.clips).flatMap(([id, clip]) =>
      clip.kind === "look" ? { id, name: clip.name } : [],
    );
  },

  /** A file of a look: it becomes that of the chosen shot. @param {Event} event */
  async lookFile(event) {
    const field = /** @type {HTMLInputElement} */ (event.target);
    const files = [...(field.files ?? [])];
    field.value = "";
    const shot = this.shot;
    const added = await this.addMedia(files, "shelf");
    const look = added?.looks.at(-1);
    const row = this.t.shots.find((each) => each.id === shot);
    if (look && row) await this.adjustShots([shot], { ...row.adjustment, look, look_share: 1 });
  },

  /** The picture without its adjustment, as long as it is held. @param {boolean} on */
  seeWithout(on) {
    page.stage.without = on;
    page.stage.show(page.stage.frame);
  },
});

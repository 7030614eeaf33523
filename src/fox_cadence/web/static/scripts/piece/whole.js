// The piece as a whole: its frame, rate, language, bed; and pictures and music added to it.

import { follow, postForm } from "../api.js";
import { part } from "./compose.js";
import { begun } from "./work.js";

export const whole = part({
  pieceShown: false,

  togglePiece() {
    if (this.revisionsShown) this.toggleRevisions();
    this.pieceShown = !this.pieceShown;
  },

  /** An edit of the whole piece; what it did is said, because it is not seen on the sheet at once. @param {object} edit */
  async pieceEdit(edit) {
    if (await this.edit(edit)) this.tell(`${this.t.undo}.`, "good");
    else this.redraw();
  },

  /** @param {Event} event @param {"width"|"height"} side */
  frameSide(event, side) {
    const value = Number(/** @type {HTMLInputElement} */ (event.target).value);
    return this.pieceEdit({ kind: "frame", width: this.t.width, height: this.t.height, [side]: value });
  },

  /** @param {Event} event */
  frameShape(event) {
    const [width, height] = /** @type {HTMLSelectElement} */ (event.target).value.split("x").map(Number);
    if (width && height) return this.pieceEdit({ kind: "frame", width, height });
  },

  /** @param {Event} event */
  frameRate(event) {
    return this.pieceEdit({ kind: "rate", rate: /** @type {HTMLSelectElement} */ (event.target).value });
  },

  /** @param {Event} event */
  pieceLanguage(event) {
    return this.pieceEdit({
      kind: "language",
      language: /** @type {HTMLSelectElement} */ (event.target).value,
    });
  },

  /** @param {Event} event @param {string} field */
  pieceSetting(event, field) {
    const input = /** @type {HTMLInputElement} */ (event.target);
    const value =
      input.type === "checkbox" ? input.checked : input.type === "number" ? Number(input.value) : input.value;
    return this.pieceEdit({ kind: "settings", [field]: value });
  },

  /** What the chosen shot's clip still has after it, or what it shows past the clip's end. @returns {string} */
  get handleText() {
    const shot = this.chosenShot;
    if (!shot || shot.handle === null) return "";
    if (shot.handle >= 0) return `${this.counted(shot.handle, "frame")} left`;
    return `nothing: for ${this.counted(-shot.handle, "frame")} ${shot.repeats_s ? "it is shown again" : "its last frame is held"}`;
  },

  /** @returns {string} */
  get rateName() {
    const { numerator, denominator } = this.t.rate;
    return denominator === 1
      ? String(numerator)
      : String(Math.trunc((numerator / denominator) * 1000) / 1000).replace(/(\.\d\d)0?$/, "$1");
  },

  // pictures and music

  /** @param {Event} event */
  bedChosen(event) {
    const field = /** @type {HTMLInputElement} */ (event.target);
    const files = [...(field.files ?? [])];
    field.value = "";
    return this.addMedia(files, "bed");
  },

  /** @param {File[]} files @param {"shots"|"bed"|"sound"|"shelf"} use @param {{after_shot_id?: string, before_shot_id?: string}} [where] none for the end */
  async addMedia(files, use, where = {}) {
    if (!files.length || this.occupied()) return;
    const form = new FormData();
    for (const file of files) form.append("files", file, file.name);
    form.append("use", use);
    form.append("after", where.after_shot_id ?? "");
    form.append("before", where.before_shot_id ?? "");
    try {
      this.job = begun("Sending the files");
      const job = await follow(await postForm(`/api/projects/${this.project}/media`, form), (now) => {
        this.job = now;
      });
      this.job = null;
      if (job.state !== "done") return this.tell(job.note, "error");
      await this.refresh();
      /** @type {Array<{place: string, message: string}>} */
      const remarks = job.result.remarks;
      const parts = [
        job.result.shots ? this.counted(job.result.shots, use === "shelf" ? "clip" : "shot") : "",
        job.result.bed ? "a bed" : use === "sound" ? this.counted(files.length, "sound") : "",
        job.result.looks.length ? this.counted(job.result.looks.length, "look") : "",
      ].filter(Boolean);
      this.tell(
        [
          `Added ${parts.join(" and ")}${use === "shelf" ? " to the shelf" : ""}.`,
          ...remarks.map(({ place: where, message }) => `${where}: ${message}.`),
        ].join(" "),
        remarks.length ? "note" : "good",
      );
      return /** @type {{looks: string[]}} */ (job.result);
    } catch (error) {
      this.job = null;
      this.failed(error);
    }
  },
});

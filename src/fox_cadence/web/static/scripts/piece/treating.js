// Treatments: how the voice of a role or of one line is finished, and what that does to what is heard.

import { get } from "../api.js";
import { svg } from "../svg.js";
import { part } from "./compose.js";
import { page } from "./page.js";

/** @typedef {import("../answers.d.ts").TreatmentJson} Treatment */
/** @typedef {import("../answers.d.ts").StageKindJson} Kind */
/** @typedef {import("../answers.d.ts").MeasuredJson} Measured */

const [WIDE, HIGH, FLOOR_DB, TOP_DB] = [300, 90, -90, -20];

export const treating = part({
  /** @type {{shipped: Treatment[], kinds: Kind[]}} */
  treatments: { shipped: [], kinds: [] },
  /** Whether a change is for the role or only for the chosen line. */
  treatFor: "role",
  treatAs: "",
  /** @type {Measured|null} */
  treatEffect: null,
  treatMeasuring: false,

  /** Once the sound is looked at. */
  async learnTreatments() {
    if (this.treatments.kinds.length) return;
    try {
      this.treatments = await get("/api/treatments");
    } catch (error) {
      this.failed(error);
    }
  },

  /** The role of the chosen line, or the first. @returns {import("../types.d.ts").Role|undefined} */
  get treatedRole() {
    const role = this.t.lines.find((item) => item.id === this.line)?.role;
    return this.t.roles.find((each) => each.id === role) ?? this.t.roles[0];
  },

  /** How the voice that is looked at is treated now. @returns {Treatment|null} */
  get treatmentNow() {
    const own = this.t.lines.find((item) => item.id === this.line)?.own_treatment ?? null;
    if (this.treatFor === "line" && own) return own;
    return this.treatedRole?.treatment ?? null;
  },

  /** Whether the chosen line has a treatment of its own. @returns {boolean} */
  get hasOwnTreatment() {
    return Boolean(this.t.lines.find((item) => item.id === this.line)?.own_treatment);
  },

  /** All there are to choose from. @returns {Treatment[]} */
  get treatmentsHere() {
    return [...this.treatments.shipped, ...(this.t.treatments ?? [])];
  },

  /** @param {Treatment|null} treatment */
  async setTreatment(treatment) {
    const target =
      this.treatFor === "line" && this.line ? { line_id: this.line } : { role_id: this.treatedRole?.id };
    this.treatEffect = null;
    return this.edit({ kind: "treatment", ...target, treatment });
  },

  /** @param {string} name */
  pickTreatment(name) {
    const found = this.treatmentsHere.find((each) => each.name === name);
    return found && this.setTreatment(found);
  },

  /** Leave the voice as it is: of a line for itself, whatever its role does. */
  untreat() {
    return this.setTreatment(this.treatFor === "line" ? { name: "", stages: [] } : null);
  },

  treatAsRole() {
    return this.edit({ kind: "treatment", line_id: this.line, treatment: null });
  },

  /** The stages as rows with their numbers. @returns {Array<{place: number, kind: Kind, side: string, effect: string, values: Array<{field: string, label: string, unit: string, value: number, least: number, most: number, step: number}>}>} */
  get treatmentStages() {
    return (this.treatmentNow?.stages ?? []).flatMap((stage, place) => {
      const kind = this.treatments.kinds.find((each) => each.kind === stage.kind);
      if (!kind) return [];
      const values = kind.settings.map((each) => ({ ...each, value: stage[each.field] }));
      return [{ place, kind, side: stage.side ?? "", effect: this.effectText(place), values }];
    });
  },

  /** What a stage does to the line, in words. @param {number} place */
  effectText(place) {
    const found = this.treatEffect?.effects[place];
    if (!found || found.most_db === null || found.mean_db === null) return "";
    return `here: down by ${found.most_db.toFixed(1)} dB at most, ${found.mean_db.toFixed(1)} in the mean`;
  },

  /** @param {Array<Record<string, any>>} stages */
  restage(stages) {
    const now = this.treatmentNow;
    const same = this.treatmentsHere.some((each) => each.name === now?.name);
    return this.setTreatment({ name: same ? "" : (now?.name ?? ""), stages });
  },

  /** @param {Event} event @param {number} place @param {string} field */
  setStage(event, place, field) {
    const input = /** @type {HTMLInputElement|HTMLSelectElement} */ (event.target);
    const value = field === "side" ? input.value : Number(input.value);
    const stages = this.treatmentNow?.stages ?? [];
    return this.restage(stages.map((each, at) => (at === place ? { ...each, [field]: value } : each)));
  },

  /** @param {Event} event */
  addStage(event) {
    const select = /** @type {HTMLSelectElement} */ (event.target);
    const kind = this.treatments.kinds.find((each) => each.kind === select.value);
    select.value = "";
    if (kind) return this.restage([...(this.treatmentNow?.stages ?? []), kind.made]);
  },

  /** @param {number} place */
  dropStage(place) {
    return this.restage((this.treatmentNow?.stages ?? []).filter((_, at) => at !== place));
  },

  /** A stage one place earlier. @param {number} place */
  liftStage(place) {
    const stages = [...(this.treatmentNow?.stages ?? [])];
    const [moved] = stages.splice(place, 1);
    if (moved) stages.splice(place - 1, 0, moved);
    return this.restage(stages);
  },

  async keepTreatment() {
    const name = this.treatAs.trim();
    const now = this.treatmentNow;
    if (!name || !now) return;
    const kept = { ...now, name };
    if (!(await this.edit({ kind: "keep_treatment", treatment: kept }))) return;
    this.treatAs = "";
    return this.setTreatment(kept);
  },

  /** @param {string} name */
  forgetTreatment(name) {
    return this.edit({ kind: "forget_treatment", name });
  },

  /** Hear the chosen line, treated or not: as loud either way. @param {boolean} plain */
  async hearTreated(plain) {
    if (!this.line) return;
    const path = `/api/projects/${this.project}/lines/${this.line}/sound.wav?plain=${plain}&of=${this.t.version}`;
    try {
      await page.player.playSound(path, "line");
    } catch (error) {
      this.failed(error);
    }
  },

  /** What the treatment does to the chosen line, measured. */
  async measureTreatment() {
    if (!this.line) return;
    this.treatMeasuring = true;
    try {
      this.treatEffect = await get(`/api/projects/${this.project}/lines/${this.line}/treatment`);
      this.drawTreatment();
    } catch (error) {
      this.failed(error);
    } finally {
      this.treatMeasuring = false;
    }
  },

  /** Third octaves before and after, as two lines. */
  drawTreatment() {
    const target = document.getElementById("treatment-plot");
    const found = this.treatEffect;
    if (!target || !found) return;
    const line = (/** @type {number[]} */ levels) =>
      levels
        .map((level, n) => {
          const share = (Math.max(FLOOR_DB, Math.min(TOP_DB, level)) - FLOOR_DB) / (TOP_DB - FLOOR_DB);
          return `${((n * WIDE) / (levels.length - 1)).toFixed(1)},${(HIGH - share * HIGH).toFixed(1)}`;
        })
        .join(" ");
    target.setAttribute("viewBox", `0 0 ${WIDE} ${HIGH}`);
    target.replaceChildren(
      svg("polyline", { class: "plot-before", points: line(found.before) }),
      svg("polyline", { class: "plot-after", points: line(found.after) }),
    );
  },
});

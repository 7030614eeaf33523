// Treatments: how the voice of a role or of one line is finished, and what that does to what is heard.

import { get, post } from "../api.js";
import { SideBySide } from "../frame/side_by_side.js";
import { svg } from "../svg.js";
import { part } from "./compose.js";
import { page } from "./page.js";

/** @typedef {import("../answers.d.ts").TreatmentJson} Treatment */
/** @typedef {import("../answers.d.ts").StageKindJson} Kind */
/** @typedef {import("../answers.d.ts").MeasuredJson} Measured */

const side = new SideBySide();
const [WIDE, HIGH, FLOOR_DB, TOP_DB] = [300, 90, -90, -20];

export const treating = part({
  /** @type {{shipped: Treatment[], mine: Treatment[], kinds: Kind[]}} */
  treatments: { shipped: [], mine: [], kinds: [] },
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
    return [...this.treatments.shipped, ...this.treatments.mine, ...(this.t.treatments ?? [])];
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

  /** @param {boolean} forAll in all projects, not only in this one */
  async keepTreatment(forAll) {
    const name = this.treatAs.trim();
    const now = this.treatmentNow;
    if (!name || !now) return;
    const kept = { ...now, name };
    if (forAll) await this.keepForAll(kept);
    else if (!(await this.edit({ kind: "keep_treatment", treatment: kept }))) return;
    this.treatAs = "";
    return this.setTreatment(kept);
  },

  /** One without stages is forgotten. @param {Treatment} treatment */
  async keepForAll(treatment) {
    try {
      this.treatments = await post("/api/treatments", { treatment });
    } catch (error) {
      this.failed(error);
    }
  },

  /** The same for another role. @param {Event} event */
  treatRoleToo(event) {
    const select = /** @type {HTMLSelectElement} */ (event.target);
    const role = select.value;
    select.value = "";
    if (role) return this.edit({ kind: "treatment", role_id: role, treatment: this.treatmentNow });
  },

  /** @param {string} name */
  forgetTreatment(name) {
    return this.edit({ kind: "forget_treatment", name });
  },

  // with and without, at the press of a key: both run side by side, and one of them is heard

  treatCompared: false,
  treatWithout: false,

  async compareTreated() {
    if (this.treatCompared) return this.stopCompared();
    if (!this.line) return;
    page.player.stop();
    const path = `/api/projects/${this.project}/lines/${this.line}/sound.wav?of=${this.t.version}&plain=`;
    try {
      await side.play([`${path}false`, `${path}true`], 0);
      this.treatCompared = true;
      this.treatWithout = false;
    } catch (error) {
      this.failed(error);
    }
  },

  stopCompared() {
    side.stop();
    this.treatCompared = false;
    this.treatWithout = false;
  },

  /** @param {boolean} without */
  hearWithout(without) {
    if (!this.treatCompared || this.treatWithout === without) return;
    this.treatWithout = without;
    side.hear(without ? 1 : 0);
  },

  /** What is compared, without what was done to it. @param {boolean} without */
  hearHeld(without) {
    this.hearWithout(without);
    this.hearUncleaned(without);
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
    const [low, high] = [Math.log(50), Math.log(20_000)];
    const exact = found.response_hz
      .map((hertz, n) => [Math.log(hertz), found.response_db[n] ?? 0])
      .filter(([log]) => log >= low && log <= high)
      .map(([log, db]) => {
        const y = HIGH / 2 - (Math.max(-18, Math.min(18, db)) * HIGH) / 40;
        return `${(((log - low) / (high - low)) * WIDE).toFixed(1)},${y.toFixed(1)}`;
      })
      .join(" ");
    target.replaceChildren(
      svg("polyline", { class: "plot-exact", points: found.response_db.length ? exact : "" }),
      svg("polyline", { class: "plot-before", points: line(found.before) }),
      svg("polyline", { class: "plot-after", points: line(found.after) }),
    );
  },
});

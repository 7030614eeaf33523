// The mix: how it stands, the levels of what is heard together, its beds.

import { get } from "../api.js";
import { part } from "./compose.js";

/** @typedef {import("../answers.d.ts").SoundJson} SoundJson */
/** @typedef {import("../answers.d.ts").BedJson} Bed */

export const mixing = part({
  /** How the mix of the piece stands, as it was measured last. @type {SoundJson|null} */
  mixHeard: null,
  /** The revision that is being measured. */
  mixAsked: 0,
  soundDesk: "mix",
  bed: "",

  /** Measured anew at each change, while the sound is looked at. */
  async askSound() {
    const revision = this.t.revision;
    if (this.pass !== "sound" || !this.loaded || this.mixAsked === revision) return;
    this.mixAsked = revision;
    try {
      const found = await get(`/api/projects/${this.project}/sound`);
      if (this.mixAsked !== revision) return;
      this.mixHeard = found;
      this.redraw();
    } catch (error) {
      this.mixAsked = 0;
      this.failed(error);
    }
  },

  /** Whether what is shown was measured of the piece as it is. @returns {boolean} */
  get mixIsNew() {
    return this.mixHeard !== null && this.mixHeard.revision === this.t.revision;
  },
  /** @returns {string} */
  get lufsText() {
    return this.mixHeard ? `${this.mixHeard.lufs.toFixed(1)} LUFS` : "measuring";
  },
  /** @returns {string} */
  get peakText() {
    return this.mixHeard ? `${this.mixHeard.peak_db.toFixed(1)} dBTP` : "measuring";
  },
  /** @returns {string} */
  get overText() {
    if (!this.mixHeard) return "measuring";
    return this.mixHeard.over_db === null ? "nothing under it" : `${this.signedDb(this.mixHeard.over_db)} dB`;
  },
  /** @returns {string} */
  get understoodText() {
    if (!this.mixHeard) return "measuring";
    return this.mixHeard.understood === null ? "nothing is said" : this.mixHeard.understood.toFixed(2);
  },
  /** @returns {SoundJson["warnings"]} */
  get mixWarnings() {
    return this.mixHeard?.warnings ?? [];
  },

  /** @param {number} db */
  signedDb(db) {
    return `${db > 0 ? "+" : ""}${db.toFixed(1)}`;
  },

  /** @param {string} desk */
  setSoundDesk(desk) {
    this.soundDesk = desk;
    if (desk === "beds" || desk === "effects") return this.askSounds();
  },

  /** @param {SoundJson["warnings"][number]["cures"][number]} cure */
  cureMix(cure) {
    return this.edits(cure.edits, cure.text);
  },

  /** @param {Event} event @param {string} field */
  setMix(event, field) {
    const value = Number(/** @type {HTMLInputElement} */ (event.target).value);
    return this.edit({ kind: "mix", [field]: value });
  },

  /** Mute a column or hear only it; the same again hears it as the others. @param {string} column @param {"muted"|"solo"} how */
  hearColumn(column, how) {
    const on = !this.t.mix[how].includes(column);
    return this.edit({ kind: "hear_column", column, [how]: on });
  },

  // beds

  /** @returns {Bed|undefined} */
  get chosenBed() {
    return this.t.beds.find((each) => each.id === this.bed) ?? this.t.beds[0];
  },

  /** @param {string} bed */
  bedName(bed) {
    const found = this.t.beds.find((each) => each.id === bed);
    return (this.t.clips[found?.clip_hash ?? ""]?.name ?? "").replace(/\.wav$/, "");
  },

  /** @param {string} bed */
  chooseBed(bed) {
    this.bed = bed;
    this.soundDesk = "beds";
    this.askSounds();
    this.redraw();
  },

  /** What is known of the music of the chosen bed. @returns {string} */
  get bedMusicText() {
    const found = this.mixHeard?.beds.find((each) => each.bed === this.chosenBed?.id);
    if (!found) return "";
    if (!found.beats.length) return "No beats were found in it.";
    const sure = found.certainty > 0.8 ? "certain" : found.certainty > 0.55 ? "likely" : "a guess";
    return `${found.tempo_bpm.toFixed(0)} beats a minute, ${found.metre} a bar: ${sure} (${found.certainty.toFixed(2)}).`;
  },
  /** @returns {string} */
  get bedCutText() {
    const bed = this.chosenBed;
    if (!bed || bed.cut_s === null) return "";
    return `Cut by bars to ${bed.cut_s.toFixed(1)} s; its ending is heard at the end.`;
  },

  /** @param {Event} event @param {string} field */
  setBed(event, field) {
    const input = /** @type {HTMLInputElement} */ (event.target);
    if (!this.chosenBed || input.value === "") return;
    return this.edit({ kind: "bed", bed_id: this.chosenBed.id, [field]: Number(input.value) });
  },

  removeBed() {
    const bed = this.chosenBed;
    return bed && this.edit({ kind: "delete_bed", bed_id: bed.id });
  },

  bedAsItIs() {
    const bed = this.chosenBed;
    return bed && this.edit({ kind: "cut_bed", bed_id: bed.id });
  },

  flatLevels() {
    const bed = this.chosenBed;
    return bed && this.edit({ kind: "bed_levels", bed_id: bed.id, points: [] });
  },

  /** A point of the level curve where the playhead is. */
  addLevelPoint() {
    const bed = this.chosenBed;
    if (!bed) return;
    const at = Math.max(0, this.at - bed.start_s);
    const near = bed.levels.filter(([s]) => Math.abs(s - at) > 0.05);
    const before = near.findLast(([s]) => s <= at) ?? near[0];
    return this.edit({ kind: "bed_levels", bed_id: bed.id, points: [...near, [at, before ? before[1] : 0]] });
  },

  /** Something the server works out of the music of the bed. @param {"cut"|"loop"|"beats"|"bars"|"duck"} what */
  async workOnBed(what) {
    const bed = this.chosenBed;
    if (!bed || this.looksBack()) return;
    const job = await this.run(`/api/projects/${this.project}/beds/${bed.id}/${what}`, {});
    if (job?.state !== "done") return;
    await this.refresh();
    this.tell(madeText(what, job.result), "good");
  },

  /** Its own sound taken away from the chosen shot, as a bed. */
  ownToBed() {
    return this.shot && this.edit({ kind: "own_to_bed", shot_id: this.shot });
  },

  /** @param {Event} event @param {string} shot @param {string} field */
  setOwn(event, shot, field) {
    const input = /** @type {HTMLInputElement} */ (event.target);
    const value = input.type === "checkbox" ? input.checked : Number(input.value);
    return this.edit({ kind: "shot_sound", shot_id: shot, [field]: value });
  },
});

/** @param {string} what @param {any} made */
function madeText(what, made) {
  if (what === "cut")
    return `Cut by bars, with ${made.jumps} ${made.jumps === 1 ? "jump" : "jumps"}; its last hit is at ${made.hit_s.toFixed(1)} s of it.`;
  if (what === "loop")
    return `It repeats from ${made.from_s.toFixed(1)} to ${made.to_s.toFixed(1)} s of its clip.`;
  if (what === "duck")
    return `It goes down by ${made.duck_db.toFixed(1)} dB under speech: words understood ${made.understood.toFixed(2)} of 1.`;
  return `${made.count} of them are known to the fit: choose below which cuts should lie on one.`;
}

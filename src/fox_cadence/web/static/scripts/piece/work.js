// Long work: voicing, exporting; one thing at a time in this window, with progress and a way to stop it.

import { chosenFile, follow, get, post, postForm } from "../api.js";
import { part } from "./compose.js";

/** @typedef {import("../types.d.ts").Job} Job */

export const work = part({
  /** @type {Job|null} */
  job: null,
  /** @type {{files: Array<{name: string, bytes: number, lufs: number|null, peak_db: number|null}>, folder: string, revision: number, failed: any[], notes: string[]}|null} */
  docket: null,
  proveAfter: localStorage.getItem("fox-cadence-prove") === "yes",
  /** Counts what was made, so that the docket is told again. */
  madeCount: 0,

  /** @param {boolean} wanted */
  setProveAfter(wanted) {
    this.proveAfter = wanted;
    localStorage.setItem("fox-cadence-prove", wanted ? "yes" : "no");
  },

  /** Look into a video that was made. @param {string} row */
  async prove(row) {
    const job = await this.run(`/api/projects/${this.project}/exports/proof`, { rows: [row] });
    this.made();
    if (job?.state !== "done") return;
    const proof = job.result.proofs[row];
    this.tell(`${proof.name} is ${proof.in_sync ? "" : "not "}in sync.`, proof.in_sync ? "good" : "error");
  },

  /** Something was made: the docket is told again. */
  made() {
    this.madeCount++;
    this.redraw();
  },

  /** How long the job will take from now on, by how it went so far; '' while that can't be told. @returns {string} */
  get timeLeft() {
    return this.job ? leftOf(this.job, performance.now() / 1000) : "";
  },

  /** @returns {boolean} */
  get busy() {
    return this.job !== null && (this.job.state === "running" || this.job.state === "waiting");
  },

  /** Whether something is being made, which is then said. */
  occupied() {
    if (this.busy) this.tell("One thing is still being made. Stop it or wait for it.", "note");
    return this.busy;
  },

  /** @param {string} path @param {object} body @returns {Promise<Job|null>} */
  async run(path, body) {
    await this.changing;
    if (this.occupied()) return null;
    this.job = begun(""); // from now on, not from the answer on
    try {
      const job = await follow(await post(path, body), (now) => {
        this.job = now;
      });
      this.job = null;
      if (job.state === "failed") this.tell(job.note, "error");
      if (job.state === "cancelled") this.tell(job.note, "note");
      return job;
    } catch (error) {
      this.job = null;
      this.failed(error);
      return null;
    }
  },

  /** At the start: what another window or the time before a restart left going is followed; what broke off is said. */
  async followWhatGoesOn() {
    const found = await get(`/api/projects/${this.project}/job`);
    if (!found || this.busy) return; // what this window has begun meanwhile is followed already
    if (
      found.state === "failed" &&
      found.note.startsWith("Broken off") &&
      localStorage.getItem("told of job") !== found.id
    ) {
      localStorage.setItem("told of job", found.id);
      this.tell(`${found.kind}: ${found.note}`, "note");
    }
    if (found.state !== "waiting" && found.state !== "running") return;
    const job = await follow(found, (now) => {
      this.job = now;
    });
    this.job = null;
    await this.refresh();
    if (job.state === "done" && job.result.files) this.docketOf(job.result);
    this.tell(
      job.state === "done" ? `Done: ${job.kind}.` : job.note,
      job.state === "failed" ? "error" : "good",
    );
  },

  // media that has vanished from the data folder

  /** @param {Event} event @param {string} hash */
  async pointTo(event, hash) {
    if (this.occupied()) return;
    const chosen = chosenFile(event);
    if (!chosen) return;
    const { file, form } = chosen;
    this.job = begun(""); // from now on: else it is taken for what another window does
    try {
      const job = await follow(
        await postForm(`/api/projects/${this.project}/clips/${hash}/file`, form),
        (now) => {
          this.job = now;
        },
      );
      this.job = null;
      if (job.state !== "done") return this.tell(job.note, "error");
      await this.refresh();
      this.tell(`${file.name} is back.`, "good");
    } catch (error) {
      this.job = null;
      this.failed(error);
    }
  },

  async stopJob() {
    if (this.job?.id) await post(`/api/jobs/${this.job.id}/cancel`).catch(() => {});
  },

  /** @returns {Promise<void>} */
  async refresh() {
    await this.take(await get(`/api/projects/${this.project}/timeline`));
  },

  /**
   * Voice lines, or all open ones; with edits that are made in the same step.
   *
   * @param {string[]} [lines] @param {object[]} [edits] @param {boolean} [quiet] say nothing when all went well
   */
  async voice(lines, edits = [], quiet = false) {
    const job = await this.run(`/api/projects/${this.project}/voice`, {
      ...(lines ? { line_ids: lines } : {}),
      edits,
    });
    if (!job) return;
    await this.refresh();
    if (job.state !== "done") return;
    const { made, kept, failed } = job.result;
    for (const each of failed) this.stepFailed.add(each.line);
    const failures = failed
      .map((/** @type {{text: string, reason: string}} */ f) => ` “${f.text}”: ${f.reason}`)
      .join("");
    if (!quiet || failed.length)
      this.tell(
        `Voices: ${made} made, ${kept} kept, ${failed.length} failed.${failures}`,
        failed.length ? "error" : "good",
      );
  },

  soundFormat: "wav",
  soundFrom: 1,
  soundTo: 1,
  /** The lines of a choice, from a number to one. @returns {string[]} */
  get chosenRange() {
    const [first, last] = [Number(this.soundFrom), Number(this.soundTo)].sort((a, b) => a - b);
    return this.t.lines.slice(Math.max(0, first - 1), Math.max(0, last)).map((item) => item.id);
  },

  /** The sound of lines as files of their own. @param {string[]} lines */
  async exportLines(lines) {
    const job = await this.run(`/api/projects/${this.project}/line-sounds`, {
      line_ids: lines,
      format: this.soundFormat,
    });
    this.made();
    if (job?.state !== "done") return;
    this.docketOf(job.result);
    this.tell(
      `Made ${this.counted(job.result.files.length, "file")}: ${job.result.files
        .slice(0, 3)
        .map((/** @type {{name: string}} */ file) => file.name)
        .join(", ")}. They are listed under Export.`,
      "good",
    );
  },

  /** Make what is wanted, or some rows again. @param {string[]} [rows] */
  async makeExport(rows) {
    await this.keepingDocket;
    const wish = { prove: this.proveAfter, ...(rows ? { rows } : {}) };
    const job = await this.run(`/api/projects/${this.project}/exports`, wish);
    this.made();
    if (job?.state !== "done") return;
    this.docketOf(job.result);
    await this.refresh();
    const { files, failed, notes } = job.result;
    const trouble = failed
      .map(
        (/** @type {{product: string, reason: string}} */ each) =>
          ` ${this.rowTitle(each.product)}: ${each.reason}`,
      )
      .join("");
    this.tell(
      `Made ${this.counted(files.length, "file")}.${trouble}${notes.length ? ` ${this.counted(notes.length, "note")} on the docket.` : ""}`,
      failed.length ? "error" : notes.length ? "note" : "good",
    );
  },

  /** The loudness of a finished file, as it was measured. @param {{lufs: number|null, peak_db: number|null}} file */
  heardText(file) {
    return typeof file.lufs === "number"
      ? `${file.lufs.toFixed(1)} LUFS, ${(file.peak_db ?? 0).toFixed(1)} dBTP`
      : "";
  },

  /** @param {any} result */
  docketOf(result) {
    this.docket = result.files ? { failed: [], notes: [], ...result } : null;
  },

  /** The finished video that can be watched here; '' where there is none. @returns {string} */
  get watchable() {
    return this.docket?.files.find((file) => file.name.endsWith(".mp4"))?.name ?? "";
  },

  /** @param {string} name */
  fileAddress(name) {
    return `/api/projects/${this.project}/exports/${encodeURIComponent(name)}`;
  },
});

/** Where a stage of a job was when it was seen first. */
let seen = { stage: "", done: 0, at_s: 0 };
const LEAST_LEFT_S = 3;

/** @param {Job} job @param {number} now_s @returns {string} */
export function leftOf(job, now_s) {
  const stage = `${job.id} ${job.note} ${job.total}`;
  if (seen.stage !== stage) seen = { stage, done: job.done, at_s: now_s };
  const made = job.done - seen.done;
  if (!job.total || made < 1 || job.done >= job.total) return "";
  const left = ((now_s - seen.at_s) / made) * (job.total - job.done);
  if (left < LEAST_LEFT_S) return "";
  return left < 90 ? `about ${Math.ceil(left / 5) * 5} s left` : `about ${Math.round(left / 60)} min left`;
}

/** A job from the moment it is asked for, until the server answers. @param {string} note @returns {Job} */
export function begun(note) {
  return { id: "", kind: "", state: "waiting", done: 0, total: 0, note, result: {} };
}

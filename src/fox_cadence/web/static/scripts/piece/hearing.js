// Playing: the piece, a line, a shot, a voice; and a proposal against what is there now.

import { get } from "../api.js";
import { part } from "./compose.js";
import { placed } from "../timeline.js";
import { page } from "./page.js";

/** From here on a wait is explained. */
const SLOW_MS = 700;

export const hearing = part({
  at: 0,
  playing: "",
  /** Shown and heard: "now" or "then", the proposal. */
  side: "now",
  /** @type {{key: string, timeline: import("../types.d.ts").Timeline}|null} */
  preview: null,

  /** The timeline that is shown in the frame and played. @returns {import("../types.d.ts").Timeline} */
  get shown() {
    return this.side === "then" && this.preview ? this.preview.timeline : this.t;
  },

  /** @param {number} s @param {boolean} byPlayer */
  moved(s, byPlayer) {
    const end = this.shown.total_frames * this.frameSeconds;
    this.at = Math.max(0, Math.min(s, Math.max(0, end - 0.001)));
    page.stage.show(this.frameNow);
    page.surfaces.setPlayhead(this.at);
    if (byPlayer) page.surfaces.follow(this.at);
  },

  /** @param {number} s */
  seek(s) {
    const wasPlaying = this.playing === "piece";
    this.moved(s, false);
    if (wasPlaying) this.play();
  },

  /** @param {number} frames */
  nudge(frames) {
    page.player.stop();
    this.moved((this.frameNow + frames + 0.5) * this.frameSeconds, true);
  },

  async play() {
    if (!this.loaded) return;
    const end = this.shown.total_frames * this.frameSeconds;
    const from = this.at >= end - 0.05 ? 0 : this.at;
    if (this.draftText) {
      this.tell(this.draftText, "note");
      this.finish();
    }
    await page.player.play(this.sound(), from, end).catch((error) => this.failed(error));
  },

  /** Where speech is kept up to date, what is heard in draft gets its own voice meanwhile: what will be heard next first. */
  finish() {
    if (!this.t.keep_in_step || this.busy) return;
    const late = (/** @type {import("../types.d.ts").Line} */ line) => Number(line.end_s < this.at);
    const drafts = this.t.lines.filter((/** @type {import("../types.d.ts").Line} */ line) => line.draft);
    const ids = drafts.sort((a, b) => late(a) - late(b)).map((line) => line.id);
    return this.voice(ids, [], true);
  },

  /** Which lines are heard in draft, and by whom. @returns {string} */
  get draftText() {
    const drafts = this.t.lines.filter((/** @type {import("../types.d.ts").Line} */ line) => line.draft);
    if (!drafts.length) return "";
    const names = [...new Set(drafts.map((/** @type {import("../types.d.ts").Line} */ line) => line.draft))];
    return `${this.counted(drafts.length, "line")} heard in draft, by ${names.join(" and ")}. Voice makes the finish.`;
  },

  /** Where the sound that belongs to what is shown comes from. */
  sound() {
    const path = `/api/projects/${this.project}/mix.wav`;
    const seconds = this.shown.total_frames * this.frameSeconds;
    return {
      path:
        this.side === "then" && this.preview
          ? `${path}?preview=${this.preview.key}`
          : `${path}?revision=${this.t.revision}${this.openCount ? "&draft=true" : ""}`,
      seconds,
    };
  },

  toggle() {
    if (this.playing) page.player.stop();
    else return this.play();
  },

  async hearLine() {
    if (!this.line) return;
    await page.player
      .playSound(`/api/projects/${this.project}/lines/${this.line}/sound.wav`, "line")
      .catch((error) => this.failed(error));
  },

  async hearInPlace() {
    const line = this.chosenLine;
    if (!line) return;
    await page.player
      .play(this.sound(), Math.max(0, line.start_s - 1), line.end_s + 1)
      .catch((error) => this.failed(error));
  },

  async loopShot() {
    const shot = this.chosenShot;
    if (!shot) return;
    const [start, end] = [shot.start * this.frameSeconds, shot.end * this.frameSeconds];
    await page.player.play(this.sound(), start, end, true).catch((error) => this.failed(error));
  },

  /** A line as edits that are not made would have it. @param {object[]} edits @param {string} line */
  async hearEdits(edits, line) {
    const body = { based_on: this.t.revision, edits, line_id: line };
    await page.player
      .playSound(`/api/projects/${this.project}/hear`, "line", body)
      .catch((error) => this.failed(error));
  },

  /** @param {string} voice @param {boolean} own the chosen line, else its sample @param {string} [name] of one that is not listed */
  async hearVoice(voice, own, name = "") {
    const words = own ? `?project=${this.project}&line=${this.line}` : "";
    const note = `${name || this.voiceName(voice)} is getting ready to speak. A natural voice needs about as long as it speaks.`;
    const waiting = setTimeout(() => this.tell(note, "note"), SLOW_MS);
    await page.player
      .playSound(`/api/voices/${voice}/sample.wav${words}`, "voice")
      .catch((error) => this.failed(error));
    clearTimeout(waiting);
    if (this.message === note) this.message = "";
  },

  // the proposal against what is there now

  /** Flip between now and the proposal, going on from the same place; made to sound the first time. */
  async flip() {
    if (this.proposal?.status !== "solved")
      return this.tell("Fit first; then now and the proposal can be flipped.", "note");
    if (!this.preview) {
      const job = await this.run(`/api/projects/${this.project}/preview`, { proposal: this.proposal.key });
      if (job?.state !== "done") return;
      const key = job.result.preview;
      const state = page.told.read(await get(`/api/projects/${this.project}/previews/${key}`));
      if (!state) return this.tell("The proposal could not be put together; fit again.", "error");
      this.preview = { key, timeline: placed(state) };
    }
    const goesOn = this.playing === "piece";
    this.side = this.side === "now" ? "then" : "now";
    page.stage.setTimeline(Alpine.raw(this.shown));
    this.moved(this.at, false);
    if (goesOn) await this.play();
    else page.player.prepare(this.sound());
  },

  forgetPreview() {
    this.preview = null;
    if (this.side === "then") {
      this.side = "now";
      page.stage.setTimeline(Alpine.raw(this.t));
    }
  },
});

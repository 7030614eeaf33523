// Undo and redo, and the revisions of the project: listed, looked at as they were, gone back to.

import { get, post } from "../api.js";
import { part } from "./compose.js";
import { placed } from "../timeline.js";
import { page } from "./page.js";

/** @typedef {{number: number, label: string, made_at: string, in_force: boolean}} Revision */

export const undo = part({
  /** @param {"undo"|"redo"} way */
  step(way) {
    this.changing = this.changing.then(() => this.stepOnce(way));
    return this.changing;
  },

  /** @param {"undo"|"redo"} way */
  async stepOnce(way) {
    try {
      const label = way === "undo" ? this.t.undo : this.t.redo;
      if (!label) return;
      this.leaveRevision();
      this.stepHeld = true;
      await this.take(await post(`/api/projects/${this.project}/${way}`, { based_on: this.t.revision }));
      if (this.revisionsShown) await this.listRevisions();
      this.tell(`${way === "undo" ? "Undone" : "Done again"}: ${label}.`, "note");
    } catch (error) {
      this.failed(error);
    }
  },

  revisionsShown: false,
  /** @type {Revision[]} */
  revisionList: [],
  moreRevisions: false,
  /** The revision that is shown instead of the newest. @type {Revision|null} */
  looking: null,

  async toggleRevisions() {
    this.pieceShown = false;
    this.revisionsShown = !this.revisionsShown;
    if (this.revisionsShown) await this.listRevisions();
    else this.leaveRevision();
  },

  /** @param {boolean} [further] those before the ones that are listed */
  async listRevisions(further = false) {
    try {
      const before = further ? this.revisionList.at(-1)?.number : null;
      const found = await get(`/api/projects/${this.project}/revisions${before ? `?before=${before}` : ""}`);
      this.revisionList = further ? [...this.revisionList, ...found.revisions] : found.revisions;
      this.moreRevisions = found.revisions.at(-1)?.number > 1;
    } catch (error) {
      this.failed(error);
    }
  },

  /** Show the piece as it was; nothing is changed. @param {Revision} revision */
  async lookAt(revision) {
    if (revision.number === this.t.revision) return this.leaveRevision();
    try {
      const found = await get(`/api/projects/${this.project}/revisions/${revision.number}`);
      this.propose(null);
      const state = page.told.read(found.state);
      if (!state) return this.tell("This state could not be put together; open it again.", "error");
      this.preview = { key: found.preview, timeline: placed(state) };
      this.side = "then";
      this.looking = revision;
      this.showLooked();
    } catch (error) {
      this.failed(error);
    }
  },

  leaveRevision() {
    if (!this.looking) return;
    this.looking = null;
    this.forgetPreview();
    this.redraw();
    this.moved(this.at, false);
    page.player.prepare(this.sound());
  },

  showLooked() {
    page.stage.setTimeline(Alpine.raw(this.shown));
    page.player.stop();
    page.player.prepare(this.sound());
    this.redraw();
    this.moved(this.at, false);
  },

  /** Be again what it was, as one step. @param {Revision} revision */
  async goBackTo(revision) {
    await this.changing;
    try {
      const made = await post(`/api/projects/${this.project}/back`, {
        based_on: this.t.revision,
        number: revision.number,
      });
      this.leaveRevision();
      await this.take(made);
      await this.listRevisions();
      this.tell(
        `Back to revision ${revision.number}: ${revision.label}. Undo brings back what was there before.`,
        "good",
      );
    } catch (error) {
      this.failed(error);
    }
  },

  /** @param {Revision} revision */
  revisionTime(revision) {
    const at = new Date(revision.made_at);
    return at.toLocaleString([], { month: "short", day: "numeric", hour: "2-digit", minute: "2-digit" });
  },
});

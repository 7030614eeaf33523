// Review links: who may see a finished video, and the notes that came back, each at its moment of the piece.

import { get, post, put, remove } from "../api.js";
import { part } from "./compose.js";

/**
 * @typedef {{id: string, revision: number, file: string, made_at: string, until: string, once: boolean, password: boolean,
 *   taken_at: string, path: string, standing: "open"|"over"|"revoked"}} ReviewLink
 * @typedef {{id: string, link_id: string, at_s: number, author: string, text: string, answer: string, done_at: string,
 *   frame: number|null}} ReviewNote
 * @typedef {{file: string, until: string|null, once: boolean, password: string}} LinkWish
 */

const ASKED_MS = 10_000;

export const reviewing = part({
  /** @type {{links: ReviewLink[], notes: ReviewNote[]}|null} */
  reviews: null,
  /** The note that is open on the sheet. */
  noteOpen: "",
  /** What happened to a link. @type {{id: string, entries: Array<{at: string, what: string, address: string}>}|null} */
  reviewLog: null,

  async askReviews() {
    try {
      this.reviewsCame(await get(`/api/projects/${this.project}/reviews`));
    } catch {
      // asked again soon
    }
  },

  /** While somebody may leave a note, it is looked for. */
  followReviews() {
    this.askReviews();
    setInterval(() => {
      if (
        document.visibilityState === "visible" &&
        this.reviews?.links.some((each) => each.standing === "open")
      )
        this.askReviews();
    }, ASKED_MS);
  },

  /** @param {{links: ReviewLink[], notes: ReviewNote[]}} told */
  reviewsCame(told) {
    const known = new Set(this.reviews?.notes.map((each) => each.id));
    const fresh = this.reviews ? told.notes.filter((each) => !known.has(each.id)) : [];
    this.reviews = told;
    if (fresh.length)
      this.tell(
        fresh.length === 1
          ? `${fresh[0].author} has left a note. It is on the sheet.`
          : `${fresh.length} notes have come. They are on the sheet.`,
        "note",
      );
    this.redraw();
  },

  /** Notes nobody has seen to yet. @returns {number} */
  get openNotes() {
    return this.reviews?.notes.filter((each) => !each.done_at).length ?? 0;
  },

  /** Notes whose shot is still there. @returns {Array<ReviewNote & {frame: number}>} */
  get notesPlaced() {
    return (this.reviews?.notes ?? []).flatMap((each) =>
      each.frame === null ? [] : [{ ...each, frame: each.frame }],
    );
  },

  /** Open a note where it stands on the sheet; '' closes it. @param {string} id */
  openNote(id) {
    this.noteOpen = this.noteOpen === id ? "" : id;
    const found = this.notesPlaced.find((each) => each.id === this.noteOpen);
    if (found) this.seek(found.frame * this.frameSeconds);
    this.redraw();
  },

  /** @param {string} id */
  showNote(id) {
    this.setPass("fit");
    this.noteOpen = "";
    this.openNote(id);
  },

  /** @param {string} id @param {string} text */
  async answerNote(id, text) {
    try {
      this.reviewsCame(await put(`/api/projects/${this.project}/reviews/notes/${id}/answer`, { text }));
      this.tell(
        text.trim() ? "Answered. The page of the review shows it." : "The answer is taken back.",
        "good",
      );
      return true;
    } catch (error) {
      this.failed(error);
      return false;
    }
  },

  /** @param {string} id @param {boolean} done */
  async markNote(id, done) {
    try {
      this.reviewsCame(await put(`/api/projects/${this.project}/reviews/notes/${id}/done`, { done }));
    } catch (error) {
      this.failed(error);
    }
  },

  /** @param {LinkWish} wish @returns {Promise<boolean>} */
  async makeReview(wish) {
    try {
      const link = await post(`/api/projects/${this.project}/reviews`, wish);
      await this.askReviews();
      await this.copyReview(link.path);
      return true;
    } catch (error) {
      this.failed(error);
      return false;
    }
  },

  /** @param {string} path */
  async copyReview(path) {
    const address = `${location.origin}${path}`;
    const here = ["127.0.0.1", "localhost", "[::1]"].includes(location.hostname)
      ? " It opens on this machine only, until you serve on your network: fox-cadence serve --host."
      : "";
    try {
      await navigator.clipboard.writeText(address);
      this.tell(`The address is copied.${here}`, "good");
    } catch {
      this.tell(`The address is ${address}.${here}`, "note");
    }
  },

  /** @param {string} id */
  async revokeReview(id) {
    try {
      await remove(`/api/projects/${this.project}/reviews/${id}`);
      await this.askReviews();
      this.tell("The link is revoked: its page opens for nobody any more. The notes stay.", "good");
    } catch (error) {
      this.failed(error);
    }
  },

  /** @param {string} id */
  async learnReviewLog(id) {
    if (this.reviewLog?.id === id) {
      this.reviewLog = null;
      return this.redraw();
    }
    try {
      this.reviewLog = { id, entries: await get(`/api/projects/${this.project}/reviews/${id}/log`) };
      this.redraw();
    } catch (error) {
      this.failed(error);
    }
  },
});

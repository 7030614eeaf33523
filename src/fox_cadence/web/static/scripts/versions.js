// All versions of a piece side by side: begun, written, brought up to the first.

import { chosenFile, get, post, postForm } from "./api.js";
import { clock, counted, seconds } from "./format.js";
import { keepTyped } from "./typed_into.js";

/**
 * @typedef {import("./answers").VersionJson} Version
 * @typedef {import("./answers").CellJson} Cell
 * @typedef {import("./answers").UnitJson} Unit
 * @typedef {import("./answers").VersionsJson} Versions
 */

const LENGTHS_ASKED_MS = 700;

export function versions() {
  return {
    message: "",
    messageKind: "",
    /** @type {string[]} */
    remarks: [],
    busy: false,
    /** @type {Version[]} */
    all: [],
    /** @type {Unit[]} */
    units: [],
    kinds: ["csv", "docx", "xlf"],
    waiting: false,

    get project() {
      return /** @type {HTMLElement} */ (document.querySelector("[data-project]")).dataset.project ?? "";
    },

    async init() {
      await this.asked(() => get(`/api/projects/${this.project}/versions`));
    },

    /** @param {Versions} found */
    show(found) {
      this.all = found.versions;
      this.units = found.units;
      Alpine.nextTick(keepTyped);
      if (found.versions.some((each) => each.foreseeing)) this.again();
    },

    /** Lengths that become known later are told as they come. */
    again() {
      if (this.waiting) return;
      this.waiting = true;
      setTimeout(async () => {
        this.waiting = false;
        if (this.busy) return this.again();
        try {
          this.show(await get(`/api/projects/${this.project}/versions`)); // unseen: a button must not go away under a click
        } catch {
          // the next answer begins again
        }
      }, LENGTHS_ASKED_MS);
    },

    /** @param {() => Promise<any>} question @returns {Promise<any>} */
    async asked(question) {
      this.busy = true;
      try {
        const found = await question();
        this.show(found.versions && !Array.isArray(found.versions) ? found.versions : found);
        return found;
      } catch (error) {
        this.message = error instanceof Error ? error.message : String(error);
        this.messageKind = "error";
        return null;
      } finally {
        this.busy = false;
      }
    },

    /** @param {any} found @param {string} what */
    tell(found, what) {
      if (!found) return;
      this.messageKind = "";
      this.remarks = found.remarks ?? [];
      const without = found.without ? `, ${counted(found.without, "line")} without words yet` : "";
      this.message = `${what}: ${counted(found.placed, "line")} with words${without}.`;
    },

    /** @param {SubmitEvent} event */
    async begin(event) {
      const form = /** @type {HTMLFormElement} */ (event.target);
      const found = await this.asked(() =>
        postForm(`/api/projects/${this.project}/versions`, new FormData(form)),
      );
      this.tell(found, "The version is begun");
      if (found) form.reset();
    },

    /** @param {Event} event @param {Version} item */
    async fromFile(event, item) {
      const chosen = chosenFile(event);
      if (!chosen) return;
      const found = await this.asked(() => postForm(`/api/projects/${item.id}/version-file`, chosen.form));
      this.tell(found, item.language);
    },

    /** @param {Event} event @param {Unit} unit @param {number} place */
    async write(event, unit, place) {
      const text = /** @type {HTMLTextAreaElement} */ (event.target).value;
      const words = { [unit.id]: text };
      await this.asked(() => post(`/api/projects/${this.all[place].id}/version-words`, { words }));
    },

    /** @param {Unit} unit @param {number} place */
    async right(unit, place) {
      const body = { unit_ids: [unit.id] };
      await this.asked(() => post(`/api/projects/${this.all[place].id}/version-right`, body));
    },

    /** @param {Version} item */
    async catchUp(item) {
      if (await this.asked(() => post(`/api/projects/${item.id}/version-picture`)))
        this.message = `${item.language} has the picture, the music and the lines of the first again.`;
    },

    /** @param {Version} item @param {string} kind */
    fileOf: (item, kind) => `/api/projects/${item.id}/words-to-translate.${kind}`,
    /** @param {Version} item @param {number} place */
    wordsText: (item, place) => (place ? `${item.done} of ${item.total} translated` : ""),
    /** @param {Version} item */
    outOfDateText: (item) => `${item.out_of_date} out of date`,
    /** @param {Version} item */
    lengthText: (item) => clock(item.seconds),
    /** @param {Version} item @param {number} place */
    cutsText: (item, place) =>
      place === 0
        ? ""
        : item.cuts === "first"
          ? "as in the first"
          : item.cuts_moved_s >= 0.001
            ? `shots up to ${seconds(item.cuts_moved_s)} longer or shorter`
            : "as in the first so far",
    /** @param {Cell} cell @param {number} place */
    cellClass: (cell, place) =>
      `${place ? "" : "versions-first"} ${cell.unit === "out of date" ? "versions-old" : ""}`,
    /** @param {Cell} cell */
    howText: (cell) =>
      cell.seconds === null
        ? ""
        : `${cell.known ? "" : "≈"}${seconds(cell.seconds)}, ${cell.state}${cell.how ? `, ${cell.how}` : ""}`,
    /** @param {Cell} cell */
    unitText: (cell) =>
      cell.unit === "as in the first"
        ? "not translated yet"
        : cell.unit === "not here yet" || cell.unit === "only here"
          ? cell.unit
          : "",
    /** @param {number} place */
    lineNumber(place) {
      return String(this.units.slice(0, place + 1).filter((unit) => unit.kind === "line").length);
    },
    /** @param {Unit} unit @param {number} number @param {number} place */
    label(unit, number, place) {
      const names = { heading: "Heading", title: "Title", line: `Line ${this.lineNumber(number)}` };
      const what = names[unit.kind];
      return `${what}, ${this.all[place].language}`;
    },
  };
}

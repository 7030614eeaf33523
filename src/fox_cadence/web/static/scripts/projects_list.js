// The list of projects: copies, bundles out and in, deleting and bringing back, and what is kept on the disk.

import { chosenFile, follow, get, post, postForm } from "./api.js";
import { clock, counted, size } from "./format.js";

/**
 * @typedef {{id: string, name: string, series: string, language: string, picture: string, colour: string, seconds: number,
 *   lines: number, changed: string, open?: string}} Listed
 * @typedef {"changed"|"name"|"seconds"|"open"} Order
 */

const ORDER = "fox-cadence-order";

export function projectsList() {
  return {
    message: "",
    messageKind: "",
    /** @type {import("./types.d.ts").Job|null} */
    job: null,
    /** @type {Array<{place: string, message: string}>} */
    remarks: [],
    made: "",
    /** @type {Listed[]} */
    rows: [],
    query: "",
    /** @type {Order} */
    order: /** @type {Order} */ (localStorage.getItem(ORDER) ?? "changed"),

    async init() {
      this.rows = JSON.parse(document.getElementById("listed")?.textContent ?? "[]");
      for (const row of this.rows) {
        try {
          row.open = (await get(`/api/projects/${row.id}/standing`)).open_text;
        } catch {
          row.open = "";
        }
      }
    },

    /** @param {Order} order */
    setOrder(order) {
      this.order = order;
      localStorage.setItem(ORDER, order);
    },

    /** @returns {Listed[]} */
    get found() {
      const words = this.query.toLowerCase().split(/\s+/).filter(Boolean);
      const has = (/** @type {Listed} */ row) =>
        words.every((word) => `${row.name} ${row.series} ${row.language}`.toLowerCase().includes(word));
      /** @type {Record<Order, (a: Listed, b: Listed) => number>} */
      const orders = {
        changed: (a, b) => b.changed.localeCompare(a.changed),
        name: (a, b) => a.name.localeCompare(b.name),
        seconds: (a, b) => b.seconds - a.seconds,
        open: (a, b) => Number(Boolean(b.open)) - Number(Boolean(a.open)),
      };
      return this.rows.filter(has).sort(orders[this.order]);
    },

    /** Series by their names, and those in none last. @returns {Array<{name: string, rows: Listed[], first: boolean}>} */
    get groups() {
      const names = [...this.allSeries, ""];
      return names
        .map((name) => ({ name, rows: this.found.filter((row) => row.series === name), first: false }))
        .filter((group) => group.rows.length)
        .map((group, place) => ({ ...group, first: place === 0 }));
    },

    /** @returns {string[]} */
    get allSeries() {
      return [...new Set(this.rows.map((row) => row.series))].filter(Boolean).sort();
    },

    /** @returns {string} */
    get foundText() {
      return this.found.length === this.rows.length
        ? counted(this.rows.length, "project")
        : `${this.found.length} of ${counted(this.rows.length, "project")}`;
    },

    /** @param {Listed} row */
    linesText: (row) => counted(row.lines, "line"),
    /** @param {Listed} row */
    lengthText: (row) => clock(row.seconds),
    /** @param {Listed} row */
    changedText: (row) => `${row.changed.slice(0, 16).replace("T", " ")} UTC`,
    /** @param {Listed} row */
    standingText: (row) =>
      row.open === undefined ? "" : row.open || (row.lines ? "all done" : "nothing said yet"),

    /** @param {Event} event @param {Listed} row */
    async putInto(event, row) {
      const series = /** @type {HTMLInputElement} */ (event.target).value.trim();
      try {
        await post(`/api/projects/${row.id}/series`, { series });
        row.series = series;
      } catch (error) {
        this.failed(error);
      }
    },

    /** @param {string} project */
    async beginLike(project) {
      try {
        const made = await post(`/api/projects/${project}/begin-like`);
        location.assign(`/projects/${made.project}`);
      } catch (error) {
        this.failed(error);
      }
    },

    async makeSamples() {
      const job = await this.run(() => post("/api/samples"));
      if (job) location.assign(`/projects/${job.result.project}`);
    },

    get busy() {
      return this.job !== null;
    },

    /** @param {unknown} error */
    failed(error) {
      this.job = null;
      this.tell(error instanceof Error ? error.message : String(error), "error");
    },

    /** @param {string} text @param {string} kind */
    tell(text, kind) {
      this.message = text;
      this.messageKind = kind;
    },

    /** Ask for something, then show the list as it is now. @param {string} path */
    async change(path) {
      try {
        await post(path);
        location.reload();
      } catch (error) {
        this.failed(error);
      }
    },

    /** @param {string} project */
    copy(project) {
      return this.change(`/api/projects/${project}/copy`);
    },
    /** @param {string} project */
    remove(project) {
      return this.change(`/api/projects/${project}/delete`);
    },
    /** @param {string} project */
    bringBack(project) {
      return this.change(`/api/projects/${project}/bring-back`);
    },

    /** @param {HTMLElement} button in the row of the project */
    removeForGood(button) {
      const { id: project, name } = button.parentElement?.dataset ?? {};
      if (confirm(`Delete “${name}” permanently? It can't be restored.`))
        return this.change(`/api/projects/${project}/delete-for-good`);
    },

    /** @param {string} project */
    async pack(project) {
      const job = await this.run(() => post(`/api/projects/${project}/bundle`));
      if (!job) return;
      const { file, bytes } = job.result;
      this.tell(`Packed: ${file}, ${size(bytes)}.`, "good");
      location.assign(`/api/projects/${project}/bundle/${encodeURIComponent(file)}`);
    },

    /** @param {Event} event */
    async unpack(event) {
      const chosen = chosenFile(event);
      if (!chosen) return;
      const job = await this.run(() => postForm("/api/bundles", chosen.form));
      if (!job) return;
      this.made = job.result.project;
      this.remarks = job.result.remarks;
      if (!this.remarks.length) location.assign(`/projects/${this.made}`);
    },

    /** @param {() => Promise<any>} ask @returns {Promise<any>} the job when it is done */
    async run(ask) {
      if (this.busy) return null;
      this.message = "";
      try {
        this.job = { id: "", kind: "", state: "running", done: 0, total: 0, note: "Sending", result: {} };
        const job = await follow(await ask(), (now) => {
          this.job = now;
        });
        this.job = null;
        if (job.state === "done") return job;
        this.tell(job.note, "error");
      } catch (error) {
        this.failed(error);
      }
      return null;
    },

    async stop() {
      if (this.job?.id) await post(`/api/jobs/${this.job.id}/cancel`).catch(() => {});
    },

    clean() {
      return this.change("/api/kept/clean");
    },
    uncleaned() {
      return this.change("/api/kept/bring-back");
    },
  };
}

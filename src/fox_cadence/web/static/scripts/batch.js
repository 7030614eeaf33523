// Several projects made by one docket: what is wanted, how far it is, and the table of what became of each.

import { bytes, chosenFile, get, post, postForm } from "./api.js";
import { counted } from "./format.js";
import { rowTitle } from "./piece/docket.js";

/**
 * @typedef {{id: string, name: string, series: string, language: string, seconds: number, lines: number}} Offered
 * @typedef {{project: string, piece: string, language: string, product: string, state: "waiting"|"made"|"kept"|"failed",
 *   files: Array<{name: string}>, in_sync: boolean|null, reason: string}} Row
 */

const ASKED_MS = 700;
const STANDS = { waiting: "waits", made: "made", kept: "was there already", failed: "failed" };

export function batch() {
  return {
    /** @type {{projects: Offered[], products: string[]}} */
    offered: { projects: [], products: [] },
    /** @type {string[]} */
    projects: [],
    /** @type {string[]} */
    products: [],
    docket: "",
    voice: true,
    prove: false,
    work: { title: "", author: "", category: "", description: "", cover_hash: "" },
    message: "",
    wrong: false,
    /** @type {import("./types.d.ts").Job|null} */
    job: null,
    /** @type {Row[]} */
    rows: [],

    async init() {
      const told = document.getElementById("offered")?.textContent;
      if (!told) return;
      this.offered = JSON.parse(told);
      await this.follow();
    },

    counted,
    titleOf: rowTitle,

    /** @param {Offered} item */
    about: (item) => [item.series, item.language, counted(item.lines, "line")].filter(Boolean).join(", "),

    /** @param {Row} row */
    stands: (row) =>
      STANDS[row.state] + (row.in_sync === true ? ", in sync" : row.in_sync === false ? ", not in sync" : ""),

    /** @param {Row} row @param {{name: string}} file */
    address: (row, file) => `/api/projects/${row.project}/exports/${encodeURIComponent(file.name)}`,

    get everything() {
      return this.projects.length === this.offered.projects.length;
    },
    chooseAll() {
      this.projects = this.everything ? [] : this.offered.projects.map((item) => item.id);
    },

    get ready() {
      return this.projects.length > 0 && (this.products.length > 0 || this.docket !== "");
    },
    get beginText() {
      return this.ready
        ? `Make them for ${counted(this.projects.length, "project")}`
        : "Choose projects and products";
    },
    get busy() {
      return this.job !== null && (this.job.state === "waiting" || this.job.state === "running");
    },
    get countsText() {
      const count = (/** @type {string} */ state) => this.rows.filter((row) => row.state === state).length;
      const off = this.rows.filter((row) => row.in_sync === false).length;
      return [
        count("made") && `${count("made")} made`,
        count("kept") && `${count("kept")} there already`,
        count("failed") && `${count("failed")} failed`,
        count("waiting") && `${count("waiting")} waiting`,
        off && `${off} not in sync`,
      ]
        .filter(Boolean)
        .join(", ");
    },

    /** What is wanted, as it is sent. */
    wish() {
      const order = this.offered.projects.map((item) => item.id);
      const chosen = this.projects.slice().sort((a, b) => order.indexOf(a) - order.indexOf(b));
      return {
        piece: chosen.map((project) => ({ project })),
        products: this.offered.products.filter((name) => this.products.includes(name)),
        docket: this.docket,
        voice: this.voice,
        prove: this.prove,
        work: this.work.title.trim() ? this.work : null,
      };
    },

    get coverAddress() {
      return this.work.cover_hash ? `/api/covers/${this.work.cover_hash}` : "";
    },

    /** @param {Event} event */
    async chooseCover(event) {
      const chosen = chosenFile(event);
      if (!chosen) return;
      this.message = "";
      try {
        this.work.cover_hash = (await postForm("/api/covers", chosen.form)).cover_hash;
      } catch (error) {
        this.failed(error);
      }
    },
    noCover() {
      this.work.cover_hash = "";
      document.getElementById("work-cover")?.focus();
    },

    async begin() {
      this.message = "";
      try {
        this.job = await post("/api/batches", this.wish());
        await this.follow();
      } catch (error) {
        this.failed(error);
      }
    },

    /** Show the newest batch, until it has ended. */
    async follow() {
      try {
        for (;;) {
          const { job, table } = await get("/api/batches/newest");
          this.job = job;
          this.rows = table?.rows ?? [];
          if (!this.busy) break;
          await new Promise((later) => setTimeout(later, ASKED_MS));
        }
        if (this.job && this.job.state !== "done") this.failed(new Error(this.job.note));
      } catch (error) {
        this.failed(error);
      }
    },

    async write() {
      try {
        const data = await bytes("/api/batches/written", this.wish());
        const link = document.createElement("a");
        link.href = URL.createObjectURL(new Blob([data], { type: "application/toml" }));
        link.download = "batch.toml";
        link.click();
        setTimeout(() => URL.revokeObjectURL(link.href), 1000);
        this.wrong = false;
        this.message = "Written down. In a terminal: fox-cadence batch batch.toml";
      } catch (error) {
        this.failed(error);
      }
    },

    async stop() {
      if (this.job?.id) await post(`/api/jobs/${this.job.id}/cancel`).catch(() => {});
    },

    /** @param {unknown} error */
    failed(error) {
      this.wrong = true;
      this.message = error instanceof Error ? error.message : String(error);
    },
  };
}

// The list of projects: copies, bundles out and in, deleting and bringing back, and what is kept on the disk.

import { follow, post, postForm } from "./api.js";
import { size } from "./format.js";

export function projectsList() {
  return {
    message: "",
    messageKind: "",
    /** @type {import("./types.d.ts").Job|null} */
    job: null,
    /** @type {Array<{place: string, message: string}>} */
    remarks: [],
    made: "",

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
      if (confirm(`Delete “${name}” for good? It can't be brought back.`))
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
      const field = /** @type {HTMLInputElement} */ (event.target);
      const file = field.files?.[0];
      if (!file) return;
      const form = new FormData();
      form.append("file", file, file.name);
      field.value = "";
      const job = await this.run(() => postForm("/api/bundles", form));
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

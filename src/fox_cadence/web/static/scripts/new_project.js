// A project of one's own: files chosen or dropped, what will happen said before anything does.

import { follow, postForm } from "./api.js";
import { counted, size } from "./format.js";

const WORDS = [".srt", ".vtt", ".txt", ".text", ".md", ".markdown", ".docx"];
const SOUND = [".wav", ".mp3", ".flac", ".ogg", ".m4a", ".aac", ".opus", ".aiff"];
const STILL = [".png", ".jpg", ".jpeg", ".webp", ".bmp", ".tif", ".tiff"];

/** @param {string} name @returns {string} what a file will become */
function becomes(name) {
  const suffix = name.slice(name.lastIndexOf(".")).toLowerCase();
  if (WORDS.includes(suffix)) return "words";
  if (SOUND.includes(suffix)) return "bed";
  return STILL.includes(suffix) ? "held shot" : "shot";
}

export function newProject() {
  return {
    /** @type {File[]} */
    files: [],
    over: false,
    message: "",
    /** @type {import("./types.js").Job|null} */
    job: null,
    /** @type {{project: string, remarks: Array<{place: string, message: string}>}|null} */
    made: null,

    /** @param {Event} event */
    chosen(event) {
      const field = /** @type {HTMLInputElement} */ (event.target);
      this.add([...(field.files ?? [])]);
      field.value = "";
    },

    /** @param {DragEvent} event */
    dropped(event) {
      this.over = false;
      this.add([...(event.dataTransfer?.files ?? [])]);
    },

    /** @param {File[]} files */
    add(files) {
      this.files = [...this.files, ...files];
      this.message = "";
    },

    /** @param {number} index */
    remove(index) { this.files = this.files.filter((_, number) => number !== index); },

    /** @param {number} index */
    earlier(index) {
      if (index === 0) return;
      const files = [...this.files];
      [files[index - 1], files[index]] = [files[index], files[index - 1]];
      this.files = files;
    },

    /** @param {File} file */
    kind(file) { return becomes(file.name); },
    /** @param {File} file */
    sizeOf(file) { return size(file.size); },

    get plan() {
      const kinds = this.files.map((file) => becomes(file.name));
      const shots = kinds.filter((kind) => kind === "shot" || kind === "held shot").length;
      const words = kinds.filter((kind) => kind === "words").length;
      const beds = kinds.filter((kind) => kind === "bed").length;
      const parts = [counted(shots, "shot"), words ? "captions from the file of words" : "", beds ? "one bed" : ""];
      return this.files.length ? `This makes ${parts.filter(Boolean).join(", ")}.` : "";
    },

    get busy() { return this.job !== null; },

    /** @param {SubmitEvent} event */
    async make(event) {
      event.preventDefault();
      if (this.busy) return;
      const form = new FormData(/** @type {HTMLFormElement} */ (event.target));
      for (const file of this.files) form.append("files", file, file.name);
      this.message = "";
      try {
        this.job = { id: "", kind: "", state: "running", done: 0, total: 0, note: "Sending the files", result: {} };
        const job = await follow(await postForm("/api/projects", form), (now) => { this.job = now; });
        this.job = null;
        if (job.state !== "done") {
          this.message = job.note;
          return;
        }
        this.made = /** @type {any} */ (job.result);
        if (this.made?.remarks.length === 0) location.assign(`/projects/${this.made.project}`);
      } catch (error) {
        this.job = null;
        this.message = error instanceof Error ? error.message : String(error);
      }
    },
  };
}

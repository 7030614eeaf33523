// A project of one's own: files chosen or dropped, what will happen said before anything does.

import { follow, postForm } from "./api.js";
import { counted, size } from "./format.js";

const WORDS = [".srt", ".vtt", ".sbv", ".txt", ".text", ".md", ".markdown", ".docx", ".csv", ".tsv", ".ssml"];
const SOUND = [".wav", ".mp3", ".flac", ".ogg", ".m4a", ".aac", ".opus", ".aiff"];
const STILL = [".png", ".jpg", ".jpeg", ".webp", ".bmp", ".tif", ".tiff"];

const TIMELINE = [".otio", ".edl"];

const STILL_S = 4;
const REST_MS = 350;

/** @param {string} name @returns {string} what a file will become */
function becomes(name) {
  const suffix = name.slice(name.lastIndexOf(".")).toLowerCase();
  if (WORDS.includes(suffix)) return "words";
  if (TIMELINE.includes(suffix)) return "timeline";
  if (SOUND.includes(suffix)) return "bed";
  return STILL.includes(suffix) ? "held shot" : "shot";
}

export function newProject() {
  return {
    /** @type {File[]} */
    files: [],
    over: false,
    message: "",
    /** @type {import("./types.d.ts").Job|null} */
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
      for (const file of files) this.readLength(file);
      this.readWords();
    },

    /** What the words hold, said before anything is made. @type {any} */
    words: null,
    reading: 0,
    /** How long the browser finds that each video lasts, in seconds. @type {Map<File, number>} */
    lengths: new Map(),

    get wordsFile() {
      return this.files.find((file) => becomes(file.name) === "words") ?? null;
    },

    pastedWords() {
      const asked = ++this.reading;
      setTimeout(() => {
        if (asked === this.reading) this.readWords();
      }, REST_MS);
    },

    /** Ask what the words hold and how long they last. */
    async readWords() {
      const asked = ++this.reading;
      const from = new FormData(/** @type {HTMLFormElement} */ (document.querySelector("form")));
      const pasted = String(from.get("pasted") ?? "");
      const form = new FormData();
      if (!pasted.trim() && this.wordsFile) form.append("file", this.wordsFile, this.wordsFile.name);
      for (const field of ["pasted", "language", "encoding", "names", "descriptions"])
        if (from.get(field)) form.append(field, String(from.get(field)));
      if (!pasted.trim() && !this.wordsFile) {
        this.words = null;
        return;
      }
      try {
        const found = await postForm("/api/words/overview", form);
        if (asked !== this.reading) return;
        this.words = found;
        this.message = "";
      } catch (error) {
        if (asked !== this.reading) return;
        this.words = null;
        this.message = error instanceof Error ? error.message : String(error);
      }
    },

    /** How long a video lasts, where the browser can tell; the server reads it for itself. @param {File} file */
    readLength(file) {
      if (becomes(file.name) !== "shot" || file.size === 0) return;
      const probe = document.createElement("video");
      const address = URL.createObjectURL(file);
      const done = () => URL.revokeObjectURL(address);
      probe.preload = "metadata";
      probe.addEventListener("loadedmetadata", () => {
        this.lengths = new Map(this.lengths).set(file, probe.duration);
        done();
      });
      probe.addEventListener("error", done);
      probe.src = address;
    },

    /** How long the pictures last; null where the browser can't tell for all of them. @returns {number|null} */
    get pictureSeconds() {
      let sum = 0;
      for (const file of this.files) {
        const kind = becomes(file.name);
        if (kind === "held shot") sum += STILL_S;
        if (kind !== "shot") continue;
        const length = this.lengths.get(file);
        if (length === undefined || !Number.isFinite(length)) return null;
        sum += length;
      }
      return sum;
    },

    get wordsAlarm() {
      return (
        this.pictureSeconds !== null &&
        this.pictureSeconds > 0 &&
        this.words.seconds > this.pictureSeconds + 0.05
      );
    },

    get wordsText() {
      const { lines, seconds, timed } = this.words;
      const said = `${counted(lines, timed ? "caption" : "line")}, ${timed ? "until" : "about"} ${seconds.toFixed(1)} s${timed ? "" : " when spoken"}`;
      const picture = this.pictureSeconds;
      if (picture === 0)
        return `${said}. There is no picture: the words get plain colours for as long as they need.`;
      if (picture === null) return `${said}. How long the pictures last is found out when they come in.`;
      if (!this.wordsAlarm) return `${said}; the pictures have ${picture.toFixed(1)} s.`;
      return `${said}; the pictures have only ${picture.toFixed(1)} s, so they will last longer: stills are held, clips hold their last frame.`;
    },

    get offeredNames() {
      return Object.entries(this.words?.offers.names ?? {})
        .map(([name, count]) => `${name} (${count})`)
        .join(", ");
    },

    /** @param {number} index */
    remove(index) {
      this.files = this.files.filter((_, number) => number !== index);
      this.readWords();
    },

    /** @param {number} index */
    earlier(index) {
      if (index === 0) return;
      const files = [...this.files];
      [files[index - 1], files[index]] = [files[index], files[index - 1]];
      this.files = files;
    },

    /** @param {File} file */
    kind(file) {
      return becomes(file.name);
    },
    /** @param {File} file */
    sizeOf(file) {
      return size(file.size);
    },

    get plan() {
      const kinds = this.files.map((file) => becomes(file.name));
      const shots = kinds.filter((kind) => kind === "shot" || kind === "held shot").length;
      const words = kinds.filter((kind) => kind === "words").length;
      const beds = kinds.filter((kind) => kind === "bed").length;
      if (kinds.includes("timeline"))
        return "This makes the shots of the timeline; the other files are found by the names it gives them.";
      const parts = [
        counted(shots, "shot"),
        words ? "captions from the file of words" : "",
        beds ? "one bed" : "",
      ];
      return this.files.length ? `This makes ${parts.filter(Boolean).join(", ")}.` : "";
    },

    get busy() {
      return this.job !== null;
    },

    /** @param {SubmitEvent} event */
    async make(event) {
      event.preventDefault();
      if (this.busy) return;
      const form = new FormData(/** @type {HTMLFormElement} */ (event.target));
      for (const file of this.files) form.append("files", file, file.name);
      this.message = "";
      try {
        this.job = {
          id: "",
          kind: "",
          state: "running",
          done: 0,
          total: 0,
          note: "Sending the files",
          result: {},
        };
        const job = await follow(await postForm("/api/projects", form), (now) => {
          this.job = now;
        });
        this.job = null;
        if (job.state !== "done") {
          this.message = job.note;
          return;
        }
        this.made = /** @type {any} */ (job.result);
        if (this.made?.remarks.length === 0) location.assign(`/projects/${this.made.project}`);
        // the form that held the focus is gone: without this the keyboard would begin at the top of the page again
        else setTimeout(() => document.getElementById("open-made")?.focus());
      } catch (error) {
        this.job = null;
        this.message = error instanceof Error ? error.message : String(error);
      }
    },
  };
}

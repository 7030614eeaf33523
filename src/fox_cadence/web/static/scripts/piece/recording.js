// Recorded voices: files, and the microphone with a count-in, a level and the picture running.

import { follow, postForm } from "../api.js";
import { part } from "./compose.js";
import { begun } from "./work.js";

/** The microphone; outside of Alpine's state. */
const mic = {
  /** @type {MediaStream|null} */
  stream: null,
  /** @type {MediaRecorder|null} */
  recorder: null,
  /** @type {AudioContext|null} */
  context: null,
};

const COUNT_IN = 3;

export const recording = part({
  recordState: /** @type {""|"counting"|"recording"} */ (""),
  countIn: 0,
  level: 0,
  recordFor: "line",
  /** Attempts of this window, until they are used or thrown away. @type {Array<{name: string, blob: Blob, address: string, seconds: number}>} */
  attempts: [],
  /** Words that may have been said otherwise, by line. @type {Array<{line: string, seconds: number, doubtful: string[]}>} */
  recordedLines: [],
  recordNote: "",
  draft: "",

  async startRecording() {
    if (this.recordState) return;
    try {
      mic.stream = await navigator.mediaDevices.getUserMedia({
        audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false },
      });
    } catch (error) {
      const refused = error instanceof DOMException && error.name === "NotAllowedError";
      return this.tell(
        refused
          ? "The browser does not let this page use a microphone. Allow it beside the address, or choose a file."
          : "No microphone was found. Plug one in, or choose a file.",
        "error",
      );
    }
    this.recordState = "counting";
    this.showLevel(mic.stream);
    for (let left = COUNT_IN; left > 0; left -= 1) {
      this.countIn = left;
      await new Promise((resolve) => setTimeout(resolve, 700));
      if (this.recordState !== "counting") return;
    }
    this.countIn = 0;
    /** @type {Blob[]} */
    const parts = [];
    const recorder = new MediaRecorder(mic.stream);
    const began = performance.now();
    recorder.ondataavailable = (event) => parts.push(event.data);
    recorder.onstop = () => {
      const blob = new Blob(parts, { type: recorder.mimeType });
      const seconds = (performance.now() - began) / 1000;
      this.attempts = [
        ...this.attempts,
        { name: `Attempt ${this.attempts.length + 1}`, blob, address: URL.createObjectURL(blob), seconds },
      ];
      this.closeMic();
    };
    mic.recorder = recorder;
    recorder.start();
    this.recordState = "recording";
    const line = this.chosenLine;
    if (line) this.moved(line.start_s, true);
    this.runPicture(line?.start_s ?? 0, began);
  },

  /** The picture runs along without its sound, from where the line begins. @param {number} from @param {number} began */
  runPicture(from, began) {
    const step = () => {
      if (this.recordState !== "recording") return;
      this.moved(from + (performance.now() - began) / 1000, true);
      requestAnimationFrame(step);
    };
    step();
  },

  /** @param {MediaStream} stream */
  showLevel(stream) {
    const context = new AudioContext();
    const meter = context.createAnalyser();
    meter.fftSize = 1024;
    context.createMediaStreamSource(stream).connect(meter);
    mic.context = context;
    const samples = new Float32Array(meter.fftSize);
    const step = () => {
      if (!this.recordState) return;
      meter.getFloatTimeDomainData(samples);
      const peak = samples.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
      this.level = Math.max(peak, this.level * 0.9);
      requestAnimationFrame(step);
    };
    requestAnimationFrame(step);
  },

  stopRecording() {
    if (this.recordState === "recording") mic.recorder?.stop();
    else this.closeMic();
  },

  closeMic() {
    this.recordState = "";
    this.level = 0;
    for (const track of mic.stream?.getTracks() ?? []) track.stop();
    mic.context?.close();
    mic.stream = mic.recorder = mic.context = null;
  },

  /** @returns {string} */
  get levelText() {
    const db = this.level > 0 ? 20 * Math.log10(this.level) : -99;
    if (db < -50) return "nothing is heard";
    if (db < -30) return "soft; come nearer";
    return db > -1 ? "too loud" : "good";
  },

  /** @param {number} place */
  dropAttempt(place) {
    URL.revokeObjectURL(this.attempts[place].address);
    this.attempts = this.attempts.filter((_, index) => index !== place);
  },

  /** @param {Event} event @param {boolean} draft */
  async recordingChosen(event, draft) {
    const field = /** @type {HTMLInputElement} */ (event.target);
    const file = field.files?.[0];
    field.value = "";
    if (file) await (draft ? this.askDraft(file, file.name) : this.useRecording(file, file.name));
  },

  /** Lines the recording is for: the chosen one, or all from first to last. @returns {string[]} */
  get recordLines() {
    return this.recordFor === "all" ? this.t.lines.map((item) => item.id) : [this.line];
  },

  /** @param {Blob} blob @param {string} name */
  async useRecording(blob, name) {
    const job = await this.sendRecording(blob, name, this.recordLines.join(","));
    if (job?.state !== "done") return;
    await this.refresh();
    this.recordedLines = job.result.lines;
    const doubtful = this.recordedLines.filter((item) => item.doubtful.length).length;
    this.recordNote = job.result.checked
      ? doubtful
        ? "Some words may differ from the script; listen to them."
        : "All words were found as they are written."
      : "Words were placed by a reading; whether others were said can be told in English only.";
    this.tell(
      `${this.counted(this.recordedLines.length, "line")} recorded. ${this.recordNote}`,
      doubtful ? "note" : "good",
    );
  },

  /** @param {Blob} blob @param {string} name */
  async askDraft(blob, name) {
    const job = await this.sendRecording(blob, name, "");
    if (job?.state === "done") this.draft = job.result.draft;
  },

  /** @param {Blob} blob @param {string} name @param {string} lines */
  async sendRecording(blob, name, lines) {
    await this.changing;
    if (this.occupied()) return null;
    const form = new FormData();
    form.append("file", blob, name.includes(".") ? name : `${name}.webm`);
    form.append("line_ids", lines);
    try {
      this.job = begun("Sending the recording");
      const job = await follow(await postForm(`/api/projects/${this.project}/recordings`, form), (now) => {
        this.job = now;
      });
      this.job = null;
      if (job.state !== "done") this.tell(job.note, job.state === "failed" ? "error" : "note");
      return job;
    } catch (error) {
      this.job = null;
      this.failed(error);
      return null;
    }
  },

  /** @param {string} id */
  lineNumberOf(id) {
    return this.t.lines.findIndex((item) => item.id === id) + 1;
  },
});

// Other performances of a line: sung, or said by another voice with the timing of its recording.

import { get, post } from "../api.js";
import { part } from "./compose.js";
import { begun } from "./work.js";

const TONES = ["c", "c sharp", "d", "e flat", "e", "f", "f sharp", "g", "a flat", "a", "b flat", "b"];

export const performing = part({
  /** @type {Array<{id: string, name: string, minor: boolean}>} */
  tunes: [],
  sungTune: "lapping",
  sungNotes: "",
  sayVoice: "",

  async learnTunes() {
    if (this.tunes.length) return;
    try {
      this.tunes = (await get("/api/tunes")).tunes;
    } catch (error) {
      this.failed(error);
    }
  },

  /** @param {string} what in words @param {() => Promise<any>} request @returns {Promise<any>} */
  async perform(what, request) {
    if (!this.line || this.looksBack() || this.occupied()) return null;
    await this.changing;
    this.job = begun(what);
    try {
      const made = await request();
      this.job = null;
      await this.refresh();
      await this.hearLine();
      return made;
    } catch (error) {
      this.job = null;
      this.failed(error);
      return null;
    }
  },

  async singLine() {
    const typed = this.sungTune === "typed";
    const body = { tune: typed ? "" : this.sungTune, notes: typed ? this.sungNotes : "" };
    const made = await this.perform("Singing the line", () =>
      post(`/api/projects/${this.project}/lines/${this.line}/sing`, body),
    );
    if (!made) return;
    const where = made.with_bed
      ? `in the bed’s key, on ${TONES[made.tonic]}, and on its beats`
      : "at its own pitch";
    this.tell(`Sung ${where}, ${made.tempo_bpm.toFixed(0)} beats a minute. The takes it had stay.`, "good");
  },

  async sayAsRecorded() {
    const made = await this.perform("Saying the line as it was recorded", () =>
      post(`/api/projects/${this.project}/lines/${this.line}/say-as-recorded`, {
        voice_id: this.sayVoice,
      }),
    );
    if (made) this.tell("Each word is where the person said it. The recording stays.", "good");
  },
});

// Other performances of a line: sung, said by another voice with the timing of its recording, or its recording
// at another tempo.

import { get } from "../api.js";
import { part } from "./compose.js";

const TONES = ["c", "c sharp", "d", "e flat", "e", "f", "f sharp", "g", "a flat", "a", "b flat", "b"];

export const performing = part({
  /** @type {Array<{id: string, name: string, minor: boolean}>} */
  tunes: [],
  sungTune: "lapping",
  sungNotes: "",
  sayVoice: "",
  tempoPercent: "90",

  async learnTunes() {
    if (this.tunes.length) return;
    try {
      this.tunes = (await get("/api/tunes")).tunes;
    } catch (error) {
      this.failed(error);
    }
  },

  /** Another performance of the chosen line, heard when it is there. @param {string} how @param {object} body @returns {Promise<any>} its result, null where nothing was made */
  async perform(how, body) {
    if (!this.line || this.looksBack()) return null;
    const job = await this.run(`/api/projects/${this.project}/lines/${this.line}/${how}`, body);
    if (job?.state !== "done") return null;
    await this.refresh();
    await this.hearLine();
    return job.result;
  },

  async singLine() {
    const typed = this.sungTune === "typed";
    const body = { tune: typed ? "" : this.sungTune, notes: typed ? this.sungNotes : "" };
    const made = await this.perform("sing", body);
    if (!made) return;
    const where = made.with_bed
      ? `in the bed’s key, on ${TONES[made.tonic]}, and on its beats`
      : "at its own pitch";
    this.tell(`Sung ${where}, ${made.tempo_bpm.toFixed(0)} beats a minute. The takes it had stay.`, "good");
  },

  async recordingAtTempo() {
    if (await this.perform("tempo", { percent: Number(this.tempoPercent) }))
      this.tell("Every word moved along. The recording as it was stays.", "good");
  },

  async sayAsRecorded() {
    if (await this.perform("say-as-recorded", { voice_id: this.sayVoice }))
      this.tell("Each word is where the person said it. The recording stays.", "good");
  },
});

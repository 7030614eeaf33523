// Cleaning recorded takes: noise, the room, the level; heard with and without.

import { SideBySide } from "../frame/side_by_side.js";
import { part } from "./compose.js";
import { page } from "./page.js";

const side = new SideBySide();

export const cleaning = part({
  cleanNoise: 24,
  cleanRoom: 0,
  cleanEven: false,
  cleanCompared: false,
  cleanWithout: false,

  /** The lines that play a recording. @returns {string[]} */
  get recordedHere() {
    return this.t.lines.filter((item) => item.take?.recorded).map((item) => item.id);
  },

  /** The take the chosen line plays, where it is a recording. @returns {import("../answers.d.ts").LineTakeJson|null} */
  get recordedTake() {
    const take = this.chosenLine?.take ?? null;
    return take?.recorded ? take : null;
  },

  /** @param {string[]} lines */
  async clean(lines) {
    this.stopCleaned();
    const job = await this.run(`/api/projects/${this.project}/clean`, {
      line_ids: lines,
      cleaning: {
        noise_db: Number(this.cleanNoise),
        room_db: Number(this.cleanRoom),
        even: this.cleanEven,
      },
    });
    if (job?.state !== "done") return;
    await this.refresh();
    this.tell(
      `${this.counted(job.result.lines.length, "recording")} cleaned: the quiet between the words is ${job.result.quieter_db.toFixed(1)} dB quieter. The first takes stay.`,
      "good",
    );
  },

  /** Back to the take it was cleaned of. */
  uncleaned() {
    const first = this.recordedTake?.cleaned_from;
    this.stopCleaned();
    return first && this.chooseTake(first);
  },

  async compareCleaned() {
    if (this.cleanCompared) return this.stopCleaned();
    const take = this.recordedTake;
    if (!take?.cleaned_from) return;
    page.player.stop();
    try {
      await side.play([`/api/takes/${take.id}/sound.wav`, `/api/takes/${take.cleaned_from}/sound.wav`], 0);
      this.cleanCompared = true;
    } catch (error) {
      this.failed(error);
    }
  },

  stopCleaned() {
    side.stop();
    this.cleanCompared = false;
    this.cleanWithout = false;
  },

  /** @param {boolean} without */
  hearUncleaned(without) {
    if (!this.cleanCompared || this.cleanWithout === without) return;
    this.cleanWithout = without;
    side.hear(without ? 1 : 0);
  },
});

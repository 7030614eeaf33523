// Filling a stretch with pictures from the shelf: asked for, looked at, changed shot by shot, laid in one step.

import { post } from "../api.js";
import { part } from "./compose.js";
import { page } from "./page.js";

/** @typedef {import("../answers.d.ts").FillJson} Fill */
/** @typedef {import("../answers.d.ts").ShelfItemJson} Item */
/** @typedef {import("../answers.d.ts").ShotChoiceJson} Choice */

export const filling = part({
  fillShown: false,
  /** What a fill would make; null until it is asked for. @type {Fill|null} */
  fillPlan: null,
  /** The state of the piece it was made for. */
  fillRevision: 0,
  fillWhat: "line",
  fillWish: { shortest_s: 5, longest_s: 7, fewest: 3, most: 4, on_beats: false },
  fillAsking: false,

  openFill() {
    this.fillShown = true;
    this.$nextTick(() => this.$root.querySelector("#fill-panel")?.scrollIntoView({ block: "nearest" }));
  },

  closeFill() {
    this.fillShown = false;
    this.fillPlan = null;
  },

  /** Sections of the piece by the number they are asked for by; none where there is only one. @returns {Array<{number: number, name: string}>} */
  get fillSections() {
    return (this.t.coverage?.sections ?? []).map(({ name }, place) => ({ number: place + 1, name }));
  },

  async planFill() {
    const [what, number] = this.fillWhat.split(" ");
    const asked = {
      wish: this.fillWish,
      line: what === "line" ? this.line : null,
      section: what === "section" ? Number(number) : null,
    };
    this.fillAsking = true;
    try {
      this.fillPlan = await post(`/api/projects/${this.project}/fill/plan`, asked);
      this.fillRevision = this.t.revision;
    } catch (error) {
      this.fillPlan = null;
      this.failed(error);
    } finally {
      this.fillAsking = false;
    }
  },

  /** @param {string} id @returns {string} */
  fillTitle(id) {
    return this.fillPlan?.items[id]?.title ?? "";
  },

  /** @param {string} id @returns {string} */
  fillPicture(id) {
    const looks = this.fillPlan?.items[id]?.looks ?? [];
    return looks[Math.floor(looks.length / 2)] ?? "";
  },

  /** Show something else in a shot of the plan; what it showed can be had again. @param {Choice} choice @param {string} item */
  exchange(choice, item) {
    choice.others = choice.others.map((each) => (each === item ? choice.item : each));
    choice.item = item;
  },

  /** @param {Choice} choice */
  choiceText(choice) {
    const s = this.frameSeconds;
    return `${this.clock(choice.start * s)}, ${this.seconds((choice.end - choice.start) * s)}`;
  },

  /** @returns {number} */
  get fillCount() {
    return this.fillPlan?.plans.reduce((sum, plan) => sum + plan.shots.length, 0) ?? 0;
  },

  async acceptFill() {
    if (!this.fillPlan) return;
    if (this.fillRevision !== this.t.revision) {
      this.tell("The piece has changed since; the fill was made again. Look it over.", "note");
      return this.planFill();
    }
    const job = await this.run(`/api/projects/${this.project}/fill`, { plans: this.fillPlan.plans });
    if (job?.state !== "done") return;
    await this.refresh();
    this.closeFill();
    this.tell(`${this.counted(job.result.shots, "shot")} laid. Undo takes all of them back.`, "good");
  },

  /** Lay something of the shelf. @param {Item} item @param {number} gap @param {string[]|null} colours */
  async layItem(item, gap, colours) {
    if (item.kind === "over") return this.layOver(item.id.replace(/^over-/, ""));
    if (item.clip && this.t.clips[item.clip]) return this.placeClip(item.clip, gap);
    const asked = { item: item.id, ...this.whereOf(gap), colours };
    const job = await this.run(`/api/projects/${this.project}/shelf`, asked);
    if (job?.state !== "done") return;
    await this.refresh();
    this.shot = job.result.shot;
    this.tell(`${item.title} laid as shot ${this.shotNumber}.`, "good");
  },

  /** The sound of a clip alone. @param {string} hash */
  hearClip(hash) {
    return page.player
      .playSound(`/media/clips/${hash}/sound.wav`, "clip")
      .catch((error) => this.failed(error));
  },
});

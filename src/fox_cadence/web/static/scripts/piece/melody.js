// The melody of the chosen line: its pitch as it was made, and as another delivery would have it.

import { post } from "../api.js";
import { part } from "./compose.js";

const [WIDE, HIGH, EDGE] = [400, 84, 6];
/** A break of more than this many seconds without pitch lifts the pen. */
const BREAK_S = 0.07;

/** The numbers of a delivery that are seen in a melody. @type {Record<string, string>} */
const SLID = { pace: "pace ×", pitch_semitones: "semitones", pitch_range: "melody ×" };

/** What a slide stands at, which the number beside it shows too. @param {Event} event */
function slid(event) {
  const slide = /** @type {HTMLInputElement} */ (event.target);
  /** @type {HTMLInputElement} */ (slide.nextElementSibling).value = slide.value;
  return Number(slide.value);
}

/** @typedef {Array<[number, number]>} Points */

export const melody = part({
  /** @type {{measured: Points, would_be: Points}|null} */
  tune: null,
  tuneFor: "",
  /** What the dashed melody is of, in words. */
  tuneOf: "",
  /** The newest question, while an older one is on its way. @type {(() => Promise<void>)|null} */
  tuneNext: null,
  tuneAsking: false,
  tuneWhy: "",

  /** What the melody of the chosen line depends on. @returns {string} */
  get tuneKey() {
    const line = this.chosenLine;
    return line ? `${line.id} ${line.take?.hash ?? ""} ${line.state}` : "";
  },

  /** Have the melody follow the line; what is pointed at meanwhile asks for itself. @param {string} _key */
  followTune(_key) {
    queueMicrotask(() => this.askTune());
  },

  /** Ask for the melody of the chosen line, as another delivery would have it too. @param {import("../types.d.ts").Delivery|null} [delivery] @param {string} [of] that delivery in words */
  async askTune(delivery = null, of = "") {
    const line = this.chosenLine;
    const key = `${this.tuneKey} ${JSON.stringify(delivery)}`;
    if (!line || key === this.tuneFor) return;
    this.tuneFor = key;
    this.tuneNext = async () => {
      try {
        const found = await post(`/api/projects/${this.project}/lines/${line.id}/melody`, { delivery });
        if (key !== this.tuneFor) return;
        this.tune = found;
        this.tuneOf = of;
        this.tuneWhy = "";
      } catch (error) {
        if (key !== this.tuneFor) return;
        this.tune = null;
        this.tuneWhy = error instanceof Error ? error.message : String(error);
      }
    };
    if (this.tuneAsking) return; // what a slide passes on its way is not asked for
    this.tuneAsking = true;
    while (this.tuneNext) {
      const ask = this.tuneNext;
      this.tuneNext = null;
      await ask();
    }
    this.tuneAsking = false;
  },

  /** As a style would have it. @param {string} style */
  tuneAs(style) {
    if (this.lineDelivery)
      return this.askTune(
        { ...this.deliveryOf(this.lineDelivery), style },
        this.styleName(style).toLowerCase(),
      );
  },

  /** As the line would be with a number that is being slid. @param {Event} event @param {string} field */
  slideLine(event, field) {
    const value = slid(event);
    if (this.lineDelivery && SLID[field])
      return this.askTune(
        { ...this.deliveryOf(this.lineDelivery), [field]: value },
        `${SLID[field]} ${value}`,
      );
  },

  /** The same for a role, seen on the chosen line if that is said like all of the role. @param {Event} event @param {string} id @param {string} field */
  slideRole(event, id, field) {
    if (this.chosenLine?.role === id && !this.chosenLine.own_delivery) return this.slideLine(event, field);
    slid(event);
  },

  /** Both curves as the data of SVG paths, on one scale. @returns {{measured: string, wouldBe: string, low: string, high: string}} */
  get tunePaths() {
    const { measured, would_be: wouldBe } = this.tune ?? { measured: [], would_be: [] };
    const all = [...measured, ...wouldBe].filter(([, hz]) => hz > 0);
    if (!all.length) return { measured: "", wouldBe: "", low: "", high: "" };
    const end = Math.max(...all.map(([at]) => at));
    const heights = all.map(([, hz]) => hz).sort((a, b) => a - b);
    const low = heights[Math.floor(heights.length * 0.04)] * 0.9;
    const high = heights[Math.ceil(heights.length * 0.98) - 1] * 1.06;
    const x = (/** @type {number} */ s) => EDGE + ((WIDE - 2 * EDGE) * s) / end;
    const y = (/** @type {number} */ hz) =>
      HIGH -
      EDGE -
      ((HIGH - 2 * EDGE) * Math.log(Math.min(high, Math.max(low, hz)) / low)) / Math.log(high / low);
    const path = (/** @type {Points} */ points) => {
      let last = -1;
      return points
        .filter(([, hz]) => hz > 0)
        .map(([at, hz]) => {
          const pen = last >= 0 && at - last < BREAK_S ? "L" : "M";
          last = at;
          return `${pen}${x(at).toFixed(1)} ${y(hz).toFixed(1)}`;
        })
        .join("");
    };
    return {
      measured: path(measured),
      wouldBe: path(wouldBe),
      low: `${Math.round(low)} Hz`,
      high: `${Math.round(high)} Hz`,
    };
  },

  /** @returns {string} */
  get tuneText() {
    if (!this.tune) return this.tuneWhy ? `To see its melody, ${this.tuneWhy}.` : "";
    const dashed = this.tuneOf ? `; dashed: ${this.tuneOf}, as it would be` : "";
    return `Melody of line ${this.lineNumber}${dashed}`;
  },
});

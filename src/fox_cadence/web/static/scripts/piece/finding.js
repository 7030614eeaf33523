// Finding words and putting others for them, with every place shown before anything changes.

import { post } from "../api.js";
import { part } from "./compose.js";

const REST_MS = 80;

/** @typedef {{where: string, line: string|null, before: string, match: string, after: string}} Place */

export const finding = part({
  soughtText: "",
  soughtBy: "",
  soughtWhole: true,
  soughtCase: false,
  foundCount: 0,
  /** @type {Place[]} */
  found: [],
  finds: 0,

  /** At each keystroke, once it rests; the newest wins. */
  async lookFor() {
    const asked = ++this.finds;
    await new Promise((rested) => setTimeout(rested, REST_MS));
    if (asked !== this.finds) return;
    if (!this.soughtText.trim()) {
      this.foundCount = 0;
      this.found = [];
      return;
    }
    try {
      const answer = await post(`/api/projects/${this.project}/find`, {
        text: this.soughtText,
        whole_words: this.soughtWhole,
        match_case: this.soughtCase,
      });
      if (asked !== this.finds) return;
      this.foundCount = answer.count;
      this.found = answer.places;
    } catch (error) {
      if (asked === this.finds) this.failed(error);
    }
  },

  /** @returns {string} */
  get foundText() {
    if (!this.soughtText.trim()) return "";
    if (this.foundCount === 0) return "Found nowhere.";
    const rest = this.foundCount - this.found.length;
    return `Found in ${this.counted(this.foundCount, "place")}${rest > 0 ? `, the first ${this.found.length} of them here` : ""}.`;
  },

  async replaceAll() {
    const edit = {
      kind: "replace_words",
      find: this.soughtText,
      by: this.soughtBy,
      whole_words: this.soughtWhole,
      match_case: this.soughtCase,
    };
    if (await this.edit(edit)) {
      this.tell(
        `“${this.soughtText}” replaced. Lines whose words changed are out of date until they are voiced again.`,
        "good",
      );
    }
    this.lookFor();
  },

  /** What there is to say, and what is left. @returns {string} */
  get amountText() {
    if (!this.loaded) return "";
    const { words, said_characters, speech_s, left_s } = this.t.amount;
    const left =
      left_s === null
        ? ""
        : left_s >= 0
          ? `, ${this.seconds(left_s)} of the piece left`
          : `, the piece is ${this.seconds(-left_s)} too long`;
    const budget = this.t.character_budget;
    const room =
      budget === null
        ? ""
        : said_characters <= budget
          ? ` (${budget - said_characters} left)`
          : ` (${said_characters - budget} too many)`;
    return `${this.counted(words, "word")}, ${this.counted(said_characters, "character")}${room}, ${this.seconds(speech_s)} of speech${left}`;
  },
});

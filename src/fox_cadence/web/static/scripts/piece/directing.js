// Direction inside the chosen line: words are chosen, then weighed, paced, paused or pronounced.

import { get, post } from "../api.js";
import { bare } from "../surfaces/sheet/grips.js";
import { part } from "./compose.js";
import { page } from "./page.js";

const LANGUAGE_NAMES = new Intl.DisplayNames(["en"], { type: "language" });

/** @param {string} tag */
const languageName = (tag) => LANGUAGE_NAMES.of(tag) ?? tag;

export const directing = part({
  /** The chosen words [from, to], both of them in; from is where the choice began. */
  picked: { from: 0, to: 0 },
  /** How each word of the line will be said. @type {Array<{text: string, said: string|null, by: string, guessed: boolean|null}>} */
  told: [],
  toldFor: "",
  saidAs: "",
  saidKind: "spelled",
  /** The language whose sounds are written down; "" for none. */
  saidLanguage: "",
  spanPace: 1,
  spanPitch: 0,
  spanGain: 0,
  pauseSeconds: 0.3,
  /** A repunctuated version. @type {any} */
  punctuated: null,

  /** @returns {number} */
  get firstPicked() {
    return Math.min(this.picked.from, this.picked.to);
  },
  /** @returns {number} */
  get endPicked() {
    return Math.max(this.picked.from, this.picked.to) + 1;
  },
  /** @returns {string} */
  get pickedText() {
    const words = this.lineWords.slice(this.firstPicked, this.endPicked);
    return words.length > 3 ? `${words[0]} … ${words.at(-1)}` : words.join(" ");
  },
  /** The words of the line as it says them now. @returns {string[]} */
  get lineWords() {
    return this.chosenLine?.said_words ?? [];
  },

  /** What stands on a word: classes for its look, and words for its title. @param {number} index */
  wordLook(index) {
    const marks = (this.chosenLine?.marks ?? []).filter(
      (mark) => mark.first_word <= index && index < mark.end_word,
    );
    const told = this.told[index];
    return [
      index >= this.firstPicked && index < this.endPicked ? "picked" : "",
      ...marks.map((mark) => (mark.kind === "emphasis" ? `weight-${mark.level}` : `has-${mark.kind}`)),
      told?.said ? "told" : "",
      told?.guessed ? "guessed" : "",
    ].join(" ");
  },

  /** What is heard between a word and the next, as a short sign. @param {number} index */
  afterWord(index) {
    const pause = this.chosenLine?.pauses.find((item) => item.after === index);
    const breath = this.chosenLine?.marks.some((item) => item.kind === "breath" && item.after_word === index);
    return `${pause ? `${pause.seconds.toFixed(2)} s` : ""}${breath ? " breath" : ""}`.trim();
  },

  /** @param {number} index */
  wordTitle(index) {
    const told = this.told[index];
    if (told?.said) return `said ${told.said}, by the ${told.by}`;
    return told?.guessed ? "no dictionary of ours has it; the voice will guess" : "";
  },

  /** @param {number} index @param {boolean} further */
  pick(index, further) {
    this.picked = further ? { from: this.picked.from, to: index } : { from: index, to: index };
    this.wordPicked = index;
    this.takeOver();
  },

  /** Arrow keys move the choice, with Shift they widen it; Home and End go to the ends. @param {KeyboardEvent} event */
  pickByKey(event) {
    const last = this.lineWords.length - 1;
    const steps = /** @type {Record<string, number>} */ ({
      ArrowLeft: -1,
      ArrowRight: 1,
      Home: -last,
      End: last,
    });
    const step = steps[event.key];
    if (step === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const to = Math.max(0, Math.min(last, this.picked.to + step));
    this.pick(to, event.shiftKey);
    this.$nextTick(() =>
      /** @type {HTMLElement|null} */ (document.querySelector(`#direct-words [data-word="${to}"]`))?.focus(),
    );
  },

  /** The fields show what the chosen words have. */
  takeOver() {
    const marks = this.chosenLine?.marks ?? [];
    const over = (/** @type {string} */ kind) =>
      marks.find(
        (mark) =>
          mark.kind === kind && mark.first_word <= this.firstPicked && this.firstPicked < mark.end_word,
      );
    const [span, said] = [over("span"), over("pronunciation")];
    [this.spanPace, this.spanPitch, this.spanGain] = [
      span?.pace ?? 1,
      span?.pitch_semitones ?? 0,
      span?.gain_db ?? 0,
    ];
    this.saidKind = said?.ipa ? "ipa" : "spelled";
    this.saidAs = said?.ipa ?? said?.spelled ?? "";
    this.saidLanguage = said?.language ?? "";
  },

  /** Write down how another language says the chosen words. @param {string} language its tag; "" for none */
  async sayIn(language) {
    this.saidLanguage = language;
    if (!language) return;
    try {
      const path = `/api/projects/${this.project}/lines/${this.line}/said-in`;
      const asked = `first=${this.firstPicked}&end=${this.endPicked}&language=${language}`;
      this.saidAs = (await get(`${path}?${asked}`)).ipa;
      this.saidKind = "ipa";
    } catch (error) {
      this.saidLanguage = "";
      this.failed(error);
    }
  },

  /** Ask how the words of the chosen line will be said. */
  async askTold() {
    const line = this.chosenLine;
    const key = line ? `${line.id} ${this.t.revision}` : "";
    if (!line || this.toldFor === key || this.pass !== "words") return;
    this.toldFor = key;
    try {
      const found = await get(`/api/projects/${this.project}/lines/${line.id}/told`);
      if (this.toldFor === key) this.told = found.words;
    } catch (error) {
      this.failed(error);
    }
  },

  /** @param {object} what */
  mark(what) {
    return this.edit({ line_id: this.line, first_word: this.firstPicked, end_word: this.endPicked, ...what });
  },

  /** @param {string|null} level */
  weigh(level) {
    return this.mark({ kind: "emphasis", level });
  },

  /** Bring a part of the desk of Words to the front, and the keyboard to a field of it. @param {string} desk @param {string} [field] */
  toWordsDesk(desk, field = "") {
    this.setPass("words");
    this.wordsDesk = desk;
    this.askTold();
    if (field) this.$nextTick(() => document.getElementById(field)?.focus());
  },

  /** From one level to the next, by a key: none, moderate, strong, none. */
  weighNext() {
    const now = (this.chosenLine?.marks ?? []).find(
      (mark) =>
        mark.kind === "emphasis" && mark.first_word <= this.firstPicked && this.firstPicked < mark.end_word,
    );
    return this.weigh(now ? (now.level === "moderate" ? "strong" : null) : "moderate");
  },

  setSpan() {
    return this.mark({
      kind: "span",
      pace: Number(this.spanPace) || 1,
      pitch_semitones: Number(this.spanPitch) || 0,
      gain_db: Number(this.spanGain) || 0,
    });
  },

  pauseAfterPicked() {
    return this.edit({
      kind: "pause",
      line_id: this.line,
      after_word: this.endPicked - 1,
      seconds: Number(this.pauseSeconds) || 0,
    });
  },

  /** Two lines of one: the second begins with the chosen word. */
  splitHere() {
    return this.edit({ kind: "split_line", line_id: this.line, before_word: this.firstPicked });
  },

  breatheAfterPicked() {
    const has = this.chosenLine?.marks.some(
      (item) => item.kind === "breath" && item.after_word === this.endPicked - 1,
    );
    return this.edit({ kind: "breath", line_id: this.line, after_word: this.endPicked - 1, breathes: !has });
  },

  setPronunciation() {
    const said = this.saidAs.trim() || null;
    const language = said && this.saidKind === "ipa" ? this.saidLanguage || null : null;
    return this.mark({ kind: "pronunciation", [this.saidKind]: said, language });
  },

  /** The same in every line: an entry of the lexicon. */
  async intoLexicon() {
    const written = this.lineWords.slice(this.firstPicked, this.endPicked).map(bare).join(" ");
    const said = this.saidAs.trim();
    if (!written || !said)
      return this.tell("Write how it sounds first, then it can go into the lexicon.", "note");
    const own = {
      kind: "pronunciation",
      line_id: this.line,
      first_word: this.firstPicked,
      end_word: this.endPicked,
    };
    await this.edits(
      [own, { kind: "lexicon_entry", written, [this.saidKind]: said }],
      `“${written}” is said ${said} in every line`,
    );
    this.askLexicon();
  },

  /** The chosen words alone, as they are or as they would be with what is typed. @param {boolean} asTyped */
  async hearPicked(asTyped) {
    const said =
      asTyped && this.saidAs.trim() ? `&${this.saidKind}=${encodeURIComponent(this.saidAs.trim())}` : "";
    const path = `/api/projects/${this.project}/lines/${this.line}/words.wav?first=${this.firstPicked}&end=${this.endPicked}${said}`;
    await page.player.playSound(path, "line").catch((error) => this.failed(error));
  },

  /** Marks over words in the order of the line, in words. @returns {Array<{text: string, off: object}>} */
  get marksShown() {
    const words = this.lineWords;
    const over = (/** @type {import("../types.d.ts").Mark} */ mark) =>
      `“${words.slice(mark.first_word, mark.end_word).map(bare).join(" ")}”`;
    return /** @type {import("../types.d.ts").Mark[]} */ (this.chosenLine?.marks ?? []).map((mark) => {
      const place = { line_id: this.line, first_word: mark.first_word, end_word: mark.end_word };
      switch (mark.kind) {
        case "emphasis":
          return {
            text: `${over(mark)} with ${mark.level} emphasis`,
            off: { ...place, kind: "emphasis", level: null },
          };
        case "span":
          return {
            text: `${over(mark)} at ${this.paceOf(mark.pace)}, ${mark.pitch_semitones} semitones, ${mark.gain_db} dB`,
            off: { ...place, kind: "span" },
          };
        case "pronunciation":
          return {
            text: `${over(mark)} said ${mark.language ? `in ${languageName(mark.language)}, ` : ""}${mark.ipa ? `/${mark.ipa}/` : mark.spelled}`,
            off: { ...place, kind: "pronunciation" },
          };
        default:
          return {
            text: `A breath after “${bare(words[mark.after_word] ?? "")}”`,
            off: { kind: "breath", line_id: this.line, after_word: mark.after_word, breathes: false },
          };
      }
    });
  },

  // punctuation for the ear

  /** @param {string|null} text a version to prove; none asks for ours */
  async punctuate(text = null) {
    try {
      this.punctuated = await post(`/api/projects/${this.project}/lines/${this.line}/punctuate`, { text });
    } catch (error) {
      this.failed(error);
    }
  },

  /** @returns {string} */
  get proofText() {
    const proof = this.punctuated?.proof;
    if (!proof) return "";
    if (proof.holds) return `All ${this.counted(proof.words, "word")} are there, in their order, none added.`;
    const parts = [
      proof.lost.length ? `lost: ${proof.lost.join(", ")}` : "",
      proof.added.length ? `added: ${proof.added.join(", ")}` : "",
    ];
    return `Words have changed; ${parts.filter(Boolean).join("; ")}.`;
  },

  usePunctuated() {
    if (!this.punctuated?.proof.holds) return;
    const text = this.punctuated.text;
    this.punctuated = null;
    return this.edit({ kind: "said", line_id: this.line, text });
  },

  comparePunctuated() {
    if (this.punctuated && this.chosenLine)
      return this.compareWays([{ text: this.chosenLine.said }, { text: this.punctuated.text }]);
  },
});

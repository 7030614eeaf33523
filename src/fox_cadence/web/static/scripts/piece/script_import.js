// Words brought into the project: looked over first; and the lexicon.

import { get, postForm, Refusal } from "../api.js";
import { part } from "./compose.js";
import { page } from "./page.js";

const REST_MS = 350;

export const scriptImport = part({
  wordsDesk: "direct",
  pasted: "",
  pastedKind: ".txt",
  /** @type {File|null} */
  wordsFile: null,
  wordsOver: false,
  wordsHow: "compare",
  wordsLayout: "order",
  /** Names before captions are roles; what stands in brackets is said too; how a text file was saved. */
  wordsNames: false,
  wordsDescriptions: false,
  wordsEncoding: "",
  /** What would be made. @type {any} */
  plan: null,
  planning: 0,
  /** Columns of a table, as chosen. @type {any} */
  columns: null,
  /** @type {any[]} */
  laidRemarks: [],
  /** @type {any[]} */
  lexicon: [],
  lexiconFor: "",
  entryWritten: "",
  entrySaid: "",
  entryKind: "spelled",
  /** @type {any[]} */
  lexiconRemarks: [],

  /** @param {string} what */
  setWordsDesk(what) {
    this.wordsDesk = what;
    if (what === "lexicon") this.askLexicon();
  },

  /** @param {Event} event */
  wordsChosen(event) {
    this.wordsEncoding = "";
    const field = /** @type {HTMLInputElement} */ (event.target);
    this.wordsFile = field.files?.[0] ?? null;
    field.value = "";
    this.columns = null;
    this.lookOver();
  },

  /** @param {DragEvent} event */
  wordsDropped(event) {
    this.wordsEncoding = "";
    this.wordsOver = false;
    this.wordsFile = event.dataTransfer?.files[0] ?? null;
    this.columns = null;
    this.lookOver();
  },

  wordsTyped() {
    this.wordsFile = null;
    this.columns = null;
    const asked = ++this.planning;
    setTimeout(() => {
      if (asked === this.planning) this.lookOver();
    }, REST_MS);
  },

  wordsForm() {
    const form = new FormData();
    if (this.wordsFile) form.append("file", this.wordsFile, this.wordsFile.name);
    form.append("pasted", this.pasted);
    form.append("kind", this.pastedKind);
    form.append("how", this.t.lines.length ? this.wordsHow : "anew");
    form.append("names", String(this.wordsNames));
    form.append("descriptions", String(this.wordsDescriptions));
    form.append("encoding", this.wordsEncoding);
    if (this.columns) form.append("columns", JSON.stringify(this.columns));
    return form;
  },

  /** What the words would make; nothing is made. */
  async lookOver() {
    const asked = ++this.planning;
    if (!this.wordsFile && !this.pasted.trim()) {
      this.plan = null;
      return;
    }
    try {
      const found = await postForm(`/api/projects/${this.project}/words/plan`, this.wordsForm());
      if (asked !== this.planning) return;
      this.plan = found;
      if (found.table && !this.columns) this.columns = { ...found.table.guess };
    } catch (error) {
      if (asked !== this.planning) return;
      this.plan = null;
      this.failed(error);
    }
  },

  /** @param {string} field @param {Event} event */
  setColumn(field, event) {
    const value = /** @type {HTMLSelectElement} */ (event.target).value;
    this.columns = { ...this.columns, [field]: value === "" ? null : Number(value) };
    return this.lookOver();
  },

  /** @param {Event} event */
  setFirstRow(event) {
    this.columns = {
      ...this.columns,
      first_row_names: /** @type {HTMLInputElement} */ (event.target).checked,
    };
    return this.lookOver();
  },

  /** A number of the project's settings; nothing is none. @param {Event} event @param {string} field */
  setNumber(event, field) {
    return this.edit({
      kind: "settings",
      [field]: Number(/** @type {HTMLInputElement} */ (event.target).value) || 0,
    });
  },

  /** @returns {string} */
  get planText() {
    const plan = this.plan;
    if (!plan) return "";
    const names = /** @type {Record<string, string>} */ ({
      same: "as they are",
      punctuation: "punctuation changed",
      changed: "changed",
      new: "new",
      gone: "removed",
    });
    const counts = Object.entries(names)
      .filter(([kind]) => plan.counts[kind])
      .map(([kind, name]) => `${plan.counts[kind]} ${name}`);
    const heads = plan.headings ? `, ${this.counted(plan.headings, "heading")}` : "";
    return `${this.counted(plan.line_count, "line")}: ${counts.join(", ")}${heads}`;
  },

  /** @returns {string} */
  get offeredNames() {
    return Object.entries(this.plan?.offers.names ?? {})
      .map(([name, count]) => `${name} (${count})`)
      .join(", ");
  },

  /** @returns {any} */
  get planLength() {
    const plan = this.plan;
    if (!plan) return "";
    const limit =
      plan.longest_s === null
        ? ""
        : plan.seconds <= plan.longest_s
          ? ` of ${this.clock(plan.longest_s)} allowed`
          : `, ${this.seconds(plan.seconds - plan.longest_s)} more than the ${this.clock(plan.longest_s)} allowed`;
    return `${this.counted(plan.words, "word")}, ${this.counted(plan.characters, "character")}, about ${this.clock(plan.seconds)} of speech${limit}`;
  },

  /** @returns {boolean} */
  get planTooLong() {
    return Boolean(this.plan && this.plan.longest_s !== null && this.plan.seconds > this.plan.longest_s);
  },

  async bringWords() {
    if (!this.plan) return;
    await this.changing;
    const form = this.wordsForm();
    form.append("based_on", String(this.t.revision));
    form.append("layout", this.wordsLayout);
    try {
      const made = await postForm(`/api/projects/${this.project}/words`, form);
      await this.take(made.state);
      this.laidRemarks = made.remarks;
      this.plan = null;
      this.wordsFile = null;
      this.pasted = "";
      this.tell(
        `Brought in: ${this.counted(this.t.lines.length, "line")}. One step of undo takes it back.`,
        "good",
      );
    } catch (error) {
      this.failed(error instanceof Refusal ? error : new Error(String(error)));
    }
  },

  /** Put the draft of a recording where words are looked over. */
  useDraft() {
    this.pasted = this.draft;
    this.pastedKind = ".txt";
    this.setPass("words");
    this.wordsDesk = "script";
    this.lookOver();
  },

  // the lexicon

  async askLexicon() {
    const key = String(this.t.revision);
    if (this.lexiconFor === key) return;
    this.lexiconFor = key;
    try {
      this.lexicon = (await get(`/api/projects/${this.project}/lexicon`)).entries;
    } catch (error) {
      this.failed(error);
    }
  },

  async addEntry() {
    if (!this.entryWritten.trim() || !this.entrySaid.trim())
      return this.tell("Give the word and how it sounds.", "note");
    const done = await this.edit({
      kind: "lexicon_entry",
      written: this.entryWritten.trim(),
      [this.entryKind]: this.entrySaid.trim(),
    });
    if (!done) return;
    this.entryWritten = this.entrySaid = "";
    await this.askLexicon();
  },

  /** @param {any} entry */
  async dropEntry(entry) {
    await this.edit({ kind: "lexicon_entry", written: entry.written, language: entry.language });
    await this.askLexicon();
  },

  /** A word as it is said without the lexicon's entry, or with what is given. @param {any} entry @param {boolean} after */
  async hearEntry(entry, after) {
    const said = entry.ipa
      ? `ipa=${encodeURIComponent(entry.ipa)}`
      : `spelled=${encodeURIComponent(entry.spelled ?? "")}`;
    const path = `/api/projects/${this.project}/lexicon/sound.wav?written=${encodeURIComponent(entry.written)}&${after ? said : ""}`;
    await page.player.playSound(path, "line").catch((error) => this.failed(error));
  },

  /** @param {Event} event */
  async lexiconChosen(event) {
    const field = /** @type {HTMLInputElement} */ (event.target);
    const file = field.files?.[0];
    field.value = "";
    if (!file) return;
    const form = new FormData();
    form.append("file", file, file.name);
    try {
      const made = await postForm(`/api/projects/${this.project}/lexicon`, form);
      await this.take(made.state);
      this.lexiconRemarks = made.remarks;
      this.tell(`${this.counted(made.count, "pronunciation")} imported.`, "good");
      await this.askLexicon();
    } catch (error) {
      this.failed(error);
    }
  },
});

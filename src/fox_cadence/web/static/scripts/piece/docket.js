// The docket: what is to be made of the piece, row by row, and what became of it.

import { get, post, put, remove } from "../api.js";
import { part } from "./compose.js";

/** @typedef {{from_frame: number, to_frame: number|null}} Stretch */
/**
 * @typedef {{name: string, kind: string, wanted: boolean, part?: Stretch, [field: string]: any}} Row
 * @typedef {{name: string, form: string, seconds: number|null, bytes: number|null}} Product
 * @typedef {{name: string, product?: string, bytes: number, revision?: number, lufs?: number|null}} MadeFile
 * @typedef {{docket: {rows: Row[], pattern: string}, products: Product[], kept: string[],
 *   made: {files?: MadeFile[], revision?: number, failed?: Array<{product: string, reason: string}>, done?: string[]},
 *   lines: {files?: MadeFile[]}, provable: string[], proofs: Record<string, import("../surfaces/export/proof.js").Proof>}} Plan
 */

/** What the rows that ship are called. @type {Record<string, string>} */
const NAMES = {
  video: "Video",
  portrait: "Portrait video",
  square: "Square video",
  landscape: "Landscape video",
  look: "Quick look",
  webm: "WebM video",
  gif: "Loop",
  sound: "Sound",
  mp3: "MP3",
  m4a: "M4A",
  chapters: "Episode",
  stems: "Stems",
  lines: "Lines",
  captions: "Captions",
  ttml: "TTML captions",
  cues: "Cue sheet",
  script: "Script",
  interchange: "For other tools",
  bundle: "Bundle",
};

/** What a kind of file can hold. @type {Record<string, Array<[string, string]>>} */
const CODECS = {
  mp4: [
    ["h264", "H.264"],
    ["h265", "H.265"],
    ["av1", "AV1"],
  ],
  webm: [
    ["vp9", "VP9"],
    ["av1", "AV1"],
  ],
  gif: [],
  webp: [],
};

/** @param {string} name */
export function rowTitle(name) {
  return NAMES[name] ?? name.charAt(0).toUpperCase() + name.slice(1).replaceAll("-", " ");
}

export const docketed = part({
  /** @type {Plan|null} */
  orders: null,
  rowName: "video",
  docketName: "",
  /** Whether products nobody wants are shown too. */
  allRows: false,
  /** What is being kept of the docket. @type {Promise<void>} */
  keepingDocket: Promise.resolve(),
  docketChanges: 0,

  /** @returns {Promise<void>} */
  async learnDocket() {
    try {
      const before = this.docketChanges;
      await this.keepingDocket;
      const told = await get(`/api/projects/${this.project}/exports/docket`);
      if (this.docketChanges !== before) return this.learnDocket(); // it was changed meanwhile
      this.orders = told;
      this.redraw();
    } catch (error) {
      this.failed(error);
    }
  },

  /** @returns {Row|null} */
  get docketRow() {
    return this.orders?.docket.rows.find((row) => row.name === this.rowName) ?? null;
  },

  rowTitle,

  /** Choose a row; by a key, which goes to its settings then. @param {string} name @param {boolean} [byKey] */
  chooseRow(name, byKey = false) {
    this.rowName = name;
    this.redraw();
    if (byKey) this.$nextTick(() => document.getElementById("row-title")?.focus());
  },

  /** From the settings of a row back to it. */
  backToRow() {
    const row = document.querySelector(`[data-product="${CSS.escape(this.rowName)}"] .docket-name`);
    /** @type {HTMLElement|null} */ (row)?.focus();
  },

  /** @param {boolean} all */
  showAllRows(all) {
    this.allRows = all;
    this.redraw();
  },

  /** @returns {Array<[string, string]>} */
  get rowCodecs() {
    return CODECS[this.docketRow?.file ?? ""] ?? [];
  },

  /** The first and the last shot of the part, counted from 1. @returns {[number, number]} */
  get rowShots() {
    const part = this.docketRow?.part;
    const shots = this.t.shots;
    if (!part) return [1, shots.length];
    const from = shots.findIndex((shot) => shot.end > part.from_frame);
    const last = part.to_frame;
    const to = last === null ? shots.length : shots.filter((shot) => shot.start < last).length;
    return [Math.max(0, from) + 1, Math.max(1, to)];
  },

  /** @param {string|number} from @param {string|number} to */
  setRowShots(from, to) {
    const shots = this.t.shots;
    const first = Math.min(Math.max(1, Number(from) || 1), shots.length);
    const last = Math.min(Math.max(first, Number(to) || shots.length), shots.length);
    const whole = first === 1 && last === shots.length;
    const end = last === shots.length ? null : shots[last - 1].end;
    this.changeRow(this.rowName, {
      part: whole ? { from_frame: 0, to_frame: null } : { from_frame: shots[first - 1].start, to_frame: end },
    });
  },

  /** A change of a row; with a file of another kind goes what that can't hold. @param {string} name @param {object} fields */
  changeRow(name, fields) {
    if (!this.orders) return;
    const rows = this.orders.docket.rows.map((row) => {
      if (row.name !== name) return row;
      const made = { ...row, ...fields };
      if (made.kind === "video" && !CODECS[made.file].some(([codec]) => codec === made.codec))
        made.codec = null;
      if ((made.file === "gif" || made.file === "webp") && made.captions === "track") made.captions = "drawn";
      if (made.kind === "sound" && !["m4a", "mp3"].includes(made.file)) made.chapters = false;
      if (made.kind === "sound" && made.file !== "wav" && made.bits === 32) made.bits = 24;
      return made;
    });
    this.keepRows(rows);
  },

  /** A number of the chosen row; of what says how large a video may be, one at a time. @param {string} field @param {string} value */
  setRowNumber(field, value) {
    const number = Number(value) || null;
    const size = field === "kbps" || field === "most_mb";
    this.changeRow(
      this.rowName,
      size ? { kbps: null, most_mb: null, [field]: number } : { [field]: number ?? 0 },
    );
  },

  /** The frame that is shown now stands for the file. */
  posterHere() {
    this.changeRow(this.rowName, { poster_frame: Math.round(this.at / this.frameSeconds) });
  },

  /** What a sound file can have in it. @returns {Array<[string, string]>} */
  get rowContents() {
    return [
      ["mix", "the mix"],
      ["speech", "narration"],
      ...this.t.roles.map((role) => /** @type {[string, string]} */ ([`role:${role.id}`, role.name])),
      ["bed", "beds"],
      ["own", "shots’ own"],
      ["effects", "effects"],
    ];
  },

  /** A file of its own for something that is heard. @param {string} what @param {boolean} there */
  setRowContent(what, there) {
    const of = (this.docketRow?.of ?? []).filter((/** @type {string} */ each) => each !== what);
    if (there) of.push(what);
    if (of.length) this.changeRow(this.rowName, { of });
    else this.redraw();
  },

  /** @param {string} kind @param {boolean} there */
  setRowFile(kind, there) {
    const files = (this.docketRow?.files ?? []).filter((/** @type {string} */ each) => each !== kind);
    if (there) files.push(kind);
    if (files.length) this.changeRow(this.rowName, { files });
    else this.redraw();
  },

  /** Another row like the chosen one. */
  doubleRow() {
    const row = this.docketRow;
    if (!row || !this.orders) return;
    const names = new Set(this.orders.docket.rows.map((each) => each.name));
    let number = 2;
    while (names.has(`${row.name}-${number}`)) number++;
    const made = { ...row, name: `${row.name}-${number}`, wanted: true };
    const rows = [...this.orders.docket.rows];
    rows.splice(rows.indexOf(row) + 1, 0, made);
    this.rowName = made.name;
    this.keepRows(rows);
  },

  removeRow() {
    if (!this.orders) return;
    const place = this.orders.docket.rows.findIndex((row) => row.name === this.rowName);
    const rows = this.orders.docket.rows.filter((row) => row.name !== this.rowName);
    this.rowName = rows[Math.min(place, rows.length - 1)]?.name ?? "";
    this.keepRows(rows);
  },

  /** @param {Row[]} rows */
  keepRows(rows) {
    if (!this.orders) return;
    this.keepDocket({ ...this.orders.docket, rows });
  },

  /** @param {string} pattern */
  setPattern(pattern) {
    if (this.orders) this.keepDocket({ ...this.orders.docket, pattern: pattern.trim() || "{piece}-{row}" });
  },

  /** Show a docket at once and keep it, one change after the other. @param {Plan["docket"]} docket */
  keepDocket(docket) {
    if (!this.orders) return;
    this.orders = { ...this.orders, docket };
    const number = ++this.docketChanges;
    this.redraw();
    this.keepingDocket = this.keepingDocket.then(async () => {
      try {
        const { products } = await put(`/api/projects/${this.project}/exports/docket`, docket);
        if (this.orders && number === this.docketChanges) this.orders = { ...this.orders, products };
        this.redraw();
      } catch (error) {
        this.failed(error);
        const plan = await get(`/api/projects/${this.project}/exports/docket`).catch(() => null);
        if (plan) this.orders = plan;
        this.redraw();
      }
    });
  },

  /** Keep the docket for other projects. */
  async keepDocketForAll() {
    const name = this.docketName.trim();
    if (!name) return this.tell("Give the docket a name first.", "note");
    try {
      await this.keepingDocket;
      await post(`/api/projects/${this.project}/exports/docket/keep`, { name });
      this.docketName = "";
      await this.learnDocket();
      this.tell(`Kept as “${name}” for all projects.`, "good");
    } catch (error) {
      this.failed(error);
    }
  },

  /** @param {HTMLSelectElement} field */
  async takeKept(field) {
    const name = field.value;
    field.value = "";
    if (!name) return;
    try {
      await this.keepingDocket;
      await post(`/api/projects/${this.project}/exports/docket/take`, { name });
      await this.learnDocket();
      this.tell(`The docket is “${name}” now.`, "good");
    } catch (error) {
      this.failed(error);
    }
  },

  /** @param {string} name */
  async forgetKept(name) {
    try {
      await remove(`/api/dockets/${encodeURIComponent(name)}`);
      await this.learnDocket();
      this.tell(`“${name}” is no longer kept.`, "good");
    } catch (error) {
      this.failed(error);
    }
  },
});

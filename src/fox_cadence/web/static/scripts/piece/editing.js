// Changes: each is a request that answers with the new timeline.

import { post } from "../api.js";
import { part } from "./compose.js";

export const editing = part({
  newCaption: "",
  newScene: "",
  /** @type {{seconds: number, error: number, room_s: number, left_s: number, words_left: number, state: string|null}|null} */
  estimate: null,
  estimating: 0,

  /** @param {object} edit @returns {Promise<boolean>} */
  async edit(edit) {
    return this.edits([edit]);
  },

  /** Changes of this window wait for one another, however fast they come: each is based on the one before. */
  changing: /** @type {Promise<any>} */ (Promise.resolve()),

  /** Several edits as one undoable step. @param {object[]} edits @param {string} [label] @returns {Promise<boolean>} */
  edits(edits, label = "") {
    this.changing = this.changing.then(() => this.editOnce(edits, label));
    return this.changing;
  },

  /** Whether an older revision is shown, which is not changed; that is then said. */
  looksBack() {
    if (this.looking)
      this.tell(
        `You are looking at revision ${this.looking.number}. Go back to it or close it before you change something.`,
        "note",
      );
    return this.looking !== null;
  },

  /** Write paragraphs into the script, as one step; the ids of the lines that are new. @param {{paragraphs: string[], after_line_id?: string|null, shot_id?: string|null, shown?: boolean, before?: object[]}} what @returns {Promise<string[]>} */
  typeParagraphs(what) {
    this.changing = this.changing.then(async () => {
      if (this.looksBack()) return [];
      const before = new Set(this.t.lines.map((item) => item.id));
      try {
        const body = { based_on: this.t.revision, ...what };
        await this.take(await post(`/api/projects/${this.project}/typed`, body));
        return this.t.lines.map((item) => item.id).filter((id) => !before.has(id));
      } catch (error) {
        this.failed(error);
        return [];
      }
    });
    return this.changing;
  },

  /** An edit that is made of what is there when its turn comes: two changes of one thing must not undo each other. @param {() => object} make */
  editOf(make) {
    this.changing = this.changing.then(() => this.editOnce([make()], ""));
    return this.changing;
  },

  /** @param {object[]} edits @param {string} label @returns {Promise<boolean>} */
  async editOnce(edits, label) {
    if (!this.loaded) return false;
    if (this.looksBack()) {
      if (this.worthHolding({ status: 422 }, edits)) this.hold(edits, label, {});
      return false;
    }
    try {
      this.stepHeld = false;
      await this.take(
        await post(`/api/projects/${this.project}/edits`, { based_on: this.t.revision, edits, label }),
      );
      this.message = "";
      return true;
    } catch (error) {
      if (this.worthHolding(error, edits)) this.hold(edits, label, error);
      this.failed(error);
      this.redraw();
      return false;
    }
  },

  /** @param {"shot"|"caption"|"line"} what @param {string} id @param {boolean} locked */
  lock(what, id, locked) {
    return this.edit({ kind: "lock", what, id, locked });
  },

  // words where they stand on the sheet

  /** Change the words of a caption where they stand. @param {string} id */
  typeCaption(id) {
    const caption = this.t.captions.find((item) => item.id === id);
    const card = document.querySelector(`#page .caption[data-caption="${id}"]`);
    const words = card?.querySelector("p");
    if (!caption || !card || !words) return;
    const field = document.createElement("textarea");
    field.value = caption.text;
    field.setAttribute("aria-label", "Words of the caption");
    const chip = document.createElement("div");
    chip.className = "estimate-chip mono";
    chip.setAttribute("role", "status");
    words.replaceWith(field);
    card.append(chip);
    let done = false;
    const close = (/** @type {boolean} */ keep) => {
      if (done) return;
      done = true;
      const text = field.value;
      field.replaceWith(words);
      chip.remove();
      this.estimate = null;
      if (keep && text.trim() !== caption.text) this.edit({ kind: "caption_text", caption_id: id, text });
      else this.redraw();
    };
    const guess = () =>
      this.guess(caption.line, field.value, (/** @type {string} */ text) => {
        chip.textContent = text;
      });
    field.addEventListener("input", guess);
    field.addEventListener("blur", () => close(true));
    field.addEventListener("keydown", (event) => {
      event.stopPropagation();
      if (event.key === "Escape") close(false);
      if (event.key === "Enter" && !event.shiftKey) {
        event.preventDefault();
        close(true);
      }
    });
    field.focus();
    field.select();
    guess();
  },

  /**
   * How long words would last and how their line would stand, asked for once typing rests for a moment.
   *
   * @param {string|null} line @param {string} text @param {(words: string) => void} [say]
   */
  guess(line, text, say = () => {}) {
    const asked = ++this.estimating;
    if (!line) return;
    setTimeout(async () => {
      if (asked !== this.estimating) return;
      try {
        const found = await post(`/api/projects/${this.project}/estimate`, { line_id: line, text });
        if (asked !== this.estimating) return;
        this.estimate = found;
        say(this.estimateText);
      } catch {
        say("");
      }
    }, 60);
  },

  /** @returns {string} */
  get estimateText() {
    const found = this.estimate;
    if (!found) return "";
    const words =
      found.words_left >= 0
        ? `room for ${this.counted(found.words_left, "more word")}`
        : `${this.counted(-found.words_left, "word")} too many`;
    const about = found.error ? ["≈", ` (±${Math.round(found.error * 100)} %)`] : ["", ""];
    return `${about[0]}${this.seconds(found.seconds)}${about[1]} of ${this.seconds(found.room_s)}, ${words}${found.state ? `: ${found.state}` : ""}`;
  },

  // fields of the desk

  /** @param {Event} event */
  shotLength(event) {
    const frames = number(event);
    if (this.chosenShot && frames !== null)
      return this.pictureEdit({ kind: "shot_length", shot_id: this.shot, length_frames: frames });
  },

  /** @param {Event} event */
  shotSource(event) {
    const frames = number(event);
    const shot = this.chosenShot;
    if (!shot || frames === null) return;
    const window = { source_in_frames: frames, length_frames: shot.end - shot.start };
    return this.pictureEdit({ kind: "window", shot_id: shot.id, ...window });
  },

  /** @param {Event} event @param {"shortest"|"longest"} which */
  shotLimit(event, which) {
    const shot = this.chosenShot;
    if (!shot) return;
    const own = shot.own_limits ? { shortest_frames: shot.shortest, longest_frames: shot.longest } : {};
    return this.edit({ kind: "shot_limits", shot_id: this.shot, ...own, [`${which}_frames`]: number(event) });
  },

  /** @param {Event} event @param {string} id */
  shotSound(event, id) {
    const value = number(event);
    if (value !== null) return this.edit({ kind: "shot_sound", shot_id: id, gain_db: value });
  },

  /** @param {Event} event @param {import("../types.d.ts").Caption} caption @param {"in"|"out"} edge */
  captionTime(event, caption, edge) {
    const frame = number(event);
    if (!caption || frame === null) return;
    const times = { in_frame: caption.in, out_frame: caption.out, [`${edge}_frame`]: frame };
    return this.edit({ kind: "caption_times", caption_id: caption.id, ...times });
  },

  /** @param {Event} event @param {import("../types.d.ts").Caption} caption */
  captionWords(event, caption) {
    const text = /** @type {HTMLTextAreaElement} */ (event.target).value;
    this.estimate = null;
    if (caption && text.trim() !== caption.text)
      return this.edit({ kind: "caption_text", caption_id: caption.id, text });
  },

  /** @param {Event} event */
  typed(event) {
    this.guess(this.line, /** @type {HTMLTextAreaElement} */ (event.target).value);
  },

  /** @param {Event} event */
  saidWords(event) {
    const text = /** @type {HTMLTextAreaElement} */ (event.target).value;
    const line = this.chosenLine;
    this.estimate = null;
    if (line && text.trim() !== line.said)
      return this.edit({ kind: "said", line_id: line.id, text: text.trim() || null });
  },

  sayAsShown() {
    return this.edit({ kind: "said", line_id: this.line, text: null });
  },

  /** Lay the line on other shots. @param {Event} event @param {"first"|"last"} which */
  placeLine(event, which) {
    const id = /** @type {HTMLSelectElement} */ (event.target).value;
    const order = this.t.shots.map((item) => item.id);
    const line = this.chosenLine;
    if (!line) return;
    const first = which === "first" ? id : line.first_shot;
    const last =
      which === "last"
        ? id
        : order.indexOf(line.last_shot) < order.indexOf(id) || line.first_shot === line.last_shot
          ? id
          : line.last_shot;
    return this.edit({ kind: "place_line", line_id: line.id, first_shot_id: first, last_shot_id: last });
  },

  /** @param {Event} event */
  lineRole(event) {
    return this.edit({
      kind: "line_role",
      line_id: this.line,
      role_id: /** @type {HTMLSelectElement} */ (event.target).value,
    });
  },

  /** @param {Event} event */
  lineStart(event) {
    const value = number(event);
    const line = this.chosenLine;
    const shot = this.t.shots.find((item) => item.id === line?.first_shot);
    if (value !== null && line && shot)
      return this.edit({
        kind: "line_start",
        line_id: line.id,
        offset_s: value - shot.start * this.frameSeconds,
      });
  },

  /** @param {Event} event @param {"j_cut_s"|"l_cut_s"|"give_way"} field */
  lineRoom(event, field) {
    const line = this.chosenLine;
    if (!line) return;
    const room = { j_cut_s: line.j_cut_s, l_cut_s: line.l_cut_s, give_way: line.give_way };
    const value =
      field === "give_way" ? /** @type {HTMLSelectElement} */ (event.target).value || null : number(event);
    return this.edit({ kind: "line_room", line_id: line.id, ...room, [field]: value });
  },

  /** @param {Event} event */
  lineLane(event) {
    const value = /** @type {HTMLSelectElement} */ (event.target).value;
    return this.edit({
      kind: "lane",
      line_id: this.line,
      lane: value === "first" ? 0 : 1,
      may_overlap: value === "over",
    });
  },

  /** @param {Event} event @param {number} after */
  pauseLength(event, after) {
    return this.edit({ kind: "pause", line_id: this.line, after_word: after, seconds: number(event) });
  },

  wordPicked: 0,
  syncShot: "",
  syncFrames: 0,

  addPause() {
    return this.edit({ kind: "pause", line_id: this.line, after_word: this.wordPicked, seconds: 0.3 });
  },

  holdWord() {
    return this.edit({
      kind: "sync",
      line_id: this.line,
      word: this.wordPicked,
      shot_id: this.syncShot || this.shot,
      frames: Number(this.syncFrames) || 0,
    });
  },

  /** @param {number} word */
  releaseWord(word) {
    return this.edit({ kind: "sync", line_id: this.line, word });
  },

  async addCaption() {
    if (!this.newCaption.trim()) return this.tell("Write the words of the caption first.", "note");
    if (await this.edit({ kind: "add_caption", shot_id: this.shot, text: this.newCaption }))
      this.newCaption = "";
  },

  async addScene() {
    if (!this.newScene.trim()) return this.tell("Write the words to be spoken first.", "note");
    if (await this.edit({ kind: "add_scene_text", shot_id: this.shot, text: this.newScene }))
      this.newScene = "";
  },

  /** @param {Event} event @param {string} field */
  setting(event, field) {
    const input = /** @type {HTMLInputElement} */ (event.target);
    const value =
      input.type === "checkbox" ? input.checked : input.type === "number" ? Number(input.value) : input.value;
    return this.edit({ kind: "settings", [field]: value });
  },

  /** @param {string} field @param {any} value */
  settingTo(field, value) {
    return this.edit({ kind: "settings", [field]: value });
  },
});

/** A whole or decimal number from a field, null when it holds none. @param {Event} event */
export function number(event) {
  const text = /** @type {HTMLInputElement} */ (event.target).value.trim();
  const value = Number(text);
  return text === "" || Number.isNaN(value) ? null : value;
}

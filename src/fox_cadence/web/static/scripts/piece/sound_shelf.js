// The shelf of sound, and spot effects.

import { get, post } from "../api.js";
import { part } from "./compose.js";
import { page } from "./page.js";

/** @typedef {import("../answers.d.ts").SoundItemJson} Item */
/** @typedef {import("../answers.d.ts").EffectJson} Effect */

const REST_MS = 180;

export const soundShelf = part({
  /** @type {Item[]} */
  soundsFound: [],
  soundWords: "",
  soundsAsked: "",
  effect: "",
  /** What a new effect is held to. */
  effectWhere: "playhead",
  /** @type {ReturnType<typeof setTimeout>|undefined} */
  soundsWaiting: undefined,

  /** What answers to the words, once they rest. */
  soonSounds() {
    clearTimeout(this.soundsWaiting);
    this.soundsWaiting = setTimeout(() => this.askSounds(), REST_MS);
  },

  async askSounds() {
    const kind = this.soundDesk === "effects" ? "effect" : "bed";
    const query = new URLSearchParams({ words: this.soundWords, kind });
    const asked = (this.soundsAsked = `${query}`);
    try {
      const found = await get(`/api/projects/${this.project}/sounds?${query}`);
      if (asked === this.soundsAsked) this.soundsFound = found.items;
    } catch (error) {
      this.failed(error);
    }
  },

  /** @param {Item} item */
  soundText(item) {
    const length = item.seconds >= 10 ? `${item.seconds.toFixed(0)} s` : `${item.seconds.toFixed(1)} s`;
    const where = { own: "yours", piece: "in this piece", shipped: "" }[item.source] ?? "";
    return [length, item.bpm ? `${item.bpm} a minute` : "", where].filter(Boolean).join(", ");
  },

  /** @param {Item} item */
  async hearSound(item) {
    if (item.kind === "bed" && !item.clip)
      this.tell(`${item.title} is being played for the first time.`, "note");
    try {
      await page.player.playSound(`/media/projects/${this.project}/sounds/${item.id}.wav`, "voice");
      this.message = "";
    } catch (error) {
      this.failed(error);
    }
  },

  /** @param {Item} item @param {"bed"|"instead"|"effect"} use */
  async laySound(item, use) {
    if (this.looksBack() || this.occupied()) return;
    const where =
      use === "effect"
        ? this.placeOfEffect()
        : use === "instead"
          ? { bed_id: this.chosenBed?.id }
          : { start_s: 0 };
    await this.changing;
    try {
      const made = await post(`/api/projects/${this.project}/sounds`, { item: item.id, use, where });
      await this.refresh();
      if (use === "effect") this.effect = made.id;
      else this.bed = made.id;
      this.redraw();
      this.tell(`${this.t.undo}.`, "good");
    } catch (error) {
      this.failed(error);
    }
  },

  /** Where a new effect goes, as its edit takes it. @returns {Record<string, unknown>} */
  placeOfEffect() {
    if (this.effectWhere === "word" && this.chosenLine)
      return {
        line_id: this.chosenLine.id,
        word: Math.min(this.wordPicked, this.chosenLine.words.length - 1),
      };
    if (this.effectWhere === "title" && this.nearTitle) return { title_id: this.nearTitle.id };
    const shot = this.shotNow ?? this.t.shots[0];
    if (this.effectWhere === "cut") return { shot_id: shot.id };
    return { shot_id: shot.id, offset_s: Math.max(0, this.at - shot.start * this.frameSeconds) };
  },

  /** The title on the screen, or the next one. @returns {import("../types.d.ts").Title|undefined} */
  get nearTitle() {
    return this.t.titles.find((each) => each.out > this.frameNow) ?? this.t.titles.at(-1);
  },

  /** Places for a new effect, in words. @returns {Array<{value: string, text: string}>} */
  get effectPlaces() {
    const shot = this.shotNow;
    const number = shot ? this.t.shots.findIndex((each) => each.id === shot.id) + 1 : 1;
    const line = this.chosenLine;
    const word = line?.words[Math.min(this.wordPicked, line.words.length - 1)];
    return [
      { value: "playhead", text: `at ${this.timecode(this.frameNow)}, with shot ${number}` },
      { value: "cut", text: `on the cut of shot ${number}` },
      ...(line && word ? [{ value: "word", text: `on “${word[2]}” of line ${this.lineNumber}` }] : []),
      ...(this.nearTitle
        ? [{ value: "title", text: `as “${this.nearTitle.text.split("\n")[0]}” comes in` }]
        : []),
    ];
  },

  // the effects of the piece

  /** @returns {Effect|undefined} */
  get chosenEffect() {
    return this.t.effects.find((each) => each.id === this.effect);
  },

  /** @param {string} id */
  chooseEffect(id) {
    this.effect = id;
    this.soundDesk = "effects";
    const found = this.t.effects.find((each) => each.id === id);
    if (found) this.seek(found.start_s);
    this.askSounds();
    this.redraw();
  },

  /** @param {Effect} effect */
  effectName(effect) {
    return (this.t.clips[effect.clip_hash]?.name ?? "").replace(/\.wav$/, "");
  },

  /** @param {Effect} effect */
  effectHeld(effect) {
    if (effect.held === "word") {
      const number = this.t.lines.findIndex((each) => each.id === effect.line);
      return `on “${this.t.lines[number]?.words[effect.word]?.[2] ?? ""}” of line ${number + 1}`;
    }
    if (effect.held === "title") {
      const title = this.t.titles.find((each) => each.id === effect.title);
      return `as “${(title?.text ?? "").split("\n")[0]}” comes in`;
    }
    const number = this.t.shots.findIndex((each) => each.id === effect.shot) + 1;
    return effect.offset_s < 0.0005
      ? `on the cut of shot ${number}`
      : `${this.seconds(effect.offset_s)} into shot ${number}`;
  },

  /** @param {Event} event @param {Effect} effect @param {string} field */
  setEffect(event, effect, field) {
    const value = Number(/** @type {HTMLInputElement} */ (event.target).value);
    return this.edit({ kind: "effect", effect_id: effect.id, [field]: value });
  },

  /** @param {Effect} effect */
  holdEffectHere(effect) {
    return this.edit({ kind: "hold_effect", effect_id: effect.id, ...this.placeOfEffect() });
  },

  /** @param {Effect} effect */
  deleteEffect(effect) {
    return this.edit({ kind: "delete_effect", effect_id: effect.id });
  },

  /** Sounds of the user's own, for beds or effects. @param {Event} event */
  soundFilesChosen(event) {
    const field = /** @type {HTMLInputElement} */ (event.target);
    const files = [...(field.files ?? [])];
    field.value = "";
    return this.addMedia(files, "sound").then(() => this.askSounds());
  },

  /** Keep a sound for all projects. @param {Item} item */
  async keepSound(item) {
    try {
      if (item.kept) await post(`/api/shelf/${item.clip}/forget`);
      else
        await post("/api/shelf", {
          clip: item.clip,
          title: item.title,
          words: item.words,
          licence: item.licence,
        });
      await this.askSounds();
      this.tell(item.kept ? "No longer kept for all projects." : "Kept for all projects.", "good");
    } catch (error) {
      this.failed(error);
    }
  },
});

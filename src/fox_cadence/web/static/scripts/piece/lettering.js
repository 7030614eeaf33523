// How words on the screen look: styles, for all captions, a role's or one; titles; lines broken by hand.

import { chosenFile, post, postForm, remove } from "../api.js";
import { part } from "./compose.js";
import { number } from "./editing.js";
import { page } from "./page.js";

/** @typedef {import("../answers.d.ts").CaptionStyleJson} Style */
/** @typedef {import("../types.d.ts").Title} Title */
/** @typedef {import("../types.d.ts").Caption} Caption */
/** @typedef {import("../answers.d.ts").FamilyJson} Family */
/** @typedef {import("../answers.d.ts").ShippedJson} Shipped */

/** @type {Shipped} */
const NOTHING = { captions: [], titles: [], mine: [], families: [], places: [] };

export const lettering = part({
  /** What ships: styles, families of typefaces, places with a name. */
  shipped: NOTHING,
  /** The title that is chosen instead of a caption; '' for none. */
  title: "",
  /** Whom a change of style is for. @type {"all"|"role"|"caption"} */
  letterScope: "all",
  /** Goes up whenever drawings have come, which are no part of the state. */
  drawnCount: 0,
  /** What the style is to be kept as. */
  keepAs: "",
  /** The words of a title that is being written. */
  newTitle: "",

  /** @returns {Title|null} */
  get chosenTitle() {
    return this.t.titles.find((item) => item.id === this.title) ?? null;
  },

  /** The words on the screen that are chosen. @returns {Title|Caption|null} */
  get chosenWords() {
    return this.chosenTitle ?? this.chosenCaption;
  },

  /** The role that says the chosen caption. @returns {import("../types.d.ts").Role|null} */
  get captionRole() {
    const line = this.t.lines.find((item) => item.id === this.chosenCaption?.line);
    return this.t.roles.find((role) => role.id === line?.role) ?? null;
  },

  /** The style that a change would change. @returns {Style|null} */
  get styleNow() {
    if (this.chosenTitle) return this.chosenTitle.own_style;
    const all = this.t.lettering?.style ?? null;
    if (this.letterScope === "all") return all;
    const ofRole = this.captionRole?.caption_style ?? all;
    return this.letterScope === "role" ? ofRole : (this.chosenCaption?.own_style ?? ofRole);
  },

  /** Styles to choose from: shipped ones, then those kept here. @returns {Style[]} */
  get stylesHere() {
    const titles = this.chosenTitle !== null;
    const kept = this.t.lettering?.kept ?? [];
    return [
      ...(titles ? this.shipped.titles : this.shipped.captions),
      ...[...kept, ...this.shipped.mine].filter((style) => style.for_titles === titles),
    ];
  },

  /** @returns {Family|null} */
  get familyNow() {
    return this.shipped.families.find((family) => family.id === this.styleNow?.family) ?? null;
  },

  /** Roles and captions with a style of their own, in words. @returns {string} */
  get ownStylesText() {
    const roles = this.t.roles.filter((role) => role.caption_style).length;
    const captions = this.t.captions.filter((caption) => caption.own_style).length;
    const parts = [roles && this.counted(roles, "role"), captions && this.counted(captions, "caption")];
    const text = parts.filter(Boolean).join(" and ");
    return text && `${text} with a style of their own`;
  },

  /** Whether what is edited has a style of its own that can be taken away. @returns {boolean} */
  get hasOwnStyle() {
    if (this.chosenTitle || this.letterScope === "all") return false;
    const item =
      this.letterScope === "role" ? this.captionRole?.caption_style : this.chosenCaption?.own_style;
    return Boolean(item);
  },

  /** @param {string} id */
  chooseTitle(id) {
    const title = this.t.titles.find((item) => item.id === id);
    if (!title) return;
    this.title = id;
    this.shot = title.shot;
    if (!this.playing) this.moved(Math.floor((title.in + title.out) / 2) * this.frameSeconds, false);
    this.redraw();
  },

  /** @param {string} scope */
  setLetterScope(scope) {
    this.letterScope = /** @type {"all"|"role"|"caption"} */ (scope);
  },

  /** @param {string} id */
  pickStyle(id) {
    const style = this.stylesHere.find((each) => each.id === id);
    if (style) return this.putStyle(style);
  },

  /** Change the style as it is now; of a part of it (ground, edge, movements, place) only what is told. @param {object} change */
  restyle(change) {
    const now = this.styleNow;
    if (now) return this.putStyle(merged(now, change));
  },

  /** Give a style to what it is for. @param {Style} style */
  putStyle(style) {
    const title = this.chosenTitle;
    if (title) return this.edit({ kind: "title", title_id: title.id, style });
    const scope = this.letterScope;
    const id = scope === "role" ? this.captionRole?.id : scope === "caption" ? this.caption : "";
    if (id === undefined) return;
    return this.edit({ kind: "caption_style", scope, id, style });
  },

  dropOwnStyle() {
    const scope = this.letterScope;
    const id = scope === "role" ? this.captionRole?.id : this.caption;
    if (id) return this.edit({ kind: "caption_style", scope, id, style: null });
  },

  /** All captions as the project has them. */
  allAlike() {
    const style = this.t.lettering.style;
    return this.edit({ kind: "caption_style", scope: "all", style, own_too: true });
  },

  /** @param {Event} event @param {string} field of the style, or of a part of it: `ground.reach` @param {number} [scale] */
  typeStyle(event, field, scale = 1) {
    const input = /** @type {HTMLInputElement} */ (event.target);
    const value =
      input.type === "number" || input.type === "range" ? Number(input.value) / scale : input.value;
    const [first, second] = field.split(".");
    return this.restyle(second ? { [first ?? ""]: { [second]: value } } : { [field]: value });
  },

  /** Bring a font file in; words are set in it at once. @param {Event} event */
  async bringFont(event) {
    const chosen = chosenFile(event);
    if (!chosen) return;
    try {
      const before = new Set(this.shipped.families.map((family) => family.id));
      const own = /** @type {Family[]} */ (await postForm("/api/fonts", chosen.form));
      this.ownFamilies(own);
      const made = own.find((family) => !before.has(family.id)) ?? own[0];
      if (made) await this.restyle({ family: made.id, weight: made.weights[0] });
    } catch (error) {
      this.failed(error);
    }
  },

  /** No longer offer a font file. @param {string} id */
  async forgetFont(id) {
    try {
      this.ownFamilies(await remove(`/api/fonts/${id.slice(id.indexOf(":") + 1)}`));
    } catch (error) {
      this.failed(error);
    }
  },

  /** @param {Family[]} own */
  ownFamilies(own) {
    const families = [...this.shipped.families.filter((family) => !family.own), ...own];
    this.shipped = { ...this.shipped, families };
  },

  /** A number of the style chosen from a list. @param {Event} event @param {string} field */
  restyleNumber(event, field) {
    return this.restyle({ [field]: Number(/** @type {HTMLSelectElement} */ (event.target).value) });
  },

  /** A share as per cent. @param {number} share */
  ofHundred(share) {
    return Math.round(share * 1000) / 10;
  },

  /** The shorter side of the frame, against which sizes are told. */
  get shortSide() {
    return Math.min(this.t.width, this.t.height);
  },

  get sizePx() {
    return Math.round((this.styleNow?.size ?? 0) * this.shortSide);
  },

  /** @param {Event} event */
  chooseFamily(event) {
    const id = /** @type {HTMLSelectElement} */ (event.target).value;
    const family = this.shipped.families.find((each) => each.id === id);
    const weight = this.styleNow?.weight ?? 700;
    const nearest = family?.weights.toSorted((a, b) => Math.abs(a - weight) - Math.abs(b - weight))[0];
    return this.restyle({ family: id, weight: nearest ?? weight });
  },

  /** Keep the style as it is now under a name: in this project, or for all. @param {boolean} forAll */
  async keepStyle(forAll) {
    const name = this.keepAs.trim();
    if (!this.styleNow || !name) return;
    const style = { ...this.styleNow, name };
    this.keepAs = "";
    if (!forAll) return this.edit({ kind: "keep_style", style });
    try {
      this.shipped = { ...this.shipped, mine: await post("/api/caption-styles", style) };
    } catch (error) {
      this.failed(error);
    }
  },

  /** No longer keep a style for all projects. @param {string} name */
  async forgetMine(name) {
    try {
      this.shipped = { ...this.shipped, mine: await post("/api/caption-styles/forget", { name }) };
    } catch (error) {
      this.failed(error);
    }
  },

  /** @param {string} id */
  forgetStyle(id) {
    return this.edit({ kind: "forget_style", style_id: id });
  },

  /** Put words at a place, in the style or for themselves. @param {object|null} place */
  placeWords(place) {
    const words = this.chosenWords;
    if (!this.chosenTitle && this.letterScope !== "caption") return place && this.restyle({ place });
    if (!words) return;
    const now = words.place ?? this.styleNow?.place;
    return this.edit({ kind: "words_place", ids: [words.id], place: place && { ...now, ...place } });
  },

  /** Where the chosen words stand: their own place, or that of their style. @returns {import("../answers.d.ts").PlaceJson|null} */
  get placeNow() {
    const own = this.chosenTitle || this.letterScope === "caption" ? this.chosenWords?.place : null;
    return own ?? this.styleNow?.place ?? null;
  },

  /** Words of the chosen caption with whether a line begins before them. @returns {Array<{text: string, begins: boolean}>} */
  get breakWords() {
    const caption = this.chosenCaption;
    if (!caption || this.chosenTitle || this.drawnCount < 0) return [];
    const drawing = page.stage?.drawings.get(this.t, caption);
    if (!drawing) return [];
    /** @type {Array<{text: string, begins: boolean}>} */
    const found = [];
    drawing.words.forEach((word, number) => {
      const before = drawing.words[number - 1];
      const last = found[drawing.of[number] ?? 0];
      if (last)
        last.text += word.text; // a part of a word that no line holds
      else found.push({ text: word.text, begins: before !== undefined && before.line !== word.line });
    });
    return found;
  },

  /** Begin a line before a word, or no longer. @param {number} word */
  turnBreak(word) {
    const caption = this.chosenCaption;
    if (!caption) return;
    const begins = this.breakWords.flatMap((each, number) => (each.begins ? [number] : []));
    const breaks = begins.includes(word) ? begins.filter((each) => each !== word) : [...begins, word];
    return this.edit({ kind: "caption_breaks", caption_id: caption.id, breaks });
  },

  freeBreaks() {
    if (this.chosenCaption)
      return this.edit({ kind: "caption_breaks", caption_id: this.caption, breaks: [] });
  },

  /** Split the chosen caption before a word, where that word is spoken. @param {number} word */
  splitCaption(word) {
    const caption = this.chosenCaption;
    const shot = this.t.shots.find((item) => item.id === caption?.shot);
    if (!caption || !shot) return;
    const begins = caption.spoken[word]?.[0];
    const frames = begins === undefined ? null : begins - shot.start;
    return this.edit({ kind: "split_caption", caption_id: caption.id, word, frames });
  },

  /** @param {Event} event */
  splitCaptionAt(event) {
    const word = Number(/** @type {HTMLSelectElement} */ (event.target).value);
    if (word) return this.splitCaption(word);
  },

  /** Whether the chosen caption can be joined to the one before it in its line. @returns {boolean} */
  get joinable() {
    const line = this.t.lines.find((item) => item.id === this.chosenCaption?.line);
    return Boolean(line && line.captions.indexOf(this.caption) > 0);
  },

  joinCaption() {
    return this.edit({ kind: "join_captions", caption_id: this.caption });
  },

  /** Headings that are on no title yet. @returns {Array<{id: string, text: string}>} */
  get bareHeadings() {
    const shown = new Set(this.t.titles.map((title) => title.text));
    return this.t.shots.flatMap((shot) => shot.headings.filter((heading) => !shown.has(heading.text)));
  },

  async addTitle() {
    const text = this.newTitle.trim();
    const shot = this.shotNow ?? this.t.shots[0];
    if (!text || !shot) return;
    const in_frames = Math.max(0, this.frameNow - shot.start);
    const made = await this.edit({ kind: "add_title", shot_id: shot.id, text, in_frames });
    if (!made) return;
    this.newTitle = "";
    this.newestTitle();
  },

  /** @param {string} heading */
  async titleFrom(heading) {
    if (await this.edit({ kind: "title_from_heading", heading_id: heading })) this.newestTitle();
  },

  /** Go to the title that was made last. */
  newestTitle() {
    const ids = this.t.titles.map((title) => title.id);
    const last = ids.toSorted((a, b) => Number(a.slice(1)) - Number(b.slice(1))).at(-1);
    if (last) this.chooseTitle(last);
  },

  /** @param {Event} event */
  typeTitle(event) {
    const text = /** @type {HTMLTextAreaElement} */ (event.target).value;
    if (this.chosenTitle && text.trim()) return this.edit({ kind: "title", title_id: this.title, text });
  },

  /** @param {Event} event @param {"in_frame"|"out_frame"} which */
  timeTitle(event, which) {
    const frame = number(event);
    if (frame !== null) return this.edit({ kind: "title", title_id: this.title, [which]: frame });
  },

  async deleteTitle() {
    const gone = this.title;
    this.title = "";
    return this.edit({ kind: "delete_title", title_id: gone });
  },

  sayTitle() {
    return this.edit({ kind: "say_title", title_id: this.title });
  },

  /** @param {boolean} calm */
  setCalm(calm) {
    return this.edit({ kind: "calm_lettering", calm });
  },
});

/** @param {Style} style @param {Record<string, any>} change @returns {Style} */
function merged(style, change) {
  /** @type {Record<string, any>} */
  const made = { ...style };
  for (const [name, value] of Object.entries(change)) {
    const part = made[name];
    made[name] =
      value && typeof value === "object" && part && typeof part === "object" ? { ...part, ...value } : value;
  }
  return /** @type {Style} */ (made);
}

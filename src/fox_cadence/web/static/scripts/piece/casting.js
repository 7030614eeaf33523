// The cast: roles and their voices, and the catalogue to choose from, by what is asked and by hearing.

import { part } from "./compose.js";

/** @typedef {import("../types.js").Voice} Voice */

const NAMES = new Intl.DisplayNames(["en"], { type: "language" });

export const casting = part({
  newRole: "",
  sought: { text: "", language: "", who: "", natural: false },

  get voiceLanguages() {
    const tags = [...new Set(this.voices.map((/** @type {Voice} */ voice) => voice.language))];
    return tags.map((tag) => ({ tag, name: NAMES.of(tag) ?? tag }));
  },

  /** The voices that are all that is asked for. */
  get voicesShown() {
    const { text, language, who, natural } = this.sought;
    const words = text.toLowerCase().split(/\s+/).filter(Boolean);
    return this.voices.filter((/** @type {Voice} */ voice) => {
      const about = `${voice.name} ${voice.region} ${NAMES.of(voice.language)} ${voice.gender} ${voice.age} ${voice.character} ${voice.engine} ${voice.licence}`.toLowerCase();
      return (!language || voice.language === language) && (!who || voice.gender === who) && (!natural || voice.natural)
        && words.every((/** @type {string} */ word) => about.includes(word));
    });
  },

  get shownText() {
    const count = this.voicesShown.length;
    return count ? this.counted(count, "voice") : "No voice is all of that. Ask for less.";
  },

  /** The role that is cast: that of the chosen line. */
  get castRole() {
    return this.t.roles.find((/** @type {any} */ role) => role.id === this.chosenLine?.role) ?? this.t.roles[0] ?? null;
  },

  /** What another voice would say anew: locked lines keep their sound. */
  get castLines() { return this.t.lines.filter((/** @type {any} */ line) => line.role === this.castRole?.id && !line.locked); },

  get castText() {
    if (!this.castRole) return "";
    const length = this.castLines.reduce((/** @type {number} */ sum, /** @type {any} */ line) => sum + line.end_s - line.start_s, 0);
    return `“Cast” gives ${this.castRole.name} another voice and voices its lines anew: ${this.counted(this.castLines.length, "line")}, about ${this.seconds(length)} of speech.`;
  },

  /** Give the role of the chosen line another voice and voice its lines. @param {Voice} voice */
  async recast(voice) {
    const [role, lines] = [this.castRole, this.castLines];
    if (!role || this.occupied()) return;
    if (voice.id === role.voice_id) return this.tell(`${voice.name} is the voice of ${role.name} already.`, "note");
    if (!(await this.edit({ kind: "role", role_id: role.id, voice_id: voice.id }))) return;
    if (lines.length) await this.voice(lines.map((/** @type {any} */ line) => line.id));
  },

  /** @param {Event} event @param {string} roleId @param {string} field */
  setRole(event, roleId, field) {
    const value = /** @type {HTMLInputElement} */ (event.target).value;
    const made = field === "voice_id" || field === "name" ? value : Number(value);
    return this.edit({ kind: "role", role_id: roleId, [field]: made });
  },

  /** The first voice of the language of the cast that nobody has yet. @returns {Voice} */
  freeVoice() {
    const language = this.voices.find((/** @type {Voice} */ voice) => voice.id === this.castRole?.voice_id)?.language.split("-")[0];
    const taken = this.t.roles.map((/** @type {any} */ role) => role.voice_id);
    const alike = this.voices.filter((/** @type {Voice} */ voice) => !language || voice.language.split("-")[0] === language);
    return alike.find((/** @type {Voice} */ voice) => !taken.includes(voice.id)) ?? alike[0] ?? this.voices[0];
  },

  async addRole() {
    if (!this.newRole.trim()) return this.tell("Give the role a name first.", "note");
    if (await this.edit({ kind: "add_role", name: this.newRole, voice_id: this.freeVoice().id })) this.newRole = "";
  },
});

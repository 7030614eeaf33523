// The cast: roles and how they speak, voices to choose from, and a line's own way.

import { get, post } from "../api.js";
import { part } from "./compose.js";

export const casting = part({
  castDesk: "voices",
  newRole: "",
  sought: { text: "", language: "", who: "", natural: false, listed: false },
  /** The role the catalogue casts: that of the chosen line, unless another was chosen. */
  castRoleId: "",
  /** @type {Array<{id: string, name: string, does: string}>} */
  styles: [],
  /** Deliveries the user keeps for all projects. @type {Array<{name: string, delivery: any}>} */
  ownDeliveries: [],
  deliveryName: "",
  deliveryWhere: "line",

  /** @param {string} what */
  setCastDesk(what) {
    this.castDesk = what;
    this.askTakes();
  },

  /** @returns {import("../types.d.ts").Role|null} */
  get castRole() {
    return (
      this.t.roles.find((item) => item.id === this.castRoleId) ?? this.chosenRole ?? this.t.roles[0] ?? null
    );
  },

  /** @returns {Array<{tag: string, name: string}>} */
  get voiceLanguages() {
    const found = new Map(this.voices.map((item) => [item.language.split("-")[0], item.language_name]));
    return [...found].map(([tag, name]) => ({ tag, name })).sort((a, b) => a.name.localeCompare(b.name));
  },

  /** Voices that may be cast: in a commercial piece only those whose licence is known to allow it. @returns {import("../types.d.ts").Voice[]} */
  get offered() {
    return this.voices.filter((item) => item.commercial || !this.t.commercial);
  },
  /** @returns {number} */
  get heldBack() {
    return this.voices.length - this.offered.length;
  },

  /** @returns {import("../types.d.ts").Voice[]} */
  get voicesShown() {
    return this.voicesLike({});
  },

  /** Voices as they are looked for, with some of it changed. @param {object} change @returns {import("../types.d.ts").Voice[]} */
  voicesLike(change) {
    const { text, language, who, natural, listed } = { ...this.sought, ...change };
    const words = text.toLowerCase().split(/\s+/).filter(Boolean);
    // a language that is typed goes before the one that is set
    const typed = words.some(
      (/** @type {string} */ word) =>
        word.length > 2 && this.voiceLanguages.some((each) => each.name.toLowerCase().startsWith(word)),
    );
    return this.offered.filter((item) => {
      const about =
        `${item.name} ${item.language} ${item.language_name} ${item.region} ${item.gender} ${item.age} ${item.character} ${item.uses} ${item.engine} ${item.licence}`
          .toLowerCase()
          .split(/[^\p{L}\p{N}.-]+/u);
      return (
        (!language || typed || item.language.split("-")[0] === language) &&
        (!who || item.gender === who) &&
        (!natural || item.natural) &&
        (!listed || this.t.shortlist.includes(item.id)) &&
        words.every((/** @type {string} */ word) => about.some((part) => part.startsWith(word)))
      );
    });
  },

  /** How many voices there would be with some of it changed. @param {object} change */
  leftWith(change) {
    return this.voicesLike(change).length;
  },

  /** @returns {string} */
  get shownText() {
    const held = this.heldBack
      ? `; ${this.heldBack} held back, whose licence is not known to allow commercial use`
      : "";
    return this.voicesShown.length
      ? `${this.voicesShown.length} of ${this.voices.length}${held}`
      : "No voice matches. Loosen the filters.";
  },

  /** What *Cast* would do, said before it is done. @returns {string} */
  get castText() {
    const role = this.castRole;
    if (!role) return "";
    const lines = this.linesOf(role.id);
    const long = lines.reduce((sum, item) => sum + item.natural_s, 0);
    return `“Cast” gives ${role.name} another voice${lines.length ? ` and voices their lines again: ${this.counted(lines.length, "line")}, about ${this.seconds(long)} of speech` : "; they have no lines yet"}.`;
  },

  /** Lines of a role that recasting says anew: not locked ones, not those in a voice of their own, not recorded ones. @param {string} id */
  linesOf(id) {
    return this.t.lines.filter(
      (item) => item.role === id && !item.locked && !item.own_voice && !item.take?.recorded,
    );
  },

  /** @param {string} id */
  voiceName(id) {
    return this.voices.find((item) => item.id === id)?.name ?? id;
  },
  /** @param {string} id */
  styleName(id) {
    return this.styles.find((item) => item.id === id)?.name ?? id;
  },

  /** @param {Event} event @param {string} id @param {string} field */
  setRole(event, id, field) {
    const value = /** @type {HTMLInputElement} */ (event.target).value;
    const text = ["voice_id", "name", "style"].includes(field);
    return this.edit({ kind: "role", role_id: id, [field]: text ? value : Number(value) });
  },

  /** Who a voice is, in words. @param {import("../types.d.ts").Voice} voice */
  whoText(voice) {
    return [voice.language_name, voice.region, voice.gender, voice.age].filter(Boolean).join(", ");
  },

  /** That a voice is slower than what it says, in words. @param {string} id */
  slowText(id) {
    const found = this.t.slow_voices?.[id];
    return found ? `Slow on this machine: it takes ${found.toFixed(1)} s for a second of speech.` : "";
  },

  /** Whether a voice may not be heard in this piece, because it is marked commercial. @param {string} id */
  notCommercial(id) {
    return this.t.commercial && !this.voices.find((item) => item.id === id)?.commercial;
  },

  /** By a key: the chosen line said by the voice that has the focus, or by the first one shown. */
  hearOwnLine() {
    const row = /** @type {HTMLElement|null} */ (
      document.querySelector(".voice-dot:hover") ?? document.activeElement?.closest("[data-voice]")
    );
    const id = row?.dataset.voice ?? this.voicesShown[0]?.id;
    if (id) return this.hearVoice(id, true);
  },

  /** @param {string} id */
  lineCount(id) {
    return this.counted(this.idsOf(id).length, "line");
  },
  /** The lines of a role, or all. @param {string} id */
  idsOf(id) {
    return this.t.lines.filter((item) => !id || item.role === id).map((item) => item.id);
  },
  /** Who would take over from a role. @param {string} id */
  otherRole(id) {
    return this.t.roles.find((item) => item.id !== id) ?? { id: "", name: "" };
  },
  /** @param {string} id */
  deleteRole(id) {
    return this.edit({ kind: "delete_role", role_id: id, to_role_id: this.otherRole(id).id });
  },

  addRole() {
    const name = this.newRole.trim();
    const taken = this.t.roles.map((role) => role.voice_id);
    const choices = this.offered.filter(
      (item) => item.language.split("-")[0] === this.t.language.split("-")[0],
    );
    const voice = choices.find((item) => !taken.includes(item.id)) ?? choices[0] ?? this.offered[0];
    if (!name) return this.tell("Give the role a name first.", "note");
    if (!voice) return;
    this.newRole = "";
    return this.edit({ kind: "add_role", name, voice_id: voice.id });
  },

  /** Give the role another voice and say its lines anew, as one step. @param {import("../types.d.ts").Voice} voice */
  async recast(voice) {
    const role = this.castRole;
    if (!role || this.occupied()) return;
    if (voice.missing) return this.tell(`${voice.name} can't be heard here: ${voice.missing}.`, "note");
    if (voice.id === role.voice_id)
      return this.tell(`${voice.name} is the voice of ${role.name} already.`, "note");
    const lines = this.linesOf(role.id).map((item) => item.id);
    const edit = { kind: "role", role_id: role.id, voice_id: voice.id };
    if (!lines.length) return this.edit(edit);
    await this.voice(lines, [edit]);
  },

  /** @param {import("../types.d.ts").Voice} voice */
  shortlist(voice) {
    return this.edit({ kind: "shortlist", voice_id: voice.id, listed: !this.t.shortlist.includes(voice.id) });
  },

  // how a line is said

  /** The fields of a delivery alone. @param {any} from */
  deliveryOf(from) {
    const { style, pace, pitch_semitones, pitch_range, gain_db } = from;
    return { style, pace, pitch_semitones, pitch_range, gain_db };
  },

  /** How the chosen line is said: its own delivery, or its role's. @returns {import("../types.d.ts").Delivery|null} */
  get lineDelivery() {
    return /** @type {import("../types.d.ts").Delivery|null} */ (
      this.chosenLine?.own_delivery ?? this.chosenRole
    );
  },

  /** Change how the chosen line is said, and let nobody else be changed. @param {object} change */
  setLineDelivery(change) {
    return this.editOf(() => ({
      kind: "line_delivery",
      line_id: this.line,
      voice_id: this.chosenLine?.own_voice,
      delivery: { ...this.deliveryOf(this.lineDelivery), ...change },
    }));
  },

  /** @param {Event} event @param {string} field */
  setLineNumber(event, field) {
    const value = /** @type {HTMLInputElement} */ (event.target).value;
    if (value !== "") return this.setLineDelivery({ [field]: Number(value) });
  },

  /** @param {Event} event */
  setLineVoice(event) {
    const id = /** @type {HTMLSelectElement} */ (event.target).value || null;
    return this.editOf(() => {
      const own = this.chosenLine?.own_delivery;
      return {
        kind: "line_delivery",
        line_id: this.line,
        voice_id: id,
        delivery: own ? this.deliveryOf(own) : null,
      };
    });
  },

  asRole() {
    return this.edit({ kind: "line_delivery", line_id: this.line });
  },

  /** @param {import("../types.d.ts").Delivery} delivery */
  applyDelivery(delivery) {
    return this.edit({
      kind: "apply_delivery",
      delivery: this.deliveryOf(delivery),
      where: this.deliveryWhere,
      line_id: this.line,
    });
  },

  // deliveries under a name: in the project, and in the data folder for all projects

  async loadOwnDeliveries() {
    this.ownDeliveries = (await get("/api/deliveries")).deliveries;
  },

  /** Keep a delivery for all projects, or forget the one of that name. @param {string} name @param {import("../types.d.ts").Delivery|null} delivery */
  async keepOwn(name, delivery) {
    try {
      this.ownDeliveries = (await post("/api/deliveries", { name, delivery })).deliveries;
      return true;
    } catch (error) {
      this.failed(error);
      return false;
    }
  },

  /** @param {boolean} everywhere */
  async saveDelivery(everywhere) {
    const name = this.deliveryName.trim();
    if (!name) return this.tell("Give the delivery a name first.", "note");
    await this.changing; // a change still on its way belongs to what is kept
    const delivery = this.deliveryOf(this.lineDelivery);
    const kept = everywhere
      ? await this.keepOwn(name, delivery)
      : await this.edit({ kind: "save_delivery", name, delivery });
    if (kept) this.deliveryName = "";
  },

  // which lines have a sound

  /** @returns {import("../types.d.ts").Coverage[]} */
  get coverageRows() {
    const found = this.t.coverage;
    if (!found) return [];
    return [found.whole, ...found.sections, ...(found.roles.length > 1 ? found.roles : [])];
  },

  /** @param {import("../types.d.ts").Coverage} row */
  coverageText(row) {
    const parts = [
      row.unvoiced ? `${row.unvoiced} unvoiced` : "",
      row.stale ? `${row.stale} stale` : "",
      row.failed ? `${row.failed} failed` : "",
      row.recorded ? `${row.recorded} recorded` : "",
      row.spoken_before.length ? `${row.spoken_before.length} recorded before the words changed` : "",
    ];
    return parts.filter(Boolean).join(", ") || "all voiced";
  },

  /** Speech follows words by itself, once typing has rested. */
  keepInStep() {
    clearTimeout(this.stepping);
    if (!this.t.keep_in_step || this.stepHeld || !this.t.coverage?.whole.stale_ids.length) return;
    this.stepping = setTimeout(() => {
      const typing = document.activeElement?.matches("textarea");
      if (typing || this.busy) return this.keepInStep();
      const open = this.t.coverage.whole.stale_ids.filter(
        (/** @type {string} */ id) => !this.stepFailed.has(id),
      );
      if (open.length) this.voice(open, [], true);
    }, 1200);
  },
  /** @type {ReturnType<typeof setTimeout>|undefined} */
  stepping: undefined,
  /** What was undone is not done again by itself; the next change lets it go on. */
  stepHeld: false,
  /** Lines that failed are not tried again and again. @type {Set<string>} */
  stepFailed: new Set(),
});

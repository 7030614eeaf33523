// Voices mixed of others: two or three with their shares, heard before they are kept under a name.

import { post } from "../api.js";
import { part } from "./compose.js";

const LEAST = 5;

export const blending = part({
  /** The voices that are mixed and their shares in percent. @type {Array<{voice: string, percent: number}>} */
  mixOf: [],
  blendName: "",

  /** Voices that share one model and can be mixed: those of the piece's language first. @returns {import("../types.d.ts").Voice[]} */
  get mixable() {
    const tag = this.t.language.split("-")[0];
    const own = (/** @type {import("../types.d.ts").Voice} */ voice) =>
      Number(voice.language.split("-")[0] !== tag);
    return this.voices
      .filter((voice) => voice.engine === "kokoro" && !voice.blend)
      .sort((a, b) => own(a) - own(b));
  },

  /** Begin a mix: of the role's voice and one of the shortlist where they can be mixed. */
  beginBlend() {
    const can = this.mixable;
    const wanted = [this.castRole?.voice_id, ...this.t.shortlist, ...can.map((each) => each.id)];
    const ids = [...new Set(wanted)].filter((id) => can.some((each) => each.id === id)).slice(0, 2);
    this.mixOf = ids.map((id) => ({ voice: id ?? "", percent: 50 }));
  },

  /** Another share for one of the voices; the others share what is left as they did. @param {number} place @param {number} percent */
  setShare(place, percent) {
    const others = this.mixOf.filter((_, number) => number !== place);
    const most = 100 - LEAST * others.length;
    const own = Math.min(most, Math.max(LEAST, Math.round(percent) || LEAST));
    const sum = others.reduce((total, each) => total + each.percent, 0);
    let left = 100 - own;
    const shares = others.map((each, number) => {
      const rest = LEAST * (others.length - number - 1);
      const share =
        number === others.length - 1
          ? left
          : Math.min(left - rest, Math.max(LEAST, Math.round(((100 - own) * each.percent) / sum)));
      left -= share;
      return share;
    });
    this.mixOf = this.mixOf.map((each, number) => ({
      voice: each.voice,
      percent: number === place ? own : (shares.shift() ?? LEAST),
    }));
  },

  /** @param {number} place @param {string} voice */
  setPart(place, voice) {
    this.mixOf = this.mixOf.map((each, number) => (number === place ? { ...each, voice } : each));
  },

  addToMix() {
    const next = this.mixable.find((each) => !this.mixOf.some((part) => part.voice === each.id));
    if (!next || this.mixOf.length >= 3) return;
    this.mixOf = [...this.mixOf, { voice: next.id, percent: LEAST }];
    this.setShare(this.mixOf.length - 1, 33);
  },

  /** @param {number} place */
  takeFromMix(place) {
    this.mixOf = this.mixOf.filter((_, number) => number !== place);
    if (this.mixOf.length) this.setShare(0, this.mixOf.length > 1 ? this.mixOf[0].percent : 100);
  },

  /** Have the mix as a voice; kept where it has a name. @param {string} name @returns {Promise<import("../types.d.ts").Voice|null>} */
  async mixed(name) {
    try {
      const parts = this.mixOf.map((each) => ({ voice_id: each.voice, percent: each.percent }));
      return (await post("/api/blends", { parts, name })).voice;
    } catch (error) {
      this.failed(error);
      return null;
    }
  },

  async hearBlend() {
    const voice = await this.mixed("");
    if (!voice) return;
    await this.hearVoice(voice.id, this.line !== "", voice.name);
  },

  /** Blends are kept while the page is open; it draws them itself into lists of voices. @returns {import("../types.d.ts").Voice[]} */
  get blends() {
    return this.voices.filter((voice) => voice.blend);
  },

  /** A list shows the voice that is used once its blends are drawn. @param {HTMLSelectElement} list @param {string} id @param {number} _blends */
  showVoice(list, id, _blends) {
    this.$nextTick(() => {
      list.value = id;
    });
  },

  async keepBlend() {
    const name = this.blendName.trim();
    if (!name) return this.tell("Give the blend a name first.", "note");
    const voice = await this.mixed(name);
    if (!voice) return;
    this.voices = [...this.voices.filter((each) => each.id !== voice.id && each.name !== name), voice];
    this.blendName = "";
    this.tell(`${voice.name} is kept and stands among the voices.`, "note");
    if (!this.t.shortlist.includes(voice.id)) await this.shortlist(voice);
  },

  /** @param {import("../types.d.ts").Voice} voice */
  async forgetBlend(voice) {
    try {
      await post(`/api/blends/${voice.id}/forget`);
      this.voices = this.voices.filter((each) => each.id !== voice.id);
    } catch (error) {
      this.failed(error);
    }
  },
});

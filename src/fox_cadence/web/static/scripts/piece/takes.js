// The takes of a line: those it keeps, and ways to say it compared side by side.

import { get, post } from "../api.js";
import { SideBySide } from "../frame/side_by_side.js";
import { part } from "./compose.js";
import { page } from "./page.js";

const chorus = new SideBySide();

export const takes = part({
  /** @type {import("../types.d.ts").KeptTake[]} */
  keptTakes: [],
  takesFor: "",
  /** Ways the line was said in, to be compared. @type {import("../types.d.ts").Way[]} */
  ways: [],
  wayHeard: 0,
  waysPlay: false,
  waysFor: "",

  /** The takes of the chosen line, asked for when they are looked at. */
  async askTakes() {
    const key = `${this.line} ${this.t.revision}`;
    if (!this.line || this.takesFor === key || this.pass !== "cast" || this.castDesk !== "takes") return;
    this.takesFor = key;
    try {
      const found = await get(`/api/projects/${this.project}/lines/${this.line}/takes`);
      if (this.takesFor === key) this.keptTakes = found.takes;
    } catch (error) {
      this.failed(error);
    }
  },

  /** @returns {boolean} */
  get takesDiffer() {
    return this.keptTakes.some((take) => take.changes.length);
  },

  /** @param {import("../types.d.ts").KeptTake} take */
  takeText(take) {
    const when = take.made_at
      ? new Date(take.made_at).toLocaleString([], { dateStyle: "short", timeStyle: "short" })
      : "";
    const how = [
      take.voice,
      take.style && take.style !== "Plain" ? take.style.toLowerCase() : "",
      take.marks ? this.counted(take.marks, "mark") : "",
    ];
    const stands =
      take.over_s > 0.0005
        ? `${this.seconds(take.over_s)} longer than the window`
        : `${this.seconds(-take.over_s)} to spare`;
    return `${how.filter(Boolean).join(", ")}; ${this.seconds(take.seconds)}, ${stands}; ${when}`;
  },

  /** @param {import("../types.d.ts").KeptTake} take */
  async hearTake(take) {
    await page.player
      .playSound(`/api/takes/${take.id}/sound.wav`, "line")
      .catch((error) => this.failed(error));
  },

  /** @param {string} id */
  chooseTake(id) {
    return this.asked(() =>
      post(`/api/projects/${this.project}/lines/${this.line}/take`, {
        based_on: this.t.revision,
        take_id: id,
      }),
    );
  },

  /** A request that answers with the new timeline, in turn with edits. @param {() => Promise<any>} request */
  asked(request) {
    this.changing = this.changing.then(async () => {
      try {
        await this.take(await request());
        this.message = "";
        return true;
      } catch (error) {
        this.failed(error);
        return false;
      }
    });
    return this.changing;
  },

  // compare

  /** Every style in the line's own voice, or the shortlist in its own delivery. @param {"styles"|"shortlist"|"cast"} what */
  compareBy(what) {
    const line = this.chosenLine;
    const role = this.chosenRole;
    if (!line || !role) return;
    const delivery = this.deliveryOf(line.own_delivery ?? role);
    if (what === "styles")
      return this.compareWays(
        ["plain", ...this.comparedStyles.filter((/** @type {string} */ id) => id !== "plain")]
          .slice(0, 6)
          .map((style) => ({ delivery: { ...delivery, style } })),
      );
    const own = line.own_voice ?? role.voice_id;
    const others = what === "shortlist" ? this.t.shortlist : this.t.roles.map((item) => item.voice_id);
    const voices = [...new Set([own, ...others])].slice(0, 6);
    if (voices.length < 2)
      return this.tell(
        what === "shortlist"
          ? "Put voices on the shortlist first: the star is beside each of them in Voices."
          : "The cast has only one voice.",
        "note",
      );
    return this.compareWays(voices.map((voice_id) => ({ voice_id })));
  },

  comparedStyles: ["calm", "bright", "urgent", "hushed", "grave"],

  /** Say the line in several ways. @param {Array<import("../types.d.ts").Way["variant"]>} variants */
  async compareWays(variants) {
    this.stopWays();
    const job = await this.run(`/api/projects/${this.project}/lines/${this.line}/compare`, { variants });
    if (job?.state !== "done") return;
    this.ways = (await get(`/api/projects/${this.project}/ways/${job.id}`)).ways;
    this.waysFor = this.line;
    this.wayHeard = 0;
    this.setPass("cast");
    this.castDesk = "line";
  },

  /** @param {import("../types.d.ts").Way} way */
  wayName(way) {
    const parts = [];
    const voice = this.voices.find((item) => item.id === way.variant.voice_id);
    if (voice) parts.push(voice.name);
    if (way.variant.delivery) parts.push(this.styleName(way.variant.delivery.style));
    if (way.variant.text)
      parts.push(way.variant.text === this.chosenLine?.said ? "as it is" : "repunctuated");
    return parts.join(", ") || `Way ${way.place + 1}`;
  },

  /** Play all ways together and hear one of them; the others run along in silence. */
  async playWays() {
    this.stopWays();
    const sounding = this.ways.filter((way) => way.take);
    if (!sounding.length) return;
    page.player.stop();
    try {
      const heard = sounding.findIndex((way) => way.place === this.wayHeard);
      await chorus.play(
        sounding.map((way) => `/api/takes/${way.take?.id}/sound.wav`),
        heard,
      );
      this.waysPlay = true;
    } catch (error) {
      this.failed(error);
    }
  },

  stopWays() {
    chorus.stop();
    this.waysPlay = false;
  },

  /** Hear another way, from where it is now. @param {number} place */
  hearWay(place) {
    this.wayHeard = place;
    if (!this.waysPlay) return this.playWays();
    const sounding = this.ways.filter((way) => way.take);
    chorus.hear(sounding.findIndex((way) => way.place === place));
  },

  /** Keep all ways as takes, the chosen one to play. @param {number|null} chosen */
  async keepWays(chosen) {
    this.stopWays();
    const variants = this.ways.map((way) => way.variant);
    const done = await this.asked(() =>
      post(`/api/projects/${this.project}/lines/${this.waysFor}/keep`, {
        based_on: this.t.revision,
        variants,
        chosen,
      }),
    );
    if (done) this.ways = [];
  },

  dropWays() {
    this.stopWays();
    this.ways = [];
  },
});

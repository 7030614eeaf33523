// What is wrong with the words on the screen: asked for where they are seen, a few at a time, with changes that cure it.

import { get, post } from "../api.js";
import { part } from "./compose.js";

/** @typedef {import("../types.d.ts").OnScreen} OnScreen */
/** @typedef {import("../answers.d.ts").ProofJson} Proof */
/** @typedef {import("../answers.d.ts").CureJson} Cure */

/** Captions of a piece that are looked at before anybody goes to see them, so that their pass tells how they stand. */
const MOST_UNASKED = 60;

export const proving = part({
  /** What was found of words, with what it was found of. @type {Map<string, {of: string, proof: Proof}>} */
  proved: new Map(),
  provedCount: 0,
  asking: false,
  /** Cures of the faults of the chosen words, by their rule. @type {Record<string, Cure[]>} */
  cures: {},

  /** Ask for what is not known of the words as they are now; the rest of a long piece follows by itself. */
  async askProofs() {
    const few = this.t.captions.length <= MOST_UNASKED;
    if (!(few || this.pass === "lettering") || this.asking || this.side === "then") return;
    const wanted = [...this.t.titles, ...this.t.captions].filter(
      (item) => item.drawn && this.proved.get(item.id)?.of !== seenAs(this.t, item),
    );
    if (!wanted.length) return;
    const asked = new Map(wanted.map((item) => [item.id, seenAs(this.t, item)]));
    this.asking = true;
    let some = false;
    try {
      const found = await post(`/api/projects/${this.project}/proofs`, { ids: [...asked.keys()] });
      for (const [id, proof] of Object.entries(found))
        this.proved.set(id, { of: asked.get(id) ?? "", proof });
      some = Object.keys(found).length > 0;
    } catch (error) {
      this.failed(error);
    } finally {
      this.asking = false;
    }
    this.provedCount += 1;
    if (this.pass === "lettering") this.redraw();
    if (some) await this.askProofs();
  },

  /** What is still open in a pass: of the lettering also what the proof sheet has found. @param {import("../types.d.ts").Pass} pass @returns {string} */
  openOf(pass) {
    if (pass.name === "export" && this.openNotes)
      return [pass.open, this.counted(this.openNotes, "note")].filter(Boolean).join(", ");
    if (pass.name !== "lettering" || this.provedCount < 1) return pass.open;
    const here = [...this.t.titles, ...this.t.captions];
    const broken = here.filter((item) => this.proved.get(item.id)?.proof.faults.length).length;
    return broken ? `${broken} to look at` : pass.open;
  },

  /** What is wrong with the chosen words. @returns {import("../answers.d.ts").FaultJson[]} */
  get chosenFaults() {
    const known =
      this.provedCount >= 0 && this.chosenWords ? this.proved.get(this.chosenWords.id) : undefined;
    return known?.proof.faults ?? [];
  },

  /** Try what would cure a fault of the chosen words. @param {string} rule */
  async askCures(rule) {
    const words = this.chosenWords;
    if (!words) return;
    try {
      const path = `/api/projects/${this.project}/proofs/${words.id}/cures/${encodeURIComponent(rule)}`;
      const found = await get(path);
      this.cures = { ...this.cures, [`${words.id} ${rule}`]: found };
    } catch (error) {
      this.failed(error);
    }
  },

  /** @param {string} rule @returns {Cure[]|null} */
  curesOf(rule) {
    return this.cures[`${this.chosenWords?.id} ${rule}`] ?? null;
  },

  /** @param {Cure} found */
  makeCure(found) {
    this.cures = {};
    return this.edit(found.edit);
  },
});

/** All that the rules look at of words. @param {import("../types.d.ts").Timeline} t @param {OnScreen} item */
function seenAs(t, item) {
  const shots = t.shots.filter((shot) => shot.start < item.out && shot.end > item.in);
  const next = t.captions.find((other) => other.in >= item.out)?.in;
  const behind = shots.map(
    ({ clip, colour, source_in_s, speed_percent, framing, adjustment, start, end }) => [
      clip,
      colour,
      source_in_s,
      speed_percent,
      framing,
      adjustment,
      start,
      end,
    ],
  );
  const breaks = "breaks" in item ? item.breaks : [];
  return JSON.stringify([
    item.text,
    item.style,
    breaks,
    item.shift,
    item.in,
    item.out,
    next,
    behind,
    t.house,
    t.width,
  ]);
}

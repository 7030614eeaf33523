// Proposals: made, followed live, heard against what is there now, accepted whole or in part; reasons and remedies.

import { get, post } from "../api.js";
import { part } from "./compose.js";
import { number } from "./editing.js";

/** @typedef {import("../types.d.ts").Proposal} Proposal */

const MOST_CHANGES = 200;

export const fitting = part({
  /** @type {Proposal|null} */
  proposal: null,
  /** The proposal is for a drag that goes on, not for what is there. */
  trial: false,
  /** Lines and shots that the proposal leaves as they are. */
  keep: { line_ids: /** @type {string[]} */ ([]), shot_ids: /** @type {string[]} */ ([]) },
  /** @type {Array<{text: string, press: number}>} */
  why: [],
  /** @type {{spoken: Array<{line: string, seconds: number}>, idle_s: number, handle_before: number|null, handle_after: number|null,
   *   could_give: number, why: Array<{text: string, press: number}>}|null} */
  shotUse: null,
  /** @type {import("../types.d.ts").Remedy[]|null} */
  remedies: null,
  houseEffect: "",
  houseAsked: 0,
  explained: 0,

  /** @returns {import("../types.d.ts").Line|null} */
  get chosenPlan() {
    return this.proposal?.t.lines.find((item) => item.id === this.line) ?? null;
  },
  /** @returns {import("../types.d.ts").Line|null} */
  get shownLine() {
    return this.chosenPlan ?? this.chosenLine;
  },
  /** The sum to show: of the proposal while there is one. @returns {import("../types.d.ts").Sum|null} */
  get sum() {
    return this.chosenPlan?.sum ?? this.chosenLine?.sum ?? null;
  },
  /** @returns {boolean} */
  get wantsRemedy() {
    return this.shownLine?.wants_remedy ?? false;
  },
  /** The largest changes: a list of thousands tells nobody anything, and takes seconds to draw. @returns {import("../types.d.ts").Change[]} */
  get shownChanges() {
    return (this.proposal?.changes ?? []).slice(0, MOST_CHANGES);
  },

  /** Rules that the proposal breaks after rounding, by its own check. @returns {string} */
  get missesText() {
    const misses = this.proposal?.misses ?? [];
    return `It breaks ${this.counted(misses.length, "rule")}: ${misses.map((miss) => `${miss.rule} by ${miss.amount.toFixed(3)} ${miss.unit}`).join(", ")}.`;
  },

  /** What the proposal leaves outside the piece: then it can't be accepted. @returns {string[]} */
  get outside() {
    return this.proposal?.outside ?? [];
  },
  /** @returns {string} */
  get letGoText() {
    return (this.proposal?.let_go ?? []).join(", ");
  },
  /** @returns {string} */
  get standingNow() {
    return tallyOf(this.t.lines);
  },
  /** @returns {Array<{id: string, text: string, why: string|undefined}>} */
  get reasonedCaptions() {
    return (this.proposal?.t.captions ?? [])
      .map((item, number) => ({ id: item.id, text: `Caption ${number + 1} ${item.why}`, why: item.why }))
      .filter((item) => item.why);
  },
  /** @returns {string} */
  get tally() {
    return tallyOf(this.proposal?.t.lines ?? []);
  },

  /** How the piece stands, in one line. @returns {Array<{name: string, value: string, alarm: boolean}>} */
  get standing() {
    const t = this.looking ? this.shown : this.t;
    const s = t.sync;
    if (s.fastest === undefined) return [];
    const spills = s.worst_spill_s > 0.0005;
    const open = ["spills", "unvoiced", "stale"]
      .map((state) => [state, t.states[state]])
      .filter(([, count]) => count);
    return [
      { name: "Speech past a cut", value: spills ? this.signed(s.worst_spill_s) : "none", alarm: spills },
      {
        name: "Words outside captions",
        value: this.counted(Math.max(0, s.worst_caption_frames), "frame"),
        alarm: s.worst_caption_frames > 1,
      },
      { name: "Pace", value: `${this.paceOf(s.slowest)} to ${this.paceOf(s.fastest)}`, alarm: false },
      { name: "Idle", value: this.seconds(s.idle_s), alarm: false },
      {
        name: "Open",
        value: open.length ? open.map(([state, count]) => `${count} ${state}`).join(", ") : "nothing",
        alarm: open.length > 0,
      },
    ];
  },

  async fit() {
    this.keep = { line_ids: [], shot_ids: [] };
    this.pass = "fit";
    await this.refit();
    if (this.proposal?.status === "solved") this.deskOf = "changes";
  },

  async refit() {
    await this.changing; // a change still on its way would let the proposal go
    try {
      const proposal = this.resolved(await post(`/api/projects/${this.project}/fit`, this.keep));
      this.propose(proposal);
      if (proposal.status !== "solved") {
        this.deskOf = "changes";
        this.tell(proposal.reason, "error");
      } else if (proposal.outside.length) this.tell(proposal.reason, "error");
      else this.message = "";
    } catch (error) {
      this.failed(error);
    }
  },

  /** Show a proposal. @param {Proposal|null} proposal @param {boolean} [trial] */
  propose(proposal, trial = false) {
    this.forgetPreview();
    this.trial = trial;
    this.proposal = proposal;
    this.redraw();
  },

  drop() {
    this.propose(null);
    if (this.deskOf === "changes") this.deskOf = "line";
  },

  /** Leave one change as it is now, or take it in again. @param {{kind: string, id: string}} change */
  async toggleKept(change) {
    const field = change.kind === "shot" ? "shot_ids" : "line_ids";
    const kept = this.keep[field];
    this.keep = {
      ...this.keep,
      [field]: kept.includes(change.id)
        ? kept.filter((/** @type {string} */ id) => id !== change.id)
        : [...kept, change.id],
    };
    await this.refit();
  },

  /** What is left as it is, to be taken in again. @returns {Array<{kind: string, id: string, text: string}>} */
  get kept() {
    const named = (
      /** @type {string} */ id,
      /** @type {Array<{id: string}>} */ list,
      /** @type {string} */ word,
    ) => `${word} ${list.findIndex((item) => item.id === id) + 1}`;
    return [
      ...this.keep.shot_ids.map((/** @type {string} */ id) => ({
        kind: "shot",
        id,
        text: named(id, this.t.shots, "Shot"),
      })),
      ...this.keep.line_ids.map((/** @type {string} */ id) => ({
        kind: "line",
        id,
        text: named(id, this.t.lines, "Line"),
      })),
    ];
  },

  async accept() {
    if (this.proposal?.status !== "solved") return;
    if (this.outside.length) return this.tell(this.proposal.reason, "error");
    const job = await this.run(`/api/projects/${this.project}/accept`, { proposal: this.proposal.key });
    if (!job) return;
    await this.refresh();
    if (job.state !== "done") return;
    this.propose(null);
    this.deskOf = "line";
    const { paced, worst_miss_ms: miss, worst_stretch: stretch, failed } = job.result;
    const trouble = failed.length ? ` ${failed.length} could not be voiced at their pace.` : "";
    const made = `${this.counted(paced, "line")} voiced at a new pace, ends off by ${miss} ms at most, stretched by ${(stretch * 100).toFixed(2)} % at most.`;
    const open = this.openCount
      ? `${this.counted(this.openCount, "line")} still to be voiced, at the lengths of this fit.`
      : "";
    this.tell(
      `Fit accepted: ${[paced || !open ? made : "", open].filter(Boolean).join(" ")}${trouble}`,
      trouble ? "error" : "good",
    );
  },

  /** Let go the wishes that stood against each other, as one step, and fit again. */
  async letGo() {
    const { let_go: labels = [], let_go_edits: edits = [] } = this.proposal ?? {};
    if (!edits.length) return;
    if (await this.edits(edits, `Let go: ${labels.join(", ")}`)) await this.fit();
  },

  // reasons and remedies of what is chosen

  /** What is explained is the proposal that is shown, where there is one. @returns {string} */
  get asProposed() {
    return this.proposal?.key ? `?proposal=${this.proposal.key}` : "";
  },

  /** What was explained is out of date. */
  forget() {
    this.why = [];
    this.remedies = null;
    this.shotUse = null;
  },

  /** Ask why the chosen line or shot is as it is. */
  explain() {
    if (!["fit", "picture", "words"].includes(this.pass)) return;
    const asked = ++this.explained;
    setTimeout(async () => {
      if (asked !== this.explained) return;
      try {
        if (this.shot && ((this.pass === "fit" && this.deskOf === "shot") || this.pass === "picture")) {
          const use = await get(`/api/projects/${this.project}/shots/${this.shot}/why${this.asProposed}`);
          if (asked === this.explained) this.shotUse = use;
        } else if (this.line && (this.pass === "words" || this.deskOf === "line")) {
          const found = await get(`/api/projects/${this.project}/lines/${this.line}/why${this.asProposed}`);
          if (asked !== this.explained) return;
          this.why = found.why;
          if (this.wantsRemedy) {
            const cures = await get(
              `/api/projects/${this.project}/lines/${this.line}/remedies${this.asProposed}`,
            );
            if (asked === this.explained) this.remedies = cures.remedies;
          }
        }
      } catch {
        this.why = [];
      }
    }, 40);
  },

  /** Apply a remedy as one step; the fit with it is then proposed. @param {import("../types.d.ts").Remedy} remedy */
  async applyRemedy(remedy) {
    if (await this.edits(remedy.edits, remedy.label)) await this.fit();
  },

  /** @param {import("../types.d.ts").Remedy} remedy */
  hearRemedy(remedy) {
    return this.hearEdits(remedy.edits, this.line);
  },

  // house limits, their effect shown while they change

  /** @param {Event} event @param {string} field */
  houseTry(event, field) {
    const value = number(event);
    const asked = ++this.houseAsked;
    if (value === null) return;
    setTimeout(async () => {
      if (asked !== this.houseAsked) return;
      try {
        const proposal = await this.attempt([{ kind: "house", [field]: value }]);
        if (asked === this.houseAsked)
          this.houseEffect =
            proposal.status === "solved" ? `With this: ${tallyOf(proposal.t.lines)}` : proposal.reason;
      } catch (error) {
        if (asked === this.houseAsked) this.houseEffect = error instanceof Error ? error.message : "";
      }
    }, 60);
  },

  /** @param {Event} event @param {string} field */
  house(event, field) {
    const input = /** @type {HTMLInputElement} */ (event.target);
    const value = input.type === "checkbox" ? input.checked : number(event);
    this.houseEffect = "";
    if (value !== null) return this.edit({ kind: "house", [field]: value });
  },

  /** @param {Event} event */
  beats(event) {
    const text = /** @type {HTMLTextAreaElement} */ (event.target).value;
    const times = text
      .split(/[\s,;]+/)
      .filter(Boolean)
      .map(Number);
    if (times.some(Number.isNaN))
      return this.tell("Beats are times in seconds, such as 0.5 1.0 1.5.", "error");
    return this.edit({ kind: "beats", times_s: times });
  },
});

/** How many lines stand how: "1 spills, 2 lean, 6 sit". @param {Array<{state: string}>} lines */
export function tallyOf(lines) {
  const words = /** @type {Array<[string, string, string]>} */ ([
    ["spills", "spills", "spill"],
    ["leans", "leans", "lean"],
    ["floats", "floats", "float"],
    ["sits", "sits", "sit"],
  ]);
  const parts = words.map(([state, one, many]) => {
    const count = lines.filter((line) => line.state === state).length;
    return count ? `${count} ${count === 1 ? one : many}` : state === "spills" ? "0 spill" : "";
  });
  return parts.filter(Boolean).join(", ");
}

// A project's page: puts the parts of its state together, starts them, and takes in each new timeline.

import { get, know, post, Refusal } from "./api.js";
import * as format from "./format.js";
import { Player } from "./frame/player.js";
import { Stage } from "./frame/stage.js";
import { blending } from "./piece/blending.js";
import { casting } from "./piece/casting.js";
import { selection } from "./piece/selection.js";
import { compose, part } from "./piece/compose.js";
import { directing } from "./piece/directing.js";
import { editing } from "./piece/editing.js";
import { figures } from "./piece/figures.js";
import { finding } from "./piece/finding.js";
import { fitting } from "./piece/fitting.js";
import { hearing } from "./piece/hearing.js";
import { unsavedEdits } from "./piece/unsaved_edits.js";
import { keys } from "./piece/keys.js";
import { lettering } from "./piece/lettering.js";
import { placing } from "./piece/placing.js";
import { preparing } from "./piece/preparing.js";
import { proving } from "./piece/proving.js";
import { recording } from "./piece/recording.js";
import { keepTyped } from "./typed_into.js";
import { treating } from "./piece/treating.js";
import { cleaning } from "./piece/cleaning.js";
import { performing } from "./piece/performing.js";
import { mixing } from "./piece/mixing.js";
import { soundShelf } from "./piece/sound_shelf.js";
import { undo } from "./piece/undo.js";
import { page } from "./piece/page.js";
import { docketed } from "./piece/docket.js";
import { takes } from "./piece/takes.js";
import { work } from "./piece/work.js";
import { welcome } from "./piece/welcome.js";
import { whole } from "./piece/whole.js";
import { reviewing } from "./piece/reviewing.js";
import { scriptImport } from "./piece/script_import.js";
import { melody } from "./piece/melody.js";
import { adjusting } from "./piece/adjusting.js";
import { laying } from "./piece/laying.js";
import { filling } from "./piece/filling.js";
import { framing } from "./piece/framing.js";
import { panes } from "./piece/panes.js";
import { picturing } from "./piece/picturing.js";
import { Surfaces } from "./surfaces/surfaces.js";
import { newer, placed, proposed, Told } from "./timeline.js";

/** @typedef {import("./types.d.ts").ProjectJson|import("./types.d.ts").Changes} Answer */
/** @typedef {import("./types.d.ts").Timeline} Timeline */
/** @typedef {import("./types.d.ts").Proposal} Proposal */

const LENGTHS_ASKED_MS = 600;
/** How long a note is shown. */
const NOTE_MS = 10_000;

/** What stands in for a timeline until the first one has come. @type {any} */
const EMPTY = {
  version: "",
  project: "",
  revision: 0,
  changed_at: "",
  undo: null,
  redo: null,
  name: "",
  width: 0,
  height: 0,
  rate: { numerator: 30, denominator: 1, label: "" },
  total_frames: 0,
  longest_s: null,
  length_fixed: false,
  give_way: "",
  house: {},
  sync: {},
  amount: {},
  beats: [],
  lettering: null,
  titles: [],
  figures: [],
  passes: [],
  states: {},
  shots: [],
  captions: [],
  lines: [],
  roles: [],
  beds: [],
  effects: [],
  duck: [],
  mix: {
    aim_lufs: -14,
    peak_db: -1,
    speech_db: 0,
    bed_db: 0,
    own_db: 0,
    effects_db: 0,
    muted: [],
    solo: [],
  },
  clips: {},
  lexicon: [],
  deliveries: [],
  treatments: [],
  shortlist: [],
  commercial: false,
  keep_in_step: false,
  character_budget: null,
  language: "en",
  past_clip_end: "hold",
  coverage: null,
  missing: [],
};

export const core = part({
  project: "",
  /** @type {Timeline} */
  t: EMPTY,
  loaded: false,
  /** @type {import("./types.d.ts").Voice[]} */
  voices: [],
  /** What a key has just changed, for ears: the eye sees it on the sheet. */
  said: "",
  message: "",
  messageKind: "",
  /** @type {ReturnType<typeof setTimeout>|undefined} */
  fading: undefined,

  async init() {
    const root = this.$root;
    this.project = root.dataset.project ?? "";
    this.beginPreparing();
    this.voices = JSON.parse(document.getElementById("voices")?.textContent ?? "[]");
    this.styles = JSON.parse(document.getElementById("styles")?.textContent ?? "[]");
    const find = (/** @type {string} */ id) => /** @type {any} */ (document.getElementById(id));
    this.shipped = JSON.parse(document.getElementById("lettering-choices")?.textContent ?? "null");
    page.told = new Told();
    this.setUpPanes();
    page.surfaces = new Surfaces(find("surface"), this);
    page.surfaces.turnTo(this.pass);
    page.stage = new Stage(find("frame"), find("figures"), find("overlay"));
    page.stage.onDrawn = () => {
      this.drawnCount += 1;
    };
    page.player = new Player(
      (s) => this.moved(s, true),
      (what) => {
        this.playing = what;
        if (what) this.heardOnce = true;
      },
    );
    document.addEventListener("keydown", (event) => this.key(event));
    document.addEventListener("keyup", ({ key }) => {
      if (key === "o") this.seeWithout(false);
      if (key === "x") this.hearHeld(false);
    });
    window.addEventListener("blur", () => page.stage.without && this.seeWithout(false)); // the key is let go of elsewhere
    for (const turned of ["pass", "deskOf", "wordsDesk", "castDesk"])
      this.$watch(turned, () => {
        find("desk").scrollTop = 0;
      });
    this.$watch("sought", () => {
      if (this.pass === "cast") this.redraw(); // the map shows whom the filters leave
    });
    this.$watch("job", () => {
      if (this.pass === "export") this.redraw(); // the docket shows how far each row is
    });
    try {
      await this.refresh();
      this.followPreparing();
      const first = this.t.lines.find((item) => item.state === "spills") ?? this.t.lines[0];
      if (first) this.choose(first.id);
      else this.setPass("words"); // nothing is said yet: the page to write on comes first
      this.doPressedEarly();
      this.sought.language = this.t.language.split("-")[0];
      await this.loadOwnDeliveries();
      this.docketOf(await get(`/api/projects/${this.project}/exports`));
      this.loadHeld();
      this.followReviews();
      await this.followWhatGoesOn();
    } catch (error) {
      this.failed(error);
    }
  },

  /** What the server tells of the project, on the sheet and in the frame. @param {Answer} answer */
  async take(answer) {
    const state = page.told.read(answer);
    if (!state) {
      know("");
      return this.refresh();
    }
    if (!newer(state.version, this.t.version)) return; // an answer that was overtaken on its way
    know(state.version);
    page.state = state;
    const timeline = placed(state);
    if (this.loaded && this.t.revision !== timeline.revision) {
      this.looking = null;
      this.propose(null);
      this.forget();
    }
    this.t = timeline;
    this.loaded = true;
    if (!timeline.lines.some((item) => item.id === this.line)) this.line = timeline.lines[0]?.id ?? "";
    if (!timeline.captions.some((item) => item.id === this.caption)) this.caption = this.captionOf(this.line);
    if (!timeline.shots.some((item) => item.id === this.shot)) this.shot = timeline.shots[0]?.id ?? "";
    page.stage.setTimeline(timeline);
    page.player.prepare(this.sound());
    this.redraw();
    this.moved(this.at, false);
    this.explain();
    this.askTold();
    this.askTakes();
    this.keepInStep();
    this.followLengths();
    if (this.wordsDesk === "lexicon") this.askLexicon();
    this.askProofs();
    this.askSound();
    if (this.reviews?.notes.length) this.askReviews(); // they go with their shots
    this.$nextTick(() => keepTyped());
  },

  followingLengths: false,

  /** Lengths that become known while the page is looked at are told as they come. */
  async followLengths() {
    if (this.followingLengths) return;
    this.followingLengths = true;
    try {
      while (this.t.foreseeing > 0) {
        await new Promise((later) => setTimeout(later, LENGTHS_ASKED_MS));
        if (this.busy) continue;
        const answer = await get(`/api/projects/${this.project}/timeline`);
        // what another window has changed is not taken unasked: undo would take it back without a word
        const told = page.told.read(answer);
        if (told && newer(told.version, this.t.version) && told.revision !== this.t.revision) break;
        await this.take(answer);
      }
    } catch {
      // the next answer begins again
    }
    this.followingLengths = false;
  },

  redraw() {
    if (!this.loaded) return;
    const [t, proposal] = [
      Alpine.raw(this.looking ? this.shown : this.t),
      this.proposal && Alpine.raw(this.proposal),
    ];
    page.surfaces.show({
      t,
      proposal,
      line: this.line,
      shot: this.shot,
      caption: this.caption,
      title: this.title,
      proved: this.proved,
      sound: this.mixHeard,
      bed: this.chosenBed ? this.chosenBed.id : "",
      effect: this.effect,
      notes: Alpine.raw(this.notesPlaced),
      noteOpen: this.noteOpen,
      marks: this.cutMarks.map(({ at, certainty, on }) => ({ at, certainty, on })),
      scale: this.scale,
    });
    page.surfaces.setPlayhead(this.at);
  },

  // a drag: what it would do is shown while it goes on

  /** What a fit would make of edits that are not made. @param {object[]} edits @returns {Promise<Proposal>} */
  async attempt(edits) {
    const body = { based_on: this.t.revision, edits, line_id: this.line };
    return this.resolved(await post(`/api/projects/${this.project}/try`, body));
  },

  /** A proposal with the piece as it would be. @param {import("./types.d.ts").ProposalJson} proposal @returns {Proposal} */
  resolved(proposal) {
    return { ...proposal, t: proposed(page.state, proposal.then) };
  },

  /** Show what a drag would do so far. @param {Proposal} proposal @returns {string} words for the chip */
  follow(proposal) {
    this.propose(proposal, true);
    if (proposal.status !== "solved") return proposal.reason;
    const spilling = proposal.t.lines.filter((line) => line.state === "spills").length;
    return spilling ? `${this.counted(spilling, "line")} would spill` : "nothing would spill";
  },

  /** A drag has ended: make its edit, then show what a fit would make of it. @param {object} edit */
  async dropped(edit) {
    if (!(await this.edit(edit))) return this.givenBack();
    await this.refit();
    if (this.pass !== "fit" && this.proposal?.changes.length)
      this.tell(
        "The dashed outlines are what a fit would change with this: A accepts it, D drops it.",
        "note",
      );
  },

  /** A drag was given back. */
  givenBack() {
    this.propose(null);
  },

  // words for the editor

  /** Words for ears, for what the eye sees on a surface. @param {string} text */
  announce(text) {
    this.said = text;
  },

  /** An error stays until it is closed, a note goes by itself. @param {string} text @param {string} kind */
  tell(text, kind) {
    this.message = text;
    this.messageKind = kind;
    clearTimeout(this.fading);
    if (kind !== "error")
      this.fading = setTimeout(() => {
        this.message = "";
      }, NOTE_MS);
  },

  /** @param {unknown} error */
  failed(error) {
    if (error instanceof Refusal && error.state) this.take(error.state);
    this.tell(error instanceof Error ? error.message : String(error), "error");
  },

  clock: format.clock,
  seconds: format.seconds,
  signed: format.signed,
  paceOf: format.pace,
  sizeOf: format.size,
  counted: format.counted,
  /** @param {number} frame */
  timecode(frame) {
    return format.timecode(frame, this.t.rate);
  },
  /** @param {import("./types.d.ts").Step[]} steps */
  visible(steps) {
    return steps.filter((step) => Math.abs(step.seconds) >= 0.0005);
  },
});

export const piece = () =>
  compose(
    blending,
    casting,
    directing,
    editing,
    finding,
    fitting,
    hearing,
    melody,
    panes,
    recording,
    reviewing,
    scriptImport,
    selection,
    takes,
    treating,
    cleaning,
    performing,
    mixing,
    soundShelf,
    undo,
    unsavedEdits,
    welcome,
    adjusting,
    figures,
    filling,
    laying,
    lettering,
    placing,
    preparing,
    proving,
    framing,
    picturing,
    docketed,
    whole,
    work,
    keys,
    core,
  );

// The shots of the piece: laid in, moved, cut, doubled, frozen, slowed; and what that does to the fit, said at once.

import { part } from "./compose.js";

/** A change found in a clip, or put there by hand; `at` is the first frame of the new shot, from the start of the shot that is looked at. @typedef {{at: number, kind: string, certainty: number, on: boolean}} Mark */
/** @typedef {"close"|"keep"} Gap what becomes of the time of a shot that is deleted */
const GAP = "the time of deleted shots";

export const picturing = part({
  freezeFrames: 30,
  /** What becomes of the time of a deleted shot, once it was chosen. @type {Gap|""} */
  gap: /** @type {any} */ (localStorage.getItem(GAP) ?? ""),
  askGap: false,
  /** Where the clip of a shot changes its picture, until shots are made of it. @type {{shot: string, revision: number, marks: Mark[]}} */
  cuts: { shot: "", revision: 0, marks: [] },

  /** An edit of the shots; what it does to the fit is said, as that is in another room. @param {object} edit */
  pictureEdit(edit) {
    return this.pictureEdits([edit]);
  },

  /** Changes of shots one after the other: each is made of what the one before it left. @type {Promise<void>} */
  shotsChanged: Promise.resolve(),

  /** @param {string} id @param {(shot: import("../types.d.ts").Shot) => Promise<void>} change */
  changeShot(id, change) {
    const made = async () => {
      const shot = this.t.shots.find((each) => each.id === id);
      if (shot) await change(shot);
    };
    this.shotsChanged = this.shotsChanged.then(made, made);
    return this.shotsChanged;
  },

  /** Several, as one step. @param {object[]} edits @param {string} [label] */
  async pictureEdits(edits, label = "") {
    const before = new Map(this.t.lines.map((line) => [line.id, line.state]));
    if (!(await this.edits(edits, label))) {
      this.redraw();
      return false;
    }
    const changed = this.t.lines.flatMap((line, place) => {
      const was = before.get(line.id);
      if (was === line.state || (was !== "spills" && line.state !== "spills")) return [];
      return line.state === "spills"
        ? `line ${place + 1} now spills ${this.seconds(line.spill_s)}`
        : `line ${place + 1} no longer spills`;
    });
    this.tell(
      [this.t.undo, ...changed].join("; ") + ".",
      changed.some((text) => text.includes("now")) ? "note" : "good",
    );
    return true;
  },

  /** Frames from the start of the chosen shot to the moment that is shown; null outside of it. @returns {number|null} */
  get intoShot() {
    const shot = this.chosenShot;
    if (!shot) return null;
    const into = Math.floor(this.at / this.frameSeconds + 1e-6) - shot.start;
    return into >= 0 && into < shot.end - shot.start ? into : null;
  },

  /** The shot that is seen is the one that is cut: choose it first. */
  shotHere() {
    const frame = Math.floor(this.at / this.frameSeconds + 1e-6);
    const here = this.t.shots.findLast((shot) => shot.start <= frame && frame < shot.end);
    if (here && here.id !== this.shot) this.shot = here.id;
    return here;
  },

  splitShot() {
    const shot = this.shotHere();
    if (!shot || this.intoShot === null) return;
    if (this.intoShot === 0)
      return this.tell(
        "The shot begins here. Go to the frame that is to be the first of the second part.",
        "note",
      );
    return this.pictureEdit({ kind: "split_shot", shot_id: shot.id, at_frames: this.intoShot });
  },

  joinNext() {
    return this.pictureEdit({ kind: "join_shots", shot_id: this.shot });
  },

  doubleShot() {
    return this.pictureEdit({ kind: "duplicate_shot", shot_id: this.shot });
  },

  freezeHere() {
    const shot = this.shotHere();
    if (!shot || this.intoShot === null) return;
    const frames = Math.max(1, Math.round(Number(this.freezeFrames) || 0));
    return this.pictureEdit({ kind: "freeze_frame", shot_id: shot.id, at_frames: this.intoShot, frames });
  },

  /** @param {Event} event */
  shotSpeed(event) {
    const percent = Math.round(Number(/** @type {HTMLInputElement} */ (event.target).value));
    if (percent) return this.pictureEdit({ kind: "speed", shot_id: this.shot, percent });
  },

  /** @param {-1|1} way */
  moveShot(way) {
    const to = this.t.shots.findIndex((shot) => shot.id === this.shot) + way;
    if (to >= 0 && to < this.t.shots.length)
      return this.pictureEdit({ kind: "move_shot", shot_id: this.shot, to });
  },

  /** Delete the chosen shot as it was chosen before, or ask what is to become of its time. */
  deleteShot() {
    if (!this.gap) {
      this.askGap = true;
      return;
    }
    return this.pictureEdit({ kind: "delete_shot", shot_id: this.shot, keep_time: this.gap === "keep" });
  },

  /** @param {Gap} gap */
  deleteWith(gap) {
    this.gap = gap;
    this.askGap = false;
    localStorage.setItem(GAP, gap);
    return this.deleteShot();
  },

  forgetGap() {
    this.gap = "";
    localStorage.removeItem(GAP);
  },

  /** @returns {string} */
  get gapText() {
    return this.gap === "keep"
      ? "A deleted shot leaves a plain colour as long as it was."
      : this.gap === "close"
        ? "What follows a deleted shot moves up."
        : "";
  },

  /** A gap between shots by the shot beside it, which stays the same while files are on their way. @param {number} gap counted from 0, before the first shot */
  whereOf(gap) {
    const [before, after] = [this.t.shots[gap], this.t.shots[gap - 1]];
    return after ? { after_shot_id: after.id } : before ? { before_shot_id: before.id } : {};
  },

  /** Lay a clip of the project between shots. @param {string} hash @param {number} gap */
  placeClip(hash, gap) {
    return this.pictureEdit({ kind: "add_shot", clip_hash: hash, ...this.whereOf(gap) });
  },

  /** @param {string} colour @param {number} gap */
  placeColour(colour, gap) {
    return this.pictureEdit({ kind: "add_shot", colour, ...this.whereOf(gap) });
  },

  /** Bring in files: between shots, or with null only to the shelf. @param {File[]} files @param {number|null} gap */
  bringIn(files, gap) {
    return gap === null ? this.addMedia(files, "shelf") : this.addMedia(files, "shots", this.whereOf(gap));
  },

  /** How the chosen shot becomes the next. @param {{frames?: number, how?: string, colour?: string}} change */
  setTransition(change) {
    const shot = this.chosenShot;
    if (!shot) return;
    const { transition: frames, transition_kind: how, transition_colour: colour } = shot;
    const asked = { frames: frames || (change.how ? this.usualTransition : 0), how, colour, ...change };
    return this.pictureEdit({ kind: "transition", shot_id: shot.id, ...asked });
  },

  /** As many frames as half a second has. @returns {number} */
  get usualTransition() {
    return Math.round(0.5 / this.frameSeconds);
  },

  /** @param {Event} event */
  transitionFrames(event) {
    const frames = Math.round(Number(/** @type {HTMLInputElement} */ (event.target).value) || 0);
    return this.setTransition({ frames });
  },

  transitionEverywhere() {
    const shot = this.chosenShot;
    if (!shot) return;
    const { transition: frames, transition_kind: how, transition_colour: colour } = shot;
    return this.pictureEdit({ kind: "transition", shot_id: null, frames, how, colour });
  },

  // cuts found in the clip of a shot

  /** Those of the chosen shot, as long as it is the one that was looked at. @returns {Mark[]} */
  get cutMarks() {
    const here = this.cuts.shot === this.shot && this.cuts.revision === this.t.revision;
    return here ? this.cuts.marks : [];
  },
  /** @returns {string} */
  get cutsText() {
    const on = this.cutMarks.filter((mark) => mark.on).length;
    return `Make ${this.counted(on + 1, "shot")} of it`;
  },

  async findCuts() {
    const shot = this.chosenShot;
    if (!shot?.clip || !shot.speed_percent) return;
    const job = await this.run(`/api/projects/${this.project}/clips/${shot.clip}/cuts`, {});
    if (job?.state !== "done") return;
    const speed = shot.speed_percent / 100;
    const marks = job.result.cuts
      .map(
        (/** @type {{time_s: number, kind: string, certainty: number}} */ { time_s, kind, certainty }) => ({
          at: Math.round((time_s - shot.source_in_s) / speed / this.frameSeconds),
          kind,
          certainty,
          on: true,
        }),
      )
      .filter((/** @type {Mark} */ { at }) => at > 0 && at < shot.end - shot.start);
    this.markCuts(shot.id, marks);
    this.tell(
      marks.length
        ? `${this.counted(marks.length, "change")} of picture found. Leave out what is none, add what is missing, then make shots.`
        : "No change of picture was found in this shot.",
      marks.length ? "good" : "note",
    );
  },

  /** @param {string} shot @param {Mark[]} marks */
  markCuts(shot, marks) {
    this.cuts = { shot, revision: this.t.revision, marks: marks.sort((one, other) => one.at - other.at) };
    this.redraw();
  },

  /** @param {number} at */
  toggleCut(at) {
    this.markCuts(
      this.shot,
      this.cutMarks.map((mark) => (mark.at === at ? { ...mark, on: !mark.on } : mark)),
    );
  },

  /** Look at the first frame of what would be the new shot. @param {number} at */
  seeCut(at) {
    if (this.chosenShot) this.seek((this.chosenShot.start + at) * this.frameSeconds);
  },

  addCut() {
    const at = this.intoShot;
    if (!at) return this.tell("Go to the frame in this shot that is to begin a new one.", "note");
    if (!this.cutMarks.some((mark) => mark.at === at))
      this.markCuts(this.shot, [...this.cutMarks, { at, kind: "by hand", certainty: 1, on: true }]);
  },

  async makeShots() {
    const places = this.cutMarks.filter((mark) => mark.on).map((mark) => mark.at);
    if (!places.length) return;
    const number = this.t.shots.findIndex((shot) => shot.id === this.shot) + 1;
    // the last one first: the shot keeps its name up to there
    const edits = places.reverse().map((at) => ({ kind: "split_shot", shot_id: this.shot, at_frames: at }));
    await this.pictureEdits(edits, `${this.counted(places.length + 1, "shot")} made of shot ${number}`);
  },

  /** @param {Mark} mark */
  markText(mark) {
    return `${this.timecode((this.chosenShot?.start ?? 0) + mark.at)} ${mark.kind}`;
  },
  /** @param {Mark} mark */
  certaintyText: (mark) => (mark.kind === "by hand" ? "" : `${Math.round(mark.certainty * 100)} % certain`),
});

// A project's page: what is chosen, what is asked of the server, what the desk shows. Alpine holds the state.

import { follow, get, post, Refusal } from "./api.js";
import { Drags } from "./sheet/drag.js";
import * as format from "./format.js";
import { Player } from "./frame/player.js";
import { Sheet } from "./sheet/sheet.js";
import { Stage } from "./frame/stage.js";
import { drawCaption } from "./svg.js";

/** @typedef {import("./types.js").Timeline} Timeline */
/** @typedef {import("./types.js").Job} Job */

const SCALES = [14, 20, 28, 40, 60, 90];
const PASSES = ["picture", "words", "cast", "fit", "lettering", "sound", "export"];

/** What stands in for a timeline until the first one has come. @type {Timeline} */
const EMPTY = {
  project: "", revision: 0, changed_at: "", undo: null, redo: null, name: "", width: 0, height: 0,
  rate: { numerator: 30, denominator: 1, label: "" }, total_frames: 0, longest_s: null, give_way: "",
  house: { fastest_pace: 1, slowest_pace: 1, shot_stretch: 0, reading_rate_cps: 0 }, style: "", styles: [], passes: [],
  states: {}, shots: [], captions: [], lines: [], roles: [], bed: null, clips: {},
};

/** What the browser draws with; kept out of Alpine's reach, which would wrap it. @type {{sheet: Sheet, stage: Stage, player: Player}} */
let screen;

export function piece() {
  return {
    project: "",
    /** @type {Timeline} */
    t: EMPTY,
    loaded: false,
    /** @type {import("./types.js").Proposal|null} */
    proposal: null,
    /** @type {import("./types.js").Voice[]} */
    voices: [],
    pass: "fit",
    line: "",
    shot: "",
    scale: 28,
    at: 0,
    playing: "",
    message: "",
    messageKind: "",
    /** @type {Job|null} */
    job: null,
    /** @type {{files: Array<{name: string, bytes: number}>, folder: string, revision: number}|null} */
    docket: null,
    wants: { video: true, sound: true, captions: true },
    /** @type {{lufs: number, peak_db: number}|null} */
    loudness: null,
    newCaption: "",
    newScene: "",
    newRole: "",
    keysShown: false,
    typing: "",

    async init() {
      const root = /** @type {any} */ (this).$root;
      this.project = root.dataset.project ?? "";
      this.voices = JSON.parse(document.getElementById("voices")?.textContent ?? "[]");
      const find = (/** @type {string} */ id) => /** @type {any} */ (document.getElementById(id));
      const sheet = new Sheet(find("scroller"), find("page"));
      const stage = new Stage(find("frame"), find("overlay"));
      const player = new Player((s) => this.moved(s, true), (what) => { this.playing = what; });
      screen = { sheet, stage, player };
      new Drags(sheet, (edit) => this.edit(edit), (text) => this.tell(text, "note"));
      sheet.page.addEventListener("click", (event) => this.clicked(event));
      document.addEventListener("keydown", (event) => this.key(event));
      try {
        this.take(await get(`/api/projects/${this.project}/timeline`));
        const first = this.t.lines.find((item) => item.state === "spills") ?? this.t.lines[0];
        if (first) this.choose(first.id, false);
        this.docketOf(await get(`/api/projects/${this.project}/exports`));
      } catch (error) {
        this.failed(error);
      }
    },

    /** The newest timeline, on the sheet and in the frame. @param {Timeline} timeline */
    take(timeline) {
      if (this.loaded && this.t.revision !== timeline.revision) {
        this.proposal = null;
        this.loudness = null;
      }
      this.t = timeline;
      this.loaded = true;
      if (!timeline.lines.some((item) => item.id === this.line)) this.line = timeline.lines[0]?.id ?? "";
      if (!timeline.shots.some((item) => item.id === this.shot)) this.shot = timeline.shots[0]?.id ?? "";
      screen.stage.setTimeline(timeline);
      screen.player.prepare(timeline);
      this.redraw();
      this.moved(this.at, false);
      /** @type {any} */ (this).$nextTick(() => this.previews());
    },

    redraw() {
      if (!this.loaded) return;
      const [t, proposal] = [Alpine.raw(this.t), this.proposal && Alpine.raw(this.proposal)];
      screen.sheet.show({ t, proposal, line: this.line, shot: this.shot, scale: this.scale });
      screen.sheet.setPlayhead(this.at);
    },

    // what is chosen

    get chosenLine() { return this.t.lines.find((item) => item.id === this.line) ?? null; },
    get chosenShot() { return this.t.shots.find((item) => item.id === this.shot) ?? null; },
    get chosenCaption() { return this.t.captions.find((item) => item.line === this.line) ?? null; },
    get chosenPlan() { return this.proposal?.lines.find((item) => item.id === this.line) ?? null; },
    get shownLine() { return this.chosenPlan ?? this.chosenLine; },
    get missingSigns() { return this.chosenCaption?.drawing?.missing.join(" ") ?? ""; },
    get hurried() { return this.t.captions.filter((item) => item.too_fast); },
    get stillOpen() { return this.t.passes.at(-1)?.open ?? ""; },
    get shotPicture() {
      const shot = this.chosenShot;
      return shot?.clip ? `/media/clips/${shot.clip}/at/${Math.round((shot.source_in_s + 1) * 705600000)}.jpg` : "";
    },
    get lineNumber() { return this.t.lines.findIndex((item) => item.id === this.line) + 1; },
    get shotNumber() { return this.t.shots.findIndex((item) => item.id === this.shot) + 1; },
    get captionNumber() { return this.t.captions.findIndex((item) => item.line === this.line) + 1; },
    get openCount() { return (this.t.states.unvoiced ?? 0) + (this.t.states.stale ?? 0); },
    get busy() { return this.job !== null && (this.job.state === "running" || this.job.state === "waiting"); },
    get frameSeconds() { return this.t.rate.denominator / this.t.rate.numerator; },
    get frameNow() { return Math.floor(this.at / this.frameSeconds + 1e-6); },
    get shotNow() { return this.t.shots.find((item) => this.frameNow < item.end) ?? null; },

    /** @param {string} id @param {boolean} [move] */
    choose(id, move = true) {
      const line = this.t.lines.find((item) => item.id === id);
      if (!line) return;
      this.line = id;
      this.shot = line.first_shot;
      this.redraw();
      if (move && !this.playing) this.moved(line.start_s, false);
      screen.sheet.follow(line.start_s, line.end_s);
      /** @type {any} */ (this).$nextTick(() => this.previews());
    },

    /** @param {number} step */
    chooseNext(step) {
      const lines = this.t.lines;
      const index = lines.findIndex((item) => item.id === this.line);
      const next = lines[Math.max(0, Math.min(lines.length - 1, index + step))];
      if (next) this.choose(next.id);
    },

    /** The next line in a state, after the chosen one and around. @param {string} state */
    chooseState(state) {
      const lines = this.t.lines;
      const from = lines.findIndex((item) => item.id === this.line) + 1;
      const next = [...lines.slice(from), ...lines.slice(0, from)].find((item) => item.state === state);
      if (next) this.choose(next.id);
    },

    /** @param {string} name */
    setPass(name) {
      this.pass = name;
      if (name === "sound") this.measureLoudness();
      /** @type {any} */ (this).$nextTick(() => this.previews());
    },

    /** @param {number} step */
    zoom(step) {
      const index = SCALES.indexOf(this.scale) + step;
      if (index < 0 || index >= SCALES.length) return;
      this.scale = SCALES[index];
      this.redraw();
      screen.sheet.follow(this.at);
    },

    // the sheet

    /** @param {MouseEvent} event */
    clicked(event) {
      const target = /** @type {HTMLElement} */ (event.target);
      if (target.closest("textarea, [data-cut], [data-edge]")) return;
      const line = /** @type {HTMLElement|null} */ (target.closest("[data-line]"));
      const shot = /** @type {HTMLElement|null} */ (target.closest("[data-shot]"));
      const card = /** @type {HTMLElement|null} */ (target.closest("[data-caption]"));
      // not "dblclick": the first click may have drawn the sheet anew, and then its target is gone
      if (card?.dataset.caption && event.detail === 2) this.typeCaption(card.dataset.caption);
      else if (line?.dataset.line) this.choose(line.dataset.line);
      else if (shot?.dataset.shot) {
        this.shot = shot.dataset.shot;
        this.redraw();
        if (!this.playing) this.moved((this.chosenShot?.start ?? 0) * this.frameSeconds, false);
      } else {
        const y = event.clientY - screen.sheet.page.getBoundingClientRect().top;
        this.seek(screen.sheet.secondsAt(y));
      }
    },

    /** Change the words of a caption where they stand. @param {string} id */
    typeCaption(id) {
      const caption = this.t.captions.find((item) => item.id === id);
      const card = screen.sheet.layer.holder.querySelector(`.caption[data-caption="${id}"]`);
      const words = card?.querySelector("p");
      if (!caption || !card || !words) return;
      const field = document.createElement("textarea");
      field.value = this.typing || caption.text;
      field.setAttribute("aria-label", "Words of the caption");
      words.replaceWith(field);
      let done = false;
      const close = (/** @type {boolean} */ keep) => {
        if (done) return;
        done = true;
        const text = field.value;
        field.replaceWith(words);
        if (keep && text.trim() !== caption.text) this.setCaptionText(id, text);
        else this.redraw();
      };
      field.addEventListener("blur", () => close(true));
      field.addEventListener("keydown", (event) => {
        event.stopPropagation();
        if (event.key === "Escape") close(false);
        if (event.key === "Enter" && !event.shiftKey) {
          event.preventDefault();
          close(true);
        }
      });
      field.focus();
      field.select();
    },

    // changes

    /** @param {object} edit @returns {Promise<void>} */
    async edit(edit) {
      if (!this.loaded) return;
      try {
        this.take(await post(`/api/projects/${this.project}/edits`, { based_on: this.t.revision, edit }));
        this.message = "";
      } catch (error) {
        this.failed(error);
        this.redraw();
      }
    },

    /** @param {string} id @param {string} text */
    async setCaptionText(id, text) {
      await this.edit({ kind: "caption_text", caption_id: id, text });
    },

    /** @param {"undo"|"redo"} way */
    async step(way) {
      try {
        const label = way === "undo" ? this.t.undo : this.t.redo;
        if (!label) return;
        this.take(await post(`/api/projects/${this.project}/${way}`));
        this.tell(`${way === "undo" ? "Undone" : "Done again"}: ${label}.`, "note");
      } catch (error) {
        this.failed(error);
      }
    },

    /** @param {"shot"|"caption"|"line"} what @param {string} id @param {boolean} locked */
    lock(what, id, locked) { return this.edit({ kind: "lock", what, id, locked }); },

    /** @param {Event} event */
    shotLength(event) {
      const frames = number(event);
      if (this.chosenShot && frames !== null) return this.edit({ kind: "shot_length", shot_id: this.shot, length_frames: frames });
    },

    /** @param {Event} event */
    shotSource(event) {
      const frames = number(event);
      if (this.chosenShot && frames !== null) return this.edit({ kind: "source", shot_id: this.shot, source_in_frames: frames });
    },

    /** @param {Event} event @param {string} id */
    shotSound(event, id) {
      const value = number(event);
      if (value !== null) return this.edit({ kind: "shot_sound", shot_id: id, gain_db: value });
    },

    /** @param {Event} event @param {"in"|"out"} edge */
    captionTime(event, edge) {
      const frame = number(event);
      const caption = this.chosenCaption;
      if (!caption || frame === null) return;
      const times = { in_frame: caption.in, out_frame: caption.out, [`${edge}_frame`]: frame };
      return this.edit({ kind: "caption_times", caption_id: caption.id, ...times });
    },

    /** @param {Event} event */
    captionWords(event) {
      const caption = this.chosenCaption;
      const text = /** @type {HTMLTextAreaElement} */ (event.target).value;
      if (caption && text.trim() !== caption.text) return this.setCaptionText(caption.id, text);
    },

    /** @param {Event} event */
    saidWords(event) {
      const text = /** @type {HTMLTextAreaElement} */ (event.target).value;
      const line = this.chosenLine;
      if (line && text.trim() !== line.said) return this.edit({ kind: "said", line_id: line.id, text: text.trim() || null });
    },

    sayAsShown() { return this.edit({ kind: "said", line_id: this.line, text: null }); },

    /** @param {Event} event */
    lineRole(event) {
      return this.edit({ kind: "line_role", line_id: this.line, role_id: /** @type {HTMLSelectElement} */ (event.target).value });
    },

    /** @param {Event} event @param {string} roleId @param {string} field */
    setRole(event, roleId, field) {
      const value = /** @type {HTMLInputElement} */ (event.target).value;
      const made = field === "voice_id" || field === "name" ? value : Number(value);
      return this.edit({ kind: "role", role_id: roleId, [field]: made });
    },

    async addRole() {
      if (!this.newRole.trim()) return this.tell("Give the role a name first.", "note");
      await this.edit({ kind: "add_role", name: this.newRole, voice_id: this.voices[0].id });
      this.newRole = "";
    },

    async addCaption() {
      if (!this.newCaption.trim()) return this.tell("Write the words of the caption first.", "note");
      await this.edit({ kind: "add_caption", shot_id: this.shot, text: this.newCaption });
      this.newCaption = "";
    },

    async addScene() {
      if (!this.newScene.trim()) return this.tell("Write the words to be spoken first.", "note");
      await this.edit({ kind: "add_scene_text", shot_id: this.shot, text: this.newScene });
      this.newScene = "";
    },

    /** @param {Event} event @param {string} field */
    setting(event, field) {
      const field_ = /** @type {HTMLInputElement} */ (event.target);
      const value = field_.type === "number" || field_.type === "range" ? Number(field_.value) : field_.value;
      return this.edit({ kind: "settings", [field]: value });
    },

    /** @param {string} field @param {any} value */
    settingTo(field, value) { return this.edit({ kind: "settings", [field]: value }); },

    // long work

    /** @param {string} path @param {object} body @returns {Promise<Job|null>} */
    async run(path, body) {
      if (this.busy) {
        this.tell("One thing is still being made. Stop it or wait for it.", "note");
        return null;
      }
      try {
        const job = await follow(await post(path, body), (now) => { this.job = now; });
        this.job = null;
        if (job.state === "failed") this.tell(job.note, "error");
        if (job.state === "cancelled") this.tell(job.note, "note");
        return job;
      } catch (error) {
        this.job = null;
        this.failed(error);
        return null;
      }
    },

    async stopJob() {
      if (this.job) await post(`/api/jobs/${this.job.id}/cancel`).catch(() => {});
    },

    async refresh() { this.take(await get(`/api/projects/${this.project}/timeline`)); },

    /** @param {string[]} [lines] */
    async voice(lines) {
      const job = await this.run(`/api/projects/${this.project}/voice`, lines ? { line_ids: lines } : {});
      if (!job) return;
      await this.refresh();
      if (job.state !== "done") return;
      const { made, kept, failed } = job.result;
      const failures = failed.map((/** @type {any} */ f) => ` “${f.text}”: ${f.reason}`).join("");
      this.tell(`Voices: ${made} made, ${kept} kept, ${failed.length} failed.${failures}`, failed.length ? "error" : "good");
    },

    async fit() {
      try {
        const proposal = await post(`/api/projects/${this.project}/fit`);
        this.pass = "fit";
        this.proposal = proposal;
        if (proposal.status !== "solved") this.tell(proposal.reason, "error");
        else this.message = "";
        this.redraw();
      } catch (error) {
        this.failed(error);
      }
    },

    drop() {
      this.proposal = null;
      this.redraw();
    },

    async accept() {
      if (!this.proposal) return;
      const job = await this.run(`/api/projects/${this.project}/accept`, { based_on: this.proposal.revision });
      if (!job) return;
      await this.refresh();
      if (job.state !== "done") return;
      this.proposal = null;
      this.redraw();
      const miss = job.result.worst_miss_ms;
      const failed = job.result.failed.length ? ` ${job.result.failed.length} could not be voiced at their pace.` : "";
      this.tell(`Fit accepted: ${format.counted(job.result.paced, "line")} voiced at a new pace, ends off by ${miss} ms at most.${failed}`, failed ? "error" : "good");
    },

    async makeExport() {
      if (!this.wants.video && !this.wants.sound && !this.wants.captions) return this.tell("Choose at least one thing to make.", "note");
      const job = await this.run(`/api/projects/${this.project}/exports`, { ...this.wants });
      if (job?.state !== "done") return;
      this.docketOf(job.result);
      await this.refresh();
      this.tell(`Made ${format.counted(job.result.files.length, "file")}.`, "good");
    },

    /** @param {any} result */
    docketOf(result) { this.docket = result.files ? result : null; },

    async measureLoudness() {
      try {
        this.loudness = await get(`/api/projects/${this.project}/loudness`);
      } catch (error) {
        this.failed(error);
      }
    },

    // playing

    /** @param {number} s @param {boolean} byPlayer */
    moved(s, byPlayer) {
      const end = this.t.total_frames * this.frameSeconds;
      this.at = Math.max(0, Math.min(s, Math.max(0, end - 0.001)));
      screen.stage.show(this.frameNow);
      screen.sheet.setPlayhead(this.at);
      if (byPlayer) screen.sheet.follow(this.at);
    },

    /** @param {number} s */
    seek(s) {
      const wasPlaying = this.playing === "piece";
      this.moved(s, false);
      if (wasPlaying) this.play();
    },

    /** @param {number} frames */
    nudge(frames) {
      screen.player.stop();
      this.moved((this.frameNow + frames + 0.5) * this.frameSeconds, true);
    },

    async play() {
      if (!this.loaded) return;
      const end = this.t.total_frames * this.frameSeconds;
      const from = this.at >= end - 0.05 ? 0 : this.at;
      await screen.player.play(Alpine.raw(this.t), from, end).catch((error) => this.failed(error));
    },

    toggle() {
      if (this.playing) screen.player.stop();
      else return this.play();
    },

    async hearLine() {
      if (!this.line) return;
      await screen.player.playLine(Alpine.raw(this.t), this.line).catch((error) => this.failed(error));
    },

    async loopShot() {
      const shot = this.chosenShot;
      if (!shot) return;
      const [start, end] = [shot.start * this.frameSeconds, shot.end * this.frameSeconds];
      await screen.player.play(Alpine.raw(this.t), start, end, true).catch((error) => this.failed(error));
    },

    /** @param {string} voice @param {boolean} own */
    async hearVoice(voice, own) {
      const words = own ? `?project=${this.project}&line=${this.line}` : "";
      await screen.player.playSound(`/api/voices/${voice}/sample.wav${words}`, "voice").catch((error) => this.failed(error));
    },

    // lettering

    /** Draw the chosen caption in each style. */
    async previews() {
      const caption = this.chosenCaption;
      if (this.pass !== "lettering" || !caption) return;
      for (const holder of document.querySelectorAll("[data-style-preview]")) {
        const style = /** @type {SVGElement} */ (holder).dataset.stylePreview;
        try {
          const drawing = await get(`/api/projects/${this.project}/captions/${caption.id}/drawing?style=${style}`);
          drawCaption(/** @type {SVGElement} */ (holder), drawing, 0);
        } catch (error) {
          this.failed(error);
        }
      }
    },

    // words for the editor

    /** @param {string} text @param {string} kind */
    tell(text, kind) {
      this.message = text;
      this.messageKind = kind;
    },

    /** @param {unknown} error */
    failed(error) {
      if (error instanceof Refusal && error.timeline) this.take(error.timeline);
      this.tell(error instanceof Error ? error.message : String(error), "error");
    },

    clock: format.clock,
    seconds: format.seconds,
    signed: format.signed,
    paceOf: format.pace,
    sizeOf: format.size,
    /** @param {string} name */
    fileAddress(name) { return `/api/projects/${this.project}/exports/${encodeURIComponent(name)}`; },
    counted: format.counted,
    /** @param {number} frame */
    timecode(frame) { return format.timecode(frame, this.t.rate); },
    /** @param {import("./types.js").Step[]} steps */
    visible(steps) { return steps.filter((step) => Math.abs(step.seconds) >= 0.0005); },
    /** The sum to show: of the proposal while there is one. */
    get sum() { return this.chosenPlan?.sum ?? this.chosenLine?.sum ?? null; },
    get changes() {
      const now = new Map(this.t.lines.map((item) => [item.id, item]));
      return (this.proposal?.lines ?? []).map((plan, number) => {
        const line = now.get(plan.id);
        const moved = plan.start_s - (line?.start_s ?? 0);
        return { id: plan.id, number: number + 1, state: plan.state, pace: plan.pace, pause: plan.pause_s, start: plan.start_s, moved };
      });
    },

    // keys

    /** @param {KeyboardEvent} event */
    key(event) {
      const target = /** @type {HTMLElement} */ (event.target);
      const inField = target.closest("input, textarea, select") !== null;
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z" && !inField) {
        event.preventDefault();
        this.step(event.shiftKey ? "redo" : "undo");
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey || inField) return;
      const action = this.keys()[event.key];
      if (!action || (target.closest("button, a, summary") && (event.key === " " || event.key === "Enter"))) return;
      event.preventDefault();
      action();
    },

    /** @returns {Record<string, () => any>} */
    keys() {
      /** @type {Record<string, () => any>} */
      const table = {
        " ": () => this.toggle(),
        k: () => screen.player.stop(),
        l: () => this.play(),
        j: () => this.seek(this.at - 2),
        ArrowLeft: () => this.nudge(-1),
        ArrowRight: () => this.nudge(1),
        ArrowUp: () => this.chooseNext(-1),
        ArrowDown: () => this.chooseNext(1),
        h: () => this.hearLine(),
        r: () => this.loopShot(),
        v: () => this.voice(),
        f: () => this.fit(),
        a: () => this.accept(),
        d: () => this.drop(),
        Enter: () => this.chosenCaption && this.typeCaption(this.chosenCaption.id),
        "+": () => this.zoom(1),
        "-": () => this.zoom(-1),
        "?": () => { this.keysShown = !this.keysShown; },
        Escape: () => { this.keysShown = false; this.message = ""; },
      };
      PASSES.forEach((name, number) => { table[String(number + 1)] = () => this.setPass(name); });
      return table;
    },
  };
}

/** A whole or decimal number from a field, null when it holds none. @param {Event} event */
function number(event) {
  const text = /** @type {HTMLInputElement} */ (event.target).value.trim();
  const value = Number(text);
  return text === "" || Number.isNaN(value) ? null : value;
}

// The speech column: each line as ink between its first and last sound, in the shape of its state.

import { get } from "../../../api.js";
import { pace, seconds } from "../../../format.js";
import { element, place, svg } from "../../../svg.js";
import { ghostVoices, WORDS_SHOWN } from "../ghosts.js";
import { bare } from "../grips.js";
import { part } from "../layer.js";

/** @typedef {import("../../../types.d.ts").Line} Line */
/** @typedef {import("../../surface.d.ts").View} View */
/** @typedef {import("../sheet.js").Sheet} Sheet */

const WIDE = 104;
const PER_SECOND = 100;

/** A row of a label, and the most a label takes, in pixels. */
const LABEL_ROW = 16;
const LABEL_HEIGHT = 80;

/** The speech column, which fetches the waveforms it draws. */
export class Speech {
  name = "speech";
  title = "Voice";

  /** @param {() => void} redraw called when a waveform has arrived */
  constructor(redraw) {
    this.redraw = redraw;
    /** @type {Map<string, number[]|null>} */
    this.peaks = new Map();
  }

  /** @param {string} hash */
  #peaksOf(hash) {
    const known = this.peaks.get(hash);
    if (known !== undefined) return known;
    this.peaks.set(hash, null);
    get(`/media/takes/${hash}/peaks`).then(
      (data) => {
        this.peaks.set(hash, data.peaks);
        this.redraw();
      },
      () => {},
    );
    return null;
  }

  /** @param {Sheet} sheet @param {View} view @param {(top: number, end: number) => boolean} seen */
  *parts(sheet, view, seen) {
    for (const [number, line] of view.t.lines.entries()) {
      const reach = Math.max(line.end_s, line.window_end_s);
      if (seen(sheet.y(line.window_start_s) - 40, sheet.y(reach) + 60))
        yield* this.#line(sheet, view, line, number);
    }
    if (view.proposal?.status === "solved") yield* ghostVoices(sheet, view, view.proposal, seen);
  }

  /** @param {Sheet} sheet @param {View} view @param {Line} line @param {number} number */
  *#line(sheet, view, line, number) {
    const [from, until] = [sheet.y(line.window_start_s), sheet.y(line.window_end_s)];
    yield part(`window-${line.id}`, [from, until], () => {
      const bracket = element("div", "window");
      place(bracket, from, until - from);
      return bracket;
    });
    const role = view.t.roles.find((item) => item.id === line.role);
    const colour = (role?.colour ?? 0) % 6;
    const top = sheet.y(line.start_s);
    const height = Math.max(2, sheet.y(line.end_s) - top);
    const heard = line.take ? this.#peaksOf(line.take.hash) : null;
    const words = describe(line, number, role?.name ?? "");
    const chosen = line.id === view.line;
    const look = [
      top,
      height,
      colour,
      chosen,
      line.lane,
      line.state,
      line.take?.hash,
      heard !== null,
      words,
      line.window_end_s,
      line.late_s,
      line.locked,
    ];
    yield part(`voice-${line.id}`, look, () => {
      const block = element(
        "button",
        `voice lane-${line.lane} role-${colour} state-${line.state}${chosen ? " chosen" : ""}`,
      );
      place(block, top, height);
      block.dataset.line = line.id;
      block.dataset.move = line.id;
      block.dataset.key = `voice-${line.id}`;
      block.setAttribute("aria-label", words);
      block.append(this.#ink(sheet, line, height));
      return block;
    });
    if (line.state === "floats") {
      const end = sheet.y(line.end_s + line.idle_s);
      yield part(`idle-${line.id}`, [top, height, end], () => {
        const idle = element("div", "idle");
        place(idle, top + height + 3, Math.max(4, end - top - height - 5));
        idle.append(element("span", "mono", `${seconds(line.idle_s)} idle`));
        return idle;
      });
    }
    const aside = chosen && view.scale >= WORDS_SHOWN ? " aside" : "";
    // a label gives way to the next one of its lane, a whole row of text at a time
    const next = view.t.lines.slice(number + 1).find((item) => item.lane === line.lane);
    const room = next
      ? Math.max(1, Math.floor((sheet.y(next.start_s) - top) / LABEL_ROW)) * LABEL_ROW
      : LABEL_HEIGHT;
    yield part(
      `label-${line.id}`,
      [
        top,
        Math.min(room, LABEL_HEIGHT),
        aside,
        colour,
        line.lane,
        role?.name,
        line.state,
        numbers(line),
        line.scene_text,
        line.said,
        line.locked,
        line.failed,
        line.take?.recorded,
      ],
      () => {
        const label = element("div", `voice-label lane-${line.lane}${aside}`);
        place(label, top + 4, Math.min(room, LABEL_HEIGHT));
        label.dataset.line = line.id;
        const name = element("div", "");
        name.append(element("b", `role-ink-${colour}`, role?.name ?? "nobody"), stateMark(line.state));
        if (line.locked) name.append(element("span", "lock", "locked"));
        if (line.take?.recorded) name.append(element("span", "lock", "recorded"));
        if (line.failed) name.append(element("span", "lock lock-alarm", "failed"));
        label.append(name);
        label.append(element("div", "mono", numbers(line)));
        if (line.scene_text) label.append(element("div", "scene-text", `“${line.said}” not shown`));
        return label;
      },
    );
    if (chosen) yield* this.#rail(sheet, line);
  }

  /** The words of the chosen line beside its block, and the rests between them, to be dragged. @param {Sheet} sheet @param {Line} line */
  *#rail(sheet, line) {
    const wide = (sheet.view?.scale ?? 28) >= WORDS_SHOWN;
    for (const [number, [from, until, text]] of line.words.entries()) {
      const [top, height] = [sheet.y(from), Math.max(3, sheet.y(until) - sheet.y(from) - 1)];
      yield part(`word-${line.id}-${number}`, [top, height, text, wide], () => {
        const tick = element("div", `word${wide ? " word-wide" : ""}`, wide ? text : "");
        place(tick, top, height);
        tick.dataset.word = String(number);
        tick.dataset.ofLine = line.id;
        tick.title = `“${bare(text)}”: drag it to a cut or a frame to hold it there`;
        return tick;
      });
    }
    for (const rest of line.rests) {
      const [top, height] = [sheet.y(rest.start_s), sheet.y(rest.end_s) - sheet.y(rest.start_s)];
      const word = bare(line.words[rest.after]?.[2] ?? "");
      const length = seconds(rest.end_s - rest.start_s);
      yield part(`rest-${line.id}-${rest.after}`, [top, height, rest.written, word, length], () => {
        const handle = element("div", `rest${rest.written ? " written" : ""}`);
        place(handle, top - Math.max(0, 8 - height) / 2, Math.max(8, height));
        handle.dataset.rest = String(rest.after);
        handle.dataset.ofLine = line.id;
        handle.dataset.key = `rest-${line.id}-${rest.after}`;
        handle.tabIndex = 0;
        handle.setAttribute("role", "slider");
        handle.setAttribute("aria-label", `Pause after “${word}”`);
        handle.setAttribute("aria-valuenow", String(rest.end_s - rest.start_s));
        handle.setAttribute("aria-valuetext", length);
        handle.title = `Pause after “${word}”, ${length}${rest.written ? ", written" : ""}: drag to change it`;
        return handle;
      });
    }
  }

  /** @param {Sheet} sheet @param {Line} line @param {number} height */
  #ink(sheet, line, height) {
    const lean = line.state === "leans" || line.state === "spills" ? slant(line.pace) : 0;
    const width = WIDE + 80;
    const ink = svg("svg", { width, height, viewBox: `-40 0 ${width} ${height}`, "aria-hidden": "true" });
    const corners = `0,0 ${WIDE},0 ${WIDE + lean},${height} ${lean},${height}`;
    ink.append(svg("polygon", { points: corners, class: "block" }));
    const over = line.spill_s > 0.0005 ? line.spill_s * (sheet.view?.scale ?? 28) : 0;
    const late = line.late_s > 0.0005 ? line.late_s * (sheet.view?.scale ?? 28) : 0;
    if (line.take) {
      const peaks = this.#peaksOf(line.take.hash);
      if (peaks) ink.append(svg("path", { d: wave(peaks, line, height, lean), class: "wave" }));
    }
    const at = (/** @type {number} */ y) => (lean * y) / height;
    const band = (/** @type {number} */ from, /** @type {number} */ until) =>
      `${at(from)},${from} ${WIDE + at(from)},${from} ${WIDE + at(until)},${until} ${at(until)},${until}`;
    if (over > 0) ink.append(svg("polygon", { points: band(height - over, height), class: "spill" }));
    if (late > 0)
      ink.append(svg("polygon", { points: band(height - over - late, height - over), class: "late" }));
    return ink;
  }
}

/** Words held to the picture: a rule from the word to where it is held. @param {Sheet} sheet @param {View} view @param {Line} line @param {(top: number, end: number) => boolean} seen */
export function* syncParts(sheet, view, line, seen) {
  for (const sync of line.syncs) {
    const shot = view.t.shots.find((item) => item.id === sync.shot);
    if (!shot) continue;
    const y = sheet.yf(shot.start + sync.frames);
    if (!seen(y, y)) continue;
    const word = bare(line.words[sync.word]?.[2] ?? "");
    yield part(`sync-${line.id}-${sync.word}`, [y, word], () => {
      const rule = element("div", "sync");
      place(rule, y, 1);
      rule.append(element("span", "mono", word));
      return rule;
    });
  }
}

/** How far a block leans for a pace: a tenth faster is 15 pixels. @param {number} value */
const slant = (value) => Math.max(-25, Math.min(25, (value - 1) * 150));

/** Sound as bars across, from the first sound to the last. @param {number[]} peaks @param {Line} line @param {number} height @param {number} lean */
function wave(peaks, line, height, lean) {
  const lead = line.take ? line.start_s - line.take.at_s : 0;
  const length = line.end_s - line.start_s;
  const loudest = Math.max(1, ...peaks);
  const parts = [];
  for (let y = 1.2; y < height; y += 2.4) {
    const from = Math.floor((lead + (y / height) * length) * PER_SECOND);
    const to = Math.max(from + 1, Math.floor((lead + ((y + 2.4) / height) * length) * PER_SECOND));
    let level = 0;
    for (let i = from; i < to; i++) level = Math.max(level, peaks[i] ?? 0);
    const half = Math.max(0.6, (level / loudest) * (WIDE / 2 - 6));
    const middle = WIDE / 2 + (lean * y) / height;
    parts.push(`M${(middle - half).toFixed(1)} ${y.toFixed(1)}h${(2 * half).toFixed(1)}`);
  }
  return parts.join("");
}

/** @param {Line} line */
function numbers(line) {
  if (line.state === "unvoiced")
    return `${line.known ? "" : "≈"}${seconds(line.end_s - line.start_s)} of ${seconds(line.window_end_s - line.window_start_s)}`;
  if (line.spill_s > 0.0005) return `${pace(line.pace)}, ${seconds(line.spill_s)} over`;
  return `${pace(line.pace)}, ${seconds(line.idle_s)} spare`;
}

/** The word for a state with its shape. @param {string} state */
export function stateMark(state) {
  const mark = element("span", `state-word state-ink-${state}`);
  mark.append(element("i", `glyph glyph-${state}`), document.createTextNode(state));
  return mark;
}

/** @param {Line} line @param {number} number @param {string} role */
function describe(line, number, role) {
  return `Line ${number + 1}, ${role}, ${line.state}, ${numbers(line)}: ${line.said}`;
}

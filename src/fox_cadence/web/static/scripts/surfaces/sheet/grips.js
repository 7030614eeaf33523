// What can be taken hold of on the sheet, and what a movement of it by some frames would do.

import { seconds, signed, timecode } from "../../format.js";

/** @typedef {import("./sheet.js").Sheet} Sheet */
/** @typedef {import("../surface.d.ts").View} View */
/** @typedef {import("../../types.d.ts").Shot} Shot */
/** @typedef {import("../../types.d.ts").Caption} Caption */
/** @typedef {import("../../types.d.ts").Line} Line */
/** @typedef {{frame: number, text: string, edit: object|null}} Step where the rule stands, the number that changes, the edit */
/** @typedef {(frames: number, shift: boolean, snap: boolean) => Step} Grip */
/** @typedef {{grip: Grip|null, refusal: string}} Held */

const NEAR_PX = 7;

export const GRIPS = "[data-cut], [data-edge], [data-rest], [data-word], [data-move]";

/** What has been taken hold of, or why it can't be. @param {Sheet} sheet @param {HTMLElement} target @returns {Held} */
export function gripOf(sheet, target) {
  const view = sheet.view;
  const nothing = { grip: null, refusal: "" };
  if (!view) return nothing;
  const data = target.dataset;
  if (data.cut) {
    const number = view.t.shots.findIndex((item) => item.id === data.cut);
    const shot = view.t.shots[number];
    if (!shot) return nothing;
    if (shot.locked)
      return {
        grip: null,
        refusal: `Shot ${number + 1} is locked. Unlock it in Picture to change its length.`,
      };
    return {
      grip: (frames, shift, snap) => cut(sheet, view, shot, number, frames, shift, snap),
      refusal: "",
    };
  }
  if (data.edge) {
    const caption = view.t.captions.find((item) => item.id === data.caption);
    if (!caption) return nothing;
    if (caption.locked)
      return { grip: null, refusal: "This caption is locked. Unlock it in Words to move it." };
    return {
      grip: (frames, _, snap) => edge(sheet, view, caption, data.edge === "in", frames, snap),
      refusal: "",
    };
  }
  const number = view.t.lines.findIndex((item) => item.id === (data.move ?? data.ofLine));
  const line = view.t.lines[number];
  if (!line) return nothing;
  if (line.locked)
    return { grip: null, refusal: `Line ${number + 1} is locked. Unlock it in Words to change its times.` };
  if (data.rest) return { grip: (frames) => rest(sheet, line, Number(data.rest), frames), refusal: "" };
  if (data.word) return { grip: (frames) => hold(sheet, view, line, Number(data.word), frames), refusal: "" };
  return { grip: (frames, _, snap) => start(sheet, view, line, number, frames, snap), refusal: "" };
}

/** @param {Sheet} sheet @param {View} view @param {Shot} shot @param {number} number @param {number} frames @param {boolean} shift @param {boolean} snap @returns {Step} */
function cut(sheet, view, shot, number, frames, shift, snap) {
  let at = Math.round(shot.end + frames);
  if (snap)
    at = snapped(sheet, at, [
      ...wordFrames(sheet, view),
      ...view.t.beats.map((beat) => Math.round(beat / sheet.frameSeconds)),
    ]);
  const most = shot.handle === null ? shot.longest * 4 : shot.end - shot.start + shot.handle;
  const length = Math.max(1, Math.min(most, at - shot.start));
  const change = length - (shot.end - shot.start);
  const atEnd = length === most && shot.handle !== null ? ", end of its clip" : "";
  const how = shift ? "next shot gives" : "what follows moves";
  const text = `shot ${number + 1}: ${length} frames, ${change >= 0 ? "+" : "−"}${Math.abs(change)} (${how})${atEnd}`;
  const edit = { kind: "shot_length", shot_id: shot.id, length_frames: length, take_from_next: shift };
  return { frame: shot.start + length, text, edit: change ? edit : null };
}

/** @param {Sheet} sheet @param {View} view @param {Caption} caption @param {boolean} isIn @param {number} frames @param {boolean} snap @returns {Step} */
function edge(sheet, view, caption, isIn, frames, snap) {
  let frame = Math.round((isIn ? caption.in : caption.out) + frames);
  if (snap) frame = snapped(sheet, frame, [...cutFrames(view), ...wordFrames(sheet, view)]);
  frame = isIn
    ? Math.max(0, Math.min(frame, caption.out - 2))
    : Math.min(view.t.total_frames, Math.max(frame, caption.in + 2));
  const edit = {
    kind: "caption_times",
    caption_id: caption.id,
    in_frame: isIn ? frame : caption.in,
    out_frame: isIn ? caption.out : frame,
  };
  const changed = frame !== (isIn ? caption.in : caption.out);
  return {
    frame,
    text: `${isIn ? "in" : "out"} ${timecode(frame, view.t.rate)}`,
    edit: changed ? edit : null,
  };
}

/** @param {Sheet} sheet @param {View} view @param {Line} line @param {number} number @param {number} frames @param {boolean} snap @returns {Step} */
function start(sheet, view, line, number, frames, snap) {
  let at = Math.max(0, line.start_s + frames * sheet.frameSeconds);
  const frame = Math.round(at / sheet.frameSeconds);
  const near = snap ? snapped(sheet, frame, cutFrames(view)) : frame;
  if (near !== frame || !snap) at = near * sheet.frameSeconds;
  const shot = view.t.shots.find((item) => item.id === line.first_shot);
  const offset = at - (shot?.start ?? 0) * sheet.frameSeconds;
  const change = at - line.start_s;
  const edit = { kind: "line_start", line_id: line.id, offset_s: Math.max(-60, offset) };
  return {
    frame: at / sheet.frameSeconds,
    text: `line ${number + 1} starts ${seconds(at)}, ${signed(change)}`,
    edit: Math.abs(change) > 1e-4 ? edit : null,
  };
}

/** @param {Sheet} sheet @param {Line} line @param {number} after @param {number} frames @returns {Step} */
function rest(sheet, line, after, frames) {
  const now = line.rests.find((item) => item.after === after);
  const begin = now?.start_s ?? line.words[after]?.[1] ?? line.start_s;
  const length = Math.max(
    0,
    Math.round(((now ? now.end_s - now.start_s : 0) + frames * sheet.frameSeconds) * 100) / 100,
  );
  const word = bare(line.words[after]?.[2] ?? "");
  const edit = { kind: "pause", line_id: line.id, after_word: after, seconds: length };
  return {
    frame: (begin + length) / sheet.frameSeconds,
    text: `pause after “${word}” ${seconds(length)}`,
    edit: frames ? edit : null,
  };
}

/** @param {Sheet} sheet @param {View} view @param {Line} line @param {number} word @param {number} frames @returns {Step} */
function hold(sheet, view, line, word, frames) {
  const from = line.words[word]?.[0] ?? line.start_s;
  const frame = Math.max(0, Math.round(from / sheet.frameSeconds + frames));
  const near = snapped(sheet, frame, cutFrames(view));
  const shot = view.t.shots.findLast((item) => item.start <= near) ?? view.t.shots[0];
  const number = view.t.shots.indexOf(shot) + 1;
  const into = near - shot.start;
  const where = into === 0 ? `the cut to shot ${number}` : `frame ${into} of shot ${number}`;
  const edit = {
    kind: "sync",
    line_id: line.id,
    word,
    shot_id: shot.id,
    frames: Math.min(into, shot.end - shot.start - 1),
  };
  return {
    frame: near,
    text: `“${bare(line.words[word]?.[2] ?? "")}” held to ${where}`,
    edit: Math.abs(frames) > 0.3 ? edit : null,
  };
}

/** A word without the signs around it. @param {string} word */
export const bare = (word) => word.replace(/^[^\p{L}\p{N}]+|[^\p{L}\p{N}]+$/gu, "");

/** @param {View} view */
const cutFrames = (view) => view.t.shots.flatMap((shot) => [shot.start, shot.end]);

/** Frames at which words begin or end. @param {Sheet} sheet @param {View} view */
const wordFrames = (sheet, view) =>
  view.t.lines.flatMap((line) =>
    line.words.flatMap(([a, b]) => [Math.floor(a / sheet.frameSeconds), Math.ceil(b / sheet.frameSeconds)]),
  );

/** @param {Sheet} sheet @param {number} frame @param {number[]} places */
function snapped(sheet, frame, places) {
  const near = NEAR_PX / (sheet.view?.scale ?? 28) / sheet.frameSeconds;
  let best = frame;
  for (const at of places) {
    if (Math.abs(at - frame) <= near && (best === frame || Math.abs(at - frame) < Math.abs(best - frame)))
      best = at;
  }
  return best;
}

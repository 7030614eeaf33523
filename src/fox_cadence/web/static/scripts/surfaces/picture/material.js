// Beside each shot its whole clip, laid out from left to right: the part that is shown is framed, the rest is pale.

import { counted } from "../../format.js";
import { pictureAt } from "../../frame/clip_pictures.js";
import { isAdjusted } from "../../frame/adjusting.js";
import { element, place } from "../../svg.js";
import { part } from "../sheet/layer.js";

/** @typedef {import("../../types.d.ts").Shot} Shot */

const TILES = 8;
/** @type {Record<string, string>} */
const MOVES = { in: "in", out: "out", across: "to the right", back: "to the left" };
const [HIGHEST, LEAST, NOTES] = [58, 18, 22];

/** @type {import("../sheet/sheet.js").Column} */
export const material = {
  name: "material",
  title: "Its clip, and the part of it that is shown",
  *parts(sheet, view, seen) {
    for (const [number, shot] of view.t.shots.entries()) {
      const [top, end] = [sheet.yf(shot.start), sheet.yf(shot.end)];
      if (!seen(top, end)) continue;
      const inputs = [
        top,
        end,
        number,
        shot.id === view.shot,
        shot.clip,
        shot.colour,
        shot.still,
        shot.clip_s,
        shot.source_in_s,
        shot.speed_percent,
        shot.handle,
        shot.locked,
        shot.repeats_s,
        shot.framing,
        shot.id === view.shot && view.marks,
      ];
      yield part(`material-${shot.id}`, inputs, () => {
        const made = row(shot, number, sheet.frameSeconds, shot.id === view.shot, top, end - top);
        const window = made.querySelector(".material-window");
        if (shot.id === view.shot && window)
          window.append(...view.marks.map((mark) => cutMark(mark, shot.end - shot.start)));
        return made;
      });
      const next = view.t.shots[number + 1];
      if (next && (shot.transition || next.on_beat))
        yield part(`join-${shot.id}`, [end, shot.transition, shot.transition_kind, next.on_beat], () =>
          join(shot, next, end),
        );
    }
  },
};

/** How a shot becomes the next, as words on the rule of its cut. @param {Shot} shot @param {Shot} next @param {number} end */
function join(shot, next, end) {
  const words = shot.transition ? `${shot.transition_kind}, ${counted(shot.transition, "frame")}` : "cut";
  const made = element("span", "join", next.on_beat ? `${words}, on a beat` : words);
  made.dataset.shot = shot.id;
  place(made, end - 9, 18);
  return made;
}

/** A change that was found, the taller the more certain. @param {{at: number, certainty: number, on: boolean}} mark @param {number} length of the shot in frames */
function cutMark({ at, certainty, on }, length) {
  const made = element("i", `material-cut${on ? "" : " off"}`);
  made.style.left = `${(100 * at) / length}%`;
  made.style.height = `${Math.round(certainty * 100)}%`;
  return made;
}

/** What of its clip a shot shows, as shares of the clip. @param {Shot} shot @param {number} second of a frame */
export function windowOf(shot, second) {
  const shown = (((shot.end - shot.start) * second) / shot.clip_s) * (shot.speed_percent / 100);
  const from = Math.min(1, shot.source_in_s / shot.clip_s);
  return { from, share: Math.min(1 - from, shown) };
}

/** @param {Shot} shot @param {number} number @param {number} second @param {boolean} chosen @param {number} top @param {number} height */
function row(shot, number, second, chosen, top, height) {
  const made = element("div", `material${chosen ? " chosen" : ""}`);
  made.dataset.shot = shot.id;
  place(made, top + 6, height - 8);
  const noted = height - NOTES - 10 >= LEAST;
  const tall = Math.max(10, Math.min(HIGHEST, height - 10 - (noted ? NOTES : 0)));
  const strip = element("div", "material-strip");
  strip.style.height = `${tall}px`;
  made.append(strip);
  if (!shot.clip) {
    strip.style.backgroundColor = shot.colour;
    if (noted) made.append(notes("", "a plain colour", ""));
    return made;
  }
  for (let tile = 0; tile < (shot.still ? 1 : TILES); tile++) {
    const image = document.createElement("img");
    image.src = pictureAt(shot.clip, ((tile + 0.5) / TILES) * shot.clip_s);
    image.alt = "";
    image.draggable = false;
    strip.append(image);
  }
  if (shot.still || !shot.speed_percent) {
    if (noted)
      made.append(
        notes("", [shot.still ? "a still" : "one frame, held", how(shot)].filter(Boolean).join(" · "), ""),
      );
    return made;
  }
  const { from, share } = windowOf(shot, second);
  const window = element("div", `material-window${shot.locked ? " held" : ""}`);
  window.style.left = `${from * 100}%`;
  window.style.width = `${share * 100}%`;
  window.tabIndex = 0;
  window.dataset.window = shot.id;
  window.dataset.key = `window-${shot.id}`;
  window.setAttribute("role", "slider");
  window.setAttribute("aria-label", `Part of its clip in shot ${number + 1}`);
  window.setAttribute("aria-valuenow", String(shot.source_in_frames));
  window.setAttribute("aria-valuetext", `begins at frame ${shot.source_in_frames}`);
  window.title = shot.locked ? "Locked" : "Drag to show another part, its ends to show more or less";
  for (const end of ["start", "end"]) {
    const grip = element("span", `material-end material-${end}`);
    grip.dataset.windowEnd = end;
    window.append(grip);
  }
  strip.append(window);
  if (noted) made.append(notes(`${shot.source_in_frames} before`, how(shot), after(shot)));
  return made;
}

/** How a shot shows its clip, where that is not as it comes. @param {Shot} shot */
function how(shot) {
  const { fit, movement, zoom, amount } = shot.framing;
  const ways = [
    shot.speed_percent === 100 || shot.speed_percent === 0 ? "" : `at ${shot.speed_percent} % of its speed`,
    fit === "fill" ? "" : fit === "blur" ? "whole, on a blurred copy" : "whole, on a colour",
    zoom > 1 ? `${zoom.toFixed(2)} times as near` : "",
    movement === "to"
      ? "moves to another view"
      : movement === "none"
        ? ""
        : `moves ${MOVES[movement]} by ${Math.round(amount * 100)} %`,
    isAdjusted(shot.adjustment) ? "adjusted" : "",
  ];
  return ways.filter(Boolean).join(" · ");
}

/** @param {Shot} shot */
function after(shot) {
  if (shot.handle === null) return "";
  if (shot.handle >= 0) return `${shot.handle} after`;
  return shot.repeats_s ? `shown again for ${-shot.handle}` : `held for ${-shot.handle}`;
}

/** @param {string} before @param {string} how @param {string} later */
function notes(before, how, later) {
  const made = element("p", "material-notes");
  made.append(
    element("span", "mono", before),
    element("span", "material-how", how),
    element("span", "mono", later),
  );
  return made;
}

// The picture column: shots as strips of thumbnails, and the cuts that can be taken hold of.

import { seconds } from "../../../format.js";
import { pictureAt } from "../../../frame/clip_pictures.js";
import { element, place } from "../../../svg.js";
import { clipSeconds } from "../../../timeline.js";
import { part } from "../layer.js";

/** @typedef {import("../../../types.d.ts").Shot} Shot */
/** @typedef {import("../sheet.js").Sheet} Sheet */
/** @typedef {import("../../surface.d.ts").View} View */

const TILE = 56;

/** @type {import("../sheet.js").Column} */
export const picture = {
  name: "picture",
  title: "Picture",
  *parts(sheet, view, seen) {
    for (const [number, shot] of view.t.shots.entries()) {
      if (seen(sheet.yf(shot.start), sheet.yf(shot.end))) yield* shotParts(sheet, view, shot, number);
    }
  },
};

/** The rule a shot begins with, and the cut it ends with, to be dragged. @param {Sheet} sheet @param {Shot} shot @param {number} number */
export function* cutParts(sheet, shot, number) {
  const [top, end] = [sheet.yf(shot.start), sheet.yf(shot.end)];
  yield part(`rule-${shot.id}`, [top], () => {
    const rule = element("div", "cut");
    place(rule, top, 1);
    return rule;
  });
  yield part(
    `cut-${shot.id}`,
    [end, number, shot.locked, shot.shortest, shot.longest, shot.end - shot.start],
    () => cutHandle(shot, number, end),
  );
}

/** @param {Sheet} sheet @param {View} view @param {Shot} shot @param {number} number */
function* shotParts(sheet, view, shot, number) {
  const top = sheet.yf(shot.start);
  const height = sheet.yf(shot.end) - top;
  const length = (shot.end - shot.start) * sheet.frameSeconds;
  const chosen = shot.id === view.shot;
  yield part(
    `shot-${shot.id}`,
    [
      top,
      height,
      chosen,
      number,
      shot.name,
      shot.locked,
      shot.clip,
      shot.source_in_s,
      shot.speed_percent,
      shot.colour,
      shot.transition,
      shot.transition_kind,
      shot.on_beat,
      shot.headings,
    ],
    () => {
      const item = element("div", `shot${chosen ? " chosen" : ""}`);
      item.dataset.shot = shot.id;
      place(item, top, height);
      const label = element("button", "shot-label");
      label.dataset.key = `shot-${shot.id}`;
      const said = [
        element("span", "sr-only", "Shot"),
        element("b", "", String(number + 1)),
        element("span", "shot-name", shot.name),
      ];
      said.push(
        element("span", "mono", seconds(length)),
        ...shot.headings.map((heading) => element("i", "shot-heading", heading.text)),
      );
      if (shot.locked) said.push(element("span", "lock", "locked"));
      if (shot.on_beat) said.push(element("span", "lock", "on beat"));
      if (shot.speed_percent !== 100)
        said.push(element("span", "shot-name", shot.speed_percent ? `${shot.speed_percent} %` : "held"));
      if (shot.transition)
        said.push(
          element(
            "span",
            "shot-name",
            `${shot.transition_kind === "dissolve" ? "dissolves" : shot.transition_kind} ${shot.transition}`,
          ),
        );
      for (const each of said) label.append(each, " "); // or a screen reader runs them together
      item.append(strip(shot, height, length), label);
      return item;
    },
  );
  if (shot.transition) {
    const from = sheet.yf(shot.end - shot.transition);
    yield part(`dissolve-${shot.id}`, [from, top + height], () => {
      const zone = element("div", "dissolve");
      place(zone, from, top + height - from);
      return zone;
    });
  }
}

/** @param {Shot} shot @param {number} height @param {number} length */
function strip(shot, height, length) {
  const made = element("div", "strip");
  if (!shot.clip) {
    made.style.backgroundColor = shot.colour;
    return made;
  }
  const tiles = Math.max(1, Math.round(height / TILE));
  for (let tile = 0; tile < tiles; tile++) {
    const at = clipSeconds(shot, ((tile + 0.5) / tiles) * length);
    const image = document.createElement("img");
    image.src = pictureAt(shot.clip, at);
    image.alt = "";
    image.draggable = false;
    made.append(image);
  }
  return made;
}

/** @param {Shot} shot @param {number} number @param {number} y */
function cutHandle(shot, number, y) {
  const handle = element("div", `cut-handle${shot.locked ? " held" : ""}`);
  place(handle, y - 12, 24);
  handle.tabIndex = 0;
  handle.dataset.key = `cut-${shot.id}`;
  handle.dataset.cut = shot.id;
  handle.setAttribute("role", "slider");
  handle.setAttribute("aria-orientation", "vertical");
  handle.setAttribute("aria-label", `End of shot ${number + 1}`);
  handle.setAttribute("aria-valuemin", String(shot.shortest));
  handle.setAttribute("aria-valuemax", String(shot.longest));
  handle.setAttribute("aria-valuenow", String(shot.end - shot.start));
  handle.setAttribute("aria-valuetext", `${shot.end - shot.start} frames`);
  handle.title = shot.locked ? "Locked" : "Drag to change the shot; with Shift the next shot gives or takes";
  return handle;
}

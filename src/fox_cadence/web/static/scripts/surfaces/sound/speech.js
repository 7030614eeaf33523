// The speech: what each role says as ink in its colour, and by how much it stands over the rest.

import { element, place, svg } from "../../svg.js";
import { part } from "../sheet/layer.js";
import { bars, loudest } from "./peaks.js";

/** @typedef {import("./peaks.js").Peaks} Peaks */

const WIDE = 128;

/** @param {Peaks} peaks @returns {import("../sheet/sheet.js").Column} */
export const speech = (peaks) => ({
  name: "voices",
  title: "Speech",
  *parts(sheet, view, seen) {
    const over = view.sound?.lines_over ?? {};
    for (const [number, line] of view.t.lines.entries()) {
      const [top, end] = [sheet.y(line.start_s), sheet.y(line.end_s)];
      if (!seen(top, end)) continue;
      const colour = (view.t.roles.find((role) => role.id === line.role)?.colour ?? 0) % 6;
      const heard = line.take ? peaks.of(`/media/takes/${line.take.hash}/peaks`) : null;
      const stands = over[line.id] ?? null;
      const chosen = line.id === view.line;
      const quiet = isQuiet(view.t.mix, line.role);
      const look = [top, end, colour, heard !== null, line.take?.hash, stands, chosen, quiet];
      yield part(`said-${line.id}`, look, () => {
        const made = element(
          "button",
          `level-speech role-${colour}${chosen ? " chosen" : ""}${quiet ? " quiet" : ""}`,
        );
        made.dataset.line = line.id;
        made.dataset.key = `said-${line.id}`;
        made.setAttribute(
          "aria-label",
          `Line ${number + 1}: ${line.said}${stands === null ? "" : `, +${stands.toFixed(0)} dB over the rest`}`,
        );
        const height = Math.max(3, end - top);
        place(made, top, height);
        const ink = svg("svg", { width: WIDE, height, "aria-hidden": "true" });
        const lead = line.take ? line.start_s - line.take.at_s : 0;
        const second = (/** @type {number} */ y) => lead + (y / height) * (line.end_s - line.start_s);
        const shape = heard
          ? bars(0, height, WIDE / 2, (y, next) =>
              Math.max(0.6, loudest(heard, second(y), second(next)) ** 0.7 * (WIDE / 2 - 4)),
            )
          : `M4 0v${height}M${WIDE - 4} 0v${height}`;
        ink.append(svg("path", { d: shape }));
        made.append(ink);
        if (stands !== null && height > 22) made.append(element("span", "mono", `+${stands.toFixed(0)}`));
        return made;
      });
    }
  },
});

/** @param {import("../../answers.d.ts").MixSettingsJson} mix @param {string} role */
function isQuiet(mix, role) {
  const names = ["speech", `role:${role}`];
  const has = (/** @type {string[]} */ list) => names.some((name) => list.includes(name));
  return has(mix.muted) || (mix.solo.length > 0 && !has(mix.solo));
}

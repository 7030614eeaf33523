// The shots' own sound, as loud as it is heard.

import { element, place, svg } from "../../svg.js";
import { part } from "../sheet/layer.js";
import { bars, loudest } from "./peaks.js";

const WIDE = 74;

/** @param {import("./peaks.js").Peaks} peaks @returns {import("../sheet/sheet.js").Column} */
export const own = (peaks) => ({
  name: "own",
  title: "Shots’ own",
  *parts(sheet, view, seen) {
    for (const [number, shot] of view.t.shots.entries()) {
      const [top, end] = [sheet.yf(shot.start), sheet.yf(shot.end)];
      if (!shot.sound || !seen(top, end)) continue;
      const heard = peaks.of(`/media/clips/${shot.clip}/peaks`);
      const silent = shot.sound_muted || shot.sound_gain_db <= -60 || shot.speed_percent === 0;
      const chosen = shot.id === view.shot;
      const look = [
        top,
        end,
        heard !== null,
        shot.clip,
        shot.source_in_s,
        shot.sound_gain_db,
        silent,
        chosen,
        shot.speed_percent,
      ];
      yield part(`own-${shot.id}`, look, () => {
        const made = element("button", `own-sound${chosen ? " chosen" : ""}${silent ? " quiet" : ""}`);
        made.dataset.shot = shot.id;
        made.dataset.key = `own-${shot.id}`;
        const level = silent ? "muted" : `${shot.sound_gain_db.toFixed(0)} dB`;
        made.setAttribute("aria-label", `Own sound of shot ${number + 1}, ${level}`);
        const height = Math.max(4, end - top - 2);
        place(made, top + 1, height);
        if (heard && !silent) {
          const gain = 10 ** (Math.max(-40, shot.sound_gain_db) / 40);
          const most = Math.max(1, ...heard.slice(0, 20_000)) / 255;
          const second = (/** @type {number} */ y) =>
            shot.source_in_s + ((sheet.secondsAt(y + top) - sheet.secondsAt(top)) * shot.speed_percent) / 100;
          const ink = svg("svg", { width: WIDE, height, "aria-hidden": "true" });
          const shape = bars(0, height, WIDE / 2, (y, next) =>
            Math.max(0.5, (loudest(heard, second(y), second(next)) / most) * gain * (WIDE / 2 - 2)),
          );
          ink.append(svg("path", { d: shape }));
          made.append(ink);
        }
        if (silent && height > 18) made.append(element("span", "soft", "muted"));
        return made;
      });
    }
  },
});

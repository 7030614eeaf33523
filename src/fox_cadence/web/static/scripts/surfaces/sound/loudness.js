// The loudness of three seconds, against what is aimed at.

import { svg } from "../../svg.js";
import { part } from "../sheet/layer.js";

const [LOWEST, HIGHEST, WIDE] = [-36, -8, 96];
const LABEL_EVERY_S = 10;
/** @param {number} lufs */
const across = (lufs) => (WIDE * (Math.max(LOWEST, Math.min(HIGHEST, lufs)) - LOWEST)) / (HIGHEST - LOWEST);

/** @type {import("../sheet/sheet.js").Column} */
export const loudness = {
  name: "loudness",
  title: "Loudness, 3 s",
  *parts(sheet, view, _, [from, to]) {
    const aim = view.t.mix.aim_lufs;
    const curve = view.sound?.short_term ?? [];
    yield part("loudness", [from, to, view.scale, aim, view.sound?.revision ?? 0, curve.length], () => {
      const holder = svg("svg", {
        class: "loudness",
        width: WIDE + 30,
        height: to - from,
        "aria-hidden": "true",
      });
      holder.style.top = `${from}px`;
      const end = Math.min(to, sheet.yf(view.t.total_frames)) - from;
      holder.append(
        svg("path", { class: "loudness-aim", d: `M${across(aim).toFixed(1)} 0V${end.toFixed(1)}` }),
      );
      for (let s = 0; sheet.y(s) < end + from; s += LABEL_EVERY_S) {
        if (sheet.y(s) < from - 20 || sheet.y(s) > to) continue;
        const text = svg("text", { class: "loudness-text", x: across(aim) + 4, y: sheet.y(s) - from + 14 });
        text.textContent = String(aim).replace("-", "−");
        holder.append(text);
      }
      const points = [];
      for (const [n, lufs] of curve.entries()) {
        const y = sheet.y((n + 1) / 10) - from;
        if (y >= -10 && y <= end + 10 && n > 3) points.push(`${across(lufs).toFixed(1)},${y.toFixed(1)}`);
      }
      holder.append(svg("polyline", { class: "loudness-line", points: points.join(" ") }));
      return holder;
    });
  },
};

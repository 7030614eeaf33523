// What is said over each shot, where it is said.

import { element, place } from "../../svg.js";
import { part } from "../sheet/layer.js";

/** @type {import("../sheet/sheet.js").Column} */
export const over = {
  name: "over",
  title: "Said over it",
  *parts(sheet, view, seen) {
    const { lines, roles } = view.t;
    for (const [number, line] of lines.entries()) {
      const [top, end] = [sheet.y(line.start_s), sheet.y(line.end_s)];
      if (!seen(top, end)) continue;
      const next = lines[number + 1];
      const room = next ? Math.max(end - top, sheet.y(next.start_s) - top - 4) : 200;
      const colour = (roles.find((role) => role.id === line.role)?.colour ?? 0) % 6;
      const chosen = line.id === view.line;
      yield part(`over-${line.id}`, [top, end, room, line.said, line.state, colour, chosen], () => {
        const made = element("button", `said-over role-${colour}${chosen ? " chosen" : ""}`);
        made.dataset.line = line.id;
        made.dataset.key = `over-${line.id}`;
        place(made, top, Math.max(16, room));
        const bar = element("i", "said-over-bar");
        bar.style.height = `${Math.max(4, end - top)}px`;
        made.append(bar, element("span", "", line.said));
        if (line.state === "spills" || line.state === "unvoiced" || line.state === "stale")
          made.append(" ", element("em", "alarm", line.state));
        return made;
      });
    }
  },
};

// The rows of the script page: headings, lines, and what is being written and is no line yet.

import { clock, seconds } from "../../format.js";
import { guard, html, nothing } from "../../lit.js";

/** @typedef {import("../../types.d.ts").Timeline} Timeline */
/** @typedef {import("../../types.d.ts").Line} Line */
/** @typedef {import("../../types.d.ts").Caption} Caption */
/** @typedef {import("../../types.d.ts").Role} Role */
/** @typedef {import("./script_text.js").Content} Content */
/** @typedef {{after: string|null, shot: string|null, shown: boolean}} Draft where a line that is being written will stand */
/** @typedef {{seconds: number, error: number, room_s: number, words_left: number, state: string|null}} Estimate */
/** @typedef {{kind: "heading", id: string, text: string, shot: string}} HeadingRow */
/** @typedef {{kind: "line", line: Line, number: number, captions: Caption[]}} LineRow */
/** @typedef {HeadingRow|LineRow|{kind: "draft"}} Row */

/** Pixels a bar may be long. */
const BAR = 112;

/** The rows of the page in their order. @param {Timeline} t @param {Draft|null} draft @returns {Row[]} */
export function rowsOf(t, draft) {
  /** @type {Map<string, Caption[]>} */
  const captions = new Map();
  for (const caption of t.captions) {
    if (!caption.line) continue;
    const own = captions.get(caption.line);
    if (own) own.push(caption);
    else captions.set(caption.line, [caption]);
  }
  /** @type {Row[]} */
  const rows = [];
  let drafted = !draft;
  const write = () => {
    rows.push({ kind: "draft" });
    drafted = true;
  };
  let next = 0;
  for (const shot of t.shots) {
    for (const heading of shot.headings) {
      rows.push({ kind: "heading", id: heading.id, text: heading.text, shot: shot.id });
    }
    if (!drafted && draft?.shot === shot.id && !before(t, draft.after, next)) write();
    for (; next < t.lines.length && t.lines[next].first_shot === shot.id; next++) {
      const line = t.lines[next];
      rows.push({ kind: "line", line, number: next + 1, captions: captions.get(line.id) ?? [] });
      if (!drafted && draft?.after === line.id && (!draft.shot || draft.shot === shot.id)) write();
    }
  }
  if (!drafted) {
    if (draft?.after === null) rows.unshift({ kind: "draft" });
    else rows.push({ kind: "draft" });
  }
  return rows;
}

/** Whether the line something is written after is still to come. @param {Timeline} t @param {string|null} after @param {number} next */
const before = (t, after, next) => after !== null && t.lines.slice(next).some((line) => line.id === after);

/** What a heading is called in the tree: it is neither shown nor said. @param {HeadingRow} row @param {boolean} chosen */
export const headingRow = (row, chosen) =>
  guard([row.text, row.id, chosen], () => {
    return html`<div class="srow srow-heading" data-heading=${row.id} data-shot=${row.shot}>
      <button
        class="sgrip"
        data-grip
        tabindex="-1"
        title="Drag the section; Alt and the arrow keys move it too"
      >
        <span class="sr-only">Move the section ${row.text}</span>
      </button>
      <script-text
        class="sfield sheading"
        contenteditable="plaintext-only"
        role="textbox"
        aria-label="Heading"
        data-kind="heading"
        data-id=${row.id}
        data-shot=${row.shot}
        .content=${{ text: row.text }}
      ></script-text>
      <span class="soft">a heading, not shown, not said</span>
    </div>`;
  });

/**
 * @param {LineRow} row @param {Role[]} roles @param {boolean} chosen @param {Estimate|undefined} typed @param {Content|null} said
 *   the words with their direction, where they differ or bear marks @param {number} scale pixels a second of the bars
 */
export const lineRow = ({ line, number, captions }, roles, chosen, typed, said, scale) =>
  guard(
    [line, number, captions.map((each) => each.text).join("\n"), roles, chosen, typed, said, scale],
    () => {
      const role = roles.find((each) => each.id === line.role);
      const colour = (role?.colour ?? 0) % 6;
      return html`<div
        class="srow role-${colour} ${chosen ? "chosen" : ""} ${line.state === "spills" ? "over" : ""}"
        data-line=${line.id}
        tabindex="-1"
        role="group"
        aria-label="Line ${number}"
      >
        <button
          class="sgrip mono"
          data-grip
          title="Drag the line; Alt and the arrow keys move it too"
          tabindex="-1"
        >
          ${clock(line.start_s)}
        </button>
        <select class="srole role-ink-${colour}" aria-label="Role of line ${number}" data-role>
          ${roles.map((each) => html`<option value=${each.id} ?selected=${each.id === line.role}>${each.name}</option>`)}
        </select>
        <div class="sshown">
          ${
            captions.length
              ? captions.map(
                  (caption, place) =>
                    html`<script-text
                      class="sfield scaption"
                      contenteditable="plaintext-only"
                      role="textbox"
                      aria-multiline="true"
                      aria-label="Shown, line ${number}${place ? `, part ${place + 1}` : ""}"
                      data-kind="shown"
                      data-id=${caption.id}
                      data-line=${line.id}
                      .content=${{ text: caption.text }}
                    ></script-text>`,
                )
              : html`<script-text
                  class="sfield sghost"
                  contenteditable="plaintext-only"
                  role="textbox"
                  aria-label="Line ${number} is not shown. Words typed here show it"
                  data-kind="unshown"
                  data-line=${line.id}
                  data-hint="not shown"
                  .content=${{ text: "" }}
                ></script-text>`
          }
        </div>
        <script-text
          class="sfield ssaid ${said ? "" : "sghost"}"
          contenteditable="plaintext-only"
          role="textbox"
          aria-multiline="true"
          aria-label="Said, line ${number}${said ? "" : ": the same words"}"
          data-kind="said"
          data-line=${line.id}
          data-hint="the same"
          .content=${said ?? { text: "" }}
        ></script-text>
        ${lengthCell(line, typed, scale)}
      </div>`;
    },
  );

/** A line's length in its room, as a bar and in numbers. @param {Line} line @param {Estimate|undefined} typed @param {number} scale */
function lengthCell(line, typed, scale) {
  const length = typed ? typed.seconds : line.end_s - line.start_s;
  const room = typed ? typed.room_s : line.room_s;
  const state = typed ? (typed.state ?? line.state) : line.state;
  const about = (typed ? typed.error > 0 : !line.known) ? "≈" : "";
  const px = (/** @type {number} */ s) => Math.round(Math.min(BAR, s * scale) * 10) / 10;
  const over = Math.max(0, length - room);
  const left = typed
    ? typed.words_left < 0
      ? `, ${-typed.words_left} too many`
      : `, room for ${typed.words_left} more`
    : "";
  return html`<div class="slength state-${state}">
    <svg class="sbar" width=${BAR + 2} height="13" aria-hidden="true">
      <rect class="sroom" x="0.5" y="1.5" width=${px(room)} height="9"></rect>
      <rect class="sink" x="0.5" y="1.5" width=${px(Math.min(length, room))} height="9"></rect>
      ${over > 0.0005 ? bar(px(room), Math.max(2, px(length) - px(room))) : nothing}
    </svg>
    <span class="mono" role=${typed ? "status" : nothing}
      >${about}${length.toFixed(2)} of ${seconds(room)}, <i class="not-italic state-ink-${state}">${state}</i
      ><span class="soft">${left}</span></span
    >
    ${line.failed ? html`<span class="alarm">could not be voiced</span>` : nothing}
  </div>`;
}

/** What is too much, hatched. @param {number} x @param {number} width */
function bar(x, width) {
  const made = document.createElementNS("http://www.w3.org/2000/svg", "rect");
  for (const [name, value] of Object.entries({ x: x + 0.5, y: 1.5, width, height: 9, class: "sover" }))
    made.setAttribute(name, String(value));
  return made;
}

/** A line that is being written. @param {string} role @param {number} colour @param {Estimate|null} typed @param {boolean} first */
export const draftRow = (role, colour, typed, first) =>
  html`<div class="srow srow-draft role-${colour}">
    <span class="sgrip mono">new</span>
    <span class="srole role-ink-${colour}">${role}</span>
    <div class="sshown">
      <script-text
        class="sfield scaption"
        contenteditable="plaintext-only"
        role="textbox"
        aria-multiline="true"
        aria-label="New line"
        data-kind="draft"
        data-hint=${first ? "Write the first line, and Enter begins the next" : "A new line"}
        .content=${{ text: "" }}
      ></script-text>
    </div>
    <span class="soft">${first ? "# before a heading, NAME: before what somebody else says" : ""}</span>
    <span class="slength"
      ><span class="mono" role="status"
        >${typed ? `${typed.error > 0 ? "≈" : ""}${seconds(typed.seconds)}` : ""}</span
      ></span
    >
  </div>`;

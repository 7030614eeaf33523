// The proof of a finished video: what was found in the file, drawn along the piece, and how far it is from the plan.

import { html, nothing, svg } from "../../lit.js";

/** @typedef {import("../../types.d.ts").Timeline} Timeline */
/** @typedef {{what: string, number: number, unit: string, planned: number, found: number|null, off: number|null}} Difference */
/**
 * @typedef {{name: string, revision: number, in_sync: boolean, frames: number, planned_frames: number, cuts: Difference[],
 *   captions: Difference[], speech: Difference[], sums?: Difference[], transitions: number, hidden_edges: number, outside: string[], unplanned_cuts: number[],
 *   cuts_inside: number[], worst: {cut_frames: number|null, caption_frames: number|null, speech_ms: number|null},
 *   lufs: number|null, peak_db: number|null, reports?: string[]}} Proof
 */

const [LEFT, WIDE] = [64, 730];
const ROWS = { cuts: 8, speech: 50, captions: 76, off: 128 };
/** How far under its top the name of a lane stands. @typedef {"cuts"|"speech"|"captions"} Lane @type {Record<Lane, number>} */
const LANES = { cuts: 18, speech: 12, captions: 12 };

/** @param {Proof} proof @param {Timeline} t */
export function proofOf(proof, t) {
  const isPicture = /\.(mp4|webm|gif|webp)$/.test(proof.name);
  const isVideo = /\.(mp4|webm)$/.test(proof.name); // which has sound too
  return html`${picture(proof, t, isPicture, isVideo)}
    <dl class="proof-numbers" id="proof">
      ${isPicture || proof.cuts.length ? number(exact(proof.cuts), proof.cuts, "cuts on their frame") : nothing}
      ${isPicture || proof.captions.length ? number(exact(proof.captions), proof.captions, "caption edges on their frame") : nothing}
      ${
        isVideo || proof.speech.length
          ? html`<div>
              <dt>worst edge of speech</dt>
              <dd>${proof.worst.speech_ms === null ? "none" : `${proof.worst.speech_ms.toFixed(1)} ms`}</dd>
            </div>`
          : nothing
      }
      ${(proof.sums ?? []).map(
        (sum) =>
          html`<div>
            <dt title=${sum.what}>samples off in their sum</dt>
            <dd class=${sum.off ? "alarm" : ""}>${sum.found}</dd>
          </div>`,
      )}
      ${
        isVideo || proof.lufs !== null
          ? html`<div>
              <dt>
                ${proof.peak_db === null ? "no sound" : `${proof.peak_db.toFixed(1)} dBTP at the peaks`}
              </dt>
              <dd>${proof.lufs === null ? "–" : `${proof.lufs.toFixed(1)} LUFS`}</dd>
            </div>`
          : nothing
      }
    </dl>
    <p id="verdict" class=${proof.in_sync ? "good" : "alarm"}>
      ${
        proof.in_sync
          ? `${proof.name} is in sync${isPicture ? `: ${proof.frames} frames` : ""}, as planned.`
          : `${proof.name} is not in sync.`
      }
    </p>
    ${deviations(proof)}`;
}

/** How long the piece is: what was proven may be a part of it, or end with its last caption. @param {Proof} proof @param {Timeline} t */
const wholeFrames = (proof, t) => Math.max(1, proof.frames, t.shots.at(-1)?.end ?? 0);

/** What was looked for, in lanes along the piece. @param {Proof} proof @param {Timeline} t @param {boolean} isPicture @param {boolean} isVideo */
function picture(proof, t, isPicture, isVideo) {
  const has = {
    cuts: isPicture,
    speech: isVideo || proof.speech.length > 0,
    captions: isPicture || proof.captions.length > 0,
  };
  const lanes = Object.keys(LANES).filter((lane) => has[/** @type {Lane} */ (lane)]);
  if (!lanes.length) return nothing;
  const top = has.cuts ? 0 : ROWS.speech - 8;
  const rows = has.speech ? ROWS : { ...ROWS, captions: ROWS.speech };
  const bottom = has.speech ? 150 : rows.captions + 22;
  const second = t.rate.denominator / t.rate.numerator;
  const whole = wholeFrames(proof, t) * second;
  const x = (/** @type {number} */ s) => LEFT + (s / whole) * WIDE;
  return html`<svg
    class="proof-picture"
    viewBox="0 ${top} ${LEFT + WIDE + 8} ${bottom - top}"
    role="img"
    aria-label="${lanes.join(", ")}, as found in ${proof.name}"
  >
    ${lanes.map((lane) => {
      const name = /** @type {Lane} */ (lane);
      return svg`<text x="0" y=${rows[name] + LANES[name]}>${name}</text>`;
    })}
    ${has.cuts ? cuts(proof, t, second, x) : nothing} ${has.speech ? speech(proof, t, x) : nothing}
    ${has.captions ? captions(proof, second, x, rows.captions) : nothing}
  </svg>`;
}

/** @param {Proof} proof @param {Timeline} t @param {number} second @param {(s: number) => number} x */
function cuts(proof, t, second, x) {
  const found = proof.cuts.filter((cut) => cut.found !== null);
  const first = proof.cuts[0]?.number === 2 || !proof.cuts.length ? [t.shots[0]?.name ?? ""] : [];
  const starts = [...first.map(() => 0), ...found.map((cut) => (cut.found ?? 0) * second)];
  const names = [...first, ...found.map((cut) => t.shots[cut.number - 1]?.name ?? "")];
  return svg`<rect class="proof-band" x=${x(0)} y=${ROWS.cuts} width=${WIDE} height="28"></rect>
    ${starts.map(
      (
        s,
        place,
      ) => svg`<line class="proof-cut" x1=${x(s)} x2=${x(s)} y1=${ROWS.cuts - 5} y2=${ROWS.cuts + 28}></line>
      <svg x=${x(s) + 4} y=${ROWS.cuts} width=${Math.max(1, x(starts[place + 1] ?? wholeFrames(proof, t) * second) - x(s) - 6)} height="28"><text y="17">${names[place]}</text></svg>`,
    )}`;
}

/** Where speech is, and how far each beginning is off. @param {Proof} proof @param {Timeline} t @param {(s: number) => number} x */
function speech(proof, t, x) {
  const reach = Math.max(5, Math.ceil(proof.worst.speech_ms ?? 0));
  const off = (/** @type {number} */ ms) => ROWS.off - (ms / reach) * 15;
  const lines = pairs(proof.speech).map(([begin, end]) => {
    const line = t.lines[begin.number - 1];
    const colour = (t.roles.find((role) => role.id === line?.role)?.colour ?? 0) % 6;
    if (begin.found === null || end.found === null) return nothing;
    const from = x(begin.found / 1000);
    return svg`<rect class="proof-speech role-${colour}" x=${from} y=${ROWS.speech} width=${Math.max(1, x(end.found / 1000) - from)} height="14"></rect>
      <circle class="proof-dot" cx=${from} cy=${off(begin.off ?? 0)} r="3"></circle>`;
  });
  return svg`<text class="mono" x="0" y=${off(reach) + 4}>+${reach} ms</text>
    <text class="mono" x="0" y=${off(-reach) + 4}>−${reach} ms</text>
    <line class="proof-zero" x1=${LEFT} x2=${LEFT + WIDE} y1=${ROWS.off} y2=${ROWS.off}></line>
    <line class="proof-edge" x1=${LEFT} x2=${LEFT + WIDE} y1=${off(reach)} y2=${off(reach)}></line>
    <line class="proof-edge" x1=${LEFT} x2=${LEFT + WIDE} y1=${off(-reach)} y2=${off(-reach)}></line>
    ${lines}`;
}

/** @param {Proof} proof @param {number} second @param {(s: number) => number} x @param {number} y where their lane is */
function captions(proof, second, x, y) {
  return pairs(proof.captions).map(([begin, end]) => {
    if (begin.found === null || end.found === null) return nothing;
    const from = x(begin.found * second);
    return svg`<rect class="proof-caption" x=${from} y=${y} width=${Math.max(1, x(end.found * second) - from)} height="13"></rect>`;
  });
}

/** Beginnings with their ends. @param {Difference[]} rows @returns {Array<[Difference, Difference]>} */
function pairs(rows) {
  /** @type {Array<[Difference, Difference]>} */
  const found = [];
  for (let place = 0; place + 1 < rows.length; place += 2) found.push([rows[place], rows[place + 1]]);
  return found;
}

/** @param {Difference[]} rows */
const exact = (rows) => rows.filter((row) => row.off === 0).length;

/** @param {number} count @param {Difference[]} rows @param {string} text */
const number = (count, rows, text) =>
  html`<div>
    <dt>${text}</dt>
    <dd class=${count === rows.length ? "" : "alarm"}>${count} of ${rows.length}</dd>
  </div>`;

/** What is not as planned, in words. @param {Proof} proof */
function deviations(proof) {
  const away = [...proof.cuts, ...proof.captions, ...(proof.sums ?? [])].filter((row) => row.off !== 0);
  const lost = proof.speech.filter((row) => row.off === null);
  const said = [...away, ...lost].map((row) =>
    row.off === null
      ? `${row.what}: not found`
      : `${row.what}: ${row.off > 0 ? "+" : "−"}${Math.abs(row.off)} ${row.unit}`,
  );
  if (proof.frames !== proof.planned_frames)
    said.unshift(`${proof.frames} frames, and ${proof.planned_frames} were planned`);
  if (proof.unplanned_cuts.length)
    said.push(`cuts nobody planned, at frames ${proof.unplanned_cuts.join(", ")}`);
  if (proof.cuts_inside.length)
    said.push(`cuts of the footage itself, inside shots, at frames ${proof.cuts_inside.join(", ")}`);
  if (proof.transitions)
    said.push(`transitions, which have no frame of their own and are not looked for: ${proof.transitions}`);
  if (proof.hidden_edges)
    said.push(`edges of captions within a transition, not looked for: ${proof.hidden_edges}`);
  said.push(...proof.outside.map((text) => `not looked for: ${text}`));
  return said.length
    ? html`<ul class="why">
        ${said.map((text) => html`<li>${text}</li>`)}
      </ul>`
    : nothing;
}

// The voices of a language on a map: measured pitch across, liveliness (the spread of the pitch) up.

import { html, nothing, svg } from "../../lit.js";

/** @typedef {import("../../types.d.ts").Voice} Voice */

const [WIDE, HIGH] = [800, 216];
const EDGE = { left: 62, right: 62, top: 14, bottom: 24 };
const PITCH = [75, 360];
const SPREAD = [1.8, 6.6];
const MARKS_HZ = [80, 100, 125, 160, 200, 250, 315];
const DOT = 7;

/** Half a tone is as far at the bottom as at the top. @param {number} hz */
const x = (hz) =>
  EDGE.left + ((WIDE - EDGE.left - EDGE.right) * Math.log(hz / PITCH[0])) / Math.log(PITCH[1] / PITCH[0]);
/** @param {number} st */
const y = (st) =>
  HIGH - EDGE.bottom - ((HIGH - EDGE.top - EDGE.bottom) * (st - SPREAD[0])) / (SPREAD[1] - SPREAD[0]);

/** Roughly how wide and high a name is. */
const [LETTER, ROW] = [6.6, 12];

/** @typedef {{x: number, y: number, anchor: "start"|"end"|"middle"}} Label */

/**
 * Where the names stand: to the right of their dots, or where they cover neither a dot nor another name.
 *
 * @param {Voice[]} voices @returns {Map<string, Label>}
 */
function labels(voices) {
  const dots = voices.map((voice) => [x(voice.pitch_hz ?? 0), y(voice.spread_st ?? 0)]);
  /** @type {Array<[number, number, number, number]>} left, top, right, bottom */
  const taken = dots.map(([cx, cy]) => [cx - DOT, cy - DOT, cx + DOT, cy + DOT]);
  /** @type {Map<string, Label>} */
  const found = new Map();
  voices.forEach((voice, number) => {
    const [cx, cy] = dots[number];
    const wide = voice.name.length * LETTER;
    /** @type {Array<Label & {left: number}>} */
    const places = [
      { x: cx + DOT + 3, y: cy + 4, anchor: "start", left: cx + DOT + 3 },
      { x: cx - DOT - 3, y: cy + 4, anchor: "end", left: cx - DOT - 3 - wide },
      { x: cx, y: cy - DOT - 3, anchor: "middle", left: cx - wide / 2 },
      { x: cx, y: cy + DOT + 11, anchor: "middle", left: cx - wide / 2 },
    ];
    const free = places.find(({ left, y: base }) =>
      taken.every(([l, t, r, b]) => left > r || left + wide < l || base - ROW + 2 > b || base + 2 < t),
    );
    const { left, ...place } = free ?? places[0];
    taken.push([left, place.y - ROW + 2, left + wide, place.y + 2]);
    found.set(voice.id, place);
  });
  return found;
}

/**
 * @param {Voice[]} voices those with figures are drawn
 * @param {{used: string, listed: string[], pointed: string}} now
 * @param {(id: string) => void} point called when a voice is pointed at
 * @param {(id: string) => void} hear
 */
export function voiceMap(voices, now, point, hear) {
  const known = voices.filter((voice) => voice.pitch_hz !== null && voice.spread_st !== null);
  if (!known.length) return nothing;
  const names = labels(known);
  const shown = known.find((voice) => voice.id === now.pointed);
  return html`<figure class="voice-map">
    <svg viewBox="0 0 ${WIDE} ${HIGH}" role="group" aria-label="Voices by pitch and liveliness">
      <rect
        class="voice-map-field"
        x=${EDGE.left}
        y=${EDGE.top}
        width=${WIDE - EDGE.left - EDGE.right}
        height=${HIGH - EDGE.top - EDGE.bottom}
      ></rect>
      ${MARKS_HZ.map(
        (
          hz,
        ) => svg`<line class="voice-map-mark" x1=${x(hz)} x2=${x(hz)} y1=${EDGE.top} y2=${HIGH - EDGE.bottom}></line>
          <text class="mono" x=${x(hz)} y=${HIGH - 8} text-anchor="middle">${hz} Hz</text>`,
      )}
      ${svg`<text x="0" y=${EDGE.top + 10}>lively</text><text x="0" y=${HIGH - EDGE.bottom - 2}>even</text>`}
      ${known.map((voice) => dot(voice, names.get(voice.id), now, point, hear))}
    </svg>
    <figcaption class="soft">
      ${
        shown
          ? html`<b>${shown.name}</b> ${[shown.region || shown.language_name, shown.gender, shown.character]
                .filter(Boolean)
                .join(", ")};
              ${shown.pitch_hz} Hz, spread ${shown.spread_st} semitones. ${shown.licence}.`
          : `${known.length} voices with measured pitch and liveliness. Point at one to see who it is; click or press Enter to hear the chosen line in it.`
      }
    </figcaption>
  </figure>`;
}

/** @param {Voice} voice @param {Label|undefined} name @param {{used: string, listed: string[], pointed: string}} now @param {(id: string) => void} point @param {(id: string) => void} hear */
function dot(voice, name, now, point, hear) {
  const [cx, cy] = [x(voice.pitch_hz ?? 0), y(voice.spread_st ?? 0)];
  const how = [
    voice.id === now.used ? "used" : "",
    now.listed.includes(voice.id) ? "listed" : "",
    voice.gender === "woman" ? "round" : "square",
  ].join(" ");
  const shape =
    voice.gender === "woman"
      ? svg`<circle cx=${cx} cy=${cy} r=${DOT}></circle>`
      : svg`<rect x=${cx - DOT} y=${cy - DOT} width=${2 * DOT} height=${2 * DOT}></rect>`;
  return svg`<g class="voice-dot ${how}" data-map-voice=${voice.id} tabindex="0" role="button"
      aria-label="Hear ${voice.name}, ${voice.pitch_hz} Hz, ${voice.character}"
      @pointerenter=${() => point(voice.id)} @focus=${() => point(voice.id)} @click=${() => hear(voice.id)}
      @keydown=${(/** @type {KeyboardEvent} */ event) => {
        if (event.key !== "Enter") return;
        event.preventDefault();
        event.stopPropagation();
        hear(voice.id);
      }}>
    <circle class="voice-target" cx=${cx} cy=${cy} r="13"></circle>${shape}
    <text x=${name?.x ?? cx} y=${name?.y ?? cy} text-anchor=${name?.anchor ?? "start"}>${voice.name}</text></g>`;
}

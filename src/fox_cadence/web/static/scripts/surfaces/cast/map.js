// The voices that are looked for on a map: measured pitch across, liveliness (the spread of the pitch) up. Each
// natural voice has the shape of its spectrum: a corner for a band, further out the stronger it is against other voices.

import { html, nothing, svg } from "../../lit.js";

/** @typedef {import("../../types.d.ts").Voice} Voice */

const [WIDE, HIGH] = [800, 250];
const EDGE = { left: 62, right: 62, top: 14, bottom: 24 };
const MARKS_HZ = [63, 80, 100, 125, 160, 200, 250, 315, 400];
/** How far the corners of a shape are from its middle, from the weakest band to the strongest. */
const [INNER, OUTER] = [4, 14];
const SMALL = 2.6;
const REACH = 9;
/** Voices that sound like machines have a name on the map only while they are this few. */
const MOST_NAMED = 60;

/** @typedef {{x: (hz: number) => number, y: (st: number) => number, hz: [number, number]}} Scale */

/** The map reaches as far as the voices on it. @param {Voice[]} voices @returns {Scale} */
function scaleOf(voices) {
  const pitches = voices.map((voice) => voice.pitch_hz ?? 0);
  const spreads = voices.map((voice) => voice.spread_st ?? 0);
  const hz = /** @type {[number, number]} */ ([
    Math.min(...pitches, 110) * 0.93,
    Math.max(...pitches, 220) * 1.07,
  ]);
  const [low, high] = [Math.min(...spreads) - 0.4, Math.max(...spreads, Math.min(...spreads) + 1) + 0.4];
  return {
    hz,
    // half a tone is as far at the bottom as at the top
    x: (at) => EDGE.left + ((WIDE - EDGE.left - EDGE.right) * Math.log(at / hz[0])) / Math.log(hz[1] / hz[0]),
    y: (st) => HIGH - EDGE.bottom - ((HIGH - EDGE.top - EDGE.bottom) * (st - low)) / (high - low),
  };
}

/** @param {Voice} voice @param {Scale} scale @returns {[number, number]} */
const place = (voice, scale) => [scale.x(voice.pitch_hz ?? 0), scale.y(voice.spread_st ?? 0)];

/** Roughly how wide and high a name is. */
const [LETTER, ROW] = [6.6, 12];

/** @typedef {{x: number, y: number, anchor: "start"|"end"|"middle"}} Label */

/**
 * Where the names stand: to the right of their shapes, or where they cover neither a shape nor another name;
 * those that find no such place are told when they are pointed at.
 *
 * @param {Voice[]} voices @param {Scale} scale @returns {Map<string, Label>}
 */
function labels(voices, scale) {
  /** @type {Array<[number, number, number, number]>} left, top, right, bottom */
  const taken = voices
    .map((voice) => place(voice, scale))
    .map(([cx, cy]) => [cx - REACH, cy - REACH, cx + REACH, cy + REACH]);
  /** @type {Map<string, Label>} */
  const found = new Map();
  for (const voice of voices) {
    const [cx, cy] = place(voice, scale);
    const wide = voice.name.length * LETTER;
    /** @type {Array<Label & {left: number}>} */
    const places = [
      { x: cx + REACH + 3, y: cy + 4, anchor: "start", left: cx + REACH + 3 },
      { x: cx - REACH - 3, y: cy + 4, anchor: "end", left: cx - REACH - 3 - wide },
      { x: cx, y: cy - REACH - 3, anchor: "middle", left: cx - wide / 2 },
      { x: cx, y: cy + REACH + 11, anchor: "middle", left: cx - wide / 2 },
    ];
    const free = places.find(({ left, y: base }) =>
      taken.every(([l, t, r, b]) => left > r || left + wide < l || base - ROW + 2 > b || base + 2 < t),
    );
    if (!free) continue;
    const { left, ...where } = free;
    taken.push([left, where.y - ROW + 2, left + wide, where.y + 2]);
    found.set(voice.id, where);
  }
  return found;
}

/** The outline of a voice's shape around a point. @param {Voice} voice @param {number} cx @param {number} cy */
export function outline(voice, cx, cy) {
  const corners = voice.shape.map((value, band) => {
    const turn = (2 * Math.PI * band) / voice.shape.length - Math.PI / 2;
    const far = INNER + (OUTER - INNER) * value;
    return `${(cx + far * Math.cos(turn)).toFixed(1)} ${(cy + far * Math.sin(turn)).toFixed(1)}`;
  });
  return `M${corners.join("L")}Z`;
}

/** @typedef {{used: string, listed: string[], pointed: string, drawn: Array<[number, number]>}} Now `drawn` is the loop that is being drawn */
/** @typedef {{point: (id: string) => void, hear: (id: string) => void, draw: (loop: Array<[number, number]>) => void, caught: (ids: string[]) => void}} Does */

/** @param {Voice[]} voices those with figures are drawn @param {Now} now @param {Does} does */
export function voiceMap(voices, now, does) {
  const known = voices.filter((voice) => voice.pitch_hz !== null && voice.spread_st !== null);
  if (!known.length) return nothing;
  const natural = known.filter((voice) => voice.natural);
  const scale = scaleOf(known);
  const { x } = scale;
  const names = labels(natural.length ? natural : known.slice(0, MOST_NAMED), scale);
  const shown = known.find((voice) => voice.id === now.pointed);
  return html`<figure class="voice-map">
    <svg
      viewBox="0 0 ${WIDE} ${HIGH}"
      role="group"
      aria-label="Voices by pitch and liveliness"
      @pointerdown=${(/** @type {PointerEvent} */ event) => begin(event, known, scale, does)}
    >
      <rect
        class="voice-map-field"
        x=${EDGE.left}
        y=${EDGE.top}
        width=${WIDE - EDGE.left - EDGE.right}
        height=${HIGH - EDGE.top - EDGE.bottom}
      ></rect>
      ${MARKS_HZ.filter((hz) => hz > scale.hz[0] && hz < scale.hz[1]).map(
        (
          hz,
        ) => svg`<line class="voice-map-mark" x1=${x(hz)} x2=${x(hz)} y1=${EDGE.top} y2=${HIGH - EDGE.bottom}></line>
          <text class="mono" x=${x(hz)} y=${HIGH - 8} text-anchor="middle">${hz} Hz</text>`,
      )}
      ${svg`<text x="0" y=${EDGE.top + 10}>lively</text><text x="0" y=${HIGH - EDGE.bottom - 2}>even</text>`}
      ${known.map((voice) => dot(voice, place(voice, scale), names.get(voice.id), now, does))}
      ${now.drawn.length > 1 ? svg`<path class="voice-loop" d="M${now.drawn.map((point) => point.join(" ")).join("L")}"></path>` : nothing}
    </svg>
    <figcaption class="soft">
      ${
        shown
          ? html`<b>${shown.name}</b> ${[shown.region || shown.language_name, shown.gender, shown.character]
                .filter(Boolean)
                .join(", ")}${shown.natural ? "" : ", synthetic-sounding"}.
              ${shown.pitch_hz} Hz, spread ${shown.spread_st} semitones, ${shown.letters_s} letters a second,
              ${String(shown.lufs).replace("-", "−")} LUFS. ${shown.licence}.`
          : `${natural.length} natural voices and ${known.length - natural.length} synthetic ones. Point at one to see who it is; click, Enter or Y says the chosen line in it. Draw a loop around some to put them on the shortlist.`
      }
    </figcaption>
  </figure>`;
}

/** A loop is drawn around voices with the pointer. @param {PointerEvent} event @param {Voice[]} voices @param {Scale} scale @param {Does} does */
function begin(event, voices, scale, does) {
  const field = /** @type {SVGSVGElement} */ (event.currentTarget);
  if (event.button !== 0 || /** @type {Element} */ (event.target).closest(".voice-dot")) return;
  event.preventDefault();
  const to = field.getScreenCTM()?.inverse();
  if (!to) return;
  /** @type {Array<[number, number]>} */
  const loop = [];
  const add = (/** @type {PointerEvent} */ each) => {
    const at = new DOMPoint(each.clientX, each.clientY).matrixTransform(to);
    loop.push([Math.round(at.x), Math.round(at.y)]);
    does.draw(loop);
  };
  const end = () => {
    field.removeEventListener("pointermove", add);
    field.removeEventListener("pointerup", end);
    field.removeEventListener("pointercancel", end);
    does.draw([]);
    const caught = voices.filter((voice) => inside(place(voice, scale), loop)).map((voice) => voice.id);
    if (caught.length) does.caught(caught);
  };
  field.setPointerCapture(event.pointerId);
  field.addEventListener("pointermove", add);
  field.addEventListener("pointerup", end);
  field.addEventListener("pointercancel", end);
  add(event);
}

/** Whether a point lies inside a loop: a line from it crosses the loop an odd number of times.
 * @param {[number, number]} point @param {Array<[number, number]>} loop */
export function inside([px, py], loop) {
  let within = false;
  loop.forEach(([ax, ay], number) => {
    const [bx, by] = loop[(number + 1) % loop.length];
    if (ay > py !== by > py && px < ((bx - ax) * (py - ay)) / (by - ay) + ax) within = !within;
  });
  return within;
}

/** @param {Voice} voice @param {[number, number]} at @param {Label|undefined} name @param {Now} now @param {Does} does */
function dot(voice, [cx, cy], name, now, does) {
  const pointed = voice.id === now.pointed;
  const how = [
    voice.id === now.used ? "used" : "",
    now.listed.includes(voice.id) ? "listed" : "",
    voice.gender ?? "",
    voice.natural ? "natural" : "",
  ].join(" ");
  const shape =
    voice.natural && voice.shape.length
      ? svg`<path class="voice-shape" d=${outline(voice, cx, cy)}></path>`
      : svg`<circle class="voice-shape" cx=${cx} cy=${cy} r=${SMALL}></circle>`;
  const text = name ?? (pointed ? { x: cx, y: cy - REACH - 3, anchor: "middle" } : null);
  return svg`<g class="voice-dot ${how}" data-map-voice=${voice.id} data-voice=${voice.id} tabindex="0" role="button"
      aria-label="Hear ${voice.name}, ${voice.pitch_hz} Hz, ${voice.character}"
      @pointerenter=${() => does.point(voice.id)} @focus=${() => does.point(voice.id)} @click=${() => does.hear(voice.id)}
      @keydown=${(/** @type {KeyboardEvent} */ event) => {
        if (event.key !== "Enter") return;
        event.preventDefault();
        event.stopPropagation();
        does.hear(voice.id);
      }}>
    <circle class="voice-target" cx=${cx} cy=${cy} r=${voice.natural ? OUTER + 1 : 6}></circle>${shape}
    ${text ? svg`<text x=${text.x} y=${text.y} text-anchor=${text.anchor}>${voice.name}</text>` : nothing}</g>`;
}

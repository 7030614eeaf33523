// Small helpers to make elements.

const SVG = "http://www.w3.org/2000/svg";

/**
 * @param {string} name
 * @param {Record<string, string|number>} [attributes]
 * @returns {SVGElement}
 */
export function svg(name, attributes = {}) {
  const made = document.createElementNS(SVG, name);
  for (const [key, value] of Object.entries(attributes)) made.setAttribute(key, String(value));
  return made;
}

/**
 * @param {string} name
 * @param {string} [className]
 * @param {string} [text]
 * @returns {HTMLElement}
 */
export function element(name, className = "", text = "") {
  const made = document.createElement(name);
  if (className) made.className = className;
  if (text) made.textContent = text;
  return made;
}

/** Place an element by its top and height in pixels. @param {HTMLElement} item @param {number} top @param {number} height */
export function place(item, top, height) {
  item.style.top = `${top.toFixed(2)}px`;
  item.style.height = `${Math.max(1, height).toFixed(2)}px`;
}

/**
 * A caption drawing as SVG shapes: the same outlines the export paints.
 *
 * @param {SVGElement} target
 * @param {import("./types.d.ts").Drawing} drawing
 * @param {number|null} lit
 */
export function drawCaption(target, drawing, lit) {
  drawCaptions(target, [{ drawing, lit }]);
}

/**
 * Caption drawings of one frame, the later ones over the earlier; those that are not at hand are left out.
 *
 * @param {SVGElement} target
 * @param {Array<{drawing: import("./types.d.ts").Drawing|null, lit: number|null}>} drawn
 */
export function drawCaptions(target, drawn) {
  const first = drawn.find(({ drawing }) => drawing)?.drawing;
  if (first) target.setAttribute("viewBox", `0 0 ${first.width} ${first.height}`);
  target.replaceChildren(...drawn.flatMap(({ drawing, lit }) => (drawing ? captionParts(drawing, lit) : [])));
}

/** @param {import("./types.d.ts").Drawing} drawing @param {number|null} lit @returns {SVGElement[]} */
function captionParts(drawing, lit) {
  const parts = [];
  if (drawing.plate) {
    const p = drawing.plate;
    const at = { x: p.x, y: p.y, width: p.width, height: p.height, rx: p.radius };
    parts.push(svg("rect", { ...at, fill: p.colour, "fill-opacity": p.opacity }));
  }
  if (drawing.stroke) {
    const ink = {
      fill: "none",
      stroke: drawing.stroke,
      "stroke-width": drawing.stroke_width,
      "stroke-linejoin": "round",
    };
    for (const d of drawing.words) parts.push(svg("path", { d, ...ink }));
  }
  drawing.words.forEach((d, number) => {
    parts.push(svg("path", { d, fill: number === lit ? drawing.lit : drawing.fill }));
  });
  return parts;
}

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

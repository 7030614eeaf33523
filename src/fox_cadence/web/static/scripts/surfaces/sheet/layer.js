// What is drawn on the sheet as keyed parts: an element stays in place while its look is the same, so that a click
// that began on it ends on it, and focus is kept.

/** @typedef {{key: string, look: string, make: () => Element}} Part */

/**
 * @param {string} key unique on the sheet
 * @param {unknown[]} inputs all that its look depends on
 * @param {() => Element} make
 * @returns {Part}
 */
export const part = (key, inputs, make) => ({ key, look: JSON.stringify(inputs), make });

export class Layer {
  /** @param {HTMLElement} holder */
  constructor(holder) {
    this.holder = holder;
    /** @type {Map<string, {look: string, element: Element}>} */
    this.drawn = new Map();
  }

  /** Draw just these parts, in this order. @param {Part[]} parts */
  show(parts) {
    const active = document.activeElement;
    const focused =
      active instanceof HTMLElement && this.holder.contains(active) ? active.dataset.key : undefined;
    const before = this.drawn;
    this.drawn = new Map();
    /** @type {ChildNode|null} */
    let place = this.holder.firstChild;
    for (const { key, look, make } of parts) {
      const known = before.get(key);
      const element = known?.look === look ? known.element : make();
      if (known && known.element !== element) {
        if (place === known.element) place = known.element.nextSibling;
        known.element.remove();
      }
      before.delete(key);
      this.drawn.set(key, { look, element });
      if (place === element) place = element.nextSibling;
      else this.holder.insertBefore(element, place);
    }
    for (const { element } of before.values()) element.remove();
    if (focused && document.activeElement !== active) this.focus(focused);
  }

  /** Give the keyboard to a part, or to a thing inside one. @param {string} key */
  focus(key) {
    const found = this.holder.querySelector(`[data-key="${CSS.escape(key)}"]`);
    /** @type {HTMLElement|null} */ (found)?.focus({ preventScroll: true });
  }
}

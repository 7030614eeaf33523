// A stretch of the script that is typed into: an element with words, and signs between them that are no text (pauses,
// breaths). What is read from it and where the caret stands is counted in the text alone.

/** @typedef {{text: string, words?: string[], looks?: string[], titles?: string[], after?: string[]}} Content
 * `words` are those of the text, `looks` and `titles` for each, `after` what stands between a word and the next. */

const SIGN = "script-sign";

export class ScriptText extends HTMLElement {
  constructor() {
    super();
    /** What it showed when it was painted last. @type {Content} */
    this.painted = { text: "" };
    this.key = "";
  }

  /** Show this, unless what is typed here is not kept yet. @param {Content} content */
  set content(content) {
    const key = JSON.stringify(content);
    if (key === this.key) return;
    const dirty = this.dirty;
    this.key = key;
    const before = this.painted;
    this.painted = content;
    if (dirty && this.text !== content.text) {
      this.painted = { ...content, text: before.text };
      return;
    }
    this.paint(content);
  }

  get content() {
    return this.painted;
  }

  /** @param {Content} content */
  paint({ text, words, looks, titles, after }) {
    const caret = document.activeElement === this ? this.caret : -1;
    if (!looks && !after) this.replaceChildren(document.createTextNode(text));
    else {
      const parts = [];
      let at = 0;
      for (const [number, [start, end]] of places(text, words).entries()) {
        if (start > at) parts.push(document.createTextNode(text.slice(at, start)));
        const word = document.createElement("span");
        word.className = looks?.[number] ?? "";
        word.textContent = text.slice(start, end);
        if (titles?.[number]) word.title = titles[number];
        parts.push(word);
        if (after?.[number]) parts.push(sign(after[number]));
        at = end;
      }
      if (at < text.length) parts.push(document.createTextNode(text.slice(at)));
      this.replaceChildren(...parts);
    }
    if (caret >= 0) this.caret = caret;
  }

  /** The words as they stand, on one line. @returns {string} */
  get text() {
    return textIn(this);
  }

  /** Other words than were painted have been typed. */
  get dirty() {
    return this.isConnected && this.text.trim() !== this.painted.text.trim();
  }

  /** How many characters of the text stand before the caret; -1 where the caret is elsewhere. @returns {number} */
  get caret() {
    return this.range()?.[1] ?? -1;
  }

  /** @param {number} at */
  set caret(at) {
    const [node, offset] = this.place(Math.max(0, at));
    const selection = document.getSelection();
    selection?.collapse(node, offset);
  }

  /** What is chosen in it, [start, end) in characters of the text. @returns {[number, number]|null} */
  range() {
    const selection = document.getSelection();
    if (!selection?.rangeCount) return null;
    const chosen = selection.getRangeAt(0);
    if (!this.contains(chosen.startContainer) || !this.contains(chosen.endContainer)) return null;
    const upTo = (/** @type {Node} */ node, /** @type {number} */ offset) => {
      const range = document.createRange();
      range.selectNodeContents(this);
      range.setEnd(node, offset);
      return textIn(range.cloneContents()).length;
    };
    return [upTo(chosen.startContainer, chosen.startOffset), upTo(chosen.endContainer, chosen.endOffset)];
  }

  /** The words chosen in it, [first, end); null where none is. @param {string[]} words those of its text
   * @returns {[number, number]|null} */
  words(words) {
    const range = this.range();
    if (!range || range[0] === range[1]) return null;
    const [from, to] = range;
    const found = places(this.text, words).flatMap(([start, end], number) =>
      start < to && end > from ? [number] : [],
    );
    return found.length ? [found[0], found[found.length - 1] + 1] : null;
  }

  /** Where in the tree a character stands. @param {number} at @returns {[Node, number]} */
  place(at) {
    const walker = document.createTreeWalker(this, NodeFilter.SHOW_TEXT, (node) =>
      node.parentElement?.closest(`.${SIGN}`) ? NodeFilter.FILTER_REJECT : NodeFilter.FILTER_ACCEPT,
    );
    let left = at;
    let last = /** @type {Node|null} */ (null);
    while (walker.nextNode()) {
      last = walker.currentNode;
      const length = last.textContent?.length ?? 0;
      if (left <= length) return [last, left];
      left -= length;
    }
    return last ? [last, last.textContent?.length ?? 0] : [this, 0];
  }

  /** Put words in the place of what is chosen, as typing would. @param {string} text */
  insert(text) {
    document.execCommand("insertText", false, text);
  }

  /** Take a character away as Backspace or Delete would; other keys do nothing. @param {string} key */
  erase(key) {
    if (key === "Backspace") document.execCommand("delete");
    if (key === "Delete") document.execCommand("forwardDelete");
  }

  /** Whether the caret stands on the first, or the last, row of the text as it is laid out. @param {boolean} last */
  atEdgeRow(last) {
    const selection = document.getSelection();
    if (!selection?.rangeCount) return true;
    const rects = selection.getRangeAt(0).getClientRects();
    const caret = rects.length ? rects[0] : null;
    if (!caret) return true;
    const box = this.getBoundingClientRect();
    const row = Math.max(12, caret.height);
    return last ? caret.bottom > box.bottom - row * 0.9 - 4 : caret.top < box.top + row * 0.9 + 4;
  }
}

/** @param {string} text */
function sign(text) {
  const made = document.createElement("span");
  made.className = SIGN;
  made.contentEditable = "false";
  made.textContent = text;
  return made;
}

/** The text of a tree without its signs, every kind of space a plain one. @param {Node} node @returns {string} */
function textIn(node) {
  let text = "";
  for (const child of node.childNodes) {
    if (child instanceof Element && child.classList.contains(SIGN)) continue;
    text += child instanceof Text ? child.data : child instanceof HTMLBRElement ? " " : textIn(child);
  }
  return text.replace(/[\s\u00a0]/g, " ");
}

/** Where words stand in a text; without them, what stands between spaces.
 * @param {string} text @param {string[]} [words] @returns {[number, number][]} */
export function places(text, words) {
  if (!words) return [...text.matchAll(/\S+/g)].map((found) => [found.index, found.index + found[0].length]);
  let at = 0;
  /** @type {[number, number][]} */
  const found = [];
  for (const word of words) {
    const start = text.indexOf(word, at);
    if (start < 0) break;
    at = start + word.length;
    found.push([start, at]);
  }
  return found;
}

customElements.define("script-text", ScriptText);

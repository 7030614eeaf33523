// The proof sheet as a surface: every caption over its own picture at its middle word, every title, and what is wrong
// with them.

import { counted, seconds } from "../../format.js";
import { Drawings, spokenFrom, wordsOf } from "../../frame/drawings.js";
import { atRest } from "../../frame/movement.js";
import { drawWords } from "../../frame/words_layer.js";
import { classMap, html, nothing, render, repeat } from "../../lit.js";
import { SAFE } from "../../piece/placing.js";
import { element, svg } from "../../svg.js";
import { CardFigures } from "./figures.js";
import { CardPictures } from "./pictures.js";

/** @typedef {import("../surface.d.ts").View} View */
/** @typedef {import("../surface.d.ts").Tells} Tells */
/** @typedef {import("../../types.d.ts").OnScreen} OnScreen */
/** @typedef {import("../../types.d.ts").Timeline} Timeline */

/** @type {import("../surface.d.ts").Make} */
export const makeProofSheet = (holder, tells) => new ProofSheet(holder, tells);

class ProofSheet {
  /** @param {HTMLElement} holder @param {Tells} tells */
  constructor(holder, tells) {
    holder.classList.add("proofs");
    this.tells = tells;
    this.page = element("div", "scroller proofs-page");
    this.page.id = "proofs";
    this.page.tabIndex = -1;
    holder.append(this.page);
    /** @type {View|null} */
    this.view = null;
    /** What is left out. */
    this.only = { broken: false, captions: true, titles: true, safe: false };
    /** The words that are being typed on their card; '' for none. */
    this.typing = "";
    this.drawings = new Drawings(() => this.#letter());
    this.pictures = new CardPictures(() => this.#letter());
    this.figures = new CardFigures();
    /** Words whose card is on the screen, or nearly. @type {Set<string>} */
    this.seen = new Set();
    this.watch = new IntersectionObserver((entries) => this.#watched(entries), {
      root: this.page,
      rootMargin: "400px",
    });
    this.page.addEventListener("keydown", (event) => this.#key(event));
  }

  /** @param {View} view */
  show(view) {
    this.view = view;
    this.#draw();
  }

  /** What is wrong with words, in words. @param {OnScreen} item @returns {string[]} */
  #faults(item) {
    const known = this.view?.proved.get(item.id);
    if (known) return known.proof.faults.map((fault) => fault.text);
    const found = [];
    if ("too_fast" in item && item.too_fast) found.push("too fast to read");
    if (item.missing.length) found.push(`can't draw ${item.missing.join(" ")}`);
    return found;
  }

  #draw() {
    const view = this.view;
    if (!view) return;
    const { t } = view;
    const all = wordsOf(t).toSorted((a, b) => a.in - b.in);
    const broken = new Set(all.filter((item) => this.#faults(item).length).map((item) => item.id));
    const shown = all.filter(
      (item) =>
        (isTitle(item) ? this.only.titles : this.only.captions) && (!this.only.broken || broken.has(item.id)),
    );
    const numbers = new Map(t.captions.map((caption, place) => [caption.id, place + 1]));
    const waiting = all.filter((item) => item.drawn && !view.proved.has(item.id)).length;
    render(
      html`<div class="docket-head">
          <h2>Proof sheet</h2>
          <span class="soft">every caption at its middle word, on its own picture</span>
          <span class="choices ml-auto">
            ${this.#turn("captions", "Captions")} ${this.#turn("titles", "Titles")}
            ${this.#turn("safe", "Safe area")}
            <button
              class="btn btn-small ${this.only.broken ? "btn-dark" : ""}"
              id="only-broken"
              aria-pressed=${String(this.only.broken)}
              ?disabled=${!broken.size && !this.only.broken}
              @click=${() => this.#turned("broken")}
            >
              ${broken.size} to look at
            </button></span
          >
        </div>
        ${all.length ? nothing : this.#empty()}
        <ul class="proof-cards ${this.only.safe ? "with-safe" : ""}">
          ${repeat(
            shown,
            (item) => item.id,
            (item) => this.#card(view, item, numbers.get(item.id) ?? 0),
          )}
        </ul>
        <p class="soft mt-3" role="status">
          ${counted(broken.size, "caption or title", "captions or titles")} to look
          at${waiting ? `, ${waiting} not looked at yet` : ""}. Reading rate ${t.house.reading_rate_cps}
          characters a second, ${t.house.caption_lines} lines of ${t.house.caption_line_characters}, contrast
          ${t.house.least_contrast} against the picture behind.
        </p>`,
      this.page,
    );
    for (const card of this.page.querySelectorAll(".proof-card")) this.watch.observe(card);
    this.#letter();
  }

  /** @param {"captions"|"titles"|"safe"} name @param {string} label */
  #turn(name, label) {
    const on = this.only[name];
    return html`<button
      class="btn btn-small ${on ? "btn-dark" : ""}"
      data-turn=${name}
      aria-pressed=${String(on)}
      @click=${() => this.#turned(name)}
    >
      ${label}
    </button>`;
  }

  /** @param {"captions"|"titles"|"safe"|"broken"} name */
  #turned(name) {
    this.only[name] = !this.only[name];
    this.#draw();
  }

  #empty() {
    return html`<p class="mt-4">
      Nothing is shown on the screen yet.
      <button class="btn btn-small" @click=${() => this.tells.setPass("words")}>Write captions</button>
    </p>`;
  }

  /** @param {View} view @param {OnScreen} item @param {number} number */
  #card(view, item, number) {
    const { t } = view;
    const second = t.rate.denominator / t.rate.numerator;
    const wrong = this.#faults(item);
    const title = isTitle(item);
    const chosen = title ? item.id === view.title : !view.title && item.id === view.caption;
    const name = title ? "Title" : `Caption ${number}`;
    const rate = "rate_cps" in item ? ` · ${item.rate_cps} c/s` : "";
    return html`<li
      class="proof-card ${classMap({ chosen, broken: wrong.length > 0 })}"
      data-caption=${title ? nothing : item.id}
      data-title=${title ? item.id : nothing}
      data-words=${item.id}
    >
      <button
        @click=${() => this.#choose(item)}
        @dblclick=${() => this.#type(item)}
        aria-label="${name}: ${item.text}${wrong.length ? `; ${wrong.join(", ")}` : ""}"
        aria-pressed=${String(chosen)}
      >
        <span class="proof-frame"
          ><canvas aria-hidden="true"></canvas><svg class="proof-figures" aria-hidden="true"></svg
          ><svg class="proof-words" aria-hidden="true"></svg><svg class="proof-safe" aria-hidden="true"></svg
        ></span>
      </button>
      ${this.typing === item.id ? this.#field(item, name) : nothing}
      <p>
        <b>${title ? "Title" : number}</b>
        <span class="mono soft">${seconds((item.out - item.in) * second)}${rate}</span>
        ${wrong.map((text) => html`<span class="alarm proof-wrong">${text}</span> `)}
      </p>
    </li>`;
  }

  /** @param {OnScreen} item */
  #choose(item) {
    if (isTitle(item)) this.tells.chooseTitle(item.id);
    else this.tells.chooseCaption(item.id);
  }

  /** Change words on their card. @param {OnScreen} item */
  #type(item) {
    this.typing = item.id;
    this.#draw();
    const field = /** @type {HTMLTextAreaElement|null} */ (this.page.querySelector(".proof-type"));
    field?.focus();
    field?.select();
  }

  /** @param {OnScreen} item @param {string} name */
  #field(item, name) {
    return html`<textarea
      class="proof-type"
      rows="3"
      maxlength="5000"
      aria-label="Words of ${name}"
      .value=${item.text}
      @blur=${(/** @type {Event} */ event) => this.#typed(item, event, true)}
      @keydown=${(/** @type {KeyboardEvent} */ event) => {
        event.stopPropagation();
        if (event.key === "Escape") this.#typed(item, event, false);
        else if (event.key === "Enter" && !event.shiftKey) this.#typed(item, event, true);
      }}
    ></textarea>`;
  }

  /** @param {OnScreen} item @param {Event} event @param {boolean} keep */
  #typed(item, event, keep) {
    if (this.typing !== item.id) return;
    event.preventDefault();
    this.typing = "";
    const text = /** @type {HTMLTextAreaElement} */ (event.target).value;
    if (keep && text.trim() && text.trim() !== item.text)
      this.tells.edit(
        isTitle(item)
          ? { kind: "title", title_id: item.id, text }
          : { kind: "caption_text", caption_id: item.id, text },
      );
    this.#draw();
    const card = this.page.querySelector(`.proof-card[data-words="${CSS.escape(item.id)}"] button`);
    /** @type {HTMLElement|null} */ (card)?.focus();
  }

  /** Step from card to card. @param {KeyboardEvent} event */
  #key(event) {
    const card = /** @type {HTMLElement} */ (event.target).closest?.(".proof-card");
    const cards = [...this.page.querySelectorAll(".proof-card")];
    if (!card || event.altKey || event.ctrlKey || event.metaKey) return;
    if (event.key === "Enter") {
      const t = this.view?.t;
      const item = t && wordsOf(t).find(({ id }) => id === /** @type {HTMLElement} */ (card).dataset.words);
      if (!item) return;
      event.preventDefault();
      event.stopPropagation();
      return this.#type(item);
    }
    const across = Math.max(
      1,
      cards.findIndex((each) => top(each) > top(cards[0])),
    );
    const steps = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: across, ArrowUp: -across };
    const step = steps[/** @type {keyof typeof steps} */ (event.key)];
    const next = step === undefined ? null : cards[cards.indexOf(card) + step];
    if (!next) return;
    event.preventDefault();
    event.stopPropagation();
    const button = next.querySelector("button");
    button?.focus();
    button?.click();
  }

  /** The words on the cards that are seen; those that are not at hand are fetched. */
  #letter() {
    const t = this.view?.t;
    if (!t || this.page.offsetParent === null) return;
    const items = new Map(wordsOf(t).map((item) => [item.id, item]));
    const near = [...this.seen].flatMap((id) => items.get(id) ?? []);
    for (const item of near) {
      const frame = /** @type {HTMLElement|null} */ (
        this.page.querySelector(`.proof-card[data-words="${CSS.escape(item.id)}"] .proof-frame`)
      );
      const overlay = /** @type {SVGElement|null|undefined} */ (frame?.querySelector(".proof-words"));
      const figures = /** @type {SVGElement|null|undefined} */ (frame?.querySelector(".proof-figures"));
      const safe = frame?.querySelector(".proof-safe");
      if (!frame || !overlay || !figures || !safe) continue;
      const { at, word } = middle(item);
      this.pictures.draw(t, at, frame);
      this.figures.draw(t, at, figures);
      const drawing = this.drawings.get(t, item);
      if (drawing) drawWords(overlay, drawing, atRest(drawing, word), item.shift);
      else overlay.replaceChildren();
      safe.setAttribute("viewBox", `0 0 ${t.width} ${t.height}`);
      const [x, y] = [t.width * SAFE, t.height * SAFE];
      safe.replaceChildren(svg("rect", { x, y, width: t.width - 2 * x, height: t.height - 2 * y }));
    }
    this.drawings.fetch(t, near);
  }

  /** @param {IntersectionObserverEntry[]} entries */
  #watched(entries) {
    for (const { target, isIntersecting } of entries) {
      const id = /** @type {HTMLElement} */ (target).dataset.words ?? "";
      if (isIntersecting) this.seen.add(id);
      else this.seen.delete(id);
    }
    this.#letter();
  }

  setPlayhead() {}

  /** @param {number} from */
  follow(from) {
    const t = this.view?.t;
    if (!t) return;
    const frame = Math.round((from * t.rate.numerator) / t.rate.denominator);
    const caption = t.captions.findLast((each) => each.in <= frame) ?? t.captions[0];
    const card = caption && this.page.querySelector(`.proof-card[data-words="${CSS.escape(caption.id)}"]`);
    card?.scrollIntoView({ block: "nearest" });
  }
}

/** @param {OnScreen} item */
const isTitle = (item) => !("spoken" in item);

/** @param {Element|undefined} card */
const top = (card) => card?.getBoundingClientRect().top ?? 0;

/** The moment words are seen at: that of their middle word. @param {OnScreen} item @returns {{at: number, word: number|null}} */
function middle(item) {
  const spoken = spokenFrom(item);
  const word = Math.floor(spoken.length / 2);
  const begins = spoken[word]?.[0];
  return begins === undefined
    ? { at: Math.floor((item.in + item.out) / 2), word: null }
    : { at: item.in + begins, word };
}

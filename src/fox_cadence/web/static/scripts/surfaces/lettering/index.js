// The proof sheet as a surface: every caption over its own picture at its middle word, and what is wrong with it.

import { counted, seconds, ticks } from "../../format.js";
import { Drawings } from "../../frame/drawings.js";
import { Colours, coloursKey } from "../../frame/adjusting.js";
import { drawLaid } from "../../frame/laid.js";
import { drawShot } from "../../frame/shot_picture.js";
import { classMap, guard, html, nothing, render, repeat } from "../../lit.js";
import { drawCaption, element } from "../../svg.js";
import { clipSeconds } from "../../timeline.js";

/** @typedef {import("../surface.d.ts").View} View */
/** @typedef {import("../surface.d.ts").Tells} Tells */
/** @typedef {import("../../types.d.ts").Caption} Caption */
/** @typedef {import("../../types.d.ts").Timeline} Timeline */

/** How wide a picture on a card is drawn. */
const PICTURE_PX = 240;

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
    this.onlyBroken = false;
    this.drawings = new Drawings(() => this.#letter());
    this.colours = new Colours(() => this.#letter());
    /** Captions whose card is on the screen, or nearly. @type {Set<string>} */
    this.seen = new Set();
    this.watch = new IntersectionObserver((entries) => this.#watched(entries), {
      root: this.page,
      rootMargin: "400px",
    });
  }

  /** @param {View} view */
  show(view) {
    this.view = view;
    this.#draw();
  }

  #draw() {
    const view = this.view;
    if (!view) return;
    const { t } = view;
    const broken = t.captions.filter((caption) => faults(caption).length);
    const shown = this.onlyBroken ? broken : t.captions;
    const numbers = new Map(t.captions.map((caption, place) => [caption.id, place + 1]));
    render(
      html`<div class="docket-head">
          <h2>Proof sheet</h2>
          <span class="soft">every caption at its middle word, on its own picture</span>
          <button
            class="btn btn-small ml-auto"
            id="only-broken"
            aria-pressed=${String(this.onlyBroken)}
            ?disabled=${!broken.length && !this.onlyBroken}
            @click=${() => {
              this.onlyBroken = !this.onlyBroken;
              this.#draw();
            }}
          >
            ${this.onlyBroken ? `All ${t.captions.length}` : `${broken.length} to look at`}
          </button>
        </div>
        ${t.captions.length ? nothing : this.#empty()}
        <ul class="proof-cards">
          ${repeat(
            shown,
            (caption) => caption.id,
            (caption) => this.#card(t, caption, numbers.get(caption.id) ?? 0, caption.id === view.caption),
          )}
        </ul>
        <p class="soft mt-3">
          Reading rate ${t.house.reading_rate_cps} characters a second. ${counted(broken.length, "caption")}
          to look at.
        </p>`,
      this.page,
    );
    for (const card of this.page.querySelectorAll(".proof-card")) this.watch.observe(card);
    this.#letter();
  }

  #empty() {
    return html`<p class="mt-4">
      Nothing is shown on the screen yet.
      <button class="btn btn-small" @click=${() => this.tells.setPass("words")}>Write captions</button>
    </p>`;
  }

  /** @param {Timeline} t @param {Caption} caption @param {number} number @param {boolean} chosen */
  #card(t, caption, number, chosen) {
    const second = t.rate.denominator / t.rate.numerator;
    const shot = shotAt(t, caption);
    const inputs = [
      caption,
      number,
      chosen,
      t.width,
      t.height,
      shot?.clip,
      shot?.start,
      shot?.source_in_s,
      shot?.speed_percent,
      shot?.colour,
      shot?.framing,
      shot?.adjustment,
      shot?.laid,
    ];
    return guard(inputs, () => {
      const wrong = faults(caption);
      const at = shot ? clipSeconds(shot, (middle(caption).frame - shot.start) * second) : 0;
      return html`<li
        class="proof-card ${classMap({ chosen, broken: wrong.length > 0 })}"
        data-caption=${caption.id}
      >
        <button
          @click=${() => this.tells.chooseCaption(caption.id)}
          aria-label="Caption ${number}: ${caption.text}${wrong.length ? `; ${wrong.join(", ")}` : ""}"
          aria-pressed=${String(chosen)}
        >
          <span class="proof-frame" data-shape="${t.width} / ${t.height}" data-colour=${shot?.colour ?? ""}>
            <canvas
              aria-hidden="true"
              data-picture=${shot?.clip ? `/media/clips/${shot.clip}/at/${ticks(at)}.jpg` : ""}
            ></canvas
            ><svg aria-hidden="true"></svg>
          </span>
        </button>
        <p>
          <b>${number}</b>
          <span class="mono soft"
            >${seconds((caption.out - caption.in) * second)} · ${caption.rate_cps} c/s</span
          >
          ${wrong.map((text) => html`<span class="alarm">${text}</span> `)}
        </p>
      </li>`;
    });
  }

  /** The words on the cards that are seen; those that are not at hand are fetched. */
  #letter() {
    const t = this.view?.t;
    if (!t || this.page.offsetParent === null) return;
    const captions = new Map(t.captions.map((caption) => [caption.id, caption]));
    const near = [...this.seen].flatMap((id) => captions.get(id) ?? []);
    for (const caption of near) {
      const frame = /** @type {HTMLElement|null} */ (
        this.page.querySelector(`.proof-card[data-caption="${CSS.escape(caption.id)}"] .proof-frame`)
      );
      const overlay = frame?.querySelector("svg");
      if (!frame || !overlay) continue;
      frame.style.aspectRatio = frame.dataset.shape ?? "";
      frame.style.backgroundColor = frame.dataset.colour ?? "";
      this.#picture(t, caption, frame);
      const drawing = this.drawings.get(t, caption);
      if (drawing) drawCaption(overlay, drawing, middle(caption).word);
      else overlay.replaceChildren();
    }
    this.drawings.fetch(t, near);
  }

  /** The picture behind a caption, framed as it is in the piece. @param {Timeline} t @param {Caption} caption @param {HTMLElement} frame */
  async #picture(t, caption, frame) {
    const canvas = frame.querySelector("canvas");
    const shot = shotAt(t, caption);
    const source = canvas?.dataset.picture ?? "";
    const key = shot ? coloursKey(shot.adjustment) : "";
    const table = this.colours.get(key);
    const seen = JSON.stringify([shot?.framing, shot?.adjustment, shot?.laid]);
    const asked = `${source} ${seen} ${table ? "" : key} ${t.width} ${t.height}`;
    if (!canvas || !shot || canvas.dataset.drawn === asked) return;
    canvas.dataset.drawn = asked;
    canvas.width = PICTURE_PX;
    canvas.height = Math.round((PICTURE_PX * t.height) / t.width);
    const context = canvas.getContext("2d");
    if (!source || !context) return;
    const image = new Image();
    image.src = source;
    await image.decode().catch(() => {});
    if (canvas.dataset.drawn !== asked || !image.naturalWidth) return;
    const share = (middle(caption).frame - shot.start) / Math.max(1, shot.end - shot.start - 1);
    drawShot(context, image, [image.naturalWidth, image.naturalHeight], shot, share, table);
    drawLaid(context, shot.laid, share);
  }

  /** @param {IntersectionObserverEntry[]} entries */
  #watched(entries) {
    for (const { target, isIntersecting } of entries) {
      const id = /** @type {HTMLElement} */ (target).dataset.caption ?? "";
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
    const card = caption && this.page.querySelector(`.proof-card[data-caption="${CSS.escape(caption.id)}"]`);
    card?.scrollIntoView({ block: "nearest" });
  }
}

/** The shot a caption is seen over. @param {Timeline} t @param {Caption} caption @returns {import("../../types.d.ts").Shot|undefined} */
const shotAt = (t, caption) => t.shots.findLast((each) => each.start <= middle(caption).frame) ?? t.shots[0];

/** What is wrong with a caption, in words. @param {Caption} caption @returns {string[]} */
function faults(caption) {
  const found = [];
  if (caption.too_fast) found.push("too fast to read");
  if (caption.missing.length) found.push(`can’t draw ${caption.missing.join(" ")}`);
  return found;
}

/** The moment a caption is seen at: that of its middle word. @param {Caption} caption @returns {{frame: number, word: number|null}} */
function middle(caption) {
  const lit = caption.lit.filter(([, word]) => word !== null);
  const at = lit[Math.floor(lit.length / 2)];
  return at
    ? { frame: at[0], word: at[1] }
    : { frame: Math.floor((caption.in + caption.out) / 2), word: null };
}

// The docket as a surface: what can be made, how large it is, what became of it; and the proof of the finished video.

import { get } from "../../api.js";
import { clock, size } from "../../format.js";
import { classMap, html, nothing, render } from "../../lit.js";
import { element } from "../../svg.js";
import { proofOf } from "./proof.js";

/** @typedef {import("../surface.d.ts").View} View */
/** @typedef {import("../surface.d.ts").Tells} Tells */
/** @typedef {{name: string, form: string, seconds: number|null, bytes: number|null}} Product */
/** @typedef {{name: string, product?: string, bytes: number, lufs?: number|null}} MadeFile */
/**
 * @typedef {{products: Product[], made: {files?: MadeFile[], revision?: number}, lines: {files?: MadeFile[]},
 *   bundle: {file?: string, bytes?: number}, timeline: {files?: MadeFile[]},
 *   proof: import("./proof.js").Proof|Record<string, never>}} Docket
 */

/** What a product is called, and the field of the request that asks for it. @type {Record<string, [string, "video"|"look"|"sound"|"captions"|""]>} */
const NAMES = {
  video: ["Video", "video"],
  "quick look": ["Quick look", "look"],
  sound: ["Sound", "sound"],
  captions: ["Captions", "captions"],
  lines: ["Lines", ""],
  timeline: ["Timeline", ""],
  bundle: ["Bundle", ""],
};

/** @type {import("../surface.d.ts").Make} */
export const makeDocket = (holder, tells) => new DocketSurface(holder, tells);

class DocketSurface {
  /** @param {HTMLElement} holder @param {Tells} tells */
  constructor(holder, tells) {
    holder.classList.add("docket");
    this.tells = tells;
    this.page = element("div", "scroller docket-page");
    this.page.tabIndex = -1;
    holder.append(this.page);
    /** @type {View|null} */
    this.view = null;
    /** @type {Docket|null} */
    this.docket = null;
    this.asked = "";
  }

  /** @param {View} view */
  show(view) {
    this.view = view;
    this.#draw();
    const key = `${view.t.version} ${this.tells.madeCount}`;
    if (key !== this.asked && view.t.project) this.#ask(key);
  }

  /** @param {string} key */
  async #ask(key) {
    this.asked = key;
    try {
      const docket = await get(`/api/projects/${this.tells.project}/exports/docket`);
      if (this.asked !== key) return;
      this.docket = docket;
      this.#draw();
    } catch (error) {
      this.tells.failed(error);
    }
  }

  setPlayhead() {}
  follow() {}

  #draw() {
    const { view, docket } = this;
    if (!view || !docket) return;
    const { wants } = this.tells;
    const count = Object.values(wants).filter(Boolean).length;
    const stale = docket.made.revision !== undefined && docket.made.revision !== view.t.revision;
    render(
      html`<div class="docket-head">
          <h2>Docket</h2>
          <span class="soft">what will be made of revision ${view.t.revision}, and what was made last</span>
          <label class="ml-auto inline-flex gap-2 items-center"
            ><input
              type="checkbox"
              id="prove-after"
              .checked=${this.tells.proveAfter}
              @change=${(/** @type {Event} */ e) =>
                this.tells.setProveAfter(/** @type {HTMLInputElement} */ (e.target).checked)}
            />
            prove the video afterwards</label
          >
          <button
            class="btn btn-fox"
            id="export"
            ?disabled=${this.tells.busy || !count}
            @click=${() => this.tells.makeExport()}
          >
            ${count === 1 ? "Make it" : `Make ${count} of them`}
          </button>
        </div>
        <table class="rows docket-table">
          <thead>
            <tr>
              <th scope="col"><span class="sr-only">Wanted</span></th>
              <th scope="col">What</th>
              <th scope="col">As</th>
              <th scope="col" class="text-right">Length</th>
              <th scope="col" class="text-right">About</th>
              <th scope="col">${stale ? `Made, of revision ${docket.made.revision}` : "Made"}</th>
            </tr>
          </thead>
          <tbody>
            ${docket.products.map((product) => this.#row(product, docket))}
          </tbody>
        </table>
        ${this.#proof(view, docket)}`,
      this.page,
    );
  }

  /** @param {Product} product @param {Docket} docket */
  #row(product, docket) {
    const [name, field] = NAMES[product.name];
    const { wants, busy } = this.tells;
    const id = field ? `wants-${field}` : "";
    return html`<tr data-product=${product.name}>
      <td>
        ${
          field
            ? html`<input
                type="checkbox"
                id=${id}
                .checked=${wants[field]}
                @change=${(/** @type {Event} */ e) => {
                  this.tells.setWanted(field, /** @type {HTMLInputElement} */ (e.target).checked);
                }}
              />`
            : nothing
        }
      </td>
      <td>${field ? html`<label class="docket-name" for=${id}>${name}</label>` : html`<b>${name}</b>`}</td>
      <td class="soft">${product.form}</td>
      <td class="mono text-right">${product.seconds === null ? "" : clock(product.seconds)}</td>
      <td class="mono text-right">${product.bytes === null ? "" : size(product.bytes)}</td>
      <td>${this.#became(product.name, docket, busy)}</td>
    </tr>`;
  }

  /** What became of a product: its files, to be saved; or a way to make it. @param {string} name @param {Docket} docket @param {boolean} busy */
  #became(name, docket, busy) {
    const base = `/api/projects/${this.tells.project}`;
    if (name === "bundle") {
      const { file, bytes } = docket.bundle;
      return html`<button class="btn btn-small" ?disabled=${busy} @click=${() => this.tells.makeBundle()}>
          ${file ? "Make again" : "Make"}
        </button>
        ${
          file
            ? html`<a href="${base}/bundle/${encodeURIComponent(file)}" download=${file}
                >Save, ${size(bytes ?? 0)}</a
              >`
            : nothing
        }`;
    }
    const files =
      name === "lines"
        ? (docket.lines.files ?? [])
        : name === "timeline"
          ? (docket.timeline.files ?? [])
          : (docket.made.files ?? []).filter((file) => productOf(file) === name);
    const links = files.slice(0, 3).map(
      (file) =>
        html`<a href="${base}/exports/${encodeURIComponent(file.name)}" download=${file.name}>${file.name}</a>
          <span class="mono soft">${size(file.bytes)}</span> `,
    );
    const more = files.length > 3 ? html`<span class="soft">and ${files.length - 3} more</span>` : nothing;
    const make =
      name === "lines"
        ? html`<button
            class="btn btn-small"
            ?disabled=${busy}
            @click=${() => this.tells.exportLines(this.view?.t.lines.map((line) => line.id) ?? [])}
          >
            ${files.length ? "Make again" : "Make"}
          </button>`
        : name === "timeline"
          ? html`<button class="btn btn-small" ?disabled=${busy} @click=${() => this.tells.makeTimeline()}>
              ${files.length ? "Make again" : "Make"}
            </button>`
          : nothing;
    return html`${make} ${links} ${more}`;
  }

  /** @param {View} view @param {Docket} docket */
  #proof(view, docket) {
    const video = (docket.made.files ?? []).find((file) => productOf(file) === "video");
    const proof = /** @type {import("./proof.js").Proof} */ (docket.proof);
    const current = proof.frames !== undefined && proof.revision === docket.made.revision;
    return html`<section class="proof" aria-label="Proof">
      <div class="docket-head">
        <h2>Proof of the video</h2>
        <span class="soft"
          >found in the finished file by decoding it, and only then laid beside the plan</span
        >
        <button
          class="btn ml-auto"
          id="prove"
          ?disabled=${this.tells.busy || !video}
          @click=${() => this.tells.prove()}
        >
          ${current ? "Prove again" : "Prove it"}
        </button>
      </div>
      ${
        current
          ? proofOf(proof, view.t)
          : html`<p class="soft ${classMap({ "proof-none": true })}">
              ${
                video
                  ? `${video.name} has not been looked into yet.`
                  : "Make the video first: then every cut, caption and word of it is looked for in the file."
              }
            </p>`
      }
    </section>`;
  }
}

/** Of which product a file is; files made by earlier versions tell by their names. @param {MadeFile} file */
function productOf({ name, product }) {
  if (product !== undefined) return product;
  if (name.endsWith("-look.mp4")) return "quick look";
  if (name.endsWith(".mp4")) return "video";
  return name.endsWith(".wav") ? "sound" : /\.(srt|vtt)$/.test(name) ? "captions" : "";
}

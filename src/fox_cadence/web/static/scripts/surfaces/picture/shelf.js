// The shelf: the clips of the project, to be laid between shots.

import { seconds, ticks } from "../../format.js";
import { html, nothing, render, repeat } from "../../lit.js";
import { element } from "../../svg.js";
import { CLIP_TYPE } from "./places.js";

/** @typedef {import("../surface.d.ts").View} View */
/** @typedef {import("../surface.d.ts").Tells} Tells */

export class Shelf {
  /** @param {Tells} tells */
  constructor(tells) {
    this.tells = tells;
    this.holder = element("section", "shelf");
    this.holder.setAttribute("aria-label", "Shelf");
    this.sought = "";
    this.colour = "#20302c";
    /** @type {View|null} */
    this.view = null;
    this.holder.addEventListener("dragover", (event) => {
      if (event.dataTransfer?.types.includes("Files")) event.preventDefault();
    });
    this.holder.addEventListener("drop", (event) => {
      const files = [...(event.dataTransfer?.files ?? [])];
      if (!files.length) return;
      event.preventDefault();
      event.stopPropagation();
      this.tells.bringIn(files, null);
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
    const used = new Set(view.t.shots.map((shot) => shot.clip));
    const words = this.sought.toLowerCase().split(/\s+/).filter(Boolean);
    const clips = Object.entries(view.t.clips).filter(
      ([, clip]) =>
        ["video", "still"].includes(clip.kind) &&
        words.every((word) => clip.name.toLowerCase().includes(word)),
    );
    const place = view.t.shots.findIndex((shot) => shot.id === view.shot) + 1;
    const to = place || view.t.shots.length;
    const where = place ? `after shot ${place}` : "at the end";
    render(
      html`<div class="shelf-head">
          <h2>Shelf</h2>
          <input
            type="search"
            aria-label="Words of a clip"
            placeholder="any word"
            .value=${this.sought}
            @input=${(/** @type {InputEvent} */ event) => {
              this.sought = /** @type {HTMLInputElement} */ (event.target).value;
              this.#draw();
            }}
          />
          <span class="soft">a click lays a clip ${where}</span>
          <span class="shelf-adds">
            <input
              type="color"
              id="add-colour"
              aria-label="A plain colour"
              .value=${this.colour}
              @change=${(/** @type {Event} */ event) => {
                this.colour = /** @type {HTMLInputElement} */ (event.target).value;
              }}
            />
            <button
              class="btn btn-small"
              id="add-plain"
              @click=${() => this.tells.placeColour(this.colour, to)}
            >
              Lay the colour
            </button>
            ${this.#files("add-pictures", `Bring in ${where}`, to)}
            ${this.#files("shelf-files", "Bring in to the shelf", null)}
          </span>
        </div>
        <ul class="shelf-clips">
          ${repeat(
            clips,
            ([hash]) => hash,
            ([hash, clip]) =>
              html`<li>
                <button
                  draggable="true"
                  data-clip=${hash}
                  title="Lay it ${where}"
                  @dragstart=${(/** @type {DragEvent} */ event) =>
                    event.dataTransfer?.setData(CLIP_TYPE, hash)}
                  @click=${() => this.tells.placeClip(hash, to)}
                >
                  <img
                    alt=""
                    draggable="false"
                    loading="lazy"
                    src="/media/clips/${hash}/at/${ticks(clip.length_s / 2)}.jpg"
                  />
                  <span>${clip.name}</span>
                  <span class="mono soft"
                    >${clip.kind === "still" ? "still" : seconds(clip.length_s)}${used.has(hash) ? "" : ", not used"}</span
                  >
                </button>
              </li>`,
          )}
        </ul>
        ${clips.length ? nothing : html`<p class="soft">${words.length ? "No clip has these words." : "No clips yet. Drop files here or on the sheet."}</p>`}`,
      this.holder,
    );
  }

  /** A button that brings in files. @param {string} id @param {string} text @param {number|null} gap */
  #files(id, text, gap) {
    return html`<label class="btn btn-small"
      >${text}<input
        class="sr-only"
        id=${id}
        type="file"
        multiple
        accept="video/*,image/*,.mkv,.ts,.avi"
        @change=${(/** @type {Event} */ event) => {
          const field = /** @type {HTMLInputElement} */ (event.target);
          const files = [...(field.files ?? [])];
          field.value = "";
          this.tells.bringIn(files, gap);
        }}
    /></label>`;
  }
}

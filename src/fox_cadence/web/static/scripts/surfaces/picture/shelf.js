// The shelf: what can be laid between shots. Clips of the piece, the user's own, and shipped pictures, found by words.

import { get } from "../../api.js";
import { counted } from "../../format.js";
import { classMap, html, nothing, render, repeat } from "../../lit.js";
import { element } from "../../svg.js";
import { AboutItem, lengthOf } from "./about_item.js";
import { CLIP_TYPE } from "./places.js";

/** @typedef {import("../surface.d.ts").View} View */
/** @typedef {import("../surface.d.ts").Tells} Tells */
/** @typedef {import("../../answers.d.ts").ShelfItemJson} Item */
/** @typedef {import("../../answers.d.ts").ShelfJson} Found */

/** How long a key may still be followed by another one, and how long a moment of a picture is seen. */
const [REST_MS, LOOK_MS] = [200, 220];

/** What is looked for, and how the address names it. @type {Array<[string, string, Array<[string, string]>]>} */
const CHOICES = [
  [
    "source",
    "Where it is from",
    [
      ["", "from anywhere"],
      ["piece", "in this piece"],
      ["own", "yours"],
      ["shipped", "shipped"],
    ],
  ],
  [
    "kind",
    "What it is",
    [
      ["", "anything"],
      ["clip", "clips"],
      ["still", "stills"],
      ["background", "backgrounds"],
      ["over", "over a shot"],
    ],
  ],
  [
    "shape",
    "Its shape",
    [
      ["", "any shape"],
      ["upright", "upright"],
      ["lying", "lying"],
      ["square", "square"],
    ],
  ],
  [
    "longest",
    "How long it is",
    [
      ["", "any length"],
      ["5", "up to 5 s"],
      ["10", "up to 10 s"],
    ],
  ],
];

export class Shelf {
  /** @param {Tells} tells */
  constructor(tells) {
    this.tells = tells;
    this.holder = element("section", "shelf");
    this.holder.setAttribute("aria-label", "Shelf");
    this.words = "";
    /** @type {Record<string, string>} */
    this.wish = { source: "", kind: "", shape: "", longest: "" };
    this.colours = ["#1d3b3a", "#3f7f78", "#e0a05a"];
    /** @type {View|null} */
    this.view = null;
    /** @type {Found} */
    this.found = { items: [], line_words: [], left_out: 0 };
    /** The line whose words were found. */
    this.foundLine = "";
    /** What was asked for last, and for which state of the piece. */
    this.asked = "";
    /** @type {Item|null} */
    this.at = null;
    this.about = new AboutItem(tells, (again) => {
      if (again) this.asked = "";
      this.#draw();
      this.#look();
    });
    /** @type {ReturnType<typeof setTimeout>|undefined} */
    this.resting = undefined;
    /** @type {ReturnType<typeof setInterval>|undefined} */
    this.looking = undefined;
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
    this.#look();
  }

  /** Ask for what is looked for, where that is not what is shown. */
  #look() {
    const view = this.view;
    if (!view) return;
    const query = new URLSearchParams({ words: this.words, line: view.line });
    for (const [name, value] of Object.entries(this.wish)) if (value) query.set(name, value);
    const clips = Object.keys(view.t.clips).join();
    const asked = `${query} ${clips} ${view.t.shots.map((shot) => shot.clip).join()} ${view.t.commercial}`;
    if (asked === this.asked) return;
    this.asked = asked;
    clearTimeout(this.resting);
    this.resting = setTimeout(async () => {
      try {
        const found = await get(`/api/projects/${this.tells.project}/shelf?${query}`);
        if (this.asked === asked) [this.found, this.foundLine] = [found, view.line];
      } catch (error) {
        this.asked = "";
        this.tells.failed(error);
      }
      this.#draw();
    }, REST_MS);
  }

  /** @param {string} words */
  #seek(words) {
    this.words = words;
    this.#draw();
    this.#look();
  }

  #draw() {
    const view = this.view;
    if (!view) return;
    const place = view.t.shots.findIndex((shot) => shot.id === view.shot) + 1;
    const to = place || view.t.shots.length;
    const where = place ? `after shot ${place}` : "at the end";
    const line = view.t.lines.findIndex((each) => each.id === this.foundLine) + 1;
    const { items, line_words: words, left_out: leftOut } = this.found;
    render(
      html`<div class="shelf-head">
          <h2>Shelf</h2>
          <input
            type="search"
            aria-label="Words of a clip"
            placeholder="any word"
            .value=${this.words}
            @input=${(/** @type {InputEvent} */ event) =>
              this.#seek(/** @type {HTMLInputElement} */ (event.target).value)}
          />
          ${
            words.length && line
              ? html`<button
                  class="btn btn-small"
                  id="line-words"
                  ?disabled=${this.foundLine !== view.line}
                  @click=${() => this.#seek(words.join(" "))}
                >
                  from line ${line}: ${words.slice(0, 3).join(", ")}
                </button>`
              : nothing
          }
          ${CHOICES.map(([name, label, values]) => this.#choice(name, label, values))}
          <span class="soft" id="shelf-count"
            >${counted(items.length, "result")}${leftOut ? `, ${leftOut} not for commercial use` : ""}</span
          >
          <span class="shelf-adds">
            ${this.colours.map((colour, number) => this.#colour(colour, number))}
            <button
              class="btn btn-small"
              id="add-plain"
              @click=${() => this.tells.placeColour(this.colours[0], to)}
            >
              Lay the colour
            </button>
            ${this.#files("add-pictures", `Bring in ${where}`, to)}
            ${this.#files("shelf-files", "Bring in to the shelf", null)}
            <button class="btn btn-small btn-dark" id="fill-open" @click=${() => this.tells.openFill()}>
              Fill…
            </button>
          </span>
        </div>
        <ul class="shelf-clips">
          ${repeat(
            items,
            (item) => item.id,
            (item) => this.#tile(item, to, where),
          )}
        </ul>
        ${
          items.length
            ? nothing
            : html`<p class="soft">
                ${
                  this.words.trim() || Object.values(this.wish).some(Boolean)
                    ? "Nothing on the shelf answers to that."
                    : "Nothing here yet. Drop files here or on the sheet."
                }
              </p>`
        }
        ${this.about.template(
          items.find((each) => each.id === this.at?.id),
          where,
        )}`,
      this.holder,
    );
  }

  /** @param {string} name @param {string} label @param {Array<[string, string]>} values */
  #choice(name, label, values) {
    return html`<select
      aria-label=${label}
      data-wish=${name}
      @change=${(/** @type {Event} */ event) => {
        this.wish = { ...this.wish, [name]: /** @type {HTMLSelectElement} */ (event.target).value };
        this.#draw();
        this.#look();
      }}
    >
      ${values.map(
        ([value, text]) =>
          html`<option value=${value} .selected=${this.wish[name] === value}>${text}</option>`,
      )}
    </select>`;
  }

  /** @param {string} colour @param {number} number */
  #colour(colour, number) {
    const label = number
      ? `Colour ${number + 1} of backgrounds`
      : "The plain colour, and the ground of backgrounds";
    return html`<input
      type="color"
      data-colour=${number}
      aria-label=${label}
      title=${label}
      .value=${colour}
      @change=${(/** @type {Event} */ event) => {
        const { value } = /** @type {HTMLInputElement} */ (event.target);
        this.colours = this.colours.map((each, place) => (place === number ? value : each));
        this.#draw();
      }}
    />`;
  }

  /** A small picture of an item. @param {Item} item @param {number} moment */
  #picture(item, moment) {
    const colours = item.kind === "background" && !item.clip ? this.colours : [];
    const query = new URLSearchParams(colours.map((colour) => ["colours", colour]));
    return `${item.looks[moment % item.looks.length]}${colours.length ? `?${query}` : ""}`;
  }

  /** @param {Item} item @param {number} to @param {string} where */
  #tile(item, to, where) {
    const about = () => {
      this.at = item;
      this.#draw();
    };
    const length = lengthOf(item);
    const from = { piece: item.used ? "" : ", not used", own: ", yours", shipped: "" }[item.source];
    return html`<li>
      <button
        class=${classMap({ at: this.at?.id === item.id })}
        draggable=${item.clip ? "true" : "false"}
        data-item=${item.id}
        data-clip=${item.clip ?? ""}
        title="${item.kind === "over" ? "Lay it over the chosen shot" : `Lay it ${where}`}"
        @dragstart=${(/** @type {DragEvent} */ event) =>
          item.clip && event.dataTransfer?.setData(CLIP_TYPE, item.clip)}
        @pointerenter=${(/** @type {PointerEvent} */ event) => {
          about();
          this.#play(item, /** @type {HTMLElement} */ (event.currentTarget));
        }}
        @pointerleave=${() => this.#still()}
        @focus=${about}
        @click=${() => this.tells.layItem(item, to, item.kind === "background" ? this.colours : null)}
      >
        <img
          alt=""
          draggable="false"
          loading="lazy"
          src=${this.#picture(item, Math.floor(item.looks.length / 2))}
        />
        <span>${item.title}</span>
        <span class="mono soft">${length}${from}</span>
      </button>
    </li>`;
  }

  /** Show the moments of an item one after the other. @param {Item} item @param {HTMLElement} tile */
  #play(item, tile) {
    this.#still();
    const image = tile.querySelector("img");
    if (!image || item.looks.length < 2) return;
    let moment = 0;
    this.looking = setInterval(() => {
      image.src = this.#picture(item, moment++);
    }, LOOK_MS);
  }

  #still() {
    clearInterval(this.looking);
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

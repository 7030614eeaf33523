// What is known of something on the shelf: its length, its licence; a clip is kept for all projects, or taken off again.

import { post } from "../../api.js";
import { seconds } from "../../format.js";
import { html, nothing } from "../../lit.js";

/** @typedef {import("../surface.d.ts").Tells} Tells */
/** @typedef {import("../../answers.d.ts").ShelfItemJson} Item */

/** @param {Item} item */
export const lengthOf = (item) =>
  item.kind === "over" ? "over a shot" : item.seconds ? seconds(item.seconds) : "still";

export class AboutItem {
  /** @param {Tells} tells @param {(again: boolean) => void} changed called to be drawn, `again` when the shelf itself has changed */
  constructor(tells, changed) {
    this.tells = tells;
    this.changed = changed;
    /** The item whose words are being written. */
    this.keeping = "";
  }

  /** @param {Item|undefined} item that is pointed at @param {string} where something would be laid */
  template(item, where) {
    if (!item)
      return html`<div class="shelf-about soft">
        Point at a picture to see it move; a click lays it ${where}.
      </div>`;
    const { clip } = item;
    const use = item.commercial ? "commercial use allowed" : "not for commercial use";
    return html`<div class="shelf-about">
      <b>${item.title}</b>
      <span class="soft"
        >${lengthOf(item)}, ${item.shape === "any" ? "drawn for your frame" : item.shape}.
        ${item.licence || "Licence not said"}; ${use}.</span
      >
      ${clip && item.sound ? this.#button("", "Hear it", () => this.tells.hearClip(clip)) : nothing}
      ${
        clip
          ? this.#button(
              "keep-open",
              item.kept ? "Change what is said of it" : "Keep for all projects",
              () => {
                this.keeping = this.keeping === item.id ? "" : item.id;
                this.changed(false);
              },
            )
          : nothing
      }
      ${
        clip && item.kept
          ? this.#button("keep-end", "Take off your shelf", () =>
              this.#tell(`/api/shelf/${clip}/forget`, {}, "Taken off your shelf."),
            )
          : nothing
      }
      ${this.keeping === item.id ? this.#form(item) : nothing}
    </div>`;
  }

  /** @param {string} id @param {string} text @param {() => void} press */
  #button(id, text, press) {
    return html`<button class="btn btn-small" id=${id || nothing} @click=${press}>${text}</button>`;
  }

  /** @param {Item} item */
  #form(item) {
    const send = (/** @type {SubmitEvent} */ event) => {
      event.preventDefault();
      const form = new FormData(/** @type {HTMLFormElement} */ (event.target));
      const said = Object.fromEntries(["title", "words", "licence"].map((name) => [name, form.get(name)]));
      const body = { clip: item.clip, ...said, commercial: form.has("commercial") };
      return this.#tell("/api/shelf", body, "Kept for all projects.");
    };
    return html`<form class="shelf-form" @submit=${send}>
      <label class="field">Title<input name="title" required maxlength="200" .value=${item.title} /></label>
      <label class="field grow"
        >Words it is found by<input name="words" maxlength="500" .value=${item.words}
      /></label>
      <label class="field">Licence<input name="licence" maxlength="200" .value=${item.licence} /></label>
      <label class="inline-flex gap-2 items-center"
        ><input type="checkbox" name="commercial" .checked=${item.commercial} /> commercial use allowed</label
      >
      <button class="btn btn-small btn-dark">Keep</button>
    </form>`;
  }

  /** @param {string} path @param {object} body @param {string} done */
  async #tell(path, body, done) {
    try {
      await post(path, body);
    } catch (error) {
      return this.tells.failed(error);
    }
    this.keeping = "";
    this.changed(true);
    this.tells.tell(done, "good");
  }
}

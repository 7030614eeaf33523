// The docket as a surface: what can be made, how large it is, what became of it; and the proof of the finished video.

import { clock, size } from "../../format.js";
import { classMap, html, nothing, render } from "../../lit.js";
import { rowTitle } from "../../piece/docket.js";
import { element } from "../../svg.js";
import { reviewOf } from "./review.js";
import { proofOf } from "./proof.js";

/** @typedef {import("../surface.d.ts").View} View */
/** @typedef {import("../surface.d.ts").Tells} Tells */
/** @typedef {import("../../piece/docket.js").Plan} Plan */
/** @typedef {import("../../piece/docket.js").Row} Row */
/** @typedef {import("../../piece/docket.js").Product} Product */

const MOST_FILES = 3;

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
    this.asked = "";
    /** Rows that were shown: a row that is no longer wanted does not vanish under the hand. @type {Set<string>} */
    this.known = new Set();
  }

  /** @param {View} view */
  show(view) {
    this.view = view;
    const key = `${view.t.version} ${this.tells.madeCount} ${this.#stage()}`;
    if (key !== this.asked && view.t.project) {
      this.asked = key;
      this.tells.learnDocket();
    }
    this.#draw();
  }

  /** The row that is being made now; when another one begins, the one before it is there. */
  #stage() {
    const { job } = this.tells;
    return job?.kind === "export" && job.state === "running"
      ? (job.note.match(/^([\w-]+): /)?.[1] ?? "")
      : "";
  }

  setPlayhead() {}
  follow() {}

  #draw() {
    const { view } = this;
    const { orders: plan } = this.tells;
    if (!view || !plan) return;
    const { rows } = plan.docket;
    const count = rows.filter((row) => row.wanted).length;
    const shownRows = this.tells.allRows ? rows : rows.filter((row) => this.#concerns(row, plan));
    const products = new Map(plan.products.map((product) => [product.name, product]));
    render(
      html`<div class="docket-head">
          <h2>Docket</h2>
          <span class="soft">what will be made of revision ${view.t.revision}, and what became of it</span>
          <label class="ml-auto inline-flex gap-2 items-center"
            ><input
              type="checkbox"
              id="prove-after"
              .checked=${this.tells.proveAfter}
              @change=${(/** @type {Event} */ e) =>
                this.tells.setProveAfter(/** @type {HTMLInputElement} */ (e.target).checked)}
            />
            prove them afterwards</label
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
        <table class="rows docket-table" id="docket-rows">
          <thead>
            <tr>
              <th scope="col"><span class="sr-only">Wanted</span></th>
              <th scope="col">What</th>
              <th scope="col">As</th>
              <th scope="col" class="text-right">Length</th>
              <th scope="col" class="text-right">About</th>
              <th scope="col">Stands</th>
            </tr>
          </thead>
          <tbody>
            ${shownRows.map((row) => this.#row(row, products.get(row.name), plan, view))}
          </tbody>
        </table>
        ${
          shownRows.length < rows.length || this.tells.allRows
            ? html`<p class="choices mt-1">
                <button
                  class="btn btn-small"
                  id="all-rows"
                  aria-expanded=${this.tells.allRows ? "true" : "false"}
                  aria-controls="docket-rows"
                  @click=${() => this.tells.showAllRows(!this.tells.allRows)}
                >
                  ${this.tells.allRows ? "Only what is wanted or made" : `All ${rows.length} products`}
                </button>
                <span class="soft"
                  >${
                    this.tells.allRows
                      ? ""
                      : rows
                          .filter((row) => !shownRows.includes(row))
                          .map((row) => rowTitle(row.name))
                          .join(", ")
                  }</span
                >
              </p>`
            : nothing
        }
        ${this.#proof(view, plan)} ${reviewOf(this.tells, videosOf(plan))}`,
      this.page,
    );
  }

  /** Whether a row is wanted, chosen or made. @param {Row} row @param {Plan} plan */
  #concerns(row, plan) {
    const made = (plan.made.files ?? []).some((file) => productOf(file) === row.name);
    const failed = (plan.made.failed ?? []).some((each) => each.product === row.name);
    if (row.wanted || made || failed || row.name === this.tells.rowName) this.known.add(row.name);
    return this.known.has(row.name);
  }

  /** @param {Row} row @param {Product|undefined} product @param {Plan} plan @param {View} view */
  #row(row, product, plan, view) {
    const { rowName, busy } = this.tells;
    const chosen = rowName === row.name;
    const seconds = product?.seconds ?? null;
    const about = product?.bytes ?? null;
    return html`<tr
      data-product=${row.name}
      class=${classMap({ chosen })}
      @click=${() => this.tells.chooseRow(row.name)}
    >
      <td>
        <input
          type="checkbox"
          id="wants-${row.name}"
          aria-label=${rowTitle(row.name)}
          .checked=${row.wanted}
          ?disabled=${busy}
          @change=${(/** @type {Event} */ e) =>
            this.tells.changeRow(row.name, {
              wanted: /** @type {HTMLInputElement} */ (e.target).checked,
            })}
        />
      </td>
      <td>
        <button
          class="docket-name"
          aria-pressed=${chosen ? "true" : "false"}
          title="Its settings"
          @click=${(/** @type {MouseEvent} */ event) => {
            event.stopPropagation();
            this.tells.chooseRow(row.name, event.detail === 0);
          }}
        >
          ${rowTitle(row.name)}
        </button>
      </td>
      <td class="soft">${product?.form ?? ""}</td>
      <td class="mono text-right">${seconds === null ? "" : clock(seconds)}</td>
      <td class="mono text-right">${about === null ? "" : size(about)}</td>
      <td>${this.#became(row, plan, view)}</td>
    </tr>`;
  }

  /** How a row stands: being made, made, or failed. @param {Row} row @param {Plan} plan @param {View} view */
  #became(row, plan, view) {
    const { job, timeLeft, project } = this.tells;
    if (job && this.#stage() === row.name)
      return html`<progress max="1" value=${job.total ? job.done / job.total : 0}></progress>
        <span class="soft"
          >${job.total ? `${Math.floor((job.done / job.total) * 100)} %` : ""} ${timeLeft}</span
        >`;
    const failed = (plan.made.failed ?? []).find((each) => each.product === row.name);
    const files =
      row.name === "lines" && !(plan.made.files ?? []).some((file) => productOf(file) === "lines")
        ? (plan.lines.files ?? [])
        : (plan.made.files ?? []).filter((file) => productOf(file) === row.name);
    const waits =
      job?.kind === "export" && this.tells.busy && row.wanted && !(plan.made.done ?? []).includes(row.name);
    const links = files
      .slice(0, MOST_FILES)
      .map(
        (file) =>
          html`<span class="docket-file"
            ><a href="/api/projects/${project}/exports/${encodeURIComponent(file.name)}" download=${file.name}
              >${file.name}</a
            >
            <span class="mono soft">${size(file.bytes)}</span></span
          >`,
      );
    const more =
      files.length > MOST_FILES
        ? html`<span class="soft">and ${files.length - MOST_FILES} more</span>`
        : nothing;
    const old = files.find((file) => file.revision !== undefined && file.revision !== view.t.revision);
    return html`${failed ? html`<span class="alarm">${failed.reason}</span> ` : nothing}
    ${waits ? html`<span class="soft">waits</span>` : html`${links} ${more} ${verdict(currentProof(plan, row.name))}`}
    ${(files.length && row.name !== "lines") || failed ? this.#again(row) : nothing}
    ${old && !waits ? html`<span class="soft">of revision ${old.revision}</span>` : nothing}`;
  }

  /** @param {Row} row */
  #again(row) {
    return html`<button
      class="btn btn-small btn-text"
      data-again=${row.name}
      ?disabled=${this.tells.busy}
      aria-label=${`Make it again: ${rowTitle(row.name)}`}
      @click=${(/** @type {Event} */ event) => {
        event.stopPropagation();
        this.tells.makeExport([row.name]);
      }}
    >
      Make it again
    </button>`;
  }

  /** @param {View} view @param {Plan} plan */
  #proof(view, plan) {
    const provable = (plan.made.files ?? []).filter((file) => plan.provable.includes(file.name));
    const videos = provable.filter((file) => /\.(mp4|webm)$/.test(file.name));
    const video =
      provable.find((file) => productOf(file) === this.tells.rowName) ??
      videos.find((file) => productOf(file) === "video") ??
      videos.find((file) => productOf(file) !== "look") ??
      videos[0] ??
      provable[0];
    const row = video ? productOf(video) : "";
    const proof = currentProof(plan, row);
    return html`<section class="proof" aria-label="Proof">
      <div class="docket-head">
        <h2>Proof of the ${video ? rowTitle(row).toLowerCase() : "video"}</h2>
        <span class="soft"
          >found in the finished file by decoding it, and only then laid beside the plan</span
        >
        <button
          class="btn ml-auto"
          id="prove"
          ?disabled=${this.tells.busy || !video}
          @click=${() => this.tells.prove(row)}
        >
          ${proof ? "Prove again" : "Prove it"}
        </button>
      </div>
      ${
        proof
          ? html`${proofOf(proof, view.t)}
              <p class="soft">
                As files:
                ${(proof.reports ?? []).map(
                  (name) =>
                    html`<span class="docket-file"
                      ><a
                        href="/api/projects/${this.tells.project}/exports/${encodeURIComponent(name)}"
                        download=${name}
                        >${name}</a
                      >
                    </span> `,
                )}
              </p>`
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

/** What was found in a file of a row, where that is the file that is there now. @param {Plan} plan @param {string} row */
function currentProof(plan, row) {
  const proof = plan.proofs[row];
  const there = (plan.made.files ?? []).find((file) => file.name === proof?.name);
  return there && proof.revision === (there.revision ?? plan.made.revision) ? proof : null;
}

/** Of every row, so that no fault hides behind the row that is chosen. @param {import("./proof.js").Proof|null} proof */
const verdict = (proof) =>
  proof
    ? html`<span class=${proof.in_sync ? "good" : "alarm"}
        >${proof.in_sync ? "in sync" : "not in sync"}</span
      >`
    : nothing;

/** The names of finished videos. @param {Plan} plan */
function videosOf(plan) {
  return (plan.made.files ?? []).map((file) => file.name).filter((name) => /\.(mp4|webm)$/.test(name));
}

/** Of which row a file is; files made by earlier versions tell by their names. @param {{name: string, product?: string}} file */
function productOf({ name, product }) {
  if (product === "quick look" || name.endsWith("-look.mp4")) return "look";
  if (product !== undefined) return product;
  if (name.endsWith(".mp4")) return "video";
  return name.endsWith(".wav") ? "sound" : /\.(srt|vtt)$/.test(name) ? "captions" : "";
}

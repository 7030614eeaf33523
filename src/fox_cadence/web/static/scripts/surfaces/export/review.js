// Who may see a finished video: review links with how they stand, and the notes that came back.

import { clock, localDay } from "../../format.js";
import { html, nothing } from "../../lit.js";

/** @typedef {import("../surface.d.ts").Tells} Tells */
/** @typedef {import("../../piece/reviewing.js").ReviewLink} ReviewLink */

/** @param {Tells} tells @param {string[]} videos names of finished videos */
export function reviewOf(tells, videos) {
  const { links, notes } = tells.reviews ?? { links: [], notes: [] };
  return html`<section class="proof" aria-label="Review" id="review-links">
    <div class="docket-head">
      <h2>Review</h2>
      <span class="soft">a page for somebody else: one video, its words, and their notes at moments</span>
    </div>
    ${videos.length ? wish(tells, videos) : html`<p class="soft">Make a video first: then it can be shown.</p>`}
    ${
      links.length
        ? html`<table class="rows">
            <thead>
              <tr>
                <th scope="col">Shows</th>
                <th scope="col">Opens</th>
                <th scope="col">Stands</th>
                <th scope="col" class="text-right">Notes</th>
                <th scope="col"><span class="sr-only">What can be done</span></th>
              </tr>
            </thead>
            <tbody>
              ${links.map((link) => row(tells, link, notes.filter((each) => each.link_id === link.id).length))}
            </tbody>
          </table>`
        : nothing
    }
    ${
      notes.length
        ? html`<h3>Notes</h3>
            <ol class="review-notes">
              ${notes.map(
                (note) =>
                  html`<li>
                    <button
                      class="btn btn-small mono"
                      ?disabled=${note.frame === null}
                      title=${note.frame === null ? "Its shot is gone" : "Show it on the sheet"}
                      @click=${() => tells.showNote(note.id)}
                    >
                      ${clock(note.at_s)}
                    </button>
                    <span><b>${note.author}</b> ${note.text}</span>
                    <span class="soft"
                      >${[
                        note.frame === null ? "its shot is gone" : "",
                        note.answer ? "answered" : "",
                        note.done_at ? "done" : "",
                      ]
                        .filter(Boolean)
                        .join(", ")}</span
                    >
                  </li>`,
              )}
            </ol>`
        : nothing
    }
  </section>`;
}

/** What a new link is to be. @param {Tells} tells @param {string[]} videos */
function wish(tells, videos) {
  const make = async (/** @type {SubmitEvent} */ event) => {
    event.preventDefault();
    const form = /** @type {HTMLFormElement} */ (event.target);
    const given = new FormData(form);
    const day = String(given.get("until") ?? "");
    const made = await tells.makeReview({
      file: String(given.get("file")),
      until: day ? new Date(`${day}T23:59:59.999`).toISOString() : null,
      once: given.get("once") === "on",
      password: String(given.get("password") ?? ""),
    });
    if (made) form.reset();
  };
  return html`<form class="choices" id="make-review" @submit=${make}>
    <label class="inline-flex gap-2 items-center"
      >Show
      <select name="file" id="review-file">
        ${videos.map((name) => html`<option value=${name}>${name}</option>`)}
      </select></label
    >
    <label class="inline-flex gap-2 items-center"
      >until the end of <input type="date" name="until" id="review-until"
    /></label>
    <label class="inline-flex gap-2 items-center"
      ><input type="checkbox" name="once" id="review-once" /> in one browser only</label
    >
    <label class="inline-flex gap-2 items-center"
      >password
      <input
        type="text"
        name="password"
        id="review-password"
        class="w-20"
        autocomplete="off"
        placeholder="none"
    /></label>
    <button class="btn">Make a review link</button>
  </form>`;
}

/** @param {Tells} tells @param {ReviewLink} link @param {number} count of notes */
function row(tells, link, count) {
  const ways = [
    link.until ? `until ${localDay(link.until)}` : "until revoked",
    link.once
      ? link.taken_at
        ? "in the one browser that has opened it"
        : "in one browser, not yet opened"
      : "",
    link.password ? "with a password" : "",
  ];
  const log = tells.reviewLog?.id === link.id ? tells.reviewLog.entries : null;
  return html`<tr data-review=${link.id}>
      <td>${link.file} <span class="soft">revision ${link.revision}</span></td>
      <td class="soft">${ways.filter(Boolean).join(", ")}</td>
      <td>${link.standing}</td>
      <td class="mono text-right">${count}</td>
      <td>
        <span class="choices">
          ${
            link.standing === "open"
              ? html`<button
                    class="btn btn-small"
                    data-does="copy"
                    @click=${() => tells.copyReview(link.path)}
                  >
                    Copy the address
                  </button>
                  <a class="btn btn-small" href=${link.path} target="_blank" rel="noopener">See it</a>
                  <button
                    class="btn btn-small"
                    data-does="revoke"
                    @click=${() => tells.revokeReview(link.id)}
                  >
                    Revoke
                  </button>`
              : nothing
          }
          <button
            class="btn btn-small btn-text"
            data-does="log"
            aria-expanded=${log ? "true" : "false"}
            @click=${() => tells.learnReviewLog(link.id)}
          >
            Log
          </button>
        </span>
      </td>
    </tr>
    ${
      log
        ? html`<tr>
            <td colspan="5">
              <ol class="review-log" aria-label="Log">
                ${log.map(
                  (entry) =>
                    html`<li>
                      <span class="mono">${entry.at.slice(0, 19).replace("T", " ")} UTC</span> ${entry.what}
                      <span class="soft">${entry.address}</span>
                    </li>`,
                )}
              </ol>
            </td>
          </tr>`
        : nothing
    }`;
}

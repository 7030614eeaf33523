// The cast as a surface: the shortlist with how the piece would stand in each voice, and who says each line.

import { get } from "../../api.js";
import { classMap, guard, html, nothing, render, repeat } from "../../lit.js";
import { counted, pace, seconds } from "../../format.js";
import { element } from "../../svg.js";
import { voiceMap } from "./map.js";

/** @typedef {import("../surface.d.ts").View} View */
/** @typedef {import("../surface.d.ts").Tells} Tells */
/** @typedef {import("../../types.d.ts").Line} Line */
/** @typedef {import("../../types.d.ts").Voice} Voice */
/** @typedef {{voice: string, natural_s: number, states: string[], slowest: number, fastest: number, total_s: number, known: boolean}} Standing */

/** More lines than these are told by their number, not by a sign each. */
const MOST_SIGNS = 24;
const MOST_VOICES = 12;
/** While lengths are guesses it is asked again after so long. */
const ASKED_AGAIN_MS = 900;

/** @type {import("../surface.d.ts").Make} */
export const makeCast = (holder, tells) => new Cast(holder, tells);

class Cast {
  /** @param {HTMLElement} holder @param {Tells} tells */
  constructor(holder, tells) {
    holder.classList.add("castroom");
    this.tells = tells;
    this.page = element("div", "scroller castroom-page");
    this.page.id = "castroom";
    this.page.tabIndex = -1;
    this.lower = element("div", "scroller castroom-lower");
    holder.append(this.page, this.lower);
    /** @type {View|null} */
    this.view = null;
    /** @type {Map<string, Standing>} */
    this.standings = new Map();
    this.asked = "";
    /** The voice of the map that is pointed at. */
    this.pointed = "";
    /** The loop that is being drawn on it. @type {Array<[number, number]>} */
    this.drawn = [];
  }

  /** @param {View} view */
  show(view) {
    this.view = view;
    this.#draw();
    this.#ask();
  }

  get #voices() {
    const role = this.tells.castRole;
    return [...new Set([role?.voice_id ?? "", ...(this.view?.t.shortlist ?? [])])]
      .filter(Boolean)
      .slice(0, MOST_VOICES);
  }

  /** Have the piece fitted in each voice; asked once for each state of it. */
  async #ask() {
    const role = this.tells.castRole;
    const voices = this.#voices;
    const key = `${this.view?.t.version} ${role?.id} ${voices.join(" ")}`;
    if (!role || !voices.length || key === this.asked) return;
    this.asked = key;
    const query = voices.map((id) => `voice=${encodeURIComponent(id)}`).join("&");
    try {
      const found = await get(
        `/api/projects/${this.tells.project}/standings?role=${encodeURIComponent(role.id)}&${query}`,
      );
      if (key !== this.asked) return;
      this.standings = new Map(found.map((/** @type {Standing} */ each) => [each.voice, each]));
      this.#draw();
      if (found.every((/** @type {Standing} */ each) => each.known)) return;
      setTimeout(() => {
        if (key !== this.asked || this.page.offsetParent === null) return;
        this.asked = "";
        this.#ask();
      }, ASKED_AGAIN_MS);
    } catch (error) {
      this.tells.failed(error);
    }
  }

  #draw() {
    const view = this.view;
    if (!view) return;
    const { t } = view;
    const role = this.tells.castRole;
    render(
      html`${this.#map(role?.voice_id ?? "")}
        <div class="docket-head">
          <h2>Shortlist for</h2>
          <div class="flex gap-1" role="group" aria-label="Role that is cast">
            ${t.roles.map(
              (each) =>
                html`<button
                  class="btn btn-small ${classMap({ "btn-dark": each.id === role?.id })}"
                  aria-pressed=${String(each.id === role?.id)}
                  @click=${() => {
                    this.tells.castRoleId = each.id;
                    this.#draw();
                    this.#ask();
                  }}
                >
                  ${each.name}
                </button>`,
            )}
          </div>
          <span class="soft">how the piece would stand in each voice, before anything is voiced</span>
        </div>
        <table class="rows docket-table" id="shortlist">
          <thead>
            <tr>
              <th scope="col">Voice</th>
              <th scope="col" class="text-right">Natural length</th>
              <th scope="col">${role ? counted(this.#countOf(role.id), "line") : "Lines"}, after a fit</th>
              <th scope="col">Pace needed</th>
              <th scope="col"></th>
            </tr>
          </thead>
          <tbody>
            ${this.#voices.map((id) => this.#row(id, role))}
          </tbody>
        </table>
        ${
          this.#voices.length < 2
            ? html`<p class="soft mt-2">
                Put voices on the shortlist to compare them here: draw a loop around them on the map, or List
                beside each voice on the right.
              </p>`
            : html`<p class="mt-2">
                <button
                  class="btn btn-small"
                  id="compare-shortlist"
                  ?disabled=${this.tells.busy || !view.line}
                  @click=${() => {
                    this.tells.setCastDesk("line");
                    this.tells.compareBy("shortlist");
                  }}
                >
                  Compare the shortlist on the chosen line
                </button>
                <span class="soft">up to six, equally loud, switched while they play</span>
              </p>`
        } `,
      this.page,
    );
    render(
      html`<h2>Who says what</h2>
        ${
          t.lines.length
            ? this.#lines(view)
            : html`<p class="soft">
                Nothing is said yet.
                <button class="btn btn-small" @click=${() => this.tells.setPass("words")}>
                  Write the script
                </button>
              </p>`
        }`,
      this.lower,
    );
  }

  /** The voices that are looked for on the right, on a map. @param {string} used */
  #map(used) {
    const listed = this.view?.t.shortlist ?? [];
    const now = { used, listed, pointed: this.pointed, drawn: this.drawn };
    return voiceMap(this.tells.voicesShown, now, {
      point: (id) => {
        if (id === this.pointed) return;
        this.pointed = id;
        this.#draw();
      },
      hear: (id) => this.tells.hearVoice(id, true),
      draw: (loop) => {
        this.drawn = [...loop];
        this.#draw();
      },
      caught: (ids) => this.#list(ids.filter((id) => !listed.includes(id))),
    });
  }

  /** Put voices on the shortlist, as one step. @param {string[]} ids */
  #list(ids) {
    const some = ids.slice(0, MOST_VOICES);
    if (!some.length) return this.tells.tell("These voices are on the shortlist already.", "note");
    if (some.length < ids.length)
      this.tells.tell(`The loop holds ${ids.length} voices; the first ${some.length} were listed.`, "note");
    this.tells.edits(some.map((id) => ({ kind: "shortlist", voice_id: id, listed: true })));
  }

  /** @param {string} role */
  #countOf(role) {
    return this.view?.t.lines.filter((line) => line.role === role).length ?? 0;
  }

  /** @param {string} id @param {import("../../types.d.ts").Role|null} role */
  #row(id, role) {
    const voice = this.tells.voices.find((each) => each.id === id);
    const standing = this.standings.get(id);
    const used = role?.voice_id === id;
    const name = voice?.name ?? id;
    return html`<tr data-voice=${id} class=${used ? "in-use" : ""}>
      <td>
        <b>${name}</b>
        <span class="soft">${voice ? `${voice.region || voice.language_name}, ${voice.character}` : ""}</span>
      </td>
      <td class="mono text-right">
        ${standing ? `${standing.known ? "" : "≈"}${seconds(standing.natural_s)}` : "…"}
      </td>
      <td>${standing ? states(standing) : html`<span class="soft">fitting</span>`}</td>
      <td class="mono">
        ${standing?.states.length ? `${pace(standing.slowest)} to ${pace(standing.fastest)}` : ""}
      </td>
      <td class="text-right whitespace-nowrap">
        <button
          class="btn btn-small"
          aria-label="Hear the chosen line said by ${name}"
          @click=${() => this.tells.hearVoice(id, true)}
        >
          Hear
        </button>
        <button
          class="btn btn-small"
          aria-label=${used ? `${name} is in use` : `Cast ${name} now`}
          ?disabled=${used || this.tells.busy || !voice}
          @click=${() => voice && this.tells.recast(voice)}
        >
          ${used ? "In use" : "Cast now"}
        </button>
        ${
          used || !voice
            ? nothing
            : html`<button
                class="btn btn-small btn-text"
                aria-label="Take ${name} off the shortlist"
                @click=${() => this.tells.shortlist(voice)}
              >
                Remove
              </button>`
        }
      </td>
    </tr>`;
  }

  /** @param {View} view */
  #lines({ t, line: chosen }) {
    const roles = new Map(t.roles.map((role) => [role.id, role]));
    return html`<table class="rows castroom-lines" id="who-says">
      <thead>
        <tr>
          <th scope="col">Line</th>
          <th scope="col">Role</th>
          <th scope="col">Said</th>
          <th scope="col">Voice</th>
          <th scope="col">Stands</th>
        </tr>
      </thead>
      <tbody>
        ${repeat(
          t.lines,
          (line) => line.id,
          (line, number) => this.#line(line, number, roles, line.id === chosen),
        )}
      </tbody>
    </table>`;
  }

  /** @param {Line} line @param {number} number @param {Map<string, import("../../types.d.ts").Role>} roles @param {boolean} chosen */
  #line(line, number, roles, chosen) {
    const role = roles.get(line.role);
    return guard([line, number, role, chosen], () => {
      const own = line.own_voice ? this.tells.voiceName(line.own_voice) : "";
      const voice = own || this.tells.voiceName(role?.voice_id ?? "");
      return html`<tr data-line=${line.id} class=${chosen ? "chosen" : ""}>
        <td>
          <button
            class="btn btn-small btn-text"
            @click=${() => this.tells.choose(line.id)}
            aria-pressed=${String(chosen)}
            aria-label="Choose line ${number + 1}"
          >
            ${number + 1}
          </button>
        </td>
        <td class="role-ink-${(role?.colour ?? 0) % 6}">${role?.name ?? ""}</td>
        <td class="castroom-said">${line.said}</td>
        <td>
          ${voice}${own ? html` <span class="soft">its own</span>` : nothing}${
            line.draft ? html` <span class="soft">in draft: ${line.draft}</span>` : nothing
          }${
            line.take?.recorded ? html` <span class="soft">recorded</span>` : nothing
          }${line.failed ? html` <span class="alarm">failed</span>` : nothing}
        </td>
        <td>
          <span class="state-word state-ink-${line.state}"
            ><i class="glyph glyph-${line.state}"></i>${line.state}</span
          >
        </td>
      </tr>`;
    });
  }

  setPlayhead() {}

  /** @param {number} from */
  follow(from) {
    const line = this.view?.t.lines.findLast((each) => each.start_s <= from + 1e-6);
    const row = line && this.lower.querySelector(`#who-says [data-line="${CSS.escape(line.id)}"]`);
    row?.scrollIntoView({ block: "nearest" });
  }
}

/** The states of the lines, a sign each while there are not too many. @param {Standing} standing */
function states({ states: found }) {
  const counts = new Map();
  for (const state of found) counts.set(state, (counts.get(state) ?? 0) + 1);
  const words = [...counts].map(([state, count]) => `${count} ${state}`).join(", ");
  if (!found.length) return html`<span class="soft">no fit is possible</span>`;
  if (found.length > MOST_SIGNS) return html`<span>${words}</span>`;
  return html`<span class="signs" role="img" aria-label=${words} title=${words}
    >${found.map((state) => html`<i class="glyph glyph-${state} state-ink-${state}"></i>`)}</span
  >`;
}

// Changes that could not be made: another window was first, the disk is full, the server is away. What was typed is kept
// here, also over a reload, until it is made or let go.

import { part } from "./compose.js";

/** @typedef {{edits: any[], label: string, yours: string, theirs: string, words: Array<{where: string, yours: string, now: string}>}} Held */

export const unsavedEdits = part({
  /** @type {Held[]} */
  held: [],

  /** @returns {string} */
  get heldPlace() {
    return `held ${this.project}`;
  },
  /** @returns {string} */
  get heldTitle() {
    return this.held.some((item) => item.theirs) ? "Changed in another window" : "Not saved yet";
  },

  loadHeld() {
    try {
      this.held = JSON.parse(localStorage.getItem(this.heldPlace) ?? "[]");
    } catch {
      this.held = [];
    }
    addEventListener("beforeunload", (event) => {
      if (this.held.length) event.preventDefault();
    });
  },

  /** Whether a change that was refused is worth keeping: one refused for good holds only what was typed. @param {any} error @param {any[]} edits */
  worthHolding(error, edits) {
    const passing = error.status === 0 || error.status === 409 || error.status >= 500;
    return passing || edits.some((edit) => typeof edit.text === "string" && edit.text.trim());
  },

  /** @param {any[]} edits @param {string} label @param {any} error */
  hold(edits, label, error) {
    const clash = error.clash;
    const typed = edits
      .filter((edit) => typeof edit.text === "string")
      .map((edit) => ({ where: "You typed", yours: edit.text, now: "" }));
    const one = {
      edits,
      label,
      yours: clash?.yours || label || "Your change",
      theirs: clash?.theirs ?? "",
      words: clash?.words ?? typed,
    };
    this.keepHeld([...this.held, one]);
  },

  /** @param {Held[]} held */
  keepHeld(held) {
    this.held = held;
    try {
      if (held.length) localStorage.setItem(this.heldPlace, JSON.stringify(held));
      else localStorage.removeItem(this.heldPlace);
    } catch {
      return; // a browser that keeps nothing still shows them
    }
  },

  /** Make what is held on what is there now, in its order; stops at the first that is refused again. */
  async makeHeld() {
    const waiting = [...this.held];
    this.keepHeld([]);
    for (const [place, item] of waiting.entries()) {
      if (await this.edits(item.edits, item.label)) continue;
      this.keepHeld([...this.held, ...waiting.slice(place + 1)]);
      return;
    }
    this.tell("Made.", "good");
  },

  dropHeld() {
    this.keepHeld([]);
    this.message = "";
  },
});

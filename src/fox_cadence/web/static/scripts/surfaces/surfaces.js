// The surface of each pass, in one table: a new one is a folder and a row here.

import { element } from "../svg.js";
import { makeCast } from "./cast/index.js";
import { makeDocket } from "./export/index.js";
import { makeProofSheet } from "./lettering/index.js";
import { makePicture } from "./picture/index.js";
import { makeSheet } from "./sheet/index.js";
import { makeLevels } from "./sound/index.js";
import { makeScript } from "./words/index.js";

/** @typedef {import("./surface.d.ts").Make} Make */
/** @typedef {import("./surface.d.ts").Surface} Surface */
/** @typedef {import("./surface.d.ts").Tells} Tells */
/** @typedef {import("./surface.d.ts").View} View */
/** @typedef {import("../answers.d.ts").PassJson["name"]} Pass */

/** @type {Record<Pass, {make: Make, name: string}>} */
export const SURFACES = {
  picture: { make: makePicture, name: "Picture" },
  words: { make: makeScript, name: "Script" },
  cast: { make: makeCast, name: "Voices" },
  fit: { make: makeSheet, name: "Sheet" },
  lettering: { make: makeProofSheet, name: "Proof sheet" },
  sound: { make: makeLevels, name: "Levels" },
  export: { make: makeDocket, name: "Docket" },
};

/** The left part of the page: the surface of the pass that is chosen; those seen before are kept. */
export class Surfaces {
  /** @param {HTMLElement} root @param {Tells} tells */
  constructor(root, tells) {
    this.root = root;
    this.tells = tells;
    /** @type {Map<Make, {holder: HTMLElement, surface: Surface}>} */
    this.made = new Map();
    /** @type {Surface|null} */
    this.now = null;
  }

  /** Bring the surface of a pass to the front; true where it is another one than before. @param {Pass} pass */
  turnTo(pass) {
    const { make, name } = SURFACES[pass];
    let found = this.made.get(make);
    if (!found) {
      const holder = element("div", "surface");
      this.root.append(holder);
      found = { holder, surface: make(holder, this.tells) };
      this.made.set(make, found);
    }
    this.root.setAttribute("aria-label", name);
    if (this.now === found.surface) return false;
    this.now?.leave?.();
    for (const { holder } of this.made.values()) holder.hidden = holder !== found.holder;
    this.now = found.surface;
    return true;
  }

  /** @param {View} view */
  show(view) {
    this.now?.show(view);
  }

  /** @param {number} s */
  setPlayhead(s) {
    this.now?.setPlayhead(s);
  }

  /** @param {number} from_s @param {number} [until_s] */
  follow(from_s, until_s) {
    this.now?.follow(from_s, until_s);
  }
}

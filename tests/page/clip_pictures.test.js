// A clip that is still prepared shows its poster; once it is ready, its own pictures, on the page too.

import assert from "node:assert/strict";
import { beforeEach, test } from "node:test";

import {
  isWaiting,
  pictureAt,
  setWaiting,
} from "../../src/fox_cadence/web/static/scripts/frame/clip_pictures.js";

class Image {
  constructor(src) {
    this.src = src;
  }
}
const [BAY, CRAB] = ["a".repeat(64), "b".repeat(64)];
/** @type {Image[]} */
let shown = [];
globalThis.HTMLImageElement = Image;
globalThis.document = {
  querySelectorAll: (selector) => shown.filter((image) => selector.includes(image.src.split("/")[3])),
};

beforeEach(() => {
  shown = [];
  setWaiting([]);
});

test("addresses name the poster only while a clip waits", () => {
  setWaiting([BAY]);
  assert.equal(pictureAt(BAY, 0.5), `/media/clips/${BAY}/at/352800000.jpg?poster`);
  assert.equal(pictureAt(CRAB, 0), `/media/clips/${CRAB}/at/0.jpg`);
  setWaiting([]);
  assert.equal(pictureAt(BAY, 0), `/media/clips/${BAY}/at/0.jpg`);
});

test("pictures on the page are asked for again when their clip is ready, and no others", () => {
  setWaiting([BAY, CRAB]);
  shown = [new Image(pictureAt(BAY, 1)), new Image(pictureAt(CRAB, 1))];
  assert.deepEqual(setWaiting([CRAB]), [BAY]);
  assert.equal(shown[0].src, `/media/clips/${BAY}/at/705600000.jpg`);
  assert.ok(shown[1].src.endsWith("?poster"));
  assert.equal(isWaiting(CRAB), true);
});

// How long a job will take, told from how it went.

import assert from "node:assert/strict";
import { test } from "node:test";

globalThis.localStorage = { getItem: () => null, setItem: () => {} };
const { leftOf } = await import("../../src/fox_cadence/web/static/scripts/piece/work.js");

test("it is told when enough is done to tell it from, and not at the end", () => {
  const job = { id: "j", kind: "", note: "Voicing", total: 40, done: 0, result: {} };
  const told = [
    [0, 0],
    [0, 9],
    [2, 10],
    [10, 20],
    [39, 78],
    [40, 80],
  ].map(([done, at]) => leftOf({ ...job, done }, at));
  assert.deepEqual(told, ["", "", "about 3 min left", "about 60 s left", "", ""]);
});

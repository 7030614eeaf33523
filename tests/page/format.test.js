// Numbers as the editor reads them.

import assert from "node:assert/strict";
import { test } from "node:test";

import { clock, counted, signed, size, timecode } from "../../src/fox_cadence/web/static/scripts/format.js";

test("lengths are minutes, seconds and hundredths, rounded once", () => {
  assert.equal(clock(22.9), "0:22.90");
  assert.equal(clock(59.996), "1:00.00");
  assert.equal(clock(-1), "0:00.00");
});

test("moments are minutes, seconds and frames, also at broken rates", () => {
  assert.equal(timecode(89, { numerator: 30, denominator: 1 }), "0:02:29");
  assert.equal(timecode(30, { numerator: 30000, denominator: 1001 }), "0:01:00");
});

test("signs, sizes and counts are written out", () => {
  assert.equal(signed(-0.4), "−0.40 s");
  assert.equal(signed(0), "+0.00 s");
  assert.deepEqual([999, 1500, 2_340_000].map(size), ["999 bytes", "2 kB", "2.3 MB"]);
  assert.deepEqual(
    [counted(1, "line"), counted(3, "line"), counted(2, "piece", "pieces")],
    ["1 line", "3 lines", "2 pieces"],
  );
});

"""How many cuts, dissolves and fades of made joins are found, and how fast a file is looked through."""

import tempfile
import time
from collections import Counter
from pathlib import Path

import numpy as np

from fox_cadence.media.cut_finding import Change, changes, find_cuts
from fox_cadence.media.isolated import no_progress
from tests.media.joins import Made, film, joined, small

SET_BY = range(100, 112)
"""Seeds of the joins that the limits were set by."""

HELD_OUT = range(400, 424)
_CHANGES = 8
_RATE = 30


def rows() -> list[str]:
    """A table: joins the limits were set by and others, then the speed."""
    return [
        "| joins | changes | cuts | dissolves | fades | false | precision | recall | F1 |",
        "| --- | --- | --- | --- | --- | --- | --- | --- | --- |",
        _row("set by", SET_BY),
        _row("held out", HELD_OUT),
        "",
        _speed(),
    ]


def _row(name: str, seeds: range) -> str:
    made_of, found_of, false = Counter[str](), Counter[str](), 0
    for seed in seeds:
        rng = np.random.default_rng(seed)
        kinds = [str(kind) for kind in rng.choice(["cut", "dissolve", "fade"], _CHANGES, p=[0.5, 0.3, 0.2])]
        footage, made = joined(rng, kinds)
        left = changes(small(footage))
        for change in made:
            made_of[change.kind] += 1
            hit = next((each for each in left if _is(each, change)), None)
            if hit is not None:
                left.remove(hit)
                found_of[change.kind] += 1
        false += len(left)
    right, there = found_of.total(), made_of.total()
    precision, recall = right / (right + false), right / there
    kinds_found = " | ".join(f"{found_of[kind]} of {made_of[kind]}" for kind in ("cut", "dissolve", "fade"))
    f1 = 2 * precision * recall / (precision + recall)
    return f"| {name} | {there} | {kinds_found} | {false} | {precision:.3f} | {recall:.3f} | {f1:.3f} |"


def _is(found: Change, made: Made) -> bool:
    later = 1 if made.kind == "cut" else 3
    return found.kind == made.kind and made.first - 1 <= found.frame <= made.last + later


def _speed() -> str:
    footage, _ = joined(np.random.default_rng(1), ["cut", "dissolve", "fade", "cut"])
    with tempfile.TemporaryDirectory() as folder:
        path = film(Path(folder) / "joins.mp4", footage, _RATE, enlarged=15)
        began = time.perf_counter()
        find_cuts(path, no_progress)
        took = time.perf_counter() - began
    return f"1920 x 1080, {len(footage)} frames: {len(footage) / _RATE / took:.1f} times real time."

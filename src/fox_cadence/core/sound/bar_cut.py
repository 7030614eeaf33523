"""Cuts music to a length by whole bars: from its beginning to its ending, leaving out or repeating bars in
between where nobody hears it. The cost that is kept least is `JUMP` for each jump, and how unlike the bars on
both sides of it are.
"""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Grid = NDArray[np.float64]

JUMP = 0.6
"""What a jump costs between bars that are the same; one between any two bars of the piece costs about 2
more."""
_TEMPO = 20.0
"""What a jump costs for each share by which the bars around it differ in length."""
MOST_BARS = 240
"""Music is cut within so many bars of its beginning, and its ending."""
_LEAST_LOOP_BARS = 4
_CLOSE_S = 0.005


@dataclass(frozen=True, slots=True)
class BarCut:
    """Bars in the order in which they are played; after the last one comes the ending. `jumps` says after how
    many bars it jumps, `cost` what the jumps cost in all, and `hit_s` when the ending begins."""

    bars: tuple[int, ...]
    jumps: tuple[int, ...]
    cost: float
    hit_s: float


def unlikeness(features: Grid) -> Grid:
    """How unlike any two bars are, shape (bars, bars): their distance against the median of all."""
    squares = np.sum(features**2, axis=1)
    distances = np.sqrt(np.maximum(0, squares[:, np.newaxis] + squares - 2 * features @ features.T))
    others = distances[~np.eye(len(distances), dtype=bool)]
    middle = float(np.median(others)) if len(others) else 1.0
    return np.asarray(distances / middle if middle > 0 else distances)


def cut_by_bars(starts_s: Sequence[float], unlike: Grid, hit_s: float) -> BarCut:
    """The bars to play so that the ending begins at a second, or less than a bar after it.

    Args:
        starts_s: when each bar begins; at the last one the ending begins.
        unlike: how unlike the bars before the ending are, shape (bars, bars).

    Raises:
        ValueError: there are not two bars before the ending.
    """
    lengths = np.diff(np.asarray(starts_s, dtype=np.float64))
    count = len(lengths)
    if count < 2:
        raise ValueError("too few bars to cut")
    usual = float(np.median(lengths))
    wanted = max(1, round(hit_s / usual))
    tries = [_path(lengths, unlike, number) for number in (wanted, wanted + 1, wanted + 2)]
    # what is too much is taken off its beginning; what is too little could not be made up for
    enough = [cut for cut in tries if cut.hit_s >= hit_s - _CLOSE_S] or tries[-1:]
    return min(enough, key=lambda cut: (int((cut.hit_s - hit_s + _CLOSE_S) / usual), cut.cost))


def _path(lengths: Grid, unlike: Grid, number: int) -> BarCut:
    """The least costly way from the first bar to the ending in so many bars."""
    count = len(lengths)
    goes = _jump_costs(lengths, unlike)
    cost = np.full(count, np.inf)
    cost[0] = 0.0
    if number < 3:
        cost[:] = JUMP  # so short a piece may begin anywhere
        cost[0] = 0.0
    came = np.zeros((number, count), np.int64)
    for step in range(1, number):
        ways = cost[:, np.newaxis] + goes
        came[step] = np.argmin(ways, axis=0)
        cost = ways[came[step], np.arange(count)]
    # into the ending as from the last bar before it
    last = cost + _into_ending(unlike, lengths)
    at = int(np.argmin(last))
    bars = [at]
    for step in range(number - 1, 0, -1):
        bars.append(int(came[step][bars[-1]]))
    bars.reverse()
    jumps = [place + 1 for place, (a, b) in enumerate(itertools.pairwise(bars)) if b != a + 1]
    if bars[-1] != count - 1:
        jumps.append(len(bars))
    return BarCut(tuple(bars), tuple(jumps), float(last[at]), float(lengths[bars].sum()))


def _jump_costs(lengths: Grid, unlike: Grid) -> Grid:
    """What it costs to play one bar after another: nothing where it comes next, else how unlike it is to what
    would have come, and what was played to what would have come before it."""
    count = len(lengths)
    follows = np.full((count, count), 2.0)
    follows[:-1] = unlike[1:]  # the bar jumped to, against the one that would have come
    before = np.full((count, count), 2.0)
    before[:, 1:] = unlike[:, :-1]  # the bar jumped from, against the one that came before there
    tempo = np.abs(np.log(lengths[:, np.newaxis] / lengths)) * _TEMPO
    costs = JUMP + follows + before + tempo
    costs[np.arange(count - 1), np.arange(1, count)] = 0.0
    return np.asarray(costs)


def _into_ending(unlike: Grid, lengths: Grid) -> Grid:
    count = len(lengths)
    costs = JUMP + 2 * unlike[:, count - 1] + np.abs(np.log(lengths / lengths[-1])) * _TEMPO
    costs[count - 1] = 0.0
    return np.asarray(costs)


def loop_of(starts_s: Sequence[float], unlike: Grid) -> tuple[int, int] | None:
    """The bars [first, end) that can be repeated best: that which comes after them is like that which they
    begin with; longer ones before shorter where both are alike. None where there are too few."""
    count = len(unlike)
    best: tuple[float, int, int] | None = None
    for first in range(count):
        for end in range(first + _LEAST_LOOP_BARS, count):
            before = unlike[first - 1, end - 1] if first else 0.5
            seam = unlike[first, end] + before
            four = 0.0 if (end - first) % 4 == 0 else 0.4
            cost = float(seam) + four - 0.01 * (end - first)
            if best is None or cost < best[0]:
                best = cost, first, end
    return None if best is None else (best[1], best[2])

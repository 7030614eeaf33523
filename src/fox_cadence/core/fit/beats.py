"""Cuts on beats: for each chosen cut the beat that keeps the total cost least, found by branch and bound.

The relaxed fit says where a cut would like to be; where that is between two beats, either the cut comes no
later than the one before, or no earlier than the one after (Land and Doig, 1960). A branch whose cost is
above the best found is dropped. With few cuts on beats this ends with the best choice; past `MOST_SOLVES`
solves the best so far is taken.
"""

import heapq
import itertools
from bisect import bisect_right
from dataclasses import dataclass, replace

import numpy as np

from fox_cadence.core.fit.problem import FitProblem, Floats
from fox_cadence.core.fit.program import build_program
from fox_cadence.core.fit.solver import Solution, Status, solve

MOST_SOLVES = 80
_ON_BEAT_S = 1e-6


@dataclass(frozen=True)
class OnBeats:
    """The problem with its chosen cuts held on beats (`None` where there is no such choice), and whether it
    is proven that no other choice costs less."""

    problem: FitProblem | None
    proven: bool


def hold_on_beats(problem: FitProblem, anchors: list[int], beats_s: list[float]) -> OnBeats:
    """Choose a beat for each of the anchors (indices into the problem's anchors)."""
    frames = sorted({round(beat / problem.frame_s) for beat in beats_s})
    beats = [frame * problem.frame_s for frame in frames]
    count = itertools.count()
    best: tuple[float, FitProblem] | None = None
    solves = 0
    queue: list[tuple[float, int, FitProblem, Solution]] = []

    def push(candidate: FitProblem) -> None:
        nonlocal solves
        solves += 1
        solution = solve(build_program(candidate))
        if solution.status is Status.SOLVED and (best is None or solution.cost < best[0] - 1e-9):
            heapq.heappush(queue, (solution.cost, next(count), candidate, solution))

    push(problem)
    if queue:
        dive = _dive(queue[0][2], queue[0][3], anchors, beats)
        if dive is not None:
            solution = solve(build_program(dive))
            if solution.status is Status.SOLVED:
                best = (solution.cost, dive)
    while queue and solves < MOST_SOLVES:
        cost, _, candidate, solution = heapq.heappop(queue)
        if best is not None and cost >= best[0] - 1e-9:
            break
        times = _anchor_times(candidate, solution)
        off = [(abs(_nearest(beats, times[anchor]) - times[anchor]), anchor) for anchor in anchors]
        worst, anchor = max(off, default=(0.0, -1))
        if worst < _ON_BEAT_S:
            fixed = candidate
            for each in anchors:
                beat = _nearest(beats, times[each])
                fixed = _bounded(fixed, each, beat, beat)
            best = (cost, fixed)
            continue
        place = bisect_right(beats, times[anchor])
        if place > 0:
            push(_bounded(candidate, anchor, -np.inf, beats[place - 1]))
        if place < len(beats):
            push(_bounded(candidate, anchor, beats[place], np.inf))
    proven = not queue or (best is not None and queue[0][0] >= best[0] - 1e-9)
    return OnBeats(best[1] if best else None, proven)


def _anchor_times(problem: FitProblem, solution: Solution) -> Floats:
    start = len(problem.shots)
    return np.asarray(solution.x[start : start + len(problem.shots.anchors)])


def _nearest(beats: list[float], time: float) -> float:
    return min(beats, key=lambda beat: abs(beat - time), default=time)


def _bounded(problem: FitProblem, anchor: int, low: float, high: float) -> FitProblem:
    shots = problem.shots
    lows, highs = shots.anchor_low.copy(), shots.anchor_high.copy()
    lows[anchor], highs[anchor] = max(lows[anchor], low), min(highs[anchor], high)
    return replace(problem, shots=replace(shots, anchor_low=lows, anchor_high=highs))


def _dive(
    problem: FitProblem, solution: Solution, anchors: list[int], beats: list[float]
) -> FitProblem | None:
    """A first choice: each cut on the beat nearest to where it would like to be, never two on one beat."""
    times = _anchor_times(problem, solution)
    made, last = problem, -np.inf
    for anchor in sorted(anchors):
        later = [beat for beat in beats if beat > last]
        if not later:
            return None
        beat = _nearest(later, times[anchor])
        made, last = _bounded(made, anchor, beat, beat), beat
    return made

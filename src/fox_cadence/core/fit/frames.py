"""From the solver's shot lengths to whole frames, so that a rule that held before rounding holds after it."""

from dataclasses import dataclass, replace

import numpy as np

from fox_cadence.core.fit.problem import FitProblem, Floats, Ints
from fox_cadence.core.fit.program import Program, build_program
from fox_cadence.core.fit.solver import Solution, Status, solve

_MOST_TRIES = 24
_WORSE_S = 1e-6


@dataclass(frozen=True)
class WholeFrames:
    """Shot lengths in frames, and the program and its solution with those lengths fixed."""

    frames: Ints
    program: Program
    solution: Solution


def settle_on_frames(problem: FitProblem, solution: Solution) -> WholeFrames:
    """Round the cuts, solve again for the speech, and where that cost a line its room try the other neighbour."""
    n = problem.shots
    exact = np.cumsum(solution.x[:n]) / problem.frame_s
    low = np.ceil(problem.shortest / problem.frame_s - 1e-6).astype(np.int64)
    high = np.floor(problem.longest / problem.frame_s + 1e-6).astype(np.int64)
    held = _held_cuts(problem)
    most = int(np.floor(problem.longest_total / problem.frame_s + 1e-6)) if problem.longest_total is not None else None
    cuts = _round_cuts(exact, low, high, held, most)
    best = _solve_fixed(problem, cuts)
    wanted_spill = _spill(problem, solution.x)

    def total(found: WholeFrames) -> float:
        if found.solution.status is not Status.SOLVED:
            return float("inf")
        return float(np.sum(np.maximum(_spill(problem, found.solution.x) - wanted_spill, 0)))

    for position in _suspects(problem, best, wanted_spill):
        if total(best) <= _WORSE_S:
            break
        best = min([best, *_neighbours(problem, best, position, low, high, held, most)], key=total)
    return best


def _held_cuts(problem: FitProblem) -> dict[int, int]:
    """Frame of each cut that may not move, by the index of the shot that ends there."""
    held = np.flatnonzero(problem.start_held)
    return {int(shot) - 1: round(float(problem.start[shot]) / problem.frame_s) for shot in held if shot > 0}


def _round_cuts(exact: Floats, low: Ints, high: Ints, held: dict[int, int], most: int | None) -> Ints:
    """The nearest frame for each cut within the limits of its shot, in one pass down and one pass up."""
    cuts: list[int] = []
    at = 0
    for index, value in enumerate(exact):
        frame = held.get(index, int(np.floor(value + 0.5)))
        at = min(max(frame, at + int(low[index])), at + int(high[index]))
        cuts.append(at)
    if most is not None and cuts and cuts[-1] > most:
        cuts[-1] = most
    for index in range(len(cuts) - 1, 0, -1):
        above = cuts[index] - int(low[index])
        below = cuts[index] - int(high[index])
        cuts[index - 1] = max(min(cuts[index - 1], above), below)
    return np.array(cuts, dtype=np.int64)


def _solve_fixed(problem: FitProblem, cuts: Ints) -> WholeFrames:
    lengths = np.diff(cuts, prepend=0)
    fixed = lengths * problem.frame_s
    program = build_program(
        replace(
            problem,
            shortest=fixed,
            longest=fixed,
            start_held=np.zeros(problem.shots, dtype=np.bool_),
            longest_total=None,
        )
    )
    return WholeFrames(lengths, program, solve(program))


def _spill(problem: FitProblem, x: Floats) -> Floats:
    return np.maximum(x[problem.shots + 3 * problem.lines :], 0)


def _suspects(problem: FitProblem, found: WholeFrames, wanted_spill: Floats) -> list[int]:
    """Cuts whose rounding may have cost a line its room: those around lines that spill more than before."""
    if found.solution.status is not Status.SOLVED:
        return list(range(min(problem.shots, _MOST_TRIES)))
    worse = np.flatnonzero(_spill(problem, found.solution.x) - wanted_spill > _WORSE_S)
    order: list[int] = []
    for line in worse:
        for cut in (int(problem.until[line]) - 1, int(problem.first[line]) - 1):
            if cut >= 0 and cut not in order:
                order.append(cut)
    return order[:_MOST_TRIES]


def _neighbours(
    problem: FitProblem,
    found: WholeFrames,
    position: int,
    low: Ints,
    high: Ints,
    held: dict[int, int],
    most: int | None,
) -> list[WholeFrames]:
    """The same cuts with one of them, or all from it on, a frame earlier or later, where the limits allow it."""
    cuts = np.cumsum(found.frames)
    answers: list[WholeFrames] = []
    for step in (1, -1):
        for end_exclusive in (position + 1, len(cuts)):
            changed = cuts.copy()
            changed[position:end_exclusive] += step
            lengths = np.diff(changed, prepend=0)
            kept = all(changed[index] == frame for index, frame in held.items())
            if kept and (lengths >= low).all() and (lengths <= high).all() and (most is None or changed[-1] <= most):
                answers.append(_solve_fixed(problem, changed))
    return answers

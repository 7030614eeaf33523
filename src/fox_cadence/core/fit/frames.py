"""From the solver's shot lengths to whole frames, so that a rule that held before rounding holds after it."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from fox_cadence.core.fit.active_set import ActiveSet
from fox_cadence.core.fit.problem import FitProblem, Flags, Floats, Ints
from fox_cadence.core.fit.program import Program, build_program
from fox_cadence.core.fit.rows import Rule
from fox_cadence.core.fit.solver import Solution, Solver, Status

_MOST_TRIES = 24
_WORSE_S = 1e-6
_ON_FRAME = 1e-6
_SLIP_WEIGHT = 10.0
_FARTHEST = 2.0
"""Frames: as far as a cut may be from where the solver put it, one by rounding and one for a line's room."""
_PRESSED = 1.0  # a second of spill costs 120
_NEARLY = 1e-3


@dataclass(frozen=True)
class WholeFrames:
    """Shot lengths in frames, and the program and its solution with those lengths fixed."""

    frames: Ints
    program: Program
    solution: Solution

    @property
    def slip_s(self) -> Floats:
        """By how much each sync point is missed after rounding (later is above 0)."""
        columns = self.program.columns
        if len(columns.slip_later) == 0:
            return np.zeros(len(self.program.rows(Rule.SYNC)[0]))
        return np.asarray(self.solution.x[columns.slip_later] - self.solution.x[columns.slip_earlier])


@dataclass(frozen=True)
class _Grid:
    """Limits of the cuts in frames. A step is a shot's length less its overlap with the next."""

    low: Ints
    high: Ints
    overlap: Ints
    cut_low: Ints
    cut_high: Ints

    def allows(self, cuts: Ints) -> bool:
        steps = _steps(cuts)
        return bool(
            (steps >= self.low).all()
            and (steps <= self.high).all()
            and (cuts >= self.cut_low).all()
            and (cuts <= self.cut_high).all()
        )


def _steps(cuts: Ints) -> Ints:
    """From one cut to the next, beginning at 0."""
    return np.asarray(cuts - np.concatenate([[0], cuts[:-1]]), dtype=np.int64)


def _grid(problem: FitProblem) -> _Grid:
    frame, shots, limits = problem.frame_s, problem.shots, problem.limits
    overlap = np.rint(shots.overlap / frame).astype(np.int64)
    n = len(shots)
    cut_low, cut_high = np.zeros(n, dtype=np.int64), np.full(n, np.iinfo(np.int64).max // 4)
    places = shots.anchors - 1
    cut_low[places] = np.ceil(shots.anchor_low / frame - _ON_FRAME).astype(np.int64)
    cut_high[places] = np.floor(shots.anchor_high / frame + _ON_FRAME).astype(np.int64)
    if limits.longest_total is not None:
        cut_high[-1] = min(cut_high[-1], int(np.floor(limits.longest_total / frame + _ON_FRAME)))
        if limits.total_fixed:
            cut_low[-1] = cut_high[-1]
    if limits.shortest_total is not None:
        cut_low[-1] = max(cut_low[-1], int(np.ceil(limits.shortest_total / frame - _ON_FRAME)))
    return _Grid(
        np.ceil(shots.shortest / frame - _ON_FRAME).astype(np.int64) - overlap,
        np.floor(shots.longest / frame + _ON_FRAME).astype(np.int64) - overlap,
        overlap,
        cut_low,
        cut_high,
    )


def settle_on_frames(
    problem: FitProblem, program: Program, solution: Solution, binding: ActiveSet | None = None
) -> WholeFrames:
    """Round the cuts, solve again for the speech, and where that cost a line its room try the other
    neighbour."""
    grid = _grid(problem)
    lengths = solution.x[program.columns.shot]
    exact = np.cumsum(lengths - problem.shots.overlap) / problem.frame_s
    nearest = np.rint(exact)
    if (
        len(problem.syncs) == 0
        and np.max(np.abs(exact - nearest), initial=0) < _ON_FRAME
        and grid.allows(nearest.astype(np.int64))
    ):
        frames = _steps(nearest.astype(np.int64)) + grid.overlap
        return WholeFrames(frames, program, solution)
    spill = solution.x[program.columns.spill]
    fixed = _Fixed(problem, program, grid, solution, binding or ActiveSet(program))
    best = fixed.solve(_round_cuts(exact, _leaning(problem, program, solution), grid))
    for position in _suspects(problem, best, spill):
        if _worse(best, spill) <= _WORSE_S:
            break
        tries = [best, *(fixed.solve(cuts) for cuts in _neighbours(grid, exact, best, position))]
        best = min(tries, key=lambda found: _worse(found, spill))
    return best


def _leaning(problem: FitProblem, program: Program, solution: Solution) -> Floats:
    """For each cut what is added before rounding down: a half, or nearly 1 or 0 where lines press it later or
    earlier.

    The price of a line's window says how it presses: a line that is as fast as it may be has no other room,
    and half a frame taken from it would run over the cut.
    """
    press = np.zeros(len(problem.shots) + 1)
    lines = problem.lines
    if len(lines):
        np.add.at(press, lines.until, np.maximum(solution.duals[program.rows(Rule.END)[0]], 0))
        np.add.at(press, lines.led_shot, np.maximum(solution.duals[program.rows(Rule.LED_END)[0]], 0))
        np.add.at(press, lines.first, np.minimum(solution.duals[program.rows(Rule.START)[0]], 0))
    # a cut just between two frames goes to the later one, whatever the solver's last digit
    middle = 0.5 + _ON_FRAME
    return np.where(press > _PRESSED, 1 - _NEARLY, np.where(press < -_PRESSED, _NEARLY, middle))[1:]


def _worse(found: WholeFrames, wanted_spill: Floats) -> float:
    """Seconds of spill that rounding has added, and of sync points missed, which weigh more."""
    if found.solution.status is not Status.SOLVED:
        return float("inf")
    spill = found.solution.x[found.program.columns.spill]
    slip = np.maximum(np.abs(found.slip_s) - _WORSE_S, 0)
    return float(np.sum(np.maximum(spill - wanted_spill, 0)) + _SLIP_WEIGHT * np.sum(slip))


def _round_cuts(exact: Floats, added: Floats, grid: _Grid) -> Ints:
    """A near frame for each cut within the limits of its shot, in one pass down and one pass up."""
    shortest, longest, cut_low, cut_high = (
        each.tolist() for each in (grid.low, grid.high, grid.cut_low, grid.cut_high)
    )
    low: list[int] = []
    high: list[int] = []
    at_low = at_high = 0
    for index, least in enumerate(shortest):  # what can be reached at all, from the start
        at_low = max(at_low + least, cut_low[index])
        at_high = min(at_high + longest[index], cut_high[index])
        low.append(at_low)
        high.append(at_high)
    for index in range(len(low) - 2, -1, -1):  # and from which the end can be reached
        low[index] = max(low[index], low[index + 1] - longest[index + 1])
        high[index] = min(high[index], high[index + 1] - shortest[index + 1])
    cuts: list[int] = []
    at = 0
    for index, wanted in enumerate(np.floor(exact + added).astype(np.int64).tolist()):
        least = max(low[index], at + shortest[index])
        most = min(high[index], at + longest[index])
        at = min(max(wanted, least), max(least, most))
        cuts.append(at)
    return np.array(cuts, dtype=np.int64)


class _Fixed:
    """The fit with its cuts given: the same program with other bounds. Sync points that can't be met may
    slip.

    What binds in the answer before rounding mostly binds after it, so that an answer follows from there; only
    where it does not is the program solved again.
    """

    def __init__(
        self, problem: FitProblem, relaxed: Program, grid: _Grid, near: Solution, binding: ActiveSet
    ) -> None:
        self._problem, self._relaxed, self._grid = problem, relaxed, grid
        self._near, self._binding = near, binding
        self._solver: Solver | None = None

    def solve(self, cuts: Ints) -> WholeFrames:
        frames = _steps(cuts) + self._grid.overlap
        lengths = np.asarray(frames * self._problem.frame_s, dtype=np.float64)
        program = _with_lengths(self._relaxed, lengths)
        solution = self._binding.solve(program.lower, program.upper, self._near) or self._solved(program)
        if solution.status is not Status.SOLVED and len(self._problem.syncs):
            program = _with_lengths(build_program(self._problem, elastic=True), lengths)
            solution = Solver(program).solve()
        elif solution.status is Status.SOLVED:
            self._near = solution
        return WholeFrames(frames, program, solution)

    def _solved(self, program: Program) -> Solution:
        if self._solver is None:
            self._solver = Solver(program)
            return self._solver.solve()
        return self._solver.solve_within(program.lower, program.upper)


def _with_lengths(program: Program, lengths: Floats) -> Program:
    """The program with given shot lengths; what they settle (held cuts, the total) need not be asked for
    again."""
    lower, upper = program.lower.copy(), program.upper.copy()
    rows, _ = program.rows(Rule.SHOT_LENGTH)
    lower[rows] = upper[rows] = lengths
    for rule in (Rule.ANCHOR_BOUND, Rule.TOTAL):
        rows, _ = program.rows(rule)
        lower[rows], upper[rows] = -np.inf, np.inf
    return replace(program, lower=lower, upper=upper)


def _suspects(problem: FitProblem, found: WholeFrames, wanted_spill: Floats) -> list[int]:
    """Cuts whose rounding may have cost a line its room: those around lines that spill more, or whose sync
    slips."""
    if found.solution.status is not Status.SOLVED:
        return list(range(min(len(problem.shots), _MOST_TRIES)))
    spill = found.solution.x[found.program.columns.spill]
    order: list[int] = []
    lines = problem.lines
    worse: Flags = spill - wanted_spill > _WORSE_S
    for sync in np.flatnonzero(np.abs(found.slip_s) > _WORSE_S):
        order += [int(problem.syncs.shot[sync]) - 1]
        worse[problem.spans.line[problem.syncs.span[sync]]] = True
    for line in np.flatnonzero(worse):
        led = lines.led_shot[lines.led == line]
        order += [int(shot) - 1 for shot in (lines.until[line], lines.first[line], *led)]
    return [cut for cut in dict.fromkeys(order) if cut >= 0][:_MOST_TRIES]


def _neighbours(grid: _Grid, exact: Floats, found: WholeFrames, position: int) -> Iterator[Ints]:
    """The same cuts with one of them, or all from it on, a frame earlier or later, where the limits allow
    it and none is moved too far: several lines may each want all that follows moved."""
    cuts = np.cumsum(found.frames - grid.overlap)
    farthest = np.maximum(np.abs(cuts - exact), _FARTHEST)
    for step in (1, -1):
        for end_exclusive in (position + 1, len(cuts)):
            changed = cuts.copy()
            changed[position:end_exclusive] += step
            if grid.allows(changed) and (np.abs(changed - exact) <= farthest).all():
                yield changed

"""The fit as a sparse convex quadratic program: minimise x'Px/2 + q'x + constant, so that lower <= Ax <= upper.

Unknowns: the length of each shot, then for each line its offset from the start of its first shot, its voiced length,
its total of pauses and its spill. Lengths and offsets, not times of the piece: rows stay short and well scaled.
"""

from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from scipy import sparse

from fox_cadence.core.fit.problem import FitProblem, Floats, Ints
from fox_cadence.core.fit.weights import WEIGHTS, Weights


class Rule(StrEnum):
    """What a row of A stands for; the row's object is a shot or a line."""

    SHOT_LENGTH = "shot length"
    HELD_CUT = "held cut"
    TOTAL = "longest length"
    START = "window start"
    END = "window end"
    ORDER = "order"
    PACE = "pace"
    PAUSES = "pauses"
    SPILL = "spill"


@dataclass(frozen=True)
class RowGroup:
    """Consecutive rows of one rule; `objects` are indices of shots or lines."""

    rule: Rule
    first_row: int
    objects: Ints


@dataclass(frozen=True)
class Program:
    """The matrices, and what their rows and columns mean."""

    P: sparse.csc_matrix
    q: Floats
    constant: float
    A: sparse.csc_matrix
    lower: Floats
    upper: Floats
    groups: tuple[RowGroup, ...]
    shots: int
    lines: int

    def columns(self, block: int) -> slice:
        """Columns of a block of line unknowns: 0 offset, 1 voiced, 2 pauses, 3 spill."""
        start = self.shots + block * self.lines
        return slice(start, start + self.lines)

    def cost(self, x: Floats) -> float:
        return float(0.5 * x @ (self.P @ x) + self.q @ x + self.constant)


class _Rows:
    """Collects rows as coordinate arrays."""

    def __init__(self) -> None:
        self.parts: list[tuple[Ints, Ints, Floats]] = []
        self.lower: list[Floats] = []
        self.upper: list[Floats] = []
        self.groups: list[RowGroup] = []
        self.count = 0

    def add(
        self, rule: Rule, objects: Ints, entries: list[tuple[Ints, Ints, Floats]], lower: Floats, upper: Floats
    ) -> None:
        """Add a row an object; each entry holds row numbers inside the group, columns and values."""
        for rows, columns, values in entries:
            self.parts.append((rows + self.count, columns, values))
        self.lower.append(lower)
        self.upper.append(upper)
        self.groups.append(RowGroup(rule, self.count, objects))
        self.count += len(objects)

    def matrix(self, columns: int) -> sparse.csc_matrix:
        rows = np.concatenate([part[0] for part in self.parts])
        cols = np.concatenate([part[1] for part in self.parts])
        values = np.concatenate([part[2] for part in self.parts])
        return sparse.csc_matrix((values, (rows, cols)), shape=(self.count, columns))


def _runs(first: Ints, end_exclusive: Ints) -> tuple[Ints, Ints]:
    """For each i all integers of [first_i, end_i): the row numbers and the integers, flat."""
    counts = np.maximum(end_exclusive - first, 0)
    rows = np.repeat(np.arange(len(first)), counts)
    starts = np.cumsum(counts) - counts
    return rows, np.arange(int(counts.sum())) - np.repeat(starts, counts) + np.repeat(first, counts)


def build_program(problem: FitProblem, weights: Weights = WEIGHTS) -> Program:
    """Write a fit problem as matrices."""
    n, m = problem.shots, problem.lines
    offset, voiced, pauses, spill = (n + block * m + np.arange(m) for block in range(4))
    P, q, constant = _costs(problem, weights)
    rows = _Rows()
    every_shot, every_line = np.arange(n), np.arange(m)
    ones_m, infinite = np.ones(m), np.full(m, np.inf)

    rows.add(Rule.SHOT_LENGTH, every_shot, [(every_shot, every_shot, np.ones(n))], problem.shortest, problem.longest)
    _add_held_cuts(rows, problem)
    if problem.longest_total is not None and n:
        rows.add(
            Rule.TOTAL,
            np.zeros(1, dtype=np.int64),
            [(np.zeros(n, dtype=np.int64), every_shot, np.ones(n))],
            np.array([-np.inf]),
            np.array([problem.longest_total]),
        )
    if m:
        fixed = ~np.isnan(problem.fixed_start)
        start_low = np.where(fixed, problem.fixed_start, problem.offset_min)
        start_high = np.where(fixed, problem.fixed_start, np.inf)
        rows.add(Rule.START, every_line, [(every_line, offset, ones_m)], start_low, start_high)
        in_rows, in_shots = _runs(problem.first, problem.until)
        rows.add(
            Rule.END,
            every_line,
            [
                (every_line, offset, ones_m),
                (every_line, voiced, ones_m),
                (every_line, pauses, ones_m),
                (every_line, spill, -ones_m),
                (in_rows, in_shots, -np.ones(len(in_rows))),
            ],
            -infinite,
            -problem.end_margin,
        )
        _add_order(rows, problem, offset, voiced, pauses)
        low = np.where(problem.adapts, problem.voiced / problem.fastest, problem.voiced)
        high = np.where(problem.adapts, problem.voiced / problem.slowest, problem.voiced)
        low, high = (np.where(fixed, problem.fixed_voiced, bound) for bound in (low, high))
        rows.add(Rule.PACE, every_line, [(every_line, voiced, ones_m)], low, high)
        low = np.where(problem.adapts, problem.least_pauses, problem.pauses)
        low, high = (np.where(fixed, problem.fixed_pauses, bound) for bound in (low, problem.pauses))
        rows.add(Rule.PAUSES, every_line, [(every_line, pauses, ones_m)], low, high)
        rows.add(Rule.SPILL, every_line, [(every_line, spill, ones_m)], np.zeros(m), infinite)
    return Program(
        P=P,
        q=q,
        constant=constant,
        A=rows.matrix(n + 4 * m),
        lower=np.concatenate(rows.lower),
        upper=np.concatenate(rows.upper),
        groups=tuple(rows.groups),
        shots=n,
        lines=m,
    )


def _add_held_cuts(rows: _Rows, problem: FitProblem) -> None:
    """A held start fixes the sum of the shots since the held start before it: each shot stands in one row only."""
    held = np.flatnonzero(problem.start_held)
    if len(held) == 0:
        return
    before = np.concatenate([[0], held[:-1]])
    begins = np.concatenate([[0.0], problem.start[held[:-1]]])
    length = problem.start[held] - begins
    real = held > before
    row, shot = _runs(before[real], held[real])
    rows.add(Rule.HELD_CUT, held[real], [(row, shot, np.ones(len(row)))], length[real], length[real])


def _add_order(rows: _Rows, problem: FitProblem, offset: Ints, voiced: Ints, pauses: Ints) -> None:
    """Start of a line - end of the line before it >= gap, over the shots between their first shots."""
    count = problem.lines - 1
    if count < 1:
        return
    every = np.arange(count)
    one = np.ones(count)
    between_rows, between_shots = _runs(problem.first[:-1], problem.first[1:])
    rows.add(
        Rule.ORDER,
        every + 1,
        [
            (every, offset[1:], one),
            (between_rows, between_shots, np.ones(len(between_rows))),
            (every, offset[:-1], -one),
            (every, voiced[:-1], -one),
            (every, pauses[:-1], -one),
        ],
        problem.gap[1:],
        np.full(count, np.inf),
    )


def _steepness(problem: FitProblem) -> float:
    """By how much a second costs more on the shortest line or shot than on one of a second.

    Costs are relative to lengths, the spill is in seconds: without this, shortening a line of a tenth of a second
    would cost more than letting it spill.
    """
    shortest = min(np.min(problem.voiced, initial=1.0), np.min(problem.wanted, initial=1.0))
    return 1 / max(0.02, float(shortest))


def _costs(problem: FitProblem, weights: Weights) -> tuple[sparse.csc_matrix, Floats, float]:
    """The squares and prices of the weights table as P (both halves), q and a constant."""
    n, m = problem.shots, problem.lines
    diagonal = np.zeros(n + 4 * m)
    q = np.zeros(n + 4 * m)
    constant = 0.0

    def square(columns: slice, weight: Floats, scale: Floats, target: Floats) -> None:
        """Add weight * ((x - target) / scale)^2."""
        nonlocal constant
        diagonal[columns] += 2 * weight / scale**2
        q[columns] -= 2 * weight * target / scale**2
        constant += float(np.sum(weight * (target / scale) ** 2))

    def block(number: int) -> slice:
        return slice(n + number * m, n + (number + 1) * m)

    shot_weight = np.where(problem.voice_leads, weights.shot_when_voice_leads, weights.shot)
    square(slice(0, n), shot_weight, problem.wanted, problem.wanted)
    square(block(0), np.full(m, weights.displacement_per_s2), np.ones(m), problem.ideal)
    square(block(1), np.full(m, weights.pace), problem.voiced, problem.voiced)
    has_pauses = np.where(problem.pauses > 0, weights.pause, 0.0)
    square(block(2), has_pauses, np.where(problem.pauses > 0, problem.pauses, 1.0), problem.pauses)
    diagonal[block(3)] += 2 * weights.spill_per_s2
    q[block(3)] += weights.spill_per_s * _steepness(problem)

    pairs = np.flatnonzero(problem.same_voice)
    here, before = n + m + pairs, n + m + pairs - 1
    scale_here, scale_before = 1 / problem.voiced[pairs], 1 / problem.voiced[pairs - 1]
    diagonal[here] += 2 * weights.evenness * scale_here**2
    np.add.at(diagonal, before, 2 * weights.evenness * scale_before**2)
    cross = -2 * weights.evenness * scale_here * scale_before
    size = n + 4 * m
    P = sparse.csc_matrix(
        (
            np.concatenate([diagonal, cross, cross]),
            (
                np.concatenate([np.arange(size), here, before]),
                np.concatenate([np.arange(size), before, here]),
            ),
        ),
        shape=(size, size),
    )
    return P, q, constant

"""The fit as a sparse convex quadratic program: minimise x'Px/2 + q'x + constant, so that lower <= Ax <=
upper.

Lengths and offsets are the unknowns, not times of the piece: rows stay short and well scaled (columns.py).
Absolute times stand only where something is held in the piece, as anchors chained from one to the next.
"""

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from fox_cadence.core.fit.columns import Columns, lay_columns
from fox_cadence.core.fit.costs import write_costs
from fox_cadence.core.fit.problem import FitProblem, Flags, Floats, Ints, WordEdges
from fox_cadence.core.fit.rows import Entries, RowGroup, Rows, Rule
from fox_cadence.core.fit.weights import WEIGHTS, Weights

if TYPE_CHECKING:
    from scipy import sparse

INFINITE = np.inf


@dataclass(frozen=True)
class Program:
    """The matrices, and what their rows and columns mean."""

    P: "sparse.csc_matrix"
    q: Floats
    constant: float
    A: "sparse.csc_matrix"
    lower: Floats
    upper: Floats
    groups: tuple[RowGroup, ...]
    columns: Columns

    def cost(self, x: Floats) -> float:
        """½ xᵀPx + qᵀx and the constant: what the solver makes least."""
        return float(0.5 * x @ (self.P @ x) + self.q @ x + self.constant)

    def rows(self, rule: Rule) -> tuple[Ints, Ints]:
        """Row numbers of a rule and their objects."""
        found = [group for group in self.groups if group.rule is rule]
        empty = np.zeros(0, dtype=np.int64)
        rows = [np.arange(group.first_row, group.first_row + len(group.objects)) for group in found]
        return np.concatenate([empty, *rows]), np.concatenate([empty, *(group.objects for group in found)])


def build_program(problem: FitProblem, weights: Weights = WEIGHTS, elastic: bool = False) -> Program:
    """Write a fit problem as matrices; `elastic` lets sync points slip, at a price."""
    columns = lay_columns(problem, elastic)
    writer = _Writer(problem, columns)
    writer.shots()
    if len(problem.lines):
        writer.lines()
        writer.spans()
    if len(problem.syncs):
        writer.syncs()
    if len(problem.captions):
        writer.captions()
    costs = write_costs(problem, columns, weights)
    lower, upper = writer.rows.bounds()
    matrix = writer.rows.matrix(columns.count)
    return Program(costs.P, costs.q, costs.constant, matrix, lower, upper, tuple(writer.rows.groups), columns)


class _Writer:
    """Writes the rules, a method a kind of object."""

    def __init__(self, problem: FitProblem, columns: Columns) -> None:
        self.problem, self.c, self.rows = problem, columns, Rows()
        self._overlap_before = np.concatenate([[0.0], np.cumsum(problem.shots.overlap)])
        self._written_before = np.concatenate([[0.0], np.cumsum(problem.spans.written)])

    # parts of rows

    def _between(self, entries: Entries, a: Ints, b: Ints, sign: float) -> None:
        """sign * (start of shot b - start of shot a)."""
        entries.put_runs(a, b, self.c.shot, sign)
        entries.put_runs(b, a, self.c.shot, -sign)
        entries.add_constant(-sign * (self._overlap_before[b] - self._overlap_before[a]))

    def _spans_until(self, entries: Entries, lines: Ints, end_span: Ints, sign: float) -> None:
        """sign * (offset of lines and the lengths of their spans before `end_span`)."""
        first = self.problem.lines.first_span[lines]
        entries.put(self.c.offset[lines], sign)
        entries.put_runs(first, end_span, self.c.voiced, sign)
        entries.put_runs(first, end_span, self.c.pauses, sign)
        entries.add_constant(sign * (self._written_before[end_span] - self._written_before[first]))

    def _word(self, entries: Entries, lines: Ints, edges: WordEdges, chosen: Ints, sign: float) -> None:
        """sign * (the time of words after the start of their line's first shot)."""
        span = edges.span[chosen]
        self._spans_until(entries, lines, span, sign)
        entries.put(self.c.voiced[span], sign * edges.voiced_share[chosen])
        entries.put(self.c.pauses[span], sign * edges.pause_share[chosen])
        entries.add_constant(sign * edges.constant[chosen])

    # rules

    def shots(self) -> None:
        shots, rows, c = self.problem.shots, self.rows, self.c
        every = np.arange(len(shots))
        rows.add(Rule.SHOT_LENGTH, every, shots.shortest, shots.longest).put(c.shot, 1.0)
        anchors = shots.anchors
        last = np.zeros(1, dtype=np.int64)
        if len(anchors):
            # each anchor is the one before it plus the shots between: every shot stands in one chain row only
            before = np.concatenate([[0], anchors[:-1]])
            chain = rows.add(Rule.ANCHOR, np.arange(len(anchors)), 0.0, 0.0)
            chain.put(c.anchor, 1.0).put(np.concatenate([[-1], c.anchor[:-1]]), -1.0)
            self._between(chain, before, anchors, -1.0)
            bound = rows.add(Rule.ANCHOR_BOUND, np.arange(len(anchors)), shots.anchor_low, shots.anchor_high)
            bound.put(c.anchor, 1.0)
            last = anchors[-1:]
        limits = self.problem.limits
        if (limits.longest_total is not None or limits.shortest_total is not None) and len(shots):
            most = INFINITE if limits.longest_total is None else limits.longest_total
            least = -INFINITE if limits.shortest_total is None else limits.shortest_total
            row = rows.add(
                Rule.TOTAL, np.zeros(1, dtype=np.int64), most if limits.total_fixed else least, most
            )
            if len(anchors):
                row.put(c.anchor[-1:], 1.0)
            self._between(row, last, np.array([len(shots)]), 1.0)

    def lines(self) -> None:
        p, c, rows = self.problem.lines, self.c, self.rows
        every = np.arange(len(p))
        fixed = ~np.isnan(p.fixed_start)
        low, high = np.where(fixed, p.fixed_start, p.offset_min), np.where(fixed, p.fixed_start, INFINITE)
        held = self._held_by_first_word()  # on its cut a word needs no lead
        low[held] = np.where(p.first[held] == 0, 0.0, -INFINITE)
        rows.add(Rule.START, every, low, high).put(c.offset, 1.0).put(np.where(fixed, -1, c.early), 1.0)
        end = rows.add(Rule.END, every, -INFINITE, -p.end_margin)
        self._spans_until(end, every, p.first_span[1:], 1.0)
        end.put(c.spill, -1.0).put(c.late, -1.0)
        self._between(end, p.first, p.until, -1.0)
        led = rows.add(Rule.LED_END, p.led, -INFINITE, p.led_out)
        self._spans_until(led, p.led, p.first_span[p.led + 1], 1.0)
        led.put(c.spill[p.led], -1.0)
        self._between(led, p.first[p.led], p.led_shot, -1.0)
        for rule, columns, limit in ((Rule.EARLY, c.early, p.early_limit), (Rule.LATE, c.late, p.late_limit)):
            chosen = np.flatnonzero(columns >= 0)
            if len(chosen):
                rows.add(rule, chosen, 0.0, limit[chosen]).put(columns[chosen], 1.0)
        rows.add(Rule.SPILL, every, 0.0, INFINITE).put(c.spill, 1.0)
        if len(p.pairs):
            a, b = p.pairs[:, 0], p.pairs[:, 1]
            order = rows.add(Rule.ORDER, np.arange(len(a)), p.gaps, INFINITE).put(c.offset[b], 1.0)
            self._spans_until(order, a, p.first_span[a + 1], -1.0)
            self._between(order, p.first[a], p.first[b], 1.0)

    def _held_by_first_word(self) -> Ints:
        """Lines whose first word is held to the picture."""
        span = self.problem.syncs.span
        line = self.problem.spans.line[span]
        return np.asarray(line[self.problem.lines.first_span[line] == span])

    def spans(self) -> None:
        p, limits, rows, c = self.problem.spans, self.problem.limits, self.rows, self.c
        fixed = ~np.isnan(p.fixed_voiced)
        low = np.where(p.adapts, p.voiced / limits.fastest, p.voiced)
        high = np.where(p.adapts, p.voiced / limits.slowest, p.voiced)
        low, high = (np.where(fixed, p.fixed_voiced, bound) for bound in (low, high))
        rows.add(Rule.PACE, np.arange(len(p)), low, high).put(c.voiced, 1.0)
        chosen = np.flatnonzero(c.pauses >= 0)
        if len(chosen):
            low = np.where(p.adapts, p.least_pauses, p.pauses)
            low, high = (np.where(fixed, p.fixed_pauses, bound)[chosen] for bound in (low, p.pauses))
            rows.add(Rule.PAUSES, chosen, low, high).put(c.pauses[chosen], 1.0)

    def syncs(self) -> None:
        """The start of a span lies just where its word is held."""
        p, c = self.problem.syncs, self.c
        lines = self.problem.spans.line[p.span]
        row = self.rows.add(Rule.SYNC, np.arange(len(p)), p.offset, p.offset)
        self._spans_until(row, lines, p.span, 1.0)
        self._between(row, self.problem.lines.first[lines], p.shot, -1.0)
        if len(c.slip_later):
            row.put(c.slip_later, -1.0).put(c.slip_earlier, 1.0)
            for columns in (c.slip_later, c.slip_earlier):
                self.rows.add(Rule.SLACK, np.arange(len(p)), 0.0, INFINITE).put(columns, 1.0)

    def captions(self) -> None:
        """Captions come with their words and stay until the next one comes: readable, and clear of those that
        lead."""
        p, c, rows = self.problem.captions, self.c, self.rows
        held = ~np.isnan(p.in_held)
        a, b = p.pairs[:, 0], p.pairs[:, 1]
        chosen = np.flatnonzero(~held[a])
        read = rows.add(Rule.READ, a[chosen], p.need[a[chosen]], INFINITE)
        self._come(read, b[chosen], p.shot[a[chosen]], 1.0)
        self._come(read, a[chosen], p.shot[a[chosen]], -1.0)
        read.put(c.unread[a[chosen]], 1.0)
        last = np.setdiff1d(np.flatnonzero(~held), a)
        read = rows.add(Rule.READ, last, p.need[last], INFINITE).put(c.unread[last], 1.0)
        self._come(read, last, p.shot[last], -1.0)
        self._between(read, p.shot[last], np.full(len(last), len(self.problem.shots)), 1.0)
        if held.any():
            self._cover(held)
        for columns in (c.unread, c.uncovered):
            chosen = np.flatnonzero(columns >= 0)
            rows.add(Rule.SLACK, chosen, 0.0, INFINITE).put(columns[chosen], 1.0)

    def _come(self, entries: Entries, chosen: Ints, shots: Ints, sign: float) -> None:
        """sign * (when captions come in, after the start of `shots`): with the first word less a lead, or as
        given."""
        p = self.problem.captions
        held = ~np.isnan(p.in_held[chosen])
        entries.add_constant(sign * np.where(held, p.in_held[chosen], -self.problem.limits.caption_lead))
        self._between(entries, np.where(held, shots, 0), np.where(held, p.shot[chosen], 0), sign)
        self._masked_word(entries, chosen, shots, ~held, p.first_word, sign)

    def _masked_word(
        self, entries: Entries, chosen: Ints, shots: Ints, real: Flags, edges: WordEdges, sign: float
    ) -> None:
        """sign * (the time of words after the start of `shots`), in the rows that are `real`."""
        part = entries.only(np.flatnonzero(real))
        captions = chosen[real]
        lines = self.problem.captions.line[captions]
        self._word(part, lines, edges, captions, sign)
        self._between(part, shots[real], self.problem.lines.first[lines], sign)

    def _cover(self, held: Flags) -> None:
        """Words lie inside captions that lead, and neighbours' words outside them; by how much not, has its
        price."""
        p, c = self.problem.captions, self.c
        a, b = p.pairs[:, 0], p.pairs[:, 1]
        inner = held & (p.line >= 0)
        before = (~held[a]) & held[b]
        after = held[a] & (~held[b])
        for rule, words, limit, times, edges, sign in (
            (Rule.COVER_IN, np.flatnonzero(inner), np.flatnonzero(inner), p.in_held, p.first_word, 1.0),
            (Rule.COVER_OUT, np.flatnonzero(inner), np.flatnonzero(inner), p.out_held, p.last_word, -1.0),
            (Rule.COVER_OUT, a[before], b[before], p.in_held, p.last_word, -1.0),
            (Rule.COVER_IN, b[after], a[after], p.out_held, p.first_word, 1.0),
        ):
            row = self.rows.add(rule, words, 0.0, INFINITE).put(c.uncovered[words], 1.0)
            row.add_constant(-sign * times[limit])
            self._masked_word(row, words, p.shot[limit], np.ones(len(words), dtype=np.bool_), edges, sign)

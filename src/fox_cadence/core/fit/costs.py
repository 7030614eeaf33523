"""The squares and prices of the weights table as matrices: x'Px/2 + q'x + constant."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from fox_cadence.core.fit.columns import Columns
from fox_cadence.core.fit.problem import FitProblem, Floats, Ints
from fox_cadence.core.fit.weights import Weights
from fox_cadence.core.scientific import part

if TYPE_CHECKING:
    from scipy import sparse


@dataclass(frozen=True)
class Costs:
    """P holds both halves."""

    P: "sparse.csc_matrix"
    q: Floats
    constant: float


def write_costs(problem: FitProblem, columns: Columns, weights: Weights) -> Costs:
    """All costs of a problem."""
    table = _Table(columns.count)
    shots, lines, spans = problem.shots, problem.lines, problem.spans
    weight = np.where(shots.voice_leads, weights.shot_when_voice_leads, weights.shot)
    table.square(columns.shot, weight / shots.wanted, shots.wanted)
    table.square(columns.offset, np.full(len(lines), weights.displacement_per_s2), lines.ideal)
    table.square(columns.voiced, weights.pace / spans.voiced, spans.voiced)
    paused = np.flatnonzero(columns.pauses >= 0)
    table.square(columns.pauses[paused], weights.pause / spans.pauses[paused], spans.pauses[paused])
    if len(spans.neighbours):
        a, b = spans.neighbours[:, 0], spans.neighbours[:, 1]
        shared = weights.evenness * np.minimum(spans.voiced[a], spans.voiced[b])
        table.square_of_difference(
            columns.voiced[a], 1 / spans.voiced[a], columns.voiced[b], 1 / spans.voiced[b], shared
        )
    price = weights.spill_per_s
    table.price(columns.early[columns.early >= 0], weights.early_per_s)
    table.price(columns.late[columns.late >= 0], weights.late_per_s)
    table.price(columns.spill, price)
    table.square(columns.spill, np.full(len(lines), weights.spill_per_s2), np.zeros(len(lines)))
    table.price(columns.unread[columns.unread >= 0], weights.unread * price)
    table.price(columns.uncovered[columns.uncovered >= 0], price)
    for slip in (columns.slip_later, columns.slip_earlier):
        table.price(slip, weights.slip * price)
    return table.costs()


class _Table:
    """Adds up squares and prices."""

    def __init__(self, count: int) -> None:
        self._diagonal = np.zeros(count)
        self._q = np.zeros(count)
        self._constant = 0.0
        self._cross: list[tuple[Ints, Ints, Floats]] = []

    def square(self, columns: Ints, weight: Floats, target: Floats) -> None:
        """weight * (x - target)^2; columns are all different."""
        self._diagonal[columns] += 2 * weight
        self._q[columns] -= 2 * weight * target
        self._constant += float(np.sum(weight * target**2))

    def square_of_difference(
        self, a: Ints, scale_a: Floats, b: Ints, scale_b: Floats, weight: Floats
    ) -> None:
        """weight * (scale_a * x_a - scale_b * x_b)^2."""
        np.add.at(self._diagonal, a, 2 * weight * scale_a**2)
        np.add.at(self._diagonal, b, 2 * weight * scale_b**2)
        cross = -2 * weight * scale_a * scale_b
        self._cross += [(a, b, cross), (b, a, cross)]

    def price(self, columns: Ints, per_unit: float) -> None:
        self._q[columns] += per_unit

    def costs(self) -> Costs:
        sparse = part("scipy.sparse")

        size = len(self._q)
        every = np.arange(size)
        rows, columns, values = (
            np.concatenate([first, *(part[i] for part in self._cross)])
            for i, first in enumerate((every, every, self._diagonal))
        )
        return Costs(
            sparse.csc_matrix((values, (rows, columns)), shape=(size, size)), self._q, self._constant
        )

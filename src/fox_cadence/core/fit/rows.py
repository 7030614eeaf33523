"""Collects the rows of a program as coordinate arrays, a rule at a time."""

from dataclasses import dataclass
from enum import StrEnum
from typing import TYPE_CHECKING

import numpy as np

from fox_cadence.core.fit.problem import Floats, Ints
from fox_cadence.core.scientific import part

if TYPE_CHECKING:
    from scipy import sparse


class Rule(StrEnum):
    """What a row stands for; its object is a shot, an anchor, a line, a span, a pair, a sync point or a
    caption."""

    SHOT_LENGTH = "shot length"
    ANCHOR = "anchor"
    ANCHOR_BOUND = "anchor bound"
    TOTAL = "total length"
    START = "window start"
    END = "window end"
    LED_END = "window end by the caption that leads"
    ORDER = "order"
    PACE = "pace"
    PAUSES = "pauses"
    EARLY = "j-cut"
    LATE = "l-cut"
    SPILL = "spill"
    SYNC = "sync point"
    COVER_IN = "caption covers its first word"
    COVER_OUT = "caption covers its last word"
    READ = "caption can be read"
    SLACK = "slack is not negative"


@dataclass(frozen=True)
class RowGroup:
    """Consecutive rows of one rule, `objects` in their order."""

    rule: Rule
    first_row: int
    objects: Ints


class Rows:
    """Rows lower <= A x + constant <= upper in the making."""

    def __init__(self) -> None:
        self._coefficients: list[tuple[Ints, Ints, Floats]] = []
        self._bounds: list[tuple[Floats, Floats, Floats]] = []
        self.groups: list[RowGroup] = []
        self.count = 0

    def add(self, rule: Rule, objects: Ints, lower: Floats | float, upper: Floats | float) -> "Entries":
        """Begin a row for each object; what stands in them is added to the answer."""
        size = len(objects)
        self.groups.append(RowGroup(rule, self.count, objects))
        constant = np.zeros(size)
        low, high = _each(lower, size), _each(upper, size)
        self._bounds.append((low, high, constant))
        self.count += size
        return Entries(self._coefficients, np.arange(self.count - size, self.count), constant)

    def matrix(self, columns: int) -> "sparse.csc_matrix":
        """All rows, sparse, of shape (rows, columns)."""
        sparse = part("scipy.sparse")

        if not self._coefficients:
            return sparse.csc_matrix((self.count, columns))
        rows, cols, values = (np.concatenate([part[i] for part in self._coefficients]) for i in range(3))
        return sparse.csc_matrix((values, (rows, cols)), shape=(self.count, columns))

    def bounds(self) -> tuple[Floats, Floats]:
        """Bounds of A x alone."""
        if not self._bounds:
            return np.zeros(0), np.zeros(0)
        lower, upper, constant = (np.concatenate([part[i] for part in self._bounds]) for i in range(3))
        return lower - constant, upper - constant


class Entries:
    """What stands in the rows of one group, or of some of its rows: coefficients, and a constant a row."""

    def __init__(
        self,
        target: list[tuple[Ints, Ints, Floats]],
        rows: Ints,
        constant: Floats,
        places: Ints | None = None,
    ) -> None:
        self._target, self._rows, self._whole = target, rows, constant
        self._places = np.arange(len(rows)) if places is None else places

    def add_constant(self, values: Floats | float) -> "Entries":
        """Add to what stands in each row without a column; bounds are moved by it."""
        self._whole[self._places] += values
        return self

    def only(self, chosen: Ints) -> "Entries":
        """Some of these rows, by their number in the group."""
        return Entries(self._target, self._rows[chosen], self._whole, self._places[chosen])

    def put(self, columns: Ints, values: Floats | float) -> "Entries":
        """One coefficient a row; rows whose column is -1 have none."""
        values = _each(values, len(columns))
        real = columns >= 0
        if real.all():
            self._target.append((self._rows, columns, values))
        else:
            self._target.append((self._rows[real], columns[real], values[real]))
        return self

    def put_runs(self, first: Ints, end_exclusive: Ints, columns: Ints, value: float) -> "Entries":
        """The same coefficient for the columns [first, end) of a block, a run a row."""
        if (end_exclusive > first).any():
            rows, places = runs(first, end_exclusive)
            chosen = columns[places]
            real = chosen >= 0
            if not real.all():
                rows, chosen = rows[real], chosen[real]
            self._target.append((self._rows[rows], chosen, np.full(len(chosen), value)))
        return self


def _each(value: Floats | float, size: int) -> Floats:
    return value if isinstance(value, np.ndarray) else np.full(size, float(value))


def runs(first: Ints, end_exclusive: Ints) -> tuple[Ints, Ints]:
    """For each i all integers of [first_i, end_i): the row numbers and the integers, flat."""
    counts = np.maximum(end_exclusive - first, 0)
    rows = np.repeat(np.arange(len(first)), counts)
    starts = np.cumsum(counts) - counts
    return rows, np.arange(int(counts.sum())) - np.repeat(starts, counts) + np.repeat(first, counts)

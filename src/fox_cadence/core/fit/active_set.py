"""The answer to a program of which a near one has been answered, from what binds there.

With the rules that bind known, the optimality conditions are one sparse symmetric system. Its answer is
right where every rule holds and every price has the sign it must have; where not, the rules that are broken
bind and those with a wrong price do not, and it is solved again (the primal-dual active set method:
Hintermüller, Ito, Kunisch, The primal-dual active set strategy as a semismooth Newton method, SIAM J. Optim.
13, 2002). After a few rounds it has settled, or the program is left to the solver.
"""

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from fox_cadence.core.fit.problem import Flags, Floats
from fox_cadence.core.fit.program import Program
from fox_cadence.core.fit.solver import Solution, Status, solve
from fox_cadence.core.scientific import part

if TYPE_CHECKING:
    from scipy import sparse

_MOST_ROUNDS = 8
_BROKEN_S = 1e-9
"""A rule missed by more is broken: a tenth of what the solver itself may miss (solver.py)."""

_WRONG = 1e-8
_BINDS = 1e-6
_PIVOT = 1e-11
"""Added to the diagonal, so that rules that say the same twice have an answer; refinement takes it off."""

_REFINED, _MOST_REFINED = 1e-11, 4


@dataclass(frozen=True)
class _Binding:
    """Rows that bind at their upper and at their lower bound; those with equal bounds are among the upper."""

    upper: Flags
    lower: Flags


def solve_from(program: Program, binding: "ActiveSet", near: Solution | None = None) -> Solution:
    """The least cost, from the answer to a program of the same shape where there is one.

    Args:
        binding: the same program, made ready.
    """
    found = None
    if near is not None and near.status is Status.SOLVED and len(near.duals) == len(program.lower):
        found = binding.solve(program.lower, program.upper, near)
    return found or solve(program)


class ActiveSet:
    """A program made ready to be answered from a near answer, with other bounds each time."""

    def __init__(self, program: Program) -> None:
        sparse = part("scipy.sparse")

        self._program = program
        self._rows = sparse.csr_matrix(program.A)
        self._cost = sparse.csr_matrix(program.P)
        self._a, self._p = self._rows.tocoo(), self._cost.tocoo()
        entries = np.diff(self._rows.indptr)
        self._single = entries == 1
        """Rows about one column: where they bind, they settle it."""
        first = self._rows.indptr[:-1][self._single]
        self._column = np.full(len(entries), -1)
        self._column[self._single] = self._rows.indices[first]
        self._factor = np.ones(len(entries))
        self._factor[self._single] = self._rows.data[first]

    def solve(self, lower: Floats, upper: Floats, near: Solution) -> Solution | None:
        """The least cost within other bounds, beginning with what binds in a near answer.

        Returns:
            None where that does not settle it within a few rounds.
        """
        equal = lower == upper
        binding = _Binding(
            (near.duals > _BINDS) & np.isfinite(upper) | equal,
            (near.duals < -_BINDS) & np.isfinite(lower) & ~equal,
        )
        for number in range(1, _MOST_ROUNDS + 1):
            found = self._with(binding, lower, upper)
            if found is None:
                return None
            x, duals = found
            rows = self._rows @ x
            over, under = (rows - upper > _BROKEN_S) & ~equal, (lower - rows > _BROKEN_S) & ~equal
            loose_upper = binding.upper & ~equal & (duals < -_WRONG)
            loose_lower = binding.lower & (duals > _WRONG)
            if not (over.any() or under.any() or loose_upper.any() or loose_lower.any()):
                if np.max(np.abs(rows[equal] - upper[equal]), initial=0.0) > 1e-8:
                    return None
                return Solution(Status.SOLVED, x, duals, self._program.cost(x), number)
            binding = _Binding(binding.upper & ~loose_upper | over, binding.lower & ~loose_lower | under)
        return None

    def _with(self, binding: _Binding, lower: Floats, upper: Floats) -> tuple[Floats, Floats] | None:
        """The answer and its prices where just these rows bind; None where they can't all be met."""
        sparse = part("scipy.sparse")

        program, a, p = self._program, self._a, self._p
        bound = np.where(binding.upper, upper, lower)
        binds = binding.upper | binding.lower
        single = np.flatnonzero(binds & self._single)
        columns, unique = np.unique(self._column[single], return_index=True)
        single = single[unique]
        x = np.zeros(len(program.q))
        x[columns] = bound[single] / self._factor[single]
        free = np.ones(len(x), dtype=np.bool_)
        free[columns] = False
        place = np.cumsum(free) - 1
        across = (binds & ~self._single)[a.row] & free[a.col]
        rules = np.zeros(len(bound), dtype=np.bool_)
        rules[a.row[across]] = True
        rule = np.cumsum(rules) - 1
        inner = free[p.row] & free[p.col]
        count, size = int(free.sum()), int(free.sum()) + int(rules.sum())
        across_rows, across_columns = rule[a.row[across]] + count, place[a.col[across]]
        pivots = np.full(size, _PIVOT)
        pivots[count:] = -_PIVOT
        every = np.arange(size)
        matrix = sparse.csc_matrix(
            (
                np.concatenate([p.data[inner], a.data[across], a.data[across], pivots]),
                (
                    np.concatenate([place[p.row[inner]], across_rows, across_columns, every]),
                    np.concatenate([place[p.col[inner]], across_columns, across_rows, every]),
                ),
            ),
            shape=(size, size),
        )
        settled = self._rows @ x
        right = np.concatenate([-(program.q + self._cost @ x)[free], bound[rules] - settled[rules]])
        answer = _answer(matrix, pivots, right)
        if answer is None:
            return None
        x[free] = answer[:count]
        duals = np.zeros(len(bound))
        duals[rules] = answer[count:]
        slope = self._cost @ x + program.q + duals @ self._rows
        duals[single] = -slope[columns] / self._factor[single]
        return x, duals


def _answer(matrix: "sparse.csc_matrix", pivots: Floats, right: Floats) -> Floats | None:
    """The answer of a system without the `pivots` on its diagonal; None where there is none."""
    splu = part("scipy.sparse.linalg").splu

    if not len(right):
        return right
    try:
        factors = splu(
            matrix, permc_spec="MMD_AT_PLUS_A", diag_pivot_thresh=0.0, options={"SymmetricMode": True}
        )
    except RuntimeError:  # exactly singular
        return None
    answer = factors.solve(right)
    for _ in range(_MOST_REFINED):
        missing = right - matrix @ answer + pivots * answer
        if np.max(np.abs(missing)) < _REFINED:
            break
        answer = answer + factors.solve(missing)
    return answer if bool(np.isfinite(answer).all()) else None

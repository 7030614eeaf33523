"""The one place that touches the solver: a Program in, a Solution out."""

from dataclasses import dataclass
from enum import StrEnum
from typing import TYPE_CHECKING

import numpy as np

from fox_cadence.core.fit.problem import Floats, Ints
from fox_cadence.core.fit.program import Program
from fox_cadence.core.scientific import part

if TYPE_CHECKING:
    import clarabel
    from scipy import sparse


class Status(StrEnum):
    SOLVED = "solved"
    INFEASIBLE = "infeasible"
    STOPPED = "stopped"


@dataclass(frozen=True)
class Solution:
    """Answer of a solve. `x` and `duals` are empty unless `status` is SOLVED.

    `duals` has an entry for each row of A: above 0 where the upper bound binds, below 0 where the lower one
    does.
    """

    status: Status
    x: Floats
    duals: Floats
    cost: float
    iterations: int


def solver_form(program: Program) -> "tuple[sparse.csc_matrix, Floats, list[object], Ints, Ints, Ints]":
    """The program in Clarabel's form Gx + s = h, s in cones, with the row numbers of A behind each block."""
    clarabel = part("clarabel")
    sparse = part("scipy.sparse")

    equal = np.flatnonzero(program.lower == program.upper)
    above = np.flatnonzero(np.isfinite(program.upper) & (program.lower != program.upper))
    below = np.flatnonzero(np.isfinite(program.lower) & (program.lower != program.upper))
    entries = program.A.tocoo(copy=False)
    signed = [(np.concatenate([equal, above]), 0, 1.0), (below, len(equal) + len(above), -1.0)]
    blocks = [_block(entries, chosen, first, sign) for chosen, first, sign in signed]
    rows, columns, values = (np.concatenate([block[part] for block in blocks]) for part in range(3))
    count = len(equal) + len(above) + len(below)
    G = sparse.csc_matrix((values, (rows, columns)), shape=(count, program.A.shape[1]))
    h = np.concatenate([program.upper[equal], program.upper[above], -program.lower[below]])
    cones: list[object] = [clarabel.ZeroConeT(len(equal)), clarabel.NonnegativeConeT(len(above) + len(below))]
    return G, h, cones, equal, above, below


def _block(entries: "sparse.coo_matrix", chosen: Ints, first: int, sign: float) -> tuple[Ints, Ints, Floats]:
    """Entries of the chosen rows, which follow one another from row `first` on. Slicing scipy's rows takes
    longer."""
    place = np.full(entries.shape[0], -1)
    place[chosen] = np.arange(first, first + len(chosen))
    rows = place[entries.row]
    real = rows >= 0
    return rows[real], entries.col[real], sign * entries.data[real]


class Solver:
    """A program made ready, to be solved again with other bounds on the rows that have bounds now."""

    def __init__(self, program: Program) -> None:
        clarabel = part("clarabel")
        sparse = part("scipy.sparse")

        self._program = program
        G, h, cones, self._equal, self._above, self._below = solver_form(program)
        upper_half = sparse.triu(program.P, format="csc")
        self._solver = clarabel.DefaultSolver(upper_half, program.q, G, h, cones, solver_settings())

    def solve(self) -> Solution:
        """The least cost. A rule may be missed by about 1e-8 s, far below a sample."""
        answer = self._solver.solve()
        name = str(answer.status)
        empty = np.zeros(0)
        if name in {"PrimalInfeasible", "AlmostPrimalInfeasible"}:
            return Solution(Status.INFEASIBLE, empty, empty, float("inf"), answer.iterations)
        if name not in {"Solved", "AlmostSolved"}:
            return Solution(Status.STOPPED, empty, empty, float("inf"), answer.iterations)
        x, z = np.asarray(answer.x), np.asarray(answer.z)
        equal, above, below = self._equal, self._above, self._below
        duals = np.zeros(self._program.A.shape[0])
        duals[equal] = z[: len(equal)]
        duals[above] += z[len(equal) : len(equal) + len(above)]
        duals[below] -= z[len(equal) + len(above) :]
        return Solution(Status.SOLVED, x, duals, self._program.cost(x), answer.iterations)

    def solve_within(self, lower: Floats, upper: Floats) -> Solution:
        """The same with other bounds; they must be finite, and equal, in the same rows as before."""
        h = np.concatenate([upper[self._equal], upper[self._above], -lower[self._below]])
        self._solver.update(b=h)
        return self.solve()


def solver_settings() -> "clarabel.DefaultSettings":
    """Tolerances ten times tighter than the solver's own; nothing is presolved away, so that bounds can
    change."""
    clarabel = part("clarabel")

    settings = clarabel.DefaultSettings()
    settings.verbose = False
    settings.max_iter = 200
    settings.tol_gap_abs = settings.tol_gap_rel = settings.tol_feas = 1e-9
    settings.max_threads = 1
    settings.presolve_enable = False
    return settings


def solve(program: Program) -> Solution:
    """Find the least cost."""
    return Solver(program).solve()


def worst_violation(program: Program, x: Floats) -> float:
    """By how much the worst row misses its bounds, in seconds: our own check of the solver's answer."""
    rows = program.A @ x
    return float(max(np.max(program.lower - rows, initial=0.0), np.max(rows - program.upper, initial=0.0)))

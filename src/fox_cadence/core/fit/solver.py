"""The one place that touches the solver: a Program in, a Solution out."""

from dataclasses import dataclass
from enum import StrEnum

import clarabel
import numpy as np
from scipy import sparse

from fox_cadence.core.fit.problem import Floats, Ints
from fox_cadence.core.fit.program import Program


class Status(StrEnum):
    SOLVED = "solved"
    INFEASIBLE = "infeasible"
    STOPPED = "stopped"


@dataclass(frozen=True)
class Solution:
    """Answer of a solve. `x` and `duals` are empty unless `status` is SOLVED.

    `duals` has an entry for each row of A: above 0 where the upper bound binds, below 0 where the lower one does.
    """

    status: Status
    x: Floats
    duals: Floats
    cost: float
    iterations: int


def solver_form(program: Program) -> tuple[sparse.csc_matrix, Floats, list[object], Ints, Ints, Ints]:
    """The program in Clarabel's form Gx + s = h, s in cones, with the row numbers of A behind each block."""
    equal = np.flatnonzero(program.lower == program.upper)
    above = np.flatnonzero(np.isfinite(program.upper) & (program.lower != program.upper))
    below = np.flatnonzero(np.isfinite(program.lower) & (program.lower != program.upper))
    by_row = program.A.tocsr()
    G = sparse.vstack([by_row[equal], by_row[above], -by_row[below]], format="csc")
    h = np.concatenate([program.upper[equal], program.upper[above], -program.lower[below]])
    cones: list[object] = [clarabel.ZeroConeT(len(equal)), clarabel.NonnegativeConeT(len(above) + len(below))]
    return G, h, cones, equal, above, below


def solve(program: Program) -> Solution:
    """Find the least cost.

    Tolerances are a hundred times tighter than the solver's defaults would need for frames: a rule may be missed by
    about 1e-8 s, far below a sample.
    """
    G, h, cones, equal, above, below = solver_form(program)
    settings = clarabel.DefaultSettings()
    settings.verbose = False
    settings.max_iter = 200
    settings.tol_gap_abs = settings.tol_gap_rel = settings.tol_feas = 1e-9
    settings.max_threads = 1
    upper_half = sparse.triu(program.P, format="csc")
    answer = clarabel.DefaultSolver(upper_half, program.q, G, h, cones, settings).solve()
    name = str(answer.status)
    empty = np.zeros(0)
    if name in {"PrimalInfeasible", "AlmostPrimalInfeasible"}:
        return Solution(Status.INFEASIBLE, empty, empty, float("inf"), answer.iterations)
    if name not in {"Solved", "AlmostSolved"}:
        return Solution(Status.STOPPED, empty, empty, float("inf"), answer.iterations)
    x = np.asarray(answer.x)
    z = np.asarray(answer.z)
    duals = np.zeros(program.A.shape[0])
    duals[equal] = z[: len(equal)]
    duals[above] += z[len(equal) : len(equal) + len(above)]
    duals[below] -= z[len(equal) + len(above) :]
    return Solution(Status.SOLVED, x, duals, program.cost(x), answer.iterations)


def worst_violation(program: Program, x: Floats) -> float:
    """By how much the worst row misses its bounds, in seconds: our own check of the solver's answer."""
    rows = program.A @ x
    return float(max(np.max(program.lower - rows, initial=0.0), np.max(rows - program.upper, initial=0.0)))

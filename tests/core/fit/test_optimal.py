"""The answer is the best one: a second solver agrees, and the optimality conditions hold."""

import numpy as np
import osqp
from hypothesis import assume, given, settings
from scipy import sparse

from fox_cadence.core.fit.program import Program, build_program
from fox_cadence.core.fit.solver import Status, solve
from fox_cadence.core.fit.statement import state_problem
from fox_cadence.core.timeline import Timeline
from tests.builders import timelines


def second_opinion(program: Program) -> float:
    solver = osqp.OSQP()
    solver.setup(
        P=sparse.triu(program.P, format="csc"), q=program.q, A=program.A, l=program.lower, u=program.upper,
        verbose=False, eps_abs=1e-9, eps_rel=1e-9, max_iter=200_000, polishing=True,
    )  # fmt: skip
    return program.cost(np.asarray(solver.solve(raise_error=False).x))


@settings(max_examples=12)
@given(timelines())
def test_a_second_solver_finds_the_same_cost(timeline: Timeline) -> None:
    program = build_program(state_problem(timeline))
    solution = solve(program)
    assume(solution.status is Status.SOLVED)
    other = second_opinion(program)
    assert abs(solution.cost - other) <= 1e-6 * max(1.0, abs(other))


@given(timelines())
def test_the_optimality_conditions_hold(timeline: Timeline) -> None:
    """Karush-Kuhn-Tucker: the gradient vanishes, and a dual value stands only where its bound binds."""
    program = build_program(state_problem(timeline))
    solution = solve(program)
    assume(solution.status is Status.SOLVED)
    gradient = program.P @ solution.x + program.q + program.A.T @ solution.duals
    scale = 1 + np.max(np.abs(solution.duals), initial=0)
    assert np.max(np.abs(gradient), initial=0) < 1e-5 * scale
    rows = program.A @ solution.x
    with np.errstate(invalid="ignore"):
        upper = np.where(solution.duals > 0, solution.duals * (program.upper - rows), 0)
        lower = np.where(solution.duals < 0, -solution.duals * (rows - program.lower), 0)
    fixed = program.lower == program.upper
    assert np.max(np.abs(upper[~fixed]), initial=0) < 1e-5 * scale
    assert np.max(np.abs(lower[~fixed]), initial=0) < 1e-5 * scale

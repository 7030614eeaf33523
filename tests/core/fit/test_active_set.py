"""The answer that follows from what binds, against the solver's own."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from fox_cadence.core.fit.active_set import ActiveSet
from fox_cadence.core.fit.program import build_program
from fox_cadence.core.fit.proposal import propose
from fox_cadence.core.fit.rows import Rule
from fox_cadence.core.fit.solver import Solution, Solver, Status, solve, worst_violation
from fox_cadence.core.fit.statement import state_problem
from fox_cadence.core.timeline import Timeline
from fox_cadence.core.timeline_builder import build_timeline
from tests.builders import simple_project, timelines, voiced


@settings(max_examples=60)
@given(timelines(), st.data())
def test_with_other_shot_lengths_it_is_the_same_answer(timeline: Timeline, data: st.DataObject) -> None:
    program = build_program(state_problem(timeline))
    near = solve(program)
    assume(near.status is Status.SOLVED)
    rows, _ = program.rows(Rule.SHOT_LENGTH)
    moved = data.draw(st.lists(st.floats(-0.02, 0.02), min_size=len(rows), max_size=len(rows)))
    lower, upper = program.lower.copy(), program.upper.copy()
    lower[rows] = upper[rows] = near.x[program.columns.shot] + np.array(moved)
    for rule in (Rule.ANCHOR_BOUND, Rule.TOTAL):
        rows, _ = program.rows(rule)
        lower[rows], upper[rows] = -np.inf, np.inf
    found = ActiveSet(program).solve(lower, upper, near)
    changed = replace(program, lower=lower, upper=upper)
    whole = Solver(changed).solve()
    if found is None:
        return  # it is left to the solver
    assert whole.status is Status.SOLVED
    assert found.cost == pytest.approx(whole.cost, rel=1e-6, abs=1e-6)
    assert worst_violation(changed, found.x) < 1e-7
    slope = program.P @ found.x + program.q + program.A.T @ found.duals
    assert np.max(np.abs(slope), initial=0) < 1e-6  # the prices balance every wish


def test_it_settles_nearly_always_and_leaves_what_contradicts_itself_to_the_solver() -> None:
    project = simple_project(["one two three", "four five six", "seven eight"], 2.0)
    program = build_program(state_problem(voiced(project, [2.4, 1.1, 2.0])))
    near = solve(program)
    same = ActiveSet(program).solve(program.lower, program.upper, near)
    assert same is not None
    assert same.cost == pytest.approx(near.cost, rel=1e-6)
    assert same.iterations <= 2
    lower, upper = program.lower.copy(), program.upper.copy()
    lower[:], upper[:] = 1.0, 1.0  # every rule wants something else of the same things
    assert ActiveSet(program).solve(lower, upper, near) is None


def test_it_does_not_trust_a_start_that_is_far_off() -> None:
    project = simple_project(["one two three", "four five six"], 2.0)
    program = build_program(state_problem(voiced(project, [2.4, 1.1])))
    near = solve(program)
    nothing = Solution(Status.SOLVED, near.x, np.zeros_like(near.duals), 0.0, 0)
    found = ActiveSet(program).solve(program.lower, program.upper, nothing)
    assert found is None or found.cost == pytest.approx(near.cost, rel=1e-6)


@settings(max_examples=60)
@given(timelines(), st.data())
def test_a_fit_from_a_near_one_is_the_same_fit(timeline: Timeline, data: st.DataObject) -> None:
    """As a drag goes on: a shot some frames longer or shorter, fitted from what was fitted before."""
    before = propose(timeline)
    assume(before.basis is not None)
    takes = {span.take.id: span.take for span in timeline.lines if span.take is not None}
    chosen = data.draw(st.sampled_from(timeline.project.shots))
    frames = max(12, chosen.length_frames + data.draw(st.integers(-6, 6)))
    shots = tuple(
        shot.changed(length_frames=frames, wanted_frames=frames) if shot.id == chosen.id else shot
        for shot in timeline.project.shots
    )
    changed = build_timeline(timeline.project.changed(shots=shots), takes)
    alone, from_near = propose(changed), propose(changed, near=before.basis)
    assert from_near.status is alone.status
    assert from_near.exact_cost == pytest.approx(alone.exact_cost, rel=1e-6, abs=1e-6)
    assert from_near.outside == alone.outside

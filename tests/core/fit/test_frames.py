"""From exact cuts to whole frames, and the parts of the program under it."""

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from fox_cadence.core.edits import SetHouse, SetLock, SetSettings, apply_all
from fox_cadence.core.fit.frames import _grid, _round_cuts, settle_on_frames
from fox_cadence.core.fit.program import build_program
from fox_cadence.core.fit.proposal import propose
from fox_cadence.core.fit.rows import Rows, Rule, runs
from fox_cadence.core.fit.solver import Solver, Status, solve, worst_violation
from fox_cadence.core.fit.statement import state_problem
from fox_cadence.core.timeline import Timeline
from fox_cadence.core.timeline_builder import build_timeline
from tests.builders import simple_project, timelines, voiced

HALF = st.sampled_from([0.001, 0.5, 0.999])


@given(timelines(), st.data())
def test_cuts_go_to_frames_within_every_limit(timeline: Timeline, data: st.DataObject) -> None:
    problem = state_problem(timeline)
    program = build_program(problem)
    solution = solve(program)
    assume(solution.status is Status.SOLVED)
    exact = np.cumsum(solution.x[program.columns.shot] - problem.shots.overlap) / problem.frame_s
    added = np.array(data.draw(st.lists(HALF, min_size=len(exact), max_size=len(exact))))
    grid = _grid(problem)
    cuts = _round_cuts(exact, added, grid)
    assert grid.allows(cuts)
    free = (cuts == np.floor(exact)) | (cuts == np.ceil(exact))
    held = np.abs(cuts - exact) < 2  # a neighbour at its limit may push a cut a frame further
    assert (free | held).all()


@given(timelines())
def test_what_is_settled_is_the_same_program_with_the_shots_fixed(timeline: Timeline) -> None:
    problem = state_problem(timeline)
    program = build_program(problem)
    solution = solve(program)
    assume(solution.status is Status.SOLVED)
    whole = settle_on_frames(problem, program, solution)
    assume(whole.solution.status is Status.SOLVED)
    assert np.allclose(whole.solution.x[program.columns.shot], whole.frames * problem.frame_s, atol=1e-7)
    assert worst_violation(whole.program, whole.solution.x) < 1e-6
    assert whole.solution.cost >= solution.cost - 1e-6 * max(1.0, abs(solution.cost))


def test_a_line_with_no_other_room_rounds_its_cut_its_own_way() -> None:
    """The exact cut lies just under half a frame: to the nearest would cost the line its room."""
    project, _ = apply_all(
        simple_project(["one two three", "four five six"], 2.0),
        [SetHouse(fastest_pace=1.0, slowest_pace=1.0), SetSettings(give_way="halfway")],
    )
    frame = 1 / 30
    timeline = voiced(project, [1.75 + 2.4 * frame, 0.6])
    plan = propose(timeline)
    assert plan.shot_frames[0] == 63
    assert plan.lines[0].spill_ticks == 0


@settings(max_examples=25)
@given(timelines(), st.floats(0.8, 1.25))
def test_a_prepared_program_solves_again_as_a_new_one_would(timeline: Timeline, scale: float) -> None:
    program = build_program(state_problem(timeline))
    prepared = Solver(program)
    assume(prepared.solve().status is Status.SOLVED)
    rows, _ = program.rows(Rule.END)
    lower, upper = program.lower.copy(), program.upper.copy()
    upper[rows] *= scale
    again = prepared.solve_within(lower, upper)
    fresh = solve(type(program)(**{**vars(program), "lower": lower, "upper": upper}))
    assert again.status is fresh.status
    if fresh.status is Status.SOLVED:
        assert again.cost == pytest.approx(fresh.cost, rel=1e-6, abs=1e-6)


@given(st.lists(st.tuples(st.integers(0, 9), st.integers(0, 9)), max_size=8))
def test_runs_are_the_integers_between(pairs: list[tuple[int, int]]) -> None:
    first, end = (np.array([pair[side] for pair in pairs], dtype=np.int64) for side in (0, 1))
    rows, values = runs(first, end)
    wanted = [(row, value) for row, (a, b) in enumerate(pairs) for value in range(a, b)]
    assert list(zip(rows.tolist(), values.tolist(), strict=True)) == wanted


def test_rows_hold_what_was_put_in_them() -> None:
    made = Rows()
    made.add(Rule.PACE, np.arange(2), 0.0, np.array([1.0, 2.0])).put(np.array([0, -1]), 3.0).add_constant(0.5)
    part = made.add(Rule.END, np.arange(3), -1.0, 1.0)
    part.put_runs(np.array([0, 1, 2]), np.array([2, 1, 3]), np.array([4, 5, -1]), 2.0)
    part.only(np.array([2])).put(np.array([1]), -1.0).add_constant(0.25)
    matrix = made.matrix(6).toarray()
    assert matrix.tolist() == [
        [3, 0, 0, 0, 0, 0],
        [0, 0, 0, 0, 0, 0],
        [0, 0, 0, 0, 2, 2],
        [0, 0, 0, 0, 0, 0],
        [0, -1, 0, 0, 0, 0],
    ]
    lower, upper = made.bounds()
    assert lower.tolist() == [-0.5, -0.5, -1, -1, -1.25]
    assert upper.tolist() == [0.5, 1.5, 1, 1, 0.75]
    assert [(group.rule, group.first_row) for group in made.groups] == [(Rule.PACE, 0), (Rule.END, 2)]
    assert made.count == 5


def test_nothing_at_all_has_no_rows() -> None:
    made = Rows()
    assert made.matrix(3).shape == (0, 3)
    assert [len(bound) for bound in made.bounds()] == [0, 0]


def test_a_total_that_is_a_fraction_of_a_frame_is_kept_from_below() -> None:
    project, _ = apply_all(simple_project(["one", "two"], 3.0), [SetSettings(longest_s=5.51)])
    proposal = propose(voiced(project, [0.5, 0.5]))
    assert proposal.status is Status.SOLVED
    assert sum(proposal.shot_frames) <= int(5.51 * 30)


@given(st.integers(0, 3))
def test_a_locked_shot_is_an_anchor_for_all_that_stands_before_it(place: int) -> None:
    project = simple_project(["one two three four five six seven"] * 4, 2.0)
    project, _ = SetLock(what="shot", id=f"s{place + 1}", locked=True).apply(project)
    proposal = propose(voiced(project, [2.2, 1.6, 2.3, 1.5]))
    assert proposal.status is Status.SOLVED
    assert proposal.shot_frames[place] == 60
    assert sum(proposal.shot_frames[:place]) == 60 * place


def test_a_piece_without_a_word_keeps_its_cuts() -> None:
    project = simple_project(["one", "two"])
    silent = project.changed(captions=(), lines=())
    proposal = propose(build_timeline(silent, {}))
    assert proposal.status is Status.SOLVED
    assert proposal.shot_frames == (120, 120)
    assert proposal.lines == ()
    assert proposal.cost == pytest.approx(0, abs=1e-9)


def test_a_piece_without_a_shot_has_nothing_to_fit_to() -> None:
    project = simple_project(["one"]).changed(shots=(), captions=(), lines=())
    proposal = propose(build_timeline(project, {}))
    assert proposal.status is Status.INFEASIBLE
    assert "no shot" in proposal.reason

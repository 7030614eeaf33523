"""The fit: stating and reading back against the bare solver, growth, drags and remedies."""

import math
import time
from collections.abc import Callable
from functools import partial

import clarabel
import numpy as np
from scipy import sparse

from bench.clock import best_of, best_of_each, quantile
from bench.pieces import piece, timeline
from fox_cadence.core.edits import SetShotLength
from fox_cadence.core.fit.frames import WholeFrames, settle_on_frames
from fox_cadence.core.fit.plan import project_with_shots
from fox_cadence.core.fit.problem import FitProblem
from fox_cadence.core.fit.program import Program, build_program
from fox_cadence.core.fit.proposal import propose
from fox_cadence.core.fit.readback import planned_captions, read_lines
from fox_cadence.core.fit.remedies import remedies
from fox_cadence.core.fit.solver import solve, solver_form, solver_settings
from fox_cadence.core.fit.statement import state_problem
from fox_cadence.core.length_model import LETTERS, Estimator
from fox_cadence.core.project import Project
from fox_cadence.core.states import LineState
from fox_cadence.core.timeline import Timeline, shot_spans
from fox_cadence.core.timeline_builder import KeptSpans, build_timeline

SIZES = (20, 60, 200, 2_000, 5_000, 20_000)


def bare(program: Program) -> Callable[[], object]:
    """The solver alone on matrices that are ready for it."""
    G, h, cones, *_ = solver_form(program)
    upper = sparse.triu(program.P, format="csc")
    return lambda: clarabel.DefaultSolver(upper, program.q, G, h, cones, solver_settings()).solve()


def rows() -> list[str]:
    """What was measured, as lines of a table and sentences."""
    found = [
        "| lines | stating | of it matrices | reading back | bare solver | (stating + reading) / bare "
        "| matrices / bare | whole fit / bare | iterations |",
        "| --- | --- | --- | --- | --- | --- | --- | --- | --- |",
    ]
    bares: dict[int, float] = {}
    wholes: dict[int, float] = {}
    for lines in SIZES:
        made = timeline(lines)
        problem = state_problem(made)
        program = build_program(problem)
        solution = solve(program)
        whole = settle_on_frames(problem, program, solution)
        works: list[Callable[[], object]] = [
            partial(_state, made),
            partial(build_program, problem),
            partial(_read_back, made, problem, whole),
            bare(program),
            partial(propose, made),
        ]
        rounds = max(3, min(40, 8_000 // lines))
        stating, matrices, reading, bares[lines], wholes[lines] = best_of_each(rounds, works)
        share = (stating + reading) / bares[lines]
        found.append(
            f"| {lines:,} | {stating * 1e3:.1f} ms | {matrices * 1e3:.1f} ms | {reading * 1e3:.1f} ms "
            f"| {bares[lines] * 1e3:.1f} ms | {share:.2f} | {matrices / bares[lines]:.2f} "
            f"| {wholes[lines] / bares[lines]:.2f} | {solution.iterations} |"
        )
    growth = [math.log(times[5_000] / times[200]) / math.log(25) for times in (bares, wholes)]
    found += [
        "",
        f"Growth from 200 to 5,000 lines: exponent {growth[0]:.2f} (solver), {growth[1]:.2f} (whole fit).",
    ]
    return [*found, "", *_drags(), *_cures()]


def _state(made: Timeline) -> Program:
    return build_program(state_problem(made))


def _read_back(made: Timeline, problem: FitProblem, whole: WholeFrames) -> object:
    lines = read_lines(made, problem, whole, frozenset())
    frames = tuple(int(count) for count in whole.frames)
    shots = {span.shot.id: span for span in shot_spans(project_with_shots(made.project, frames))}
    return planned_captions(made, lines, shots)


def _drags() -> list[str]:
    """A cut of a piece of 60 lines dragged a frame at a time: edit, timeline, fit, one from the other."""
    project, takes = piece(60)
    times: list[float] = []
    kept, near = KeptSpans(), propose(build_timeline(project, takes)).basis
    for step in range(60):
        began = time.perf_counter()
        edit = SetShotLength(shot_id="s30", length_frames=100 + step % 40)
        changed, _ = edit.apply(project)
        near = propose(build_timeline(changed, takes, kept=kept), near=near).basis
        times.append(time.perf_counter() - began)
    return [
        f"A drag step on 60 lines, from edit to proposal: median {np.median(times) * 1e3:.1f} ms, "
        f"p95 {quantile(times, 0.95) * 1e3:.1f} ms (request and drawing: bench/dragging.py)."
    ]


def _cures() -> list[str]:
    """One line of a piece whose picture leads, so that it spills."""
    project, takes = piece(60)
    project = project.changed(give_way="picture")
    made = build_timeline(project, takes)
    proposal = propose(made)
    place = next(n for n, plan in enumerate(proposal.lines) if plan.state is LineState.SPILLS)

    kept = KeptSpans()

    def rebuild(changed: Project, estimator: Estimator) -> Timeline:
        return build_timeline(changed, takes, estimator, kept)

    seconds, cures = best_of(3, lambda: remedies(made, proposal, place, rebuild, LETTERS))
    return [f"Remedies of one spilling line of 60: {len(cures)} found in {seconds * 1e3:.0f} ms."]

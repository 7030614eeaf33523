"""The fit from end to end: a timeline in, a proposal out; and a proposal applied to a project."""

from collections.abc import Mapping
from dataclasses import replace

from fox_cadence.core.fit.active_set import ActiveSet, solve_from
from fox_cadence.core.fit.beats import hold_on_beats
from fox_cadence.core.fit.ending import last_word_s, outside_the_piece, with_longer_end
from fox_cadence.core.fit.frames import WholeFrames, settle_on_frames
from fox_cadence.core.fit.plan import Basis, LinePlan, Proposal, project_with_shots
from fox_cadence.core.fit.problem import FitProblem
from fox_cadence.core.fit.program import build_program
from fox_cadence.core.fit.readback import planned_captions, read_lines
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.fit.statement import beat_shots, state_problem
from fox_cadence.core.project import Caption, Index, Line, Placement, Project
from fox_cadence.core.takes import Take, natural_key
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.core.timeline import Timeline, shot_spans

NO_SHOT = "There is no shot yet, so there is nothing to fit to."
NO_FRAMES = "The cuts can't be brought to whole frames within these limits."
NO_BEATS = "No beats can be found for all the cuts that are asked to lie on one."
_MOST_LONGER = 6
NO_TIMES = "No times satisfy all locks and limits at once."


def propose(timeline: Timeline, held: frozenset[str] = frozenset(), near: Basis | None = None) -> Proposal:
    """Fit a timeline. Pure: the same timeline gives the same proposal.

    Args:
        timeline: what there is now.
        held: ids of lines that keep their lengths and their place in their shot.
        near: what a timeline much like this one was fitted by: it gives the same answer sooner.
    """
    if not timeline.project.shots:
        return Proposal(Status.INFEASIBLE, NO_SHOT)
    return propose_for(timeline, state_problem(timeline, held), held, near)


def propose_for(
    timeline: Timeline,
    problem: FitProblem,
    held: frozenset[str] = frozenset(),
    near: Basis | None = None,
) -> Proposal:
    """Fit a timeline whose problem is stated already, so that nothing lies outside the piece where that can
    be had."""
    proposal = _propose_within(timeline, problem, held, near)
    outside = outside_the_piece(timeline, proposal) if proposal.status is Status.SOLVED else ()
    # with more room at the end the lines before it may take some of it
    for _ in range(_MOST_LONGER if outside else 0):
        longer = with_longer_end(timeline, problem, proposal)
        better = _propose_within(timeline, longer, held, proposal.basis) if longer is not None else None
        if longer is None or better is None or better.status is not Status.SOLVED:
            break
        problem, proposal, outside = longer, better, outside_the_piece(timeline, better)
        if not outside:
            break
    return replace(proposal, outside=outside)


def _propose_within(
    timeline: Timeline, problem: FitProblem, held: frozenset[str], near: Basis | None = None
) -> Proposal:
    """The fit within the limits of a problem."""
    on_beat = beat_shots(timeline.project)
    if on_beat:
        places = {int(shot): number for number, shot in enumerate(problem.shots.anchors)}
        beats = [ticks_to_seconds(beat) for beat in timeline.project.beats]
        chosen = hold_on_beats(problem, [places[shot] for shot in on_beat], beats)
        if chosen.problem is None:
            return Proposal(Status.INFEASIBLE, NO_BEATS)
        problem = chosen.problem
    program = build_program(problem)
    binding = ActiveSet(program)
    solution = solve_from(program, binding, near.solution if near is not None else None)
    if solution.status is not Status.SOLVED:
        return Proposal(solution.status, NO_TIMES)
    whole = settle_on_frames(problem, program, solution, binding)
    if whole.solution.status is not Status.SOLVED:
        return Proposal(whole.solution.status, NO_FRAMES)
    return _read(timeline, problem, whole, Basis(timeline, problem, program, solution), held)


def _read(
    timeline: Timeline, problem: FitProblem, whole: WholeFrames, basis: Basis, held: frozenset[str]
) -> Proposal:
    frames = tuple(int(count) for count in whole.frames)
    lines = read_lines(timeline, problem, whole, held)
    shots = {span.shot.id: span for span in shot_spans(timeline.project, frames)}
    return Proposal(
        status=Status.SOLVED,
        cost=whole.solution.cost,
        exact_cost=basis.solution.cost,
        shot_frames=frames,
        captions=planned_captions(timeline, lines, shots),
        lines=lines,
        spoken_until_s=last_word_s(problem, whole.program, whole.solution),
        basis=basis,
    )


def apply_proposal(project: Project, proposal: Proposal, paced: Mapping[str, Take]) -> Project:
    """The project as the proposal has it, with the takes made at its paces (by line id) where there are
    any."""
    plans = {plan.line_id: plan for plan in proposal.lines}
    made = project_with_shots(project, proposal.shot_frames)
    starts = {span.shot.id: span.start_frame for span in shot_spans(made)}
    captions: tuple[Caption, ...] = tuple(
        caption.changed(in_frames=start - starts[caption.shot_id], out_frames=end - starts[caption.shot_id])
        for caption, (_, start, end) in zip(project.captions, proposal.captions, strict=True)
    )
    index = Index(project)
    lines = tuple(
        line.changed(placement=_placement(project, line, plans[line.id], starts, paced, index))
        for line in project.lines
    )
    return made.changed(captions=captions, lines=lines)


def _placement(
    project: Project,
    line: Line,
    plan: LinePlan,
    starts: Mapping[str, int],
    paced: Mapping[str, Take],
    index: Index,
) -> Placement | None:
    if line.locked and line.placement is None:
        return None
    offset = plan.start_ticks - project.rate.ticks(starts[line.first_shot_id])
    if line.locked and line.placement is not None:
        return line.placement.changed(offset_ticks=offset)
    take = paced.get(line.id)
    key = natural_key(project, line, index)
    return Placement(offset_ticks=offset, spans=plan.lengths, take_id=take.id if take else None, key=key)

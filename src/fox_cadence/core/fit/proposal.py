"""A proposal: the result of a fit beside what is there now. Making one changes nothing; applying it gives a project."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from fox_cadence.core.fit.captions import SpokenCaption, caption_frames
from fox_cadence.core.fit.explain import LineSum, explain_line, shot_names
from fox_cadence.core.fit.frames import WholeFrames, settle_on_frames
from fox_cadence.core.fit.problem import FitProblem, Floats, state_problem
from fox_cadence.core.fit.program import build_program
from fox_cadence.core.fit.solver import Status, solve, worst_violation
from fox_cadence.core.project import Caption, Line, Placement, Project, Shot
from fox_cadence.core.states import LineState, timing_state
from fox_cadence.core.takes import Take
from fox_cadence.core.ticks import seconds_to_ticks, to_sample_grid
from fox_cadence.core.timeline import LineSpan, Timeline, caption_words, shot_spans, window_ticks

_NO_CHANGE = 0.0002
"""A relative change of length below this is rounding of the solver, not a wish."""


@dataclass(frozen=True, slots=True)
class LinePlan:
    """What the fit proposes for one line; times in ticks of the piece."""

    line_id: str
    text: str
    state: LineState
    start_ticks: int
    voiced_ticks: int
    pause_ticks: int
    natural_voiced_ticks: int
    window_start_ticks: int
    window_end_ticks: int
    spill_ticks: int
    idle_ticks: int
    sum: LineSum

    @property
    def end_ticks(self) -> int:
        return self.start_ticks + self.voiced_ticks + self.pause_ticks

    @property
    def pace(self) -> float:
        return self.natural_voiced_ticks / self.voiced_ticks if self.voiced_ticks else 1.0


@dataclass(frozen=True, slots=True)
class Proposal:
    """`status` is SOLVED or says why there is none; then `lines` is empty and `reason` is for the editor."""

    status: Status
    reason: str
    cost: float
    exact_cost: float
    violation_s: float
    shot_frames: tuple[int, ...]
    captions: tuple[tuple[str, int, int], ...]
    lines: tuple[LinePlan, ...]


def propose(timeline: Timeline) -> Proposal:
    """Fit a timeline. Pure: the same timeline gives the same proposal."""
    impossible = _impossible(timeline)
    if impossible:
        return _none(Status.INFEASIBLE, impossible)
    problem = state_problem(timeline)
    if problem.shots == 0:
        return _none(Status.INFEASIBLE, "There is no shot yet, so there is nothing to fit to.")
    program = build_program(problem)
    solution = solve(program)
    if solution.status is not Status.SOLVED:
        return _none(solution.status, _why_none(timeline))
    whole = settle_on_frames(problem, solution)
    if whole.solution.status is not Status.SOLVED:
        return _none(whole.solution.status, "The cuts can't be brought to whole frames within these limits.")
    return _read_back(timeline, problem, whole, solution.cost)


def _none(status: Status, reason: str) -> Proposal:
    return Proposal(status, reason, 0.0, 0.0, 0.0, (), (), ())


def _impossible(timeline: Timeline) -> str:
    """A plain contradiction that can be named without solving."""
    project = timeline.project
    if project.longest_ticks is None or not project.shots:
        return ""
    problem = state_problem(timeline)
    least = float(problem.shortest.sum())
    most = float(problem.longest_total or 0)
    if least <= most + 1e-9:
        return ""
    locked = sum(shot.locked for shot in project.shots)
    held = f" {locked} of them locked," if locked else ""
    return (
        f"The shots can't be shorter than {least:.2f} s together,{held} and the piece may last {most:.2f} s. "
        "Allow a longer piece, unlock a shot, or let the shots give way."
    )


def _why_none(timeline: Timeline) -> str:
    project = timeline.project
    locks = [f"shot {i + 1}" for i, shot in enumerate(project.shots) if shot.locked]
    locks += [f"line {i + 1}" for i, line in enumerate(project.lines) if line.locked]
    locks += [f"caption {i + 1}" for i, caption in enumerate(project.captions) if caption.locked]
    named = ", ".join(locks) if locks else "none"
    return f"No times satisfy all locks and limits at once. Locked: {named}. Unlock one of them and fit again."


def _read_back(timeline: Timeline, problem: FitProblem, whole: WholeFrames, exact_cost: float) -> Proposal:
    project = timeline.project
    frames = tuple(int(count) for count in whole.frames)
    shots = tuple(
        shot.model_copy(update={"length_frames": count}) for shot, count in zip(project.shots, frames, strict=True)
    )
    spans = {span.shot.id: (span.start_frame, span.end_frame) for span in shot_spans(shots)}
    before = {span.shot.id: (span.start_frame, span.end_frame) for span in timeline.shots}
    x = whole.solution.x
    columns = [x[whole.program.columns(block)] for block in range(3)]
    plans: list[LinePlan] = []
    for position, span in enumerate(timeline.lines):
        plans.append(_plan(project, span, position, columns, spans, plans[-1] if plans else None))
    plans = _with_idle(plans, project)
    captions = caption_frames(project, _spoken(timeline, plans), before, spans)
    return Proposal(
        status=Status.SOLVED,
        reason="",
        cost=whole.solution.cost,
        exact_cost=exact_cost,
        violation_s=worst_violation(whole.program, x),
        shot_frames=frames,
        captions=tuple((caption.id, *captions[caption.id]) for caption in project.captions),
        lines=tuple(plans),
    )


def _plan(
    project: Project,
    span: LineSpan,
    position: int,
    columns: list[Floats],
    spans: Mapping[str, tuple[int, int]],
    before: LinePlan | None,
) -> LinePlan:
    line, rate = span.line, project.rate
    first = rate.ticks(spans[line.first_shot_id][0])
    window = window_ticks(project, line, spans)
    offset, voiced_s, pause_s = (float(column[position]) for column in columns)
    if line.locked:
        start, voiced, pause = span.start_ticks, span.end_ticks - span.start_ticks - span.pause_ticks, span.pause_ticks
    else:
        start = to_sample_grid(first + seconds_to_ticks(offset))
        if abs(start - window[0]) < seconds_to_ticks(0.0005):
            start = window[0]
        voiced, pause = _lengths(span, voiced_s, pause_s)
        if before is not None:
            start = max(start, before.end_ticks)
    spill = max(0, start + voiced + pause - window[1])
    pace = span.natural_voiced_ticks / voiced if voiced else 1.0
    house = project.house
    at_limit = "limit" if pace > house.fastest_pace - 1e-3 or pace < house.slowest_pace + 1e-3 else None
    return LinePlan(
        line_id=line.id,
        text=span.said,
        state=LineState.SITS,
        start_ticks=start,
        voiced_ticks=voiced,
        pause_ticks=pause,
        natural_voiced_ticks=span.natural_voiced_ticks,
        window_start_ticks=window[0],
        window_end_ticks=window[1],
        spill_ticks=spill,
        idle_ticks=0,
        sum=explain_line(
            natural_voiced_ticks=span.natural_voiced_ticks,
            natural_pause_ticks=span.natural_pause_ticks,
            voiced_ticks=voiced,
            pause_ticks=pause,
            start_ticks=start,
            window_before_ticks=(span.window_start_ticks, span.window_end_ticks),
            window_ticks=window,
            shot_names=shot_names(project, line),
            pace_limit=at_limit,
        ),
    )


def _lengths(span: LineSpan, voiced_s: float, pause_s: float) -> tuple[int, int]:
    """Planned lengths on whole samples; a change too small to hear is no change."""
    voiced, pause = to_sample_grid(seconds_to_ticks(voiced_s)), to_sample_grid(seconds_to_ticks(pause_s))
    if abs(voiced - span.natural_voiced_ticks) < span.natural_voiced_ticks * _NO_CHANGE:
        voiced = span.natural_voiced_ticks
    if abs(pause - span.natural_pause_ticks) < seconds_to_ticks(0.0002):
        pause = span.natural_pause_ticks
    return voiced, pause


def _with_idle(plans: list[LinePlan], project: Project) -> list[LinePlan]:
    done: list[LinePlan] = []
    for index, plan in enumerate(plans):
        until = plan.window_end_ticks
        if index + 1 < len(plans):
            until = min(until, plans[index + 1].start_ticks)
        idle = max(0, until - plan.end_ticks)
        change = abs(plan.sum.speech[0].ticks - plan.natural_voiced_ticks - plan.pause_ticks)
        state = timing_state(plan.spill_ticks, plan.pace, change, idle, project.house.longest_silence_ticks)
        done.append(replace(plan, idle_ticks=idle, state=state))
    return done


def _spoken(timeline: Timeline, plans: list[LinePlan]) -> tuple[SpokenCaption, ...]:
    """When the words of each caption are heard under the plan: word times scaled to the planned length."""
    times: dict[str, tuple[int, int]] = {}
    for span, plan in zip(timeline.lines, plans, strict=True):
        words = span.word_times_ticks()
        length_now = max(1, span.end_ticks - span.start_ticks)
        length_then = plan.end_ticks - plan.start_ticks
        for caption_id, (first, end) in caption_words(timeline.project, span.line).items():
            if end <= first or end > len(words):
                times[caption_id] = (plan.start_ticks, plan.end_ticks)
                continue
            begin = plan.start_ticks + (words[first][0] - span.start_ticks) * length_then // length_now
            finish = plan.start_ticks + (words[end - 1][1] - span.start_ticks) * length_then // length_now
            begin = plan.start_ticks if first == 0 else begin
            finish = plan.end_ticks if end == len(words) else finish
            times[caption_id] = (begin, finish)
    return tuple(SpokenCaption(caption, times.get(caption.id)) for caption in timeline.project.captions)


def apply_proposal(project: Project, proposal: Proposal, paced: Mapping[str, Take]) -> Project:
    """The project as the proposal has it, with the takes made at its paces (by line id) where there are any."""
    plans = {plan.line_id: plan for plan in proposal.lines}
    shots: tuple[Shot, ...] = tuple(
        shot.model_copy(update={"length_frames": count})
        for shot, count in zip(project.shots, proposal.shot_frames, strict=True)
    )
    starts = {span.shot.id: span.start_frame for span in shot_spans(shots)}
    captions: tuple[Caption, ...] = tuple(
        caption.model_copy(
            update={"in_frames": start - starts[caption.shot_id], "out_frames": end - starts[caption.shot_id]}
        )
        for caption, (_, start, end) in zip(project.captions, proposal.captions, strict=True)
    )
    lines = tuple(
        line.model_copy(update={"placement": _placement(project, line, plans[line.id], starts, paced)})
        for line in project.lines
    )
    return project.model_copy(update={"shots": shots, "captions": captions, "lines": lines})


def _placement(
    project: Project, line: Line, plan: LinePlan, starts: Mapping[str, int], paced: Mapping[str, Take]
) -> Placement | None:
    if line.locked and line.placement is None:
        return None
    offset = plan.start_ticks - project.rate.ticks(starts[line.first_shot_id])
    if line.locked and line.placement is not None:
        return line.placement.model_copy(update={"offset_ticks": offset})
    take = paced.get(line.id)
    return Placement(
        offset_ticks=offset,
        voiced_ticks=plan.voiced_ticks,
        pause_ticks=plan.pause_ticks,
        take_id=take.id if take else None,
    )

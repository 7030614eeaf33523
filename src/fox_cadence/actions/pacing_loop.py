"""From a proposal to sound: takes at the planned paces, measured, and fitted again until plan and sound
agree."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from fox_cadence.actions.voicing import paced_takes
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.fit.plan import LinePlan, Proposal, planned_words, project_with_shots
from fox_cadence.core.fit.proposal import apply_proposal, propose_for
from fox_cadence.core.fit.readback import read_captions
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.fit.statement import state_problem, with_lengths
from fox_cadence.core.project import Project, SpanLength
from fox_cadence.core.speech import speech_of_take
from fox_cadence.core.takes import Take
from fox_cadence.core.ticks import samples_to_ticks, seconds_to_ticks
from fox_cadence.core.timeline import LineSpan, Timeline, shot_spans
from fox_cadence.errors import EngineError
from fox_cadence.jobs.runner import Watcher

MOST_MISS_TICKS = seconds_to_ticks(0.005)
MOST_ROUNDS = 3


@dataclass(frozen=True, slots=True)
class LineResult:
    """Plan against result for one line: where it should end and where its sound does (ticks), how far it was
    stretched beyond the engine's own pace (a share), and in how many rounds."""

    line_id: str
    planned_end_ticks: int
    end_ticks: int
    stretch: float
    rounds: int

    @property
    def off_ticks(self) -> int:
        return self.end_ticks - self.planned_end_ticks


@dataclass(frozen=True, slots=True)
class Realised:
    """A proposal with its sound: the project as it would be, what each line came to, and lines that failed
    and why."""

    project: Project
    proposal: Proposal
    lines: tuple[LineResult, ...]
    failed: tuple[tuple[str, str], ...]
    rounds: int


def realise(
    workspace: Workspace,
    project: Project,
    timeline: Timeline,
    proposal: Proposal,
    held: frozenset[str],
    watch: Watcher,
) -> Realised:
    """Make the takes a proposal needs.

    A take that does not end within 5 ms of its plan (the engine can't speak at that pace) gives its own
    length to the next round's fit; after three rounds what is left is reported.
    """
    takes: dict[str, Take] = {}
    rounds_of: dict[str, int] = {}
    failed: dict[str, str] = {}
    known: dict[str, tuple[SpanLength, ...]] = {}
    spans = {span.line.id: span for span in timeline.lines}
    number = 0
    for number in range(1, MOST_ROUNDS + 1):
        todo = [
            plan for plan in proposal.lines if _needs_take(spans[plan.line_id], plan, held, takes, failed)
        ]
        wanted = [(spans[plan.line_id], plan.lengths) for plan in todo]
        for line_id, found in paced_takes(workspace, project, wanted, watch):
            if isinstance(found, EngineError):
                failed[line_id] = str(found)
            else:
                takes[line_id], rounds_of[line_id] = found, number
        watch.report(len(todo), len(todo))
        off = {plan.line_id: takes[plan.line_id] for plan in proposal.lines if _misses(plan, takes)}
        if not off or number == MOST_ROUNDS:
            break
        known |= {line_id: heard_lengths(spans[line_id], take) for line_id, take in off.items()}
        again = propose_for(timeline, with_lengths(state_problem(timeline, held), timeline, known), held)
        if again.status is not Status.SOLVED:
            break
        proposal = again
    sounding = _kept_takes(timeline, held) | takes
    proposal = _with_heard_captions(timeline, proposal, sounding)
    results = tuple(
        LineResult(
            plan.line_id,
            plan.end_ticks,
            plan.start_ticks + takes[plan.line_id].length_ticks,
            takes[plan.line_id].stretch,
            rounds_of[plan.line_id],
        )
        for plan in proposal.lines
        if plan.line_id in takes
    )
    return Realised(
        apply_proposal(project, proposal, sounding), proposal, results, tuple(failed.items()), number
    )


def _kept_takes(timeline: Timeline, held: frozenset[str]) -> dict[str, Take]:
    """The takes at their paces of lines that stay as they are."""
    return {
        span.line.id: span.take
        for span in timeline.lines
        if span.line.id in held
        and span.take is not None
        and span.line.placement is not None
        and (span.line.placement.take_id or span.line.take_id) == span.take.id
    }


def _needs_take(
    span: LineSpan, plan: LinePlan, held: frozenset[str], takes: Mapping[str, Take], failed: Mapping[str, str]
) -> bool:
    """A line needs a take of its own when the plan is not just what its natural take, or the newest one,
    lasts."""
    line = span.line
    if span.take is None or span.stale or line.locked or line.id in held or line.id in failed:
        return False
    if line.id in takes:
        return abs(takes[line.id].length_ticks - (plan.end_ticks - plan.start_ticks)) > MOST_MISS_TICKS
    if span.take.paced and line.take_id == span.take.id:  # all it has; it may be just as planned
        return plan.lengths != span.lengths
    if span.take.recorded and abs(span.natural_ticks - span.take.length_ticks) > MOST_MISS_TICKS:
        return True  # its written pauses are not in what was recorded
    return plan.lengths != plan.natural


def _misses(plan: LinePlan, takes: Mapping[str, Take]) -> bool:
    take = takes.get(plan.line_id)
    return take is not None and abs(take.length_ticks - (plan.end_ticks - plan.start_ticks)) > MOST_MISS_TICKS


def heard_lengths(span: LineSpan, take: Take) -> tuple[SpanLength, ...]:
    """What the spans of a line last in a take."""
    heard = speech_of_take(take, [part.first_word for part in span.speech.spans[1:]])
    return heard.natural


def _with_heard_captions(timeline: Timeline, proposal: Proposal, takes: Mapping[str, Take]) -> Proposal:
    """Captions set by the words as they are heard, where there is a sound."""
    words = dict(planned_words(timeline, proposal.lines))
    for span, plan in zip(timeline.lines, proposal.lines, strict=True):
        take = takes.get(plan.line_id)
        if take is not None and len(take.words) == len(span.words):
            origin = plan.start_ticks - samples_to_ticks(take.onset_sample)
            words[plan.line_id] = tuple(
                (origin + samples_to_ticks(word.start_sample), origin + samples_to_ticks(word.end_sample))
                for word in take.words
            )
    shots = {
        span.shot.id: span for span in shot_spans(project_with_shots(timeline.project, proposal.shot_frames))
    }
    return replace(proposal, captions=read_captions(timeline, shots, words))

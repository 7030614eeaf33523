"""What a fit proposes, as values."""

from dataclasses import dataclass, field
from functools import cached_property

from fox_cadence.core.fit.checks import Miss, PlannedLine, misses
from fox_cadence.core.fit.explain import LineSum, at_pace_limit, explain_line
from fox_cadence.core.fit.problem import FitProblem
from fox_cadence.core.fit.program import Program
from fox_cadence.core.fit.solver import Solution, Status
from fox_cadence.core.project import Project, SpanLength
from fox_cadence.core.speech import word_times
from fox_cadence.core.states import LineState
from fox_cadence.core.timeline import Timeline, Window


@dataclass(frozen=True, slots=True)
class LinePlan:
    """What the fit proposes for one line; times in ticks of the piece.

    `window_before` is its window as it was, `limits` the slowest and fastest pace of the house.
    """

    line_id: str
    text: str
    state: LineState
    start_ticks: int
    lengths: tuple[SpanLength, ...]
    natural: tuple[SpanLength, ...]
    window: Window
    window_before: Window
    shot_names: str
    limits: tuple[float, float]
    idle_ticks: int

    @property
    def sum(self) -> LineSum:
        """The sum that explains it."""
        return explain_line(
            natural=self.natural,
            lengths=self.lengths,
            start_ticks=self.start_ticks,
            end_ticks=self.end_ticks,
            window_before=self.window_before,
            window=self.window,
            shot_names=self.shot_names,
            at_limit=at_pace_limit(self.limits, self.pace),
        )

    @property
    def end_ticks(self) -> int:
        """End of its last span."""
        return self.start_ticks + sum(length.ticks for length in self.lengths)

    @property
    def pace(self) -> float:
        """How much faster it speaks than at natural pace, pauses left out; 1 where nothing is voiced."""
        voiced = sum(length.voiced_ticks for length in self.lengths)
        return sum(length.voiced_ticks for length in self.natural) / voiced if voiced else 1.0

    @property
    def pause_ticks(self) -> int:
        """Natural pauses."""
        return sum(length.pause_ticks for length in self.lengths)

    @property
    def written_ticks(self) -> int:
        """All pauses the editor has written."""
        return sum(length.written_ticks for length in self.lengths)

    @property
    def early_ticks(self) -> int:
        """By how much it starts before its window."""
        return max(0, self.window.start_ticks - self.start_ticks)

    @property
    def late_ticks(self) -> int:
        """By how much it runs on after its window, within the limit."""
        return max(0, min(self.end_ticks - self.window.end_ticks, self.window.late_ticks))

    @property
    def spill_ticks(self) -> int:
        """By how much it runs past its window and all it may be late."""
        return max(0, self.end_ticks - self.window.end_ticks - self.window.late_ticks)


@dataclass(frozen=True)
class Basis:
    """What a proposal was computed from, before whole frames: the dual values say why it is what it is."""

    timeline: Timeline
    problem: FitProblem
    program: Program
    solution: Solution


@dataclass(frozen=True)
class Proposal:
    """`status` is SOLVED or says why there is none; then `lines` is empty and `reason` is for the editor.

    `outside` names what it leaves past the end of the piece because the picture may not last longer; such a
    proposal is shown and can't be accepted. `cost` is that of the whole-frame answer, `exact_cost` that of
    the answer before rounding. `shot_frames` are lengths, `captions` id, in and out frame. `spoken_until_s`
    is when the last word ends in the solver's answer.
    """

    status: Status
    reason: str = ""
    outside: tuple[str, ...] = ()
    cost: float = 0.0
    exact_cost: float = 0.0
    shot_frames: tuple[int, ...] = ()
    captions: tuple[tuple[str, int, int], ...] = ()
    lines: tuple[LinePlan, ...] = ()
    spoken_until_s: float = 0.0
    basis: Basis | None = field(default=None, repr=False, compare=False)

    @cached_property
    def misses(self) -> tuple[Miss, ...]:
        """Rules that the whole-frame answer breaks, found by our own check (checks.py)."""
        if self.basis is None or not self.lines:
            return ()
        timeline = self.basis.timeline
        words = planned_words(timeline, self.lines)
        planned = [
            PlannedLine(plan.start_ticks, plan.lengths, plan.window, words[plan.line_id])
            for plan in self.lines
        ]
        return misses(
            timeline, project_with_shots(timeline.project, self.shot_frames), planned, self.captions
        )


def project_with_shots(project: Project, frames: tuple[int, ...]) -> Project:
    """The project with other shot lengths."""
    shots = tuple(
        shot if shot.length_frames == count else shot.changed(length_frames=count)
        for shot, count in zip(project.shots, frames, strict=True)
    )
    return project.changed(shots=shots)


def planned_words(timeline: Timeline, plans: tuple[LinePlan, ...]) -> dict[str, tuple[tuple[int, int], ...]]:
    """When each word would be heard under the plan, in ticks of the piece, by line."""
    shortest = timeline.project.house.shortest_pause_ticks
    return {
        plan.line_id: word_times(span.speech, plan.lengths, plan.start_ticks, shortest)
        for span, plan in zip(timeline.lines, plans, strict=True)
    }

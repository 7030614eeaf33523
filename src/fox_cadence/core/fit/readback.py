"""From the solver's numbers back to lines, shots and captions."""

from collections.abc import Mapping
from dataclasses import replace

import numpy as np

from fox_cadence.core.fit.captions import SpokenCaption, caption_frames
from fox_cadence.core.fit.explain import at_pace_limit, explain_line, shot_names
from fox_cadence.core.fit.frames import WholeFrames
from fox_cadence.core.fit.plan import LinePlan
from fox_cadence.core.fit.problem import FitProblem
from fox_cadence.core.lanes import gap_ticks, order_pairs
from fox_cadence.core.marks import sync_points
from fox_cadence.core.project import Line, Project, SpanLength
from fox_cadence.core.speech import word_times
from fox_cadence.core.states import LineState, timing_state
from fox_cadence.core.ticks import TICKS_PER_SAMPLE, TICKS_PER_SECOND, seconds_to_ticks
from fox_cadence.core.timeline import CaptionSpan, LineSpan, ShotSpan, Timeline, next_starts, shot_spans, window_of

_NO_CHANGE = 0.00005
"""A relative change of length below this is rounding of the solver, not a wish."""

_ROUNDING_TICKS = seconds_to_ticks(0.001)
"""What rounding to samples and to no change may cost a gap; it is given back to the gap."""

_SETTLED_TICKS = 6 * TICKS_PER_SAMPLE
"""Two solves of the same problem differ by less."""

_SAME_TICKS = seconds_to_ticks(0.0005)
_SAME_PAUSE_TICKS = seconds_to_ticks(0.0002)

Words = Mapping[str, tuple[tuple[int, int], ...]]
"""Word times in ticks of the piece, by line."""


def project_with_shots(project: Project, frames: tuple[int, ...]) -> Project:
    shots = tuple(
        shot if shot.length_frames == count else shot.model_copy(update={"length_frames": count})
        for shot, count in zip(project.shots, frames, strict=True)
    )
    return project.model_copy(update={"shots": shots})


def read_lines(
    timeline: Timeline, problem: FitProblem, whole: WholeFrames, held: frozenset[str]
) -> tuple[LinePlan, ...]:
    """The plan of every line: samples, windows after the fit, states, sums."""
    reader = _Reader(timeline, problem, whole, held)
    house, lines = timeline.project.house, timeline.project.lines
    after: dict[int, list[int]] = {}
    for a, b in order_pairs(timeline.project.lines):
        after.setdefault(b, []).append(a)
    plans: list[LinePlan] = []
    for position in range(len(timeline.lines)):
        before = [(plans[a].end_ticks, gap_ticks(house, lines[a], lines[position])) for a in after.get(position, ())]
        plans.append(reader.plan(position, before))
    return _with_idle(plans, timeline)


class _Reader:
    def __init__(self, timeline: Timeline, problem: FitProblem, whole: WholeFrames, held: frozenset[str]) -> None:
        self.timeline, self.held = timeline, held
        self.project = project_with_shots(timeline.project, tuple(int(count) for count in whole.frames))
        self.shots = {span.shot.id: span for span in shot_spans(self.project)}
        self._before = {span.shot.id: span for span in timeline.shots}
        self._captions = {caption.id: caption for caption in self.project.captions}
        self._index = self.project.shot_index()
        x, columns = whole.solution.x, whole.program.columns
        grid = TICKS_PER_SECOND / TICKS_PER_SAMPLE
        self._offsets = np.rint(x[columns.offset] * grid).astype(np.int64) * TICKS_PER_SAMPLE
        self._voiced = np.rint(x[columns.voiced] * grid).astype(np.int64) * TICKS_PER_SAMPLE
        pauses = np.where(columns.pauses >= 0, x[columns.pauses], 0.0)
        self._pauses = np.rint(pauses * grid).astype(np.int64) * TICKS_PER_SAMPLE
        self._first_span = problem.lines.first_span

    def plan(self, position: int, before: list[tuple[int, int]]) -> LinePlan:
        """The plan of a line that comes after others, given by their ends and the gaps after them."""
        span = self.timeline.lines[position]
        line, rate = span.line, self.project.rate
        first = rate.ticks(self.shots[line.first_shot_id].start_frame)
        window = window_of(self.project, line, self.shots, self._captions)
        natural = span.speech.natural
        if line.locked or line.id in self.held:
            was = rate.ticks(self._before[line.first_shot_id].start_frame)
            start = span.start_ticks if line.locked else first + span.start_ticks - was
            lengths = span.heard_lengths
        else:
            start = first + int(self._offsets[position])
            if abs(start - window.start_ticks) < _SAME_TICKS:
                start = window.start_ticks
            for ended, gap in before:
                missing = ended + gap - start
                if 0 < missing < _ROUNDING_TICKS and not _first_word_held(line):
                    start += missing
                start = max(start, ended)
            at = int(self._first_span[position])
            lengths = tuple(
                _length(part, int(self._voiced[at + step]), int(self._pauses[at + step]))
                for step, part in enumerate(natural)
            )
            start, lengths = self._as_placed(span, first, start, lengths)
        end = start + sum(length.ticks for length in lengths)
        plan = LinePlan(
            line_id=line.id, text=span.said, state=LineState.SITS, start_ticks=start, lengths=lengths, natural=natural,
            window=window, idle_ticks=0,
            sum=explain_line(
                natural=natural, lengths=lengths, start_ticks=start, end_ticks=end, window_before=span.window,
                window=window, shot_names=shot_names(self._index, line), at_pace_limit=False,
            ),
        )  # fmt: skip
        if at_pace_limit(self.project, plan.pace):
            return replace(
                plan,
                sum=explain_line(
                    natural=natural, lengths=lengths, start_ticks=start, end_ticks=end, window_before=span.window,
                    window=window, shot_names=shot_names(self._index, line), at_pace_limit=True,
                ),
            )  # fmt: skip
        return plan

    def _as_placed(
        self, span: LineSpan, first: int, start: int, lengths: tuple[SpanLength, ...]
    ) -> tuple[int, tuple[SpanLength, ...]]:
        """What a fit has placed already and would place anew within its own precision stays to the sample."""
        placed = span.line.placement
        if placed is None or len(placed.spans) != len(lengths):
            return start, lengths
        before = first + placed.offset_ticks
        same = all(
            abs(a.voiced_ticks - b.voiced_ticks) <= _SETTLED_TICKS
            and abs(a.pause_ticks - b.pause_ticks) <= _SETTLED_TICKS
            and a.written_ticks == b.written_ticks
            for a, b in zip(placed.spans, lengths, strict=True)
        )
        return (
            before if abs(before - start) <= _SETTLED_TICKS else start,
            placed.spans if same else lengths,
        )


def _first_word_held(line: Line) -> bool:
    return any(point.word == 0 for point in sync_points(line.marks))


def _length(natural: SpanLength, voiced: int, pause: int) -> SpanLength:
    """Planned lengths on whole samples; a change too small to hear is no change."""
    if abs(voiced - natural.voiced_ticks) < natural.voiced_ticks * _NO_CHANGE:
        voiced = natural.voiced_ticks
    if abs(pause - natural.pause_ticks) < _SAME_PAUSE_TICKS:
        pause = natural.pause_ticks
    if voiced == natural.voiced_ticks and pause == natural.pause_ticks:
        return natural
    return SpanLength(voiced_ticks=voiced, pause_ticks=pause, written_ticks=natural.written_ticks)


def _with_idle(plans: list[LinePlan], timeline: Timeline) -> tuple[LinePlan, ...]:
    longest = timeline.project.house.longest_silence_ticks
    following = next_starts(
        [(span.line.lane, plan.start_ticks) for span, plan in zip(timeline.lines, plans, strict=True)]
    )
    done: list[LinePlan] = []
    for plan, next_start in zip(plans, following, strict=True):
        until = plan.window.end_ticks if next_start is None else min(plan.window.end_ticks, next_start)
        idle = max(0, until - plan.end_ticks)
        closed = sum(length.pause_ticks for length in plan.natural) - plan.pause_ticks
        state = timing_state(plan.spill_ticks, plan.pace, closed, idle, longest)
        done.append(replace(plan, idle_ticks=idle, state=state))
    return tuple(done)


def planned_words(timeline: Timeline, plans: tuple[LinePlan, ...]) -> dict[str, tuple[tuple[int, int], ...]]:
    """When each word would be heard under the plan."""
    shortest = timeline.project.house.shortest_pause_ticks
    return {
        plan.line_id: word_times(span.speech, plan.lengths, plan.start_ticks, shortest)
        for span, plan in zip(timeline.lines, plans, strict=True)
    }


def read_captions(timeline: Timeline, shots: Mapping[str, ShotSpan], words: Words) -> tuple[tuple[str, int, int], ...]:
    """In and out frame of every caption under word times, in the order of the project."""
    spoken = [_spoken(timeline, span, words) for span in timeline.captions]
    before = {span.shot.id: span for span in timeline.shots}
    frames = caption_frames(timeline.project, spoken, before, shots)
    return tuple((caption.id, *frames[caption.id]) for caption in timeline.project.captions)


def _spoken(timeline: Timeline, span: CaptionSpan, words: Words) -> SpokenCaption:
    times = words.get(span.line_id or "", ())
    first, end = span.words
    if end <= first or end > len(times):
        return SpokenCaption(span.caption, None)
    line = next(each.line for each in timeline.lines if each.line.id == span.line_id)
    lane = 1 if line.lane == 1 and line.may_overlap else 0
    return SpokenCaption(span.caption, (times[first][0], times[end - 1][1]), lane)

"""From the solver's numbers back to lines, shots and captions."""

from collections.abc import Callable, Mapping

import numpy as np

from fox_cadence.core.fit.captions import SpokenCaption, caption_frames
from fox_cadence.core.fit.explain import shot_names
from fox_cadence.core.fit.frames import WholeFrames
from fox_cadence.core.fit.plan import LinePlan, project_with_shots
from fox_cadence.core.fit.problem import FitProblem
from fox_cadence.core.lanes import gap_ticks, order_pairs
from fox_cadence.core.marks import sync_points
from fox_cadence.core.project import Line, SpanLength
from fox_cadence.core.speech import word_edge
from fox_cadence.core.states import timing_state
from fox_cadence.core.ticks import TICKS_PER_SAMPLE, TICKS_PER_SECOND, seconds_to_ticks
from fox_cadence.core.timeline import (
    CaptionSpan,
    LineSpan,
    ShotSpan,
    Timeline,
    Window,
    next_starts,
    shot_spans,
    window_of,
)

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


def read_lines(
    timeline: Timeline, problem: FitProblem, whole: WholeFrames, held: frozenset[str]
) -> tuple[LinePlan, ...]:
    """The plan of every line: samples, windows after the fit, states."""
    reader = _Reader(timeline, problem, whole, held)
    house, lines = timeline.project.house, timeline.project.lines
    after: dict[int, list[int]] = {}
    for a, b in order_pairs(lines):
        after.setdefault(b, []).append(a)
    placed: list[tuple[int, tuple[SpanLength, ...]]] = []
    ends: list[int] = []
    for position in range(len(lines)):
        before = [(ends[a], gap_ticks(house, lines[a], lines[position])) for a in after.get(position, ())]
        start, lengths = reader.place(position, before)
        placed.append((start, lengths))
        ends.append(start + sum(length.ticks for length in lengths))
    following = next_starts([(line.lane, start) for line, (start, _) in zip(lines, placed, strict=True)])
    return tuple(
        reader.plan(position, *placed[position], ends[position], next_start)
        for position, next_start in enumerate(following)
    )


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
        self._windows: dict[int, Window] = {}
        self._limits = (self.project.house.slowest_pace, self.project.house.fastest_pace)

    def place(self, position: int, before: list[tuple[int, int]]) -> tuple[int, tuple[SpanLength, ...]]:
        """Start and lengths of a line that comes after others, given by their ends and the gaps after them."""
        span = self.timeline.lines[position]
        line, rate = span.line, self.project.rate
        first = rate.ticks(self.shots[line.first_shot_id].start_frame)
        if line.locked or line.id in self.held:
            was = rate.ticks(self._before[line.first_shot_id].start_frame)
            return span.start_ticks if line.locked else first + span.start_ticks - was, span.heard_lengths
        start = first + int(self._offsets[position])
        window = self._window(position)
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
            for step, part in enumerate(span.speech.natural)
        )
        return self._as_placed(span, first, start, lengths)

    def plan(
        self, position: int, start: int, lengths: tuple[SpanLength, ...], end: int, next_start: int | None
    ) -> LinePlan:
        """The plan of a line, with its state and the idle time after it."""
        span, window = self.timeline.lines[position], self._window(position)
        natural = span.speech.natural
        until = window.end_ticks if next_start is None else min(window.end_ticks, next_start)
        idle = max(0, until - end)
        voiced = sum(length.voiced_ticks for length in lengths)
        pace = span.speech.voiced_ticks / voiced if voiced else 1.0
        closed = sum(a.pause_ticks - b.pause_ticks for a, b in zip(natural, lengths, strict=True))
        spill = max(0, end - window.end_ticks - window.late_ticks)
        return LinePlan(
            line_id=span.line.id, text=span.said,
            state=timing_state(spill, pace, closed, idle, self.project.house.longest_silence_ticks),
            start_ticks=start, lengths=lengths, natural=natural, window=window, window_before=span.window,
            shot_names=shot_names(self._index, span.line), limits=self._limits, idle_ticks=idle,
        )  # fmt: skip

    def _window(self, position: int) -> Window:
        known = self._windows.get(position)
        if known is None:
            line = self.timeline.lines[position].line
            known = self._windows[position] = window_of(self.project, line, self.shots, self._captions)
        return known

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


def planned_captions(
    timeline: Timeline, plans: tuple[LinePlan, ...], shots: Mapping[str, ShotSpan]
) -> tuple[tuple[str, int, int], ...]:
    """In and out frame of every caption under a plan, in the order of the project."""
    placed = {plan.line_id: (span, plan) for span, plan in zip(timeline.lines, plans, strict=True)}
    shortest = timeline.project.house.shortest_pause_ticks

    def edges(span: CaptionSpan) -> tuple[int, int] | None:
        line, plan = placed[span.line_id or ""]
        first, end = span.words
        if end <= first or end > len(line.speech.words):
            return None
        return (
            word_edge(line.speech, plan.lengths, plan.start_ticks, shortest, first, end=False),
            word_edge(line.speech, plan.lengths, plan.start_ticks, shortest, end - 1, end=True),
        )

    return _captions(timeline, shots, edges)


def read_captions(timeline: Timeline, shots: Mapping[str, ShotSpan], words: Words) -> tuple[tuple[str, int, int], ...]:
    """In and out frame of every caption under word times that are known, in the order of the project."""

    def edges(span: CaptionSpan) -> tuple[int, int] | None:
        times = words.get(span.line_id or "", ())
        first, end = span.words
        return (times[first][0], times[end - 1][1]) if first < end <= len(times) else None

    return _captions(timeline, shots, edges)


def _captions(
    timeline: Timeline, shots: Mapping[str, ShotSpan], edges: Callable[[CaptionSpan], tuple[int, int] | None]
) -> tuple[tuple[str, int, int], ...]:
    lines = {span.line.id: span.line for span in timeline.lines}
    spoken: list[SpokenCaption] = []
    for span in timeline.captions:
        line = lines.get(span.line_id or "")
        times = edges(span) if line is not None else None
        lane = 1 if line is not None and times is not None and line.lane == 1 and line.may_overlap else 0
        spoken.append(SpokenCaption(span.caption, times, lane))
    before = {span.shot.id: span for span in timeline.shots}
    frames = caption_frames(timeline.project, spoken, before, shots)
    return tuple((caption.id, *frames[caption.id]) for caption in timeline.project.captions)

"""From the solver's numbers back to lines, shots and captions."""

from collections.abc import Callable, Mapping

import numpy as np

from fox_cadence.core.fit.captions import SpokenCaption, caption_frames
from fox_cadence.core.fit.explain import shot_names
from fox_cadence.core.fit.frames import WholeFrames
from fox_cadence.core.fit.plan import LinePlan
from fox_cadence.core.fit.problem import FitProblem, Floats, Ints
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
    after: list[list[tuple[int, int]]] = [[] for _ in timeline.lines]
    gaps = np.rint(problem.lines.gaps * TICKS_PER_SECOND).astype(np.int64).tolist()
    for (a, b), gap in zip(problem.lines.pairs.tolist(), gaps, strict=True):
        after[b].append((a, gap))
    placed: list[tuple[int, tuple[SpanLength, ...]]] = []
    ends: list[int] = []
    for position, before in enumerate(after):
        start, lengths = reader.place(position, [(ends[a], gap) for a, gap in before])
        placed.append((start, lengths))
        ends.append(start + sum(length.ticks for length in lengths))
    following = next_starts(
        [(span.line.lane, start) for span, (start, _) in zip(timeline.lines, placed, strict=True)]
    )
    return tuple(
        reader.plan(position, *placed[position], ends[position], next_start)
        for position, next_start in enumerate(following)
    )


class _Reader:
    def __init__(
        self, timeline: Timeline, problem: FitProblem, whole: WholeFrames, held: frozenset[str]
    ) -> None:
        self.timeline, self.held = timeline, held
        project = timeline.project
        self._house, self._frame_ticks = project.house, project.rate.frame_ticks
        shots = {span.shot.id: span for span in shot_spans(project, whole.frames.tolist())}
        captions = {caption.id: caption for caption in project.captions}
        self._windows = [window_of(project, span.line, shots, captions) for span in timeline.lines]
        self._cuts = [span.start_frame * self._frame_ticks for span in shots.values()]
        self._first = problem.lines.first.tolist()
        self._index = project.shot_index()
        self._offsets = _on_samples(whole.solution.x[whole.program.columns.offset]).tolist()
        self._lengths = _line_lengths(timeline, problem, whole)
        self._limits = (self._house.slowest_pace, self._house.fastest_pace)

    def place(self, position: int, before: list[tuple[int, int]]) -> tuple[int, tuple[SpanLength, ...]]:
        """Start and lengths of a line that comes after others, given by their ends and the gaps after
        them."""
        span = self.timeline.lines[position]
        line, first = span.line, self._cuts[self._first[position]]
        if line.locked or line.id in self.held:
            was = self.timeline.shots[self._first[position]].start_frame * self._frame_ticks
            return span.start_ticks if line.locked else first + span.start_ticks - was, span.heard_lengths
        start = first + self._offsets[position]
        earliest = self._windows[position].start_ticks
        if abs(start - earliest) < _SAME_TICKS:
            start = earliest
        for ended, gap in before:
            missing = ended + gap - start
            if 0 < missing < _ROUNDING_TICKS and not _first_word_held(line):
                start += missing
            start = max(start, ended)
        return self._as_placed(span, first, start, self._lengths[position])

    def plan(
        self, position: int, start: int, lengths: tuple[SpanLength, ...], end: int, next_start: int | None
    ) -> LinePlan:
        """The plan of a line, with its state and the idle time after it."""
        span, window = self.timeline.lines[position], self._windows[position]
        natural = span.speech.natural
        until = window.end_ticks if next_start is None else min(window.end_ticks, next_start)
        idle = max(0, until - end)
        pace, closed = 1.0, 0
        if lengths is not natural:
            voiced = sum(length.voiced_ticks for length in lengths)
            pace = span.speech.voiced_ticks / voiced if voiced else 1.0
            closed = sum(a.pause_ticks - b.pause_ticks for a, b in zip(natural, lengths, strict=True))
        spill = max(0, end - window.end_ticks - window.late_ticks)
        return LinePlan(
            line_id=span.line.id, text=span.said,
            state=timing_state(spill, pace, closed, idle, self._house.longest_silence_ticks),
            start_ticks=start, lengths=lengths, natural=natural, window=window, window_before=span.window,
            shot_names=shot_names(self._index, span.line), limits=self._limits, idle_ticks=idle,
        )  # fmt: skip

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


def _on_samples(seconds: Floats) -> Ints:
    """Ticks of the nearest samples."""
    return np.rint(seconds * (TICKS_PER_SECOND / TICKS_PER_SAMPLE)).astype(np.int64) * TICKS_PER_SAMPLE


def _within_paces(problem: FitProblem, natural: Ints, voiced: Ints) -> Ints:
    """Lengths on samples within the paces of the house: of a very short span a sample is more than a pace may
    miss."""
    spans, limits = problem.spans, problem.limits
    least = np.ceil(natural / (limits.fastest * TICKS_PER_SAMPLE)).astype(np.int64) * TICKS_PER_SAMPLE
    most = np.floor(natural / (limits.slowest * TICKS_PER_SAMPLE)).astype(np.int64) * TICKS_PER_SAMPLE
    planned = spans.adapts & np.isnan(spans.fixed_voiced) & (least <= most)
    return np.where(planned, np.clip(voiced, least, np.maximum(least, most)), voiced)


def _line_lengths(
    timeline: Timeline, problem: FitProblem, whole: WholeFrames
) -> list[tuple[SpanLength, ...]]:
    """Planned lengths of the spans of every line on whole samples; a change too small to hear is no
    change."""
    x, columns, spans = whole.solution.x, whole.program.columns, problem.spans
    natural_voiced, natural_pauses = (
        np.rint(natural * TICKS_PER_SECOND).astype(np.int64) for natural in (spans.voiced, spans.pauses)
    )
    voiced = _within_paces(problem, natural_voiced, _on_samples(x[columns.voiced]))
    pauses = _on_samples(np.where(columns.pauses >= 0, x[columns.pauses], 0.0))
    voiced = np.where(abs(voiced - natural_voiced) < natural_voiced * _NO_CHANGE, natural_voiced, voiced)
    pauses = np.where(abs(pauses - natural_pauses) < _SAME_PAUSE_TICKS, natural_pauses, pauses)
    changed = ((voiced != natural_voiced) | (pauses != natural_pauses)).tolist()
    planned = list(zip(voiced.tolist(), pauses.tolist(), strict=True))
    found: list[tuple[SpanLength, ...]] = []
    at = 0
    for span in timeline.lines:
        natural = span.speech.natural
        past = at + len(natural)
        if True in changed[at:past]:
            natural = tuple(
                SpanLength(voiced_ticks=voiced, pause_ticks=pauses, written_ticks=length.written_ticks)
                for length, (voiced, pauses) in zip(natural, planned[at:past], strict=True)
            )
        found.append(natural)
        at = past
    return found


def _first_word_held(line: Line) -> bool:
    return any(point.word == 0 for point in sync_points(line.marks))


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


def read_captions(
    timeline: Timeline, shots: Mapping[str, ShotSpan], words: Words
) -> tuple[tuple[str, int, int], ...]:
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

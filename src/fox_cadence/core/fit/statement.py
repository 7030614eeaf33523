"""Reads a fit problem off a timeline: objects in, arrays out, one pass over each kind."""

import itertools
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

import numpy as np

from fox_cadence.core.fit.captions import characters_read
from fox_cadence.core.fit.problem import (
    Captions,
    FitProblem,
    Floats,
    Ints,
    Limits,
    Lines,
    Shots,
    Spans,
    Syncs,
    WordEdges,
)
from fox_cadence.core.lanes import gap_ticks, order_pairs, voice_neighbours
from fox_cadence.core.marks import sync_points
from fox_cadence.core.project import Project, SpanLength
from fox_cadence.core.shot_limits import overlap_frames, shot_limits_frames
from fox_cadence.core.speech import position
from fox_cadence.core.ticks import TICKS_PER_SECOND
from fox_cadence.core.timeline import CaptionSpan, LineSpan, Timeline


def state_problem(timeline: Timeline, held: frozenset[str] = frozenset()) -> FitProblem:
    """The fit problem of a timeline; lines that are `held` keep their lengths and their place in their
    shot."""
    project = timeline.project
    house = project.house
    frame_s = project.rate.frame_ticks / TICKS_PER_SECOND
    index = project.shot_index()
    starts = [project.rate.ticks(span.start_frame) for span in timeline.shots]
    limits = [_limits(project, position) for position in range(len(project.shots))]
    return FitProblem(
        frame_s=frame_s,
        shots=_shots(timeline, frame_s, limits),
        lines=_lines(timeline, index, starts, held, [low for low, _ in limits]),
        spans=_spans(timeline, held),
        syncs=_syncs(timeline, index, frame_s, held),
        captions=_captions(timeline, index, frame_s),
        limits=Limits(
            slowest=house.slowest_pace,
            fastest=house.fastest_pace,
            caption_lead=house.caption_lead_ticks / TICKS_PER_SECOND,
            caption_linger=house.caption_linger_ticks / TICKS_PER_SECOND,
            longest_total=None if project.longest_ticks is None else project.longest_ticks / TICKS_PER_SECOND,
            total_fixed=project.length_fixed,
            stretch=house.shot_stretch,
        ),
    )


def with_lengths(
    problem: FitProblem, timeline: Timeline, known: Mapping[str, Sequence[SpanLength]]
) -> FitProblem:
    """The problem with the lengths of some lines given: what their sound has turned out to last."""
    voiced, pauses = problem.spans.fixed_voiced.copy(), problem.spans.fixed_pauses.copy()
    for number, span in enumerate(timeline.lines):
        for step, length in enumerate(known.get(span.line.id, ())):
            at = int(problem.lines.first_span[number]) + step
            voiced[at] = length.voiced_ticks / TICKS_PER_SECOND
            pauses[at] = length.pause_ticks / TICKS_PER_SECOND
    return replace(problem, spans=replace(problem.spans, fixed_voiced=voiced, fixed_pauses=pauses))


def _seconds(ticks: Iterable[float]) -> Floats:
    return np.array(list(ticks), dtype=np.float64) / TICKS_PER_SECOND


def _ints(values: Iterable[int]) -> Ints:
    return np.array(list(values), dtype=np.int64)


def _pairs(values: Sequence[tuple[int, int]]) -> Ints:
    return np.array(values, dtype=np.int64).reshape(-1, 2)


def _shots(timeline: Timeline, frame_s: float, limits: Sequence[tuple[int, int]]) -> Shots:
    project = timeline.project
    held = _held_starts(timeline)
    anchors = sorted(held | set(beat_shots(project)))
    starts = (
        np.array([timeline.shots[shot].start_frame if shot in held else np.nan for shot in anchors]) * frame_s
    )
    return Shots(
        wanted=np.array([shot.wanted_frames for shot in project.shots]) * frame_s,
        shortest=np.array([low for low, _ in limits]) * frame_s,
        longest=np.array([high for _, high in limits]) * frame_s,
        overlap=np.array(overlap_frames(project)) * frame_s,
        voice_leads=np.array(
            [_gives(project, shot.give_way) == "voice" for shot in project.shots], dtype=np.bool_
        ),
        anchors=_ints(anchors),
        anchor_low=np.where(np.isnan(starts), -np.inf, starts),
        anchor_high=np.where(np.isnan(starts), np.inf, starts),
    )


def beat_shots(project: Project) -> list[int]:
    """Shots whose first cut is asked to lie on a beat, where beats are known."""
    if not project.beats:
        return []
    return [position for position, shot in enumerate(project.shots) if shot.on_beat and position > 0]


def _gives(project: Project, override: str | None) -> str:
    return override or project.give_way


def _limits(project: Project, position: int) -> tuple[int, int]:
    shot = project.shots[position]
    if shot.locked or _gives(project, shot.give_way) == "picture":
        return shot.length_frames, shot.length_frames
    return shot_limits_frames(project, position)


def _held_starts(timeline: Timeline) -> set[int]:
    """Shots whose start may not move: locked ones, and those that carry a locked caption or line. Never the
    first."""
    project = timeline.project
    ids = (
        {shot.id for shot in project.shots if shot.locked}
        | {caption.shot_id for caption in project.captions if caption.locked}
        | {line.first_shot_id for line in project.lines if line.locked}
    )
    return {position for position, shot in enumerate(project.shots) if shot.id in ids and position > 0}


def _lines(
    timeline: Timeline,
    index: Mapping[str, int],
    starts: Sequence[int],
    held: frozenset[str],
    shortest: Sequence[int],
) -> Lines:
    project, spans = timeline.project, timeline.lines
    house, lines = project.house, [span.line for span in timeline.lines]
    captions = {caption.id: caption for caption in project.captions}
    first = _ints(index[line.first_shot_id] for line in lines)
    last = _ints(index[line.last_shot_id] for line in lines)
    shot_starts = np.array([*starts, timeline.total_ticks], dtype=np.int64)
    shot_ends = _ints(project.rate.ticks(span.end_frame) for span in timeline.shots)
    start = shot_starts[first]
    window_start = _ints(span.window.start_ticks for span in spans)
    after_start = window_start - start
    before = _ints(_least_time_before(project, shortest))[first]
    after = _ints(_least_time_after(project, shortest))[last]
    late = _ints(
        house.longest_l_cut_ticks if line.longest_l_cut_ticks is None else line.longest_l_cut_ticks
        for line in lines
    )
    led = [
        (number, shown)
        for number, line in enumerate(lines)
        if line.caption_ids and (shown := captions[line.caption_ids[-1]]).leads
    ]
    led_lines = _ints(number for number, _ in led)
    late[led_lines] = 0
    fixed = np.full(len(lines), np.nan)
    for number, line in enumerate(lines):
        if line.locked or line.id in held:
            fixed[number] = spans[number].start_ticks - start[number]
    pairs = order_pairs(project.lines)
    return Lines(
        first=first,
        until=last + 1,
        offset_min=after_start / TICKS_PER_SECOND,
        end_margin=(shot_starts[last + 1] - shot_ends[last] + house.tail_ticks) / TICKS_PER_SECOND,
        ideal=_seconds(
            house.lead_ticks if line.wanted_offset_ticks is None else line.wanted_offset_ticks
            for line in lines
        ),
        early_limit=np.maximum(
            0, np.minimum(_ints(span.window.early_ticks for span in spans), before + after_start)
        )
        / TICKS_PER_SECOND,
        late_limit=np.maximum(0, np.minimum(late, after + house.tail_ticks)) / TICKS_PER_SECOND,
        fixed_start=fixed / TICKS_PER_SECOND,
        led=led_lines,
        led_shot=_ints(index[shown.shot_id] for _, shown in led),
        led_out=_seconds(project.rate.ticks(shown.out_frames) for _, shown in led),
        pairs=_pairs(pairs),
        gaps=_seconds(gap_ticks(house, lines[a], lines[b]) for a, b in pairs),
        first_span=_ints([0, *itertools.accumulate(len(span.speech.spans) for span in spans)]),
    )


def _least_time_before(project: Project, shortest: Sequence[int]) -> list[int]:
    """Ticks of the piece that lie before each shot at least: a J-cut can't begin before the piece does."""
    steps = (low - overlap for low, overlap in zip(shortest, overlap_frames(project), strict=True))
    return [project.rate.ticks(frames) for frames in itertools.accumulate(steps, initial=0)]


def _least_time_after(project: Project, shortest: Sequence[int]) -> list[int]:
    """Ticks of the piece that lie after each shot at least: an L-cut can't run on past the end of the
    piece."""
    steps = [low - before for low, before in zip(shortest[1:], overlap_frames(project), strict=False)]
    return [project.rate.ticks(frames) for frames in itertools.accumulate(reversed(steps), initial=0)][::-1]


def _spans(timeline: Timeline, held: frozenset[str]) -> Spans:
    project, shortest = timeline.project, timeline.project.house.shortest_pause_ticks
    spans = timeline.lines
    counts = [len(span.speech.spans) for span in spans]
    first_span = [0, *itertools.accumulate(counts)]
    line = np.repeat(np.arange(len(spans)), counts)
    natural = [length for span in spans for length in span.speech.natural]
    adapts = np.array([_gives(project, span.line.give_way) != "voice" for span in spans], dtype=np.bool_)
    fixed_voiced, fixed_pauses = np.full(len(natural), np.nan), np.full(len(natural), np.nan)
    for number, span in enumerate(spans):
        if span.line.locked or span.line.id in held:
            adapts[number] = False
            for at, length in enumerate(span.heard_lengths, first_span[number]):
                fixed_voiced[at], fixed_pauses[at] = length.voiced_ticks, length.pause_ticks
    # the spans of a line follow one another, and so do the lines of a voice
    inner = (
        [at for at in range(1, len(natural)) if line[at] == line[at - 1]]
        if max(counts, default=0) > 1
        else []
    )
    neighbours = [(at - 1, at) for at in inner]
    neighbours += [(first_span[a + 1] - 1, first_span[b]) for a, b in voice_neighbours(project.lines)]
    return Spans(
        line=line,
        voiced=_seconds(length.voiced_ticks for length in natural),
        pauses=_seconds(length.pause_ticks for length in natural),
        least_pauses=_seconds(
            sum([min(rest, shortest) for rest in part.natural_rests]) if part.rests else 0
            for span in spans
            for part in span.speech.spans
        ),
        written=_seconds(length.written_ticks for length in natural),
        adapts=adapts[line],
        fixed_voiced=fixed_voiced / TICKS_PER_SECOND,
        fixed_pauses=fixed_pauses / TICKS_PER_SECOND,
        neighbours=_pairs(neighbours),
    )


def _syncs(timeline: Timeline, index: Mapping[str, int], frame_s: float, held: frozenset[str]) -> Syncs:
    spans, shots, offsets = [], [], []
    at = 0
    for span in timeline.lines:
        if span.line.marks and not span.line.locked and span.line.id not in held:
            by_word = {part.first_word: at + place for place, part in enumerate(span.speech.spans)}
            for point in sync_points(span.line.marks):
                if point.word in by_word and point.shot_id in index:
                    spans.append(by_word[point.word])
                    shots.append(index[point.shot_id])
                    offsets.append(point.frames * frame_s)
        at += len(span.speech.spans)
    return Syncs(_ints(spans), _ints(shots), np.array(offsets, dtype=np.float64))


def caption_order(timeline: Timeline) -> list[int]:
    """Positions of the captions that take part, in the order they are shown.

    Lane after lane; those of a line come by its words, others by their in times. A caption that nobody speaks
    and that does not lead is left out: it keeps its place in its shot.
    """
    place: dict[str, tuple[int, int]] = {}
    for number, span in enumerate(timeline.lines):
        for step, caption_id in enumerate(span.line.caption_ids):
            place[caption_id] = (number, step)
    lanes = [_lane(span) for span in timeline.lines]
    starts: list[int] = []  # in a lane a line comes after those before it, wherever it lies now
    newest = {0: 0, 1: 0}
    for span, lane in zip(timeline.lines, lanes, strict=True):
        newest[lane] = max(newest[lane], span.start_ticks)
        starts.append(newest[lane])

    def key(position: int) -> tuple[int, float, int, int]:
        caption = timeline.captions[position]
        if caption.caption.id in place:
            line, step = place[caption.caption.id]
            return (lanes[line], starts[line], line, step)
        return (0, timeline.project.rate.ticks(caption.in_frame), -1, position)

    taking_part = [
        position_
        for position_, span in enumerate(timeline.captions)
        if span.words[1] > span.words[0] or span.caption.leads
    ]
    return sorted(taking_part, key=key)


def _captions(timeline: Timeline, index: Mapping[str, int], frame_s: float) -> Captions:
    house = timeline.project.house
    spans = shown_captions(timeline)
    captions = [span.caption for span in spans]
    numbers = {span.line.id: number for number, span in enumerate(timeline.lines)}
    owners = [numbers.get(span.line_id or "", -1) for span in spans]
    lines = [
        number if span.words[0] < span.words[1] else -1 for number, span in zip(owners, spans, strict=True)
    ]
    pairs = _caption_pairs([_lane(timeline.lines[number]) if number >= 0 else 0 for number in owners])
    reading, shortest = 1 / house.reading_rate_cps, house.shortest_caption_ticks / TICKS_PER_SECOND
    in_held = np.array([caption.in_frames * frame_s if caption.leads else np.nan for caption in captions])
    return Captions(
        shot=_ints(index[caption.shot_id] for caption in captions),
        line=_ints(lines),
        first_word=_edges(timeline, lines, [span.words[0] for span in spans], end=False),
        last_word=_edges(timeline, lines, [span.words[1] - 1 for span in spans], end=True),
        need=np.maximum(
            np.array([characters_read(caption.text) for caption in captions]) * reading, shortest
        ),
        in_held=in_held,
        out_held=np.array(
            [caption.out_frames * frame_s if caption.leads else np.nan for caption in captions]
        ),
        pairs=_pairs([(a, b) for a, b in pairs if np.isnan(in_held[a]) or np.isnan(in_held[b])]),
    )


def _lane(span: LineSpan) -> int:
    """Captions of lines that may overlap have a lane of their own; all others are shown one after the
    other."""
    return 1 if span.line.lane == 1 and span.line.may_overlap else 0


def _caption_pairs(lanes: Sequence[int]) -> list[tuple[int, int]]:
    pairs: list[tuple[int, int]] = []
    newest: dict[int, int] = {}
    for position_, lane in enumerate(lanes):
        if lane in newest:
            pairs.append((newest[lane], position_))
        newest[lane] = position_
    return pairs


def _edges(timeline: Timeline, lines: Sequence[int], words: Sequence[int], end: bool) -> WordEdges:
    """Where words of lines begin or end; nothing for line -1."""
    first_span = [0, *itertools.accumulate(len(span.speech.spans) for span in timeline.lines)]
    rows = [(0, 0.0, 0.0, 0)] * len(lines)
    for place, number in enumerate(lines):
        if number >= 0:
            at = position(timeline.lines[number].speech, words[place], end)
            rows[place] = (first_span[number] + at.span, at.voiced_share, at.pause_share, at.written_ticks)
    table = np.array(rows, dtype=np.float64).reshape(-1, 4)
    return WordEdges(table[:, 0].astype(np.int64), table[:, 1], table[:, 2], table[:, 3] / TICKS_PER_SECOND)


def shown_captions(timeline: Timeline) -> tuple[CaptionSpan, ...]:
    """The captions in the order in which the problem holds them."""
    return tuple(timeline.captions[position_] for position_ in caption_order(timeline))

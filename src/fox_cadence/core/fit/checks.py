"""Each rule measured on a finished, whole-frame result, by other code than that which states it for the
solver."""

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fox_cadence.core.fit.captions import needed_frames
from fox_cadence.core.lanes import gap_ticks, order_pairs
from fox_cadence.core.marks import sync_points
from fox_cadence.core.project import Project, SpanLength
from fox_cadence.core.shot_limits import shot_limits_frames
from fox_cadence.core.ticks import TICKS_PER_SAMPLE, seconds_to_ticks
from fox_cadence.core.timeline import LineSpan, Timeline, Window, shot_spans

GRAIN_TICKS = 2 * TICKS_PER_SAMPLE
"""Starts and lengths are brought to samples: a rule may be missed by that rounding and no more."""

PACE_GRAIN = 3e-4

_END_GRAIN = 2
"""Frames by which rounding may leave the end of the piece later than the words need it."""


@dataclass(frozen=True, slots=True)
class Miss:
    """A rule that a result breaks: its name, the object it is broken on, by how much and in which unit."""

    rule: str
    object_id: str
    amount: float
    unit: str


@dataclass(frozen=True, slots=True)
class PlannedLine:
    """A line of a result: start, lengths, window (ticks of the piece), word times."""

    start_ticks: int
    lengths: tuple[SpanLength, ...]
    window: Window
    words: tuple[tuple[int, int], ...]

    @property
    def end_ticks(self) -> int:
        return self.start_ticks + sum(length.ticks for length in self.lengths)


def misses(
    timeline: Timeline,
    project: Project,
    lines: Sequence[PlannedLine],
    captions: Sequence[tuple[str, int, int]],
) -> tuple[Miss, ...]:
    """Every rule that a result breaks by more than the grain of samples.

    Args:
        timeline: as it was before the fit.
        project: with the shot lengths of the result.
        lines: in the order of the timeline.
        captions: id, in and out frame, in the order of the project.
    """
    return (
        *_shot_misses(timeline, project, _needed_frames(project, lines, captions)),
        *_line_misses(timeline, project, lines),
        *_sync_misses(timeline, project, lines),
        *_caption_misses(timeline, project, lines, captions),
    )


def _needed_frames(
    project: Project, lines: Sequence[PlannedLine], captions: Sequence[tuple[str, int, int]]
) -> int:
    """How long the piece must last at least for all words to be heard and shown in it."""
    spoken = max((line.end_ticks + project.house.tail_ticks for line in lines), default=0)
    return max(project.rate.frames_ceil(spoken), max((end for _, _, end in captions), default=0))


def _shot_misses(timeline: Timeline, project: Project, needed_frames: int) -> list[Miss]:
    """Shots past their limits; the last one may last longer than they allow, as long as the words need it."""
    found: list[Miss] = []
    last = len(project.shots) - 1
    for position, (old, new) in enumerate(zip(timeline.shots, shot_spans(project), strict=True)):
        low, high = shot_limits_frames(timeline.project, position)
        frames = new.end_frame - new.start_frame
        if old.shot.locked:
            moved = abs(new.start_frame - old.start_frame) + abs(new.end_frame - old.end_frame)
            if moved:
                found.append(Miss("locked shot", old.shot.id, moved, "frames"))
        elif position == last and frames > high and old.shot.longest_frames is None:
            over = new.end_frame - needed_frames
            if over > _END_GRAIN:
                found.append(Miss("shot length", old.shot.id, over, "frames"))
        elif frames != old.shot.length_frames and not low <= frames <= high:
            found.append(Miss("shot length", old.shot.id, max(low - frames, frames - high), "frames"))
    total = project.rate.ticks(shot_spans(project)[-1].end_frame) if project.shots else 0
    if project.longest_ticks is not None:
        over = total - project.longest_ticks
        short = -over if project.length_fixed else 0
        if over > 0 or short >= project.rate.frame_ticks:
            found.append(Miss("total length", project.name, max(over, short), "ticks"))
    return found


def _line_misses(timeline: Timeline, project: Project, lines: Sequence[PlannedLine]) -> list[Miss]:
    found: list[Miss] = []
    house = project.house
    for span, plan in zip(timeline.lines, lines, strict=True):
        if span.line.locked:
            moved = abs(plan.start_ticks - span.start_ticks) + abs(plan.end_ticks - span.end_ticks)
            if moved:
                found.append(Miss("locked line", span.line.id, moved, "ticks"))
            continue
        early = plan.window.start_ticks - plan.window.early_ticks - plan.start_ticks
        if early > GRAIN_TICKS and not any(point.word == 0 for point in sync_points(span.line.marks)):
            found.append(Miss("window start", span.line.id, early, "ticks"))
        found += _length_misses(
            span, plan, house.slowest_pace, house.fastest_pace, house.shortest_pause_ticks
        )
    for a, b in order_pairs(project.lines):
        wanted = gap_ticks(house, project.lines[a], project.lines[b])
        short = wanted - (lines[b].start_ticks - lines[a].end_ticks)
        fixed = project.lines[a].locked and project.lines[b].locked
        if short > GRAIN_TICKS and not fixed:
            found.append(Miss("gap", project.lines[b].id, short, "ticks"))
    return found


def _length_misses(
    span: LineSpan, plan: PlannedLine, slowest: float, fastest: float, shortest: int
) -> list[Miss]:
    found: list[Miss] = []
    for part, length in zip(span.speech.spans, plan.lengths, strict=True):
        pace = part.voiced_ticks / length.voiced_ticks if length.voiced_ticks else 1.0
        if pace > fastest + PACE_GRAIN or (pace < slowest - PACE_GRAIN):
            found.append(Miss("pace", span.line.id, pace, "times natural"))
        least = sum(min(rest, shortest) for rest in part.natural_rests)
        if (
            length.pause_ticks < least - GRAIN_TICKS
            or length.pause_ticks > part.natural.pause_ticks + GRAIN_TICKS
        ):
            found.append(Miss("pauses", span.line.id, length.pause_ticks - least, "ticks"))
        if length.written_ticks != part.natural.written_ticks:
            found.append(Miss("written pauses", span.line.id, length.written_ticks, "ticks"))
    return found


def _sync_misses(timeline: Timeline, project: Project, lines: Sequence[PlannedLine]) -> list[Miss]:
    found: list[Miss] = []
    starts = {span.shot.id: span.start_frame for span in shot_spans(project)}
    for span, plan in zip(timeline.lines, lines, strict=True):
        if span.line.locked:
            continue
        at = plan.start_ticks
        by_word: dict[int, int] = {}
        for part, length in zip(span.speech.spans, plan.lengths, strict=True):
            by_word[part.first_word] = at
            at += length.ticks
        for point in sync_points(span.line.marks):
            if point.word not in by_word or point.shot_id not in starts:
                continue
            wanted = project.rate.ticks(starts[point.shot_id] + point.frames)
            off = abs(by_word[point.word] - wanted)
            if off > GRAIN_TICKS + seconds_to_ticks(0.0005):
                found.append(Miss("sync point", f"{span.line.id}:{point.word}", off, "ticks"))
    return found


def _caption_misses(
    timeline: Timeline,
    project: Project,
    lines: Sequence[PlannedLine],
    captions: Sequence[tuple[str, int, int]],
) -> list[Miss]:
    rate = project.rate
    words = {span.line.id: plan.words for span, plan in zip(timeline.lines, lines, strict=True)}
    lanes = {span.line.id: span.line.lane == 1 and span.line.may_overlap for span in timeline.lines}
    total = shot_spans(project)[-1].end_frame if project.shots else 0
    found: list[Miss] = []
    shown: Mapping[bool, list[tuple[int, int, str, bool]]] = {False: [], True: []}
    comes_late: list[tuple[Miss, int, list[tuple[int, int, str, bool]]]] = []
    for span, (caption_id, start, end) in zip(timeline.captions, captions, strict=True):
        given = span.caption.leads or span.words[1] <= span.words[0]
        lane = shown[lanes.get(span.line_id or "", False)]
        lane.append((start, end, caption_id, given))
        if span.caption.locked and (start, end) != (span.in_frame, span.out_frame):
            found.append(Miss("locked caption", caption_id, abs(start - span.in_frame), "frames"))
        first, until = span.words
        times = words.get(span.line_id or "", ())
        if until <= first or until > len(times) or start >= total:
            continue
        late = start - rate.frames_floor(times[first][0] + GRAIN_TICKS)
        if late > 0:
            comes_late.append(
                (Miss("caption covers its first word", caption_id, late, "frames"), start, lane)
            )
    for miss, start, lane in comes_late:
        # each before it takes a frame: where they do so from the piece's beginning on, none was left
        if sum(other < start for other, *_ in lane) < start:
            found.append(miss)
    for rows in shown.values():
        rows.sort()
        for (_, end, caption_id, given), (next_start, _, _, next_given) in itertools.pairwise(rows):
            if given and next_given:
                continue  # both times are the editor's
            if end > next_start:
                found.append(Miss("captions one at a time", caption_id, end - next_start, "frames"))
            if next_start - end == 1:
                found.append(Miss("caption gap", caption_id, 1, "frames"))
    return found + _reading_misses(timeline, project, captions, words)


def _reading_misses(
    timeline: Timeline,
    project: Project,
    captions: Sequence[tuple[str, int, int]],
    words: Mapping[str, tuple[tuple[int, int], ...]],
) -> list[Miss]:
    """Captions that go out before their last word, or before they can be read, with time left before the
    next."""
    rate = project.rate
    starts = sorted(start for _, start, _ in captions)
    total = shot_spans(project)[-1].end_frame if project.shots else 0
    found: list[Miss] = []
    for span, (caption_id, start, end) in zip(timeline.captions, captions, strict=True):
        first, until = span.words
        times = words.get(span.line_id or "", ())
        if until <= first or until > len(times) or span.caption.leads:
            continue
        following = min((at for at in starts if at > start), default=total)
        least = min(rate.frames_ceil(times[until - 1][1] - GRAIN_TICKS), following, total)
        if end < least:
            found.append(Miss("caption covers its last word", caption_id, least - end, "frames"))
        readable = min(start + needed_frames(project, span.caption.text), following, total)
        if end < readable:
            found.append(Miss("caption can be read", caption_id, readable - end, "frames"))
    return found

"""What the fit is about, in numbers: one array entry a shot or a line, seconds as floats."""

import itertools
from collections.abc import Mapping
from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.project import shot_limits_frames
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.core.timeline import LineSpan, Timeline, gap_ticks

Floats: TypeAlias = NDArray[np.float64]
Ints: TypeAlias = NDArray[np.int64]
Flags: TypeAlias = NDArray[np.bool_]


@dataclass(frozen=True)
class FitProblem:
    """Shots (n of them) and lines (m of them) in the order of time.

    Shots: `length` now, `wanted`, `shortest`, `longest`, in seconds; `start` where it begins now; `start_held` where
    it must stay.
    Lines: indices of the `first` shot and of the one past the last (`until`); `voiced` and `pauses` at natural pace;
    `least_pauses`; `offset_min` (earliest start after the start of the first shot), `end_margin` (latest end before
    the start of shot `until`; below 0 where a locked caption inside that shot ends the window), `ideal` (wanted
    offset); `gap` to the line before it; `adapts` (its pace and pauses may change); `fixed_start`, `fixed_voiced`,
    `fixed_pauses` (of a locked line, else NaN); `same_voice` as the line before it.
    """

    frame_s: float
    longest_total: float | None
    voice_leads: Flags
    length: Floats
    wanted: Floats
    shortest: Floats
    longest: Floats
    start: Floats
    start_held: Flags
    first: Ints
    until: Ints
    voiced: Floats
    pauses: Floats
    least_pauses: Floats
    offset_min: Floats
    end_margin: Floats
    ideal: Floats
    gap: Floats
    adapts: Flags
    fixed_start: Floats
    fixed_voiced: Floats
    fixed_pauses: Floats
    same_voice: Flags
    fastest: float
    slowest: float

    @property
    def shots(self) -> int:
        return len(self.length)

    @property
    def lines(self) -> int:
        return len(self.first)


def state_problem(timeline: Timeline) -> FitProblem:
    """Read a fit problem off a timeline."""
    project = timeline.project
    house, rate = project.house, project.rate
    frame_s = ticks_to_seconds(rate.frame_ticks)
    index = project.shot_index()
    limits = [_limits(timeline, position) for position in range(len(project.shots))]
    shots, lines = timeline.shots, timeline.lines

    def of_shots(values: list[float]) -> Floats:
        return np.array(values, dtype=np.float64)

    starts = [rate.ticks(span.start_frame) for span in shots]
    first = np.array([index[span.line.first_shot_id] for span in lines], dtype=np.int64)
    window_ends = [_window_end(timeline, span, index) for span in lines]
    held = _held_starts(timeline)
    gaps = [0] + [gap_ticks(project, a.line, b.line) for a, b in itertools.pairwise(lines)]
    return FitProblem(
        frame_s=frame_s,
        longest_total=ticks_to_seconds(project.longest_ticks) if project.longest_ticks is not None else None,
        voice_leads=np.array([_gives(timeline, span.shot.give_way) == "voice" for span in shots], dtype=np.bool_),
        length=of_shots([span.shot.length_frames * frame_s for span in shots]),
        wanted=of_shots([span.shot.wanted_frames * frame_s for span in shots]),
        shortest=of_shots([low * frame_s for low, _ in limits]),
        longest=of_shots([high * frame_s for _, high in limits]),
        start=of_shots([span.start_frame * frame_s for span in shots]),
        start_held=np.array([span.shot.id in held for span in shots], dtype=np.bool_),
        first=first,
        until=np.array([until for until, _ in window_ends], dtype=np.int64),
        voiced=of_shots([ticks_to_seconds(span.natural_voiced_ticks) for span in lines]),
        pauses=of_shots([ticks_to_seconds(span.natural_pause_ticks) for span in lines]),
        least_pauses=of_shots(
            [
                ticks_to_seconds(sum(min(pause, house.shortest_pause_ticks) for pause in span.pauses_ticks))
                for span in lines
            ]
        ),
        offset_min=of_shots(
            [ticks_to_seconds(span.window_start_ticks - starts[i]) for span, i in zip(lines, first, strict=True)]
        ),
        end_margin=of_shots([ticks_to_seconds(margin) for _, margin in window_ends]),
        ideal=of_shots([ticks_to_seconds(_wanted(span, house.lead_ticks)) for span in lines]),
        gap=of_shots([ticks_to_seconds(gap) for gap in gaps][: len(lines)]),
        adapts=np.array(
            [_gives(timeline, span.line.give_way) != "voice" and not span.line.locked for span in lines], dtype=np.bool_
        ),
        fixed_start=of_shots(
            [
                ticks_to_seconds(span.start_ticks - starts[i]) if span.line.locked else np.nan
                for span, i in zip(lines, first, strict=True)
            ]
        ),
        fixed_voiced=of_shots([ticks_to_seconds(_now(span)[0]) if span.line.locked else np.nan for span in lines]),
        fixed_pauses=of_shots([ticks_to_seconds(_now(span)[1]) if span.line.locked else np.nan for span in lines]),
        same_voice=np.array(
            [False] + [a.line.role_id == b.line.role_id for a, b in itertools.pairwise(lines)],
            dtype=np.bool_,
        )[: len(lines)],
        fastest=house.fastest_pace,
        slowest=house.slowest_pace,
    )


def _gives(timeline: Timeline, override: str | None) -> str:
    return override or timeline.project.give_way


def _window_end(timeline: Timeline, span: LineSpan, index: Mapping[str, int]) -> tuple[int, int]:
    """The shot past the window of a line, and how long before its start the window closes (ticks)."""
    project = timeline.project
    last = index[span.line.last_shot_id]
    shot_end = project.rate.ticks(timeline.shots[last].end_frame)
    if span.window_end_ticks == shot_end - project.house.tail_ticks:
        return last + 1, project.house.tail_ticks
    holder = index[project.caption(span.line.caption_ids[-1]).shot_id]
    return holder, project.rate.ticks(timeline.shots[holder].start_frame) - span.window_end_ticks


def _limits(timeline: Timeline, position: int) -> tuple[int, int]:
    shot = timeline.project.shots[position]
    if shot.locked or _gives(timeline, shot.give_way) == "picture":
        return shot.length_frames, shot.length_frames
    low, high = shot_limits_frames(timeline.project, shot)
    for caption in timeline.project.captions:
        if caption.locked and caption.shot_id == shot.id:
            low = max(low, min(shot.length_frames, caption.out_frames))
    return low, max(low, high)


def _held_starts(timeline: Timeline) -> set[str]:
    """Shots whose start may not move: locked ones, and those that carry a locked caption or line."""
    project = timeline.project
    return (
        {shot.id for shot in project.shots if shot.locked}
        | {caption.shot_id for caption in project.captions if caption.locked}
        | {line.first_shot_id for line in project.lines if line.locked}
    )


def _now(span: LineSpan) -> tuple[int, int]:
    """Voiced length and pauses of a line as it stands."""
    placement = span.line.placement
    if placement is not None:
        return placement.voiced_ticks, placement.pause_ticks
    return span.natural_voiced_ticks, span.natural_pause_ticks


def _wanted(span: LineSpan, lead_ticks: int) -> int:
    wanted = span.line.wanted_offset_ticks
    return lead_ticks if wanted is None else wanted

"""The room a line has where it stands, and how it would stand there with another length."""

from collections.abc import Sequence

from fox_cadence.core.house import HouseLimits
from fox_cadence.core.states import LineState
from fox_cadence.core.timeline import LineSpan


def starts_after(spans: Sequence[LineSpan]) -> list[int | None]:
    """For each line, in ticks, where the next one of its lane starts; None for the last of a lane."""
    found: list[int | None] = [None] * len(spans)
    next_of_lane: dict[int, int] = {}
    for place in range(len(spans) - 1, -1, -1):
        span = spans[place]
        found[place] = next_of_lane.get(span.line.lane)
        next_of_lane[span.line.lane] = span.start_ticks
    return found


def room_ticks(span: LineSpan, next_start_ticks: int | None) -> int:
    """From where a line starts (or its window, if that begins later) to the end of its window with all it may
    run on, or to the next line of its lane. Never below 0."""
    until = span.window.end_ticks + span.window.late_ticks
    if next_start_ticks is not None:
        until = min(until, next_start_ticks)
    return max(0, until - max(span.window.start_ticks, span.start_ticks))


def likely_state(length_ticks: int, room: int, house: HouseLimits) -> LineState:
    """How a line of a length at natural pace would stand in a room of its own, both in ticks: what is said
    while words are typed, before a fit looks at the whole piece."""
    if length_ticks > room * house.fastest_pace:
        return LineState.SPILLS
    if length_ticks > room:
        return LineState.LEANS
    return LineState.FLOATS if room - length_ticks > house.longest_silence_ticks else LineState.SITS

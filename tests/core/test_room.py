"""The room a line has, and how it would stand there with another length."""

from hypothesis import assume, given
from hypothesis import strategies as st

from fox_cadence.core.house import HouseLimits
from fox_cadence.core.room import likely_state, room_ticks, starts_after
from fox_cadence.core.states import LineState
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.timeline import Timeline
from tests.builders import simple_project, timelines, voiced


@given(timelines())
def test_a_line_that_stays_in_its_room_meets_neither_its_limit_nor_the_next_of_its_lane(
    timeline: Timeline,
) -> None:
    spans = timeline.lines
    assume(spans)
    following = starts_after(spans)
    for place, span in enumerate(spans):
        later = [each for each in spans[place + 1 :] if each.line.lane == span.line.lane]
        assert following[place] == (later[0].start_ticks if later else None)
        room = room_ticks(span, following[place])
        end = max(span.window.start_ticks, span.start_ticks) + room
        if room:
            assert end <= span.window.end_ticks + span.window.late_ticks
            assert not later or end <= later[0].start_ticks


def test_the_room_ends_at_the_tail_of_the_shot_or_at_the_next_line() -> None:
    spans = voiced(simple_project(["One two.", "Three."]), [1.0, 1.0]).lines
    house = HouseLimits()
    four = seconds_to_ticks(4) - house.lead_ticks - house.tail_ticks
    assert room_ticks(spans[0], starts_after(spans)[0]) == four
    assert room_ticks(spans[0], spans[0].start_ticks + 77) == 77
    assert room_ticks(spans[0], 0) == 0


@given(st.integers(1, 10**10), st.integers(1, 10**10))
def test_what_is_too_long_at_the_fastest_pace_spills_and_what_is_shorter_does_not(
    length: int, room: int
) -> None:
    house = HouseLimits()
    state = likely_state(length, room, house)
    assert (state is LineState.SPILLS) == (length / room > house.fastest_pace)
    assert (state is LineState.LEANS) == (1 < length / room <= house.fastest_pace)
    assert (state is LineState.FLOATS) == (room - length > house.longest_silence_ticks)

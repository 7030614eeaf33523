"""The one word for how a line stands."""

import pytest

from fox_cadence.core.states import LineState, line_state
from fox_cadence.core.ticks import seconds_to_ticks


def state(**change: object) -> LineState:
    asked: dict[str, object] = {
        "voiced": True,
        "stale": False,
        "spill_ticks": 0,
        "pace": 1.0,
        "pause_change_ticks": 0,
        "idle_ticks": 0,
        "longest_silence_ticks": seconds_to_ticks(1.5),
    }
    return line_state(**(asked | change))  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("change", "word"),
    [
        ({}, LineState.SITS),
        ({"pace": 1.05}, LineState.LEANS),
        ({"pause_change_ticks": seconds_to_ticks(0.2)}, LineState.LEANS),
        ({"idle_ticks": seconds_to_ticks(2)}, LineState.FLOATS),
        ({"idle_ticks": seconds_to_ticks(2), "pace": 0.9}, LineState.LEANS),
        ({"spill_ticks": seconds_to_ticks(0.3), "pace": 1.15}, LineState.SPILLS),
        ({"stale": True, "spill_ticks": seconds_to_ticks(0.3)}, LineState.STALE),
        ({"voiced": False}, LineState.UNVOICED),
    ],
)
def test_what_the_editor_must_do_first_comes_first(change: dict[str, object], word: LineState) -> None:
    assert state(**change) is word

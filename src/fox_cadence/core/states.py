"""How a line stands against its window: one word each."""

from enum import StrEnum

from fox_cadence.core.ticks import seconds_to_ticks

PACE_TOLERANCE = 0.01
"""A pace nearer to 1 than this is not called changed: it shows as ×1.00 or ×1.01 and nobody hears it."""

PAUSE_TOLERANCE_TICKS = seconds_to_ticks(0.010)
SPILL_TOLERANCE_TICKS = seconds_to_ticks(0.0005)


class LineState(StrEnum):
    SITS = "sits"
    LEANS = "leans"
    SPILLS = "spills"
    FLOATS = "floats"
    UNVOICED = "unvoiced"
    STALE = "stale"


def line_state(
    *,
    voiced: bool,
    stale: bool,
    spill_ticks: int,
    pace: float,
    pause_change_ticks: int,
    idle_ticks: int,
    longest_silence_ticks: int,
) -> LineState:
    """The one word for a line; what the editor must do first comes first."""
    if not voiced:
        return LineState.UNVOICED
    if stale:
        return LineState.STALE
    return timing_state(spill_ticks, pace, pause_change_ticks, idle_ticks, longest_silence_ticks)


def timing_state(
    spill_ticks: int, pace: float, pause_change_ticks: int, idle_ticks: int, longest_silence_ticks: int
) -> LineState:
    """How the times alone stand, whether or not there is a sound yet."""
    if spill_ticks > SPILL_TOLERANCE_TICKS:
        return LineState.SPILLS
    if abs(pace - 1) > PACE_TOLERANCE or pause_change_ticks > PAUSE_TOLERANCE_TICKS:
        return LineState.LEANS
    if idle_ticks > longest_silence_ticks:
        return LineState.FLOATS
    return LineState.SITS

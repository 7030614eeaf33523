"""Times as the pages take them."""

from fox_cadence.core.ticks import ticks_to_seconds


def seconds(ticks: int) -> float:
    """Seconds to the microsecond."""
    return round(ticks_to_seconds(ticks), 6)

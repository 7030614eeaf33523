"""Which lines may not sound together: pairs of lines, the earlier of the script first."""

from collections.abc import Sequence

from fox_cadence.core.house import HouseLimits
from fox_cadence.core.project import Line


def order_pairs(lines: Sequence[Line]) -> list[tuple[int, int]]:
    """Indices of lines that must follow one another: neighbours of a lane, and neighbours across the lanes.

    Across the lanes those of the second lane that may overlap the first are passed over.
    """
    pairs: list[tuple[int, int]] = []
    newest: dict[int, int] = {}
    alone: dict[int, int] = {}
    for index, line in enumerate(lines):
        if line.lane in newest:
            pairs.append((newest[line.lane], index))
        newest[line.lane] = index
        if not _overlaps(line):
            if 1 - line.lane in alone:
                pairs.append((alone[1 - line.lane], index))
            alone[line.lane] = index
    return pairs


def _overlaps(line: Line) -> bool:
    return line.lane == 1 and line.may_overlap


def gap_ticks(house: HouseLimits, before: Line, after: Line) -> int:
    """The least time between two lines: longer where the voice changes."""
    return house.gap_ticks if before.role_id == after.role_id else house.voice_change_gap_ticks


def voice_neighbours(lines: Sequence[Line]) -> list[tuple[int, int]]:
    """Indices of lines that follow one another in the same voice, whoever speaks between them."""
    pairs: list[tuple[int, int]] = []
    newest: dict[str, int] = {}
    for index, line in enumerate(lines):
        if line.role_id in newest:
            pairs.append((newest[line.role_id], index))
        newest[line.role_id] = index
    return pairs

"""Where a video is divided that is made in segments: at cuts, where a new picture begins anyway."""

from collections.abc import Sequence

SEGMENT_S = 8.0
"""About how long a segment is, in seconds: a start costs under a second, and what a machine that dies costs
is one segment."""
LOOK_SEGMENT_S = 20.0
"""Of a quick look, whose pictures take little more time than the start of a segment."""


def segments_of(cuts: Sequence[int], first: int, last: int, about: int) -> list[tuple[int, int]]:
    """The frames [first, last) divided into stretches [start, end) of about so many frames.

    Each ends at the cut nearest to `about` frames after its start, if one lies between a half of that and one
    and a half times of it; else after just so many. None but an only one is shorter than half of it. The same
    for the same arguments, whatever carries them out.

    Args:
        cuts: frames at which shots begin, in any order.
    """
    found: list[tuple[int, int]] = []
    start = first
    while last - start > about * 3 // 2:
        aim, room = start + about, about // 2
        near = [cut for cut in cuts if abs(cut - aim) <= room and last - cut >= room]
        end = min(near, key=lambda cut: (abs(cut - aim), cut), default=aim)
        found.append((start, end))
        start = end
    if last > start:
        found.append((start, last))
    return found

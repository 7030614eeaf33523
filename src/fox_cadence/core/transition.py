"""How one shot becomes the next, as numbers: for each place of the frame, how much of the next shot is seen.

`static/scripts/frame/transition.js` does the same for the preview.
"""

from typing import Literal, TypeAlias, get_args

TransitionKind: TypeAlias = Literal["dissolve", "dip", "push", "slide", "wipe", "part"]
"""The next shot comes up over the one before; out of a colour; pushing it up; sliding over it from the right;
from left to right behind a soft edge; or where the one before parts in its middle."""

TRANSITIONS: tuple[TransitionKind, ...] = get_args(TransitionKind)

SOFT_EDGE = 0.06
"""How wide a soft edge is, against the width of the frame."""


def dip_shares(share: float) -> tuple[float, float]:
    """Of a dip, at a share of its time: how much of the shot before and of the next one is seen over the
    colour; never both."""
    return max(0.0, 1 - 2 * share), max(0.0, 2 * share - 1)


def moved_by(share: float, size: int) -> int:
    """By how many pixels a picture that pushes or slides has come in, on pairs of pixels."""
    return min(size, round(share * size / 2) * 2)


def edge_share(place: float, share: float, reach: float) -> float:
    """How much of the next shot is seen where an edge passes.

    Args:
        place: how far from where the edge sets out, against the width of the frame.
        reach: how far it goes: 1 for a wipe, half for a parting.
    """
    passed = share * (reach + SOFT_EDGE)
    return min(1.0, max(0.0, (passed - place) / SOFT_EDGE))

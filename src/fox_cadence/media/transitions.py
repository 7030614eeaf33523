"""Transitions on the planes of two pictures (core/transition.py)."""

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.transition import TransitionKind, dip_shares, edge_share, moved_by
from fox_cadence.media.picture import Planes


def between(under: Planes, over: Planes, share: float, kind: TransitionKind, colour: Planes) -> Planes:
    """The picture at a share, 0 to 1, of the time that one shot takes to become the next.

    Args:
        colour: a frame of the colour a dip goes through.
    """
    match kind:
        case "dissolve":
            return mixed(under, over, share)
        case "dip":
            before, after = dip_shares(share)
            return mixed(colour, under, before) if before > 0 else mixed(colour, over, after)
        case "push":
            return _pushed(under, over, share)
        case "slide":
            return _slid(under, over, share)
    masks = _masks(kind, over[0].shape[1], round(share * 10_000))
    y, u, v = (
        _blended(below, above, mask)
        for below, above, mask in zip(under, over, (masks[0], masks[1], masks[1]), strict=True)
    )
    return y, u, v


def mixed(under: Planes, over: Planes, share: float) -> Planes:
    """Two pictures in one, the second to a share from 0 to 1."""
    weight = np.full((1, 1), round(share * 256), np.uint16)
    y, u, v = (_blended(a, b, weight) for a, b in zip(under, over, strict=True))
    return y, u, v


def _blended(
    under: NDArray[np.uint8], over: NDArray[np.uint8], weight: NDArray[np.uint16]
) -> NDArray[np.uint8]:
    """`weight` of 256 parts of the second."""
    made = under * (256 - weight) + over * weight + np.uint16(128)
    return np.asarray(made >> 8, dtype=np.uint8)


def _pushed(under: Planes, over: Planes, share: float) -> Planes:
    by = moved_by(share, over[0].shape[0])
    y, u, v = (
        np.concatenate([below[by // part :], above[: by // part]])
        for below, above, part in zip(under, over, (1, 2, 2), strict=True)
    )
    return y, u, v


def _slid(under: Planes, over: Planes, share: float) -> Planes:
    by = moved_by(share, over[0].shape[1])
    y, u, v = (
        np.concatenate([below[:, : below.shape[1] - by // part], above[:, : by // part]], axis=1)
        for below, above, part in zip(under, over, (1, 2, 2), strict=True)
    )
    return y, u, v


@lru_cache(maxsize=4)
def _masks(
    kind: TransitionKind, width: int, ten_thousandths: int
) -> tuple[NDArray[np.uint16], NDArray[np.uint16]]:
    """For each column of luma and of chroma, how much of the next shot is seen, of 256."""
    share = ten_thousandths / 10_000
    made: list[NDArray[np.uint16]] = []
    for count in (width, width // 2):
        places = (np.arange(count) + 0.5) / count
        from_start, reach = (places, 1.0) if kind == "wipe" else (np.abs(places - 0.5), 0.5)
        weights = [round(256 * edge_share(float(place), share, reach)) for place in from_start]
        made.append(np.array([weights], np.uint16))
    return made[0], made[1]

"""Painted things as planes that are blended onto a picture: what stands still is painted once."""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

Plane = NDArray[np.uint8]
Planes: TypeAlias = tuple[Plane, Plane, Plane]


@dataclass(frozen=True)
class Plate:
    """Something painted, ready to blend: premultiplied luma and chroma (BT.709, limited range) and what
    shines through.

    Arrays are in 0..255 scaled by 256; chroma ones have half the size each way.
    """

    x: int
    y: int
    luma: NDArray[np.uint16]
    luma_through: NDArray[np.uint16]
    chroma: tuple[NDArray[np.uint16], NDArray[np.uint16]]
    chroma_through: NDArray[np.uint16]


_TO_PLANES = np.array(
    [
        [0.2126 * 219 / 255, -0.2126 / 1.8556 * 224 / 255, (1 - 0.2126) / 1.5748 * 224 / 255],
        [0.7152 * 219 / 255, -0.7152 / 1.8556 * 224 / 255, -0.7152 / 1.5748 * 224 / 255],
        [0.0722 * 219 / 255, (1 - 0.0722) / 1.8556 * 224 / 255, -0.0722 / 1.5748 * 224 / 255],
        [16 / 255, 128 / 255, 128 / 255],
    ],
    np.float32,
)
"""Red, green, blue and alpha, premultiplied, as luma and chroma: BT.709, limited range (ITU-R BT.709-6, item
3)."""


def prepared(painted: NDArray[np.uint8], left: int, top: int) -> Plate:
    """Premultiplied RGBA, even in width and height, as planes to blend at an even place."""
    whole = painted.astype(np.float32)
    rows = whole[0::2] + whole[1::2]
    halves = rows[:, 0::2] + rows[:, 1::2]  # four points each
    matrix = _TO_PLANES * 256
    luma = whole @ matrix[:, 0]
    chroma = halves @ (matrix[:, 1:] / 4)

    def fixed(plane: NDArray[np.floating]) -> NDArray[np.uint16]:
        return (plane + np.float32(0.5)).astype(np.uint16)

    return Plate(
        x=left,
        y=top,
        luma=fixed(luma),
        luma_through=fixed(256 - whole[..., 3] * np.float32(256 / 255)),
        chroma=(fixed(chroma[..., 0]), fixed(chroma[..., 1])),
        chroma_through=fixed(256 - halves[..., 3] * np.float32(64 / 255)),
    )


def empty(left: int, top: int, width: int, height: int) -> Plate:
    """A plate of an even size at an even place with nothing on it."""
    half = height // 2, width // 2

    def plane(value: int, shape: tuple[int, int]) -> NDArray[np.uint16]:
        return np.full(shape, value, np.uint16)

    whole = height, width
    return Plate(
        left, top, plane(0, whole), plane(256, whole), (plane(0, half), plane(0, half)), plane(256, half)
    )


def replace_part(plate: Plate, part: Plate) -> None:
    """Put a plate in the place of a part of another one, which it lies within, in place."""
    x, y = part.x - plate.x, part.y - plate.y
    for whole, own, scale in (
        (plate.luma, part.luma, 1),
        (plate.luma_through, part.luma_through, 1),
        (plate.chroma[0], part.chroma[0], 2),
        (plate.chroma[1], part.chroma[1], 2),
        (plate.chroma_through, part.chroma_through, 2),
    ):
        height, width = own.shape
        whole[y // scale : y // scale + height, x // scale : x // scale + width] = own


@contextmanager
def seen_through(planes: Planes, room: tuple[int, int, int, int], alpha: float) -> Iterator[None]:
    """What is painted within is seen through as a whole.

    Args:
        room: where that is at most: left, top, width and height in pixels of the frame.
        alpha: how far it is seen.
    """
    if alpha >= 1:
        yield
        return
    parts = []
    for plane, scale in zip(planes, (1, 2, 2), strict=True):
        left, top = max(0, room[0]) // scale, max(0, room[1]) // scale
        right, bottom = max(0, room[0] + room[2]) // scale, max(0, room[1] + room[3]) // scale
        part = plane[top:bottom, left:right]
        parts.append((part, part.copy()))
    yield
    share = round(alpha * 256)
    for part, before in parts:
        mixed = part * np.uint16(share)
        mixed += before * np.uint16(256 - share)
        mixed += 128
        mixed >>= 8
        part[:] = mixed


def blend(planes: Planes, plate: Plate) -> None:
    """Blend a plate onto the Y, U and V planes of a 4:2:0 picture, in place."""
    _blend(planes[0], plate.x, plate.y, plate.luma, plate.luma_through)
    for plane, ink in zip(planes[1:], plate.chroma, strict=True):
        _blend(plane, plate.x // 2, plate.y // 2, ink, plate.chroma_through)


def _blend(plane: Plane, x: int, y: int, ink: NDArray[np.uint16], through: NDArray[np.uint16]) -> None:
    """What is behind times what shines through, plus the ink, is never over 255 × 256: 16 bits hold it."""
    height, width = ink.shape
    target = plane[y : y + height, x : x + width]
    seen = target * through
    seen += ink
    seen += 128
    seen >>= 8
    target[:] = seen

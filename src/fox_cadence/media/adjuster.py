"""Adjustments (core/adjustment.py) on the planes of a picture, through tables made once for each."""

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.adjustment import LUMA, SHARP_SIGMA, VIGNETTE, Adjustment, Table
from fox_cadence.core.scientific import part
from fox_cadence.media.picture import Planes

_BAND = 64
"""Rows worked on at once: what is between stays in the processor's cache."""

_STEP = 4
"""Of chroma, between the points at which luma is looked up; 128 is one of them."""

_CHROMA = 256 // _STEP + 1


class Adjuster:
    """Adjusts pictures of one shot."""

    def __init__(self, adjustment: Adjustment, table: Table | None) -> None:
        """`table` is that of its colours, None where they stay as they are."""
        self._adjustment = adjustment
        self._tables = None if table is None else _tables(table.tobytes(), table.shape[0])
        self._shade: tuple[NDArray[np.uint16], NDArray[np.uint16]] | None = None

    def colours(self, planes: Planes, longer_side: int) -> Planes:
        """Sharper and in its colours; `longer_side` of the frame, in pixels. The planes given stay as they
        were."""
        if self._adjustment.sharpness:
            planes = (sharper(planes[0], self._adjustment.sharpness, longer_side), *planes[1:])
        return planes if self._tables is None else _looked_up(planes, *self._tables)

    def shaded(self, planes: Planes) -> Planes:
        """With its corners darkened, as a whole frame."""
        if not self._adjustment.vignette:
            return planes
        if self._shade is None or self._shade[0].shape != planes[0].shape:
            high, wide = planes[0].shape
            luma = _shade(wide, high, self._adjustment.vignette)
            self._shade = luma, np.ascontiguousarray(luma[::2, ::2])
        y, u, v = (
            _towards(plane, black, shade)
            for plane, black, shade in zip(
                planes, (16, 128, 128), (self._shade[0], self._shade[1], self._shade[1]), strict=True
            )
        )
        return y, u, v


def sharper(luma: NDArray[np.uint8], amount: float, longer_side: int) -> NDArray[np.uint8]:
    """More of what a small blur takes away; the blur is made at half the size."""
    from PIL import Image, ImageFilter

    high, wide = luma.shape
    small = Image.fromarray(np.ascontiguousarray(luma)).reduce(2)
    blurred = small.filter(ImageFilter.GaussianBlur(SHARP_SIGMA * longer_side / 2))
    around = np.asarray(blurred.resize((wide, high), Image.Resampling.BILINEAR))
    made = np.empty(luma.shape, np.uint8)
    more = np.int16(round(amount * 64))
    for top in range(0, high, _BAND):
        rows = slice(top, top + _BAND)
        detail = luma[rows].astype(np.int16)
        detail -= around[rows]
        detail *= more
        detail >>= 6
        detail += luma[rows]
        np.clip(detail, 16, 235, out=made[rows], casting="unsafe")
    return made


@lru_cache(maxsize=8)
def _tables(table: bytes, size: int) -> tuple[NDArray[np.uint8], NDArray[np.int8], NDArray[np.int8]]:
    """For luma by (u, v, y), both chroma in steps of 4; and how far u and v go by (u, v, y), in steps of 2, 2
    and 8."""
    colours = np.frombuffer(table, np.float32).reshape(size, size, size, 3)
    steps = np.arange(_CHROMA) * _STEP
    u, v, y = np.meshgrid(steps, steps, np.arange(0, 257, 2), indexing="ij")
    every_second = _converted(colours, y, u, v)[0]
    luma = np.empty((_CHROMA, _CHROMA, 256), np.float32)
    luma[..., ::2] = every_second[..., :-1]
    luma[..., 1::2] = (every_second[..., :-1] + every_second[..., 1:]) / 2
    u, v, y = np.meshgrid(np.arange(0, 257, 2), np.arange(0, 257, 2), np.arange(33) * 8, indexing="ij")
    _, made_u, made_v = _converted(colours, y, u, v)
    off = (
        np.clip(np.rint(made - was), -127, 127).astype(np.int8) for made, was in ((made_u, u), (made_v, v))
    )
    return np.clip(np.rint(luma), 0, 255).astype(np.uint8).ravel(), *(each.ravel() for each in off)


def _converted(
    table: Table, y: NDArray[np.int64], u: NDArray[np.int64], v: NDArray[np.int64]
) -> tuple[NDArray[np.float32], NDArray[np.float32], NDArray[np.float32]]:
    """Codes of BT.709 in limited range (Rec. ITU-R BT.709-6, item 3) as a table has them."""
    map_coordinates = part("scipy.ndimage").map_coordinates

    luma = (np.clip(y, 16, 235).astype(np.float32) - 16) / 219
    blue_off, red_off = (
        (u.astype(np.float32) - 128) / 224 * 1.8556,
        (v.astype(np.float32) - 128) / 224 * 1.5748,
    )
    red, blue = luma + red_off, luma + blue_off
    green = (luma - LUMA[0] * red - LUMA[2] * blue) / LUMA[1]
    at = np.clip(np.stack([red, green, blue]), 0, 1) * (table.shape[0] - 1)
    made = np.stack([map_coordinates(table[..., axis], at, order=1) for axis in range(3)], axis=-1)
    grey = made @ LUMA
    return (
        16 + 219 * grey,
        128 + 224 * (made[..., 2] - grey) / np.float32(1.8556),
        128 + 224 * (made[..., 0] - grey) / np.float32(1.5748),
    )


def _looked_up(
    planes: Planes, luma: NDArray[np.uint8], off_u: NDArray[np.int8], off_v: NDArray[np.int8]
) -> Planes:
    y, u, v = planes
    made_y, made_u, made_v = (
        np.empty(y.shape, np.uint8),
        np.empty(u.shape, np.uint8),
        np.empty(v.shape, np.uint8),
    )
    for top in range(0, u.shape[0], _BAND):
        rows = slice(top, top + _BAND)
        below, right = u[rows].astype(np.uint32), v[rows].astype(np.uint32)
        near = ((below + _STEP // 2) // _STEP * _CHROMA + (right + _STEP // 2) // _STEP) << 8
        band = y[2 * top : 2 * (top + _BAND)]
        index = np.repeat(np.repeat(near, 2, axis=0), 2, axis=1)[: band.shape[0], : band.shape[1]]
        index += band
        np.take(luma, index, out=made_y[2 * top : 2 * (top + _BAND)], mode="clip")
        grey = (band[::2, ::2].astype(np.uint32) + 4) >> 3
        index = (((below + 1) >> 1) * 129 + ((right + 1) >> 1)) * 33 + grey
        for plane, off, made in ((u[rows], off_u, made_u), (v[rows], off_v, made_v)):
            moved = plane + np.take(off, index, mode="clip").astype(np.int16)
            np.clip(moved, 16, 240, out=made[rows], casting="unsafe")
    return made_y, made_u, made_v


def _shade(wide: int, high: int, amount: float) -> NDArray[np.uint16]:
    """How much of a picture is left at each pixel, of 256."""
    across = ((np.arange(wide) + 0.5) / wide - 0.5) ** 2
    down = ((np.arange(high) + 0.5) / high - 0.5) ** 2
    way = np.sqrt((across[np.newaxis, :] + down[:, np.newaxis]) * 2)
    dark = np.interp(way, [place for place, _ in VIGNETTE], [dark for _, dark in VIGNETTE])
    return np.rint(256 * (1 - amount * dark)).astype(np.uint16)


def _towards(plane: NDArray[np.uint8], black: int, shade: NDArray[np.uint16]) -> NDArray[np.uint8]:
    made = np.empty(plane.shape, np.uint8)
    for top in range(0, plane.shape[0], _BAND):
        rows = slice(top, top + _BAND)
        left = plane[rows] * shade[rows]
        left += np.uint16(128) + np.uint16(black) * (np.uint16(256) - shade[rows])
        made[rows] = left >> 8
    return made

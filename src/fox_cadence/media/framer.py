"""Frames of a clip laid into the frame of a piece (core/framing.py), exact to the part of a pixel."""

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from functools import lru_cache
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.framing import PLAIN, Framing, View, view
from fox_cadence.media.adjuster import Adjuster
from fox_cadence.media.picture import Planes, Scaler, planes_of

if TYPE_CHECKING:
    from PIL import Image

if TYPE_CHECKING:
    import av

_BLUR_SHARE = 0.03
"""The blur of the copy around a whole picture: standard deviation against the longer side of the frame."""

_INNER = 0.06
"""What of the copy is left out at each side, so that no edge is seen in it."""

_SMALL = 8
"""The copy is blurred at this part of the size: nothing of what that loses is left after the blur."""


class Framer:
    """Lays the frames of one source into a frame size. What fills the frame around its middle and stands goes
    the fast way, through libswscale."""

    def __init__(
        self, width: int, height: int, framing: Framing, ground: Planes, adjuster: Adjuster | None = None
    ) -> None:
        """`ground` is a frame of the framing's colour, which is not adjusted."""
        import av

        self._adjuster = adjuster
        self._size = (width, height)
        self._framing = framing
        self._ground = ground
        self._plain = Scaler(width, height) if framing == PLAIN else None
        self._reformatter = av.video.reformatter.VideoReformatter()

    @property
    def moves(self) -> bool:
        """Whether the same frame of the clip looks different at different moments."""
        return self._framing.movement != "none"

    def planes(self, frame: "av.VideoFrame", share: float) -> Planes:
        """Y, U and V of 4:2:0 at a moment, `share` of the shot having passed; BT.709, limited range."""
        planes = self._laid(frame, share)
        return planes if self._adjuster is None else self._adjuster.shaded(planes)

    def _laid(self, frame: "av.VideoFrame", share: float) -> Planes:
        if self._plain is not None:
            return self._adjusted(self._plain.cover(frame))
        turned = self._turned(frame)
        picture = (frame.width, frame.height)
        seen = view(self._framing, picture, self._size, share)
        if seen.width <= 1 and seen.height <= 1:
            return self._adjusted(_cut(turned, seen, self._size))
        on_colour = self._framing.fit == "colour"
        made = [plane.copy() for plane in self._around(turned, picture)]
        _lay(made, turned, seen, self._adjusted if on_colour else _as_they_are)
        whole = made[0], made[1], made[2]
        return whole if on_colour else self._adjusted(whole)

    def _adjusted(self, planes: Planes) -> Planes:
        return planes if self._adjuster is None else self._adjuster.colours(planes, max(self._size))

    def _turned(self, frame: "av.VideoFrame") -> Planes:
        even = self._reformatter.reformat(
            frame,
            width=max(2, frame.width // 2 * 2),
            height=max(2, frame.height // 2 * 2),
            format="yuv420p",
            dst_colorspace="ITU709",
            dst_color_range="MPEG",
            interpolation="BICUBIC",
        )
        mirrored = (plane[:, ::-1] if self._framing.mirror else plane for plane in planes_of(even))
        y, u, v = (np.ascontiguousarray(np.rot90(plane, -self._framing.turns)) for plane in mirrored)
        return y, u, v

    def _around(self, turned: Planes, picture: tuple[int, int]) -> Planes:
        """What is seen around a whole picture."""
        from PIL import Image, ImageFilter

        if self._framing.fit == "colour":
            return self._ground
        filling = self._framing.changed(fit="fill", zoom=1.0, movement="none")
        seen = view(filling, picture, self._size, 0)
        inner = View(
            seen.left + seen.width * _INNER,
            seen.top + seen.height * _INNER,
            seen.width * (1 - 2 * _INNER),
            seen.height * (1 - 2 * _INNER),
        )
        width, height = self._size
        radius = max(width, height) * _BLUR_SHARE / _SMALL
        made: list[NDArray[np.uint8]] = []
        for plane, part in zip(turned, (1, 2, 2), strict=True):
            small = (max(2, width // part // _SMALL), max(2, height // part // _SMALL))
            shrunk = Image.fromarray(plane).resize(small, Image.Resampling.BOX, _box(plane, inner))
            blurred = shrunk.filter(ImageFilter.GaussianBlur(radius / part))
            large = blurred.resize((width // part, height // part), Image.Resampling.BICUBIC)
            made.append(np.asarray(large))
        return made[0], made[1], made[2]


def _box(plane: NDArray[np.uint8], seen: View) -> tuple[float, float, float, float]:
    """A view in pixels of a plane, kept within it."""
    high, wide = plane.shape
    left, top = max(0.0, seen.left * wide), max(0.0, seen.top * high)
    right = min(float(wide), (seen.left + seen.width) * wide)
    bottom = min(float(high), (seen.top + seen.height) * high)
    return left, top, right, bottom


def _cut(turned: Planes, seen: View, size: tuple[int, int]) -> Planes:
    """The part of a picture that is seen, at a size. Luma and chroma are made side by side; chroma, of which
    the eye sees less, between two points instead of four."""
    from PIL import Image

    wide, high = size
    chroma = [
        _other_core().submit(_resized, plane, seen, (wide // 2, high // 2), Image.Resampling.BILINEAR)
        for plane in turned[1:]
    ]
    luma = _resized(turned[0], seen, size, Image.Resampling.BICUBIC)
    return luma, chroma[0].result(), chroma[1].result()


def _resized(
    plane: NDArray[np.uint8], seen: View, size: tuple[int, int], how: "Image.Resampling"
) -> NDArray[np.uint8]:
    from PIL import Image

    return np.asarray(Image.fromarray(plane).resize(size, how, _box(plane, seen)))


@lru_cache(maxsize=1)
def _other_core() -> ThreadPoolExecutor:
    return ThreadPoolExecutor(1, thread_name_prefix="chroma")


def _as_they_are(planes: Planes) -> Planes:
    return planes


def _lay(
    ground: list[NDArray[np.uint8]], turned: Planes, seen: View, adjusted: Callable[[Planes], Planes]
) -> None:
    """The part of a picture that is seen, where it is seen; its edges stand on pairs of pixels."""
    high, wide = ground[0].shape
    left, right = _even(-seen.left / seen.width * wide, (1 - seen.left) / seen.width * wide, wide)
    top, bottom = _even(-seen.top / seen.height * high, (1 - seen.top) / seen.height * high, high)
    shown = View(
        seen.left + left / wide * seen.width,
        seen.top + top / high * seen.height,
        (right - left) / wide * seen.width,
        (bottom - top) / high * seen.height,
    )
    parts = adjusted(_cut(turned, shown, (right - left, bottom - top)))
    for plane, made, part in zip(ground, parts, (1, 2, 2), strict=True):
        plane[top // part : bottom // part, left // part : right // part] = made


def _even(start: float, end: float, size: int) -> tuple[int, int]:
    """Both edges within the frame and on pairs of pixels, at least one pair apart."""
    first = min(size - 2, max(0, round(start / 2) * 2))
    return first, max(first + 2, min(size, round(end / 2) * 2))

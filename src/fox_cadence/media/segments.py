"""A segment of a video, painted and coded by itself wherever there is room; joining.py puts them together.

It begins with a picture that needs no other and is coded with the same settings as all others, so that the
segments one after the other are one stream.
"""

from collections.abc import Iterator, Sequence
from fractions import Fraction
from pathlib import Path
from typing import Any

import av

from fox_cadence.core.screen import Screen
from fox_cadence.media.isolated import Progress
from fox_cadence.media.joining import CodedPicture, Segment
from fox_cadence.media.render import painted_frames
from fox_cadence.media.video_file import poster_picture
from fox_cadence.media.video_forms import VideoForm, video_stream

_REPORT_EVERY = 5


def render_segment(
    screen: Screen, clip_files: dict[str, Path], form: VideoForm, frames: tuple[int, int], progress: Progress
) -> Segment:
    """Paint and code the frames [first, last) of a piece.

    Args:
        form: of the whole video; its poster counts from the first frame of that.
        frames: of the piece.
    """
    first, last = frames
    rate = screen.rate.fraction
    into = first - form.first
    pictures: list[CodedPicture] = []
    poster: bytes | None = None
    with av.open("none", "w", format="null") as output:  # it holds the encoder, and nothing is written
        stream = video_stream(output, form, (screen.width, screen.height), rate)
        for number, frame in enumerate(painted_frames(screen, clip_files, first, last)):
            frame.pts, frame.time_base = number, 1 / rate
            pictures += _coded(stream.encode(frame), rate)
            if number + into == form.poster:
                poster = poster_picture(frame)
            if number % _REPORT_EVERY == 0:
                progress(number, last - first)
        pictures += _coded(stream.encode(None), rate)
    progress(last - first, last - first)
    return Segment(into, last - first, tuple(pictures), poster)


def _coded(packets: Sequence[Any], rate: Fraction) -> Iterator[CodedPicture]:
    for packet in packets:
        step = packet.time_base * rate
        yield CodedPicture(
            bytes(packet), round(packet.pts * step), round(packet.dts * step), packet.is_keyframe
        )

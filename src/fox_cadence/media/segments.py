"""A video made in segments, each coded by itself, wherever there is room; then put together in one file.

A segment begins with a picture that needs no other and is coded with the same settings as all others, so that
the segments one after the other are one stream. What is in the file does not depend on where, or in what
order, they were made.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any

import av

from fox_cadence.core.screen import Screen
from fox_cadence.media.isolated import Progress
from fox_cadence.media.render import last_frame, painted_frames
from fox_cadence.media.video_file import VideoFile, poster_picture
from fox_cadence.media.video_forms import VideoForm, opened, video_stream

_REPORT_EVERY = 5
SEGMENT_THREADS = 1
"""Of an encoder, whose bytes depend on it: as many on every machine. What makes use of all cores is how many
segments are made at once."""


@dataclass(frozen=True, slots=True)
class CodedPicture:
    """A picture as the encoder gave it; times in frames of the segment. `dts` is when it must be decoded."""

    data: bytes
    pts: int
    dts: int
    key: bool


@dataclass(frozen=True, slots=True)
class Segment:
    """The frames [first, first + frames) of a video, coded; `poster` is a JPEG of the one that stands for the
    file where it is in here."""

    first: int
    frames: int
    pictures: tuple[CodedPicture, ...]
    poster: bytes | None = None


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


def join(
    screen: Screen,
    segments: list[Segment],
    sound_file: Path,
    target: Path,
    form: VideoForm,
    progress: Progress,
) -> None:
    """Write segments one after the other into a file with the sound, the captions and all else of it.

    Args:
        screen: what was painted, for its size and rate.
        sound_file: as for a video that is made in one go.
    """
    rate, size = screen.rate.fraction, (screen.width, screen.height)
    total = last_frame(screen, form) - form.first
    done = 0
    with opened(str(target), form) as output:
        file = VideoFile(output, form, size, rate, sound_file)
        for segment in sorted(segments, key=lambda each: each.first):
            if segment.poster is not None:
                file.stand_for(segment.poster)
            for picture in segment.pictures:
                done += 1
                file.write([_packet(file.video, picture, segment.first, rate)], done)
            progress(done, total)
        file.end([])


def _packet(stream: Any, picture: CodedPicture, first: int, rate: Fraction) -> Any:
    packet = av.Packet(picture.data)
    packet.stream = stream
    packet.time_base = 1 / rate
    packet.pts, packet.dts = picture.pts + first, picture.dts + first
    packet.duration = 1
    packet.is_keyframe = picture.key
    return packet

"""Segments of a video put together in one file with its sound, the same bytes wherever they were made.

Apart from what paints them (segments.py): it takes a second to load, and joining takes less.
"""

import tempfile
from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any

import av

from fox_cadence.media.audio import Loudness
from fox_cadence.media.ingest import heard_of_file
from fox_cadence.media.isolated import Progress, no_progress
from fox_cadence.media.video_file import VideoFile
from fox_cadence.media.video_forms import VideoForm, opened

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


@dataclass(frozen=True, slots=True)
class Finished:
    """A finished file: its bytes, and what is heard of it, as heard_of_file says it; `loudness` is None where
    nobody listened."""

    data: bytes
    loudness: Loudness | None
    seconds: float | None


def finish(
    size: tuple[int, int],
    rate: Fraction,
    segments: Sequence[Segment],
    sound_file: Path,
    form: VideoForm,
    progress: Progress,
) -> Finished:
    """Join segments, and listen to the file that came of it; not to a quick look, which need not be known so
    well."""
    with tempfile.TemporaryDirectory() as folder:
        target = Path(folder) / f"video.{form.container}"
        join(size, rate, segments, sound_file, target, form, progress)
        if form.look:
            return Finished(target.read_bytes(), None, float(sum(each.frames for each in segments) / rate))
        loudness, seconds = heard_of_file(target, no_progress) or (None, None)
        return Finished(target.read_bytes(), loudness, seconds)


def join(
    size: tuple[int, int],
    rate: Fraction,
    segments: Sequence[Segment],
    sound_file: Path,
    target: Path,
    form: VideoForm,
    progress: Progress,
) -> None:
    """Write segments one after the other into a file with the sound, the captions and all else of it.

    Args:
        size, rate: of the pictures.
        sound_file: as for a video that is made in one go.
    """
    total, done = sum(each.frames for each in segments), 0
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

"""Pictures that stand for sound files. Runs in the isolated process."""

from pathlib import Path

from fox_cadence.errors import InputError
from fox_cadence.media.isolated import Progress
from fox_cadence.media.picture import open_media, timed_frames
from fox_cadence.media.video_file import poster_picture

LONG_SIDE = 1400
"""Of a cover at most: enough for any screen it is shown on, and some 200 kB."""


def cover_picture(file: Path, progress: Progress) -> bytes:
    """A picture (or the first of a video) as JPEG, no larger than a cover need be.

    Raises:
        InputError: it is none.
    """
    with open_media(file) as container:
        if not container.streams.video:
            raise InputError("it has no picture", file.name)
        first = next(timed_frames(container), None)
        if first is None:
            raise InputError("its picture can't be read", file.name)
        frame = first.frame
        share = min(1.0, LONG_SIDE / max(frame.width, frame.height))
        wide, high = (max(2, round(side * share / 2) * 2) for side in (frame.width, frame.height))
        return poster_picture(frame.reformat(width=wide, height=high, interpolation="AREA"))

"""Reading a recorded voice: any sound file a browser or a recorder makes, as mono at 48 kHz. Runs
isolated."""

from pathlib import Path

import numpy as np

from fox_cadence.errors import InputError
from fox_cadence.media.audio import Sound
from fox_cadence.media.ingest import read_sound
from fox_cadence.media.isolated import Progress
from fox_cadence.media.picture import open_media

LONGEST_RECORDING_S = 20 * 60
_SILENT = 0.002
"""A peak below −54 dBFS: a microphone that was off."""


def read_recording(path: Path, progress: Progress) -> Sound:
    """The sound of a file, its channels brought together.

    Raises:
        InputError: it can't be read, lasts too long, or nothing is to be heard in it.
    """
    import av

    with open_media(path) as container:
        length_s = float(container.duration or 0) / av.time_base
        if length_s > LONGEST_RECORDING_S:
            raise InputError(f"it lasts {length_s / 60:.0f} minutes; {LONGEST_RECORDING_S // 60} is the most")
    try:
        sound = read_sound(path, channels=1)
    except av.error.FFmpegError as error:
        raise InputError(
            f"the file is damaged and could not be read to its end ({error.strerror})"
        ) from error
    if sound is None or not len(sound):
        raise InputError("there is no sound in it")
    if len(sound) > LONGEST_RECORDING_S * 48_000:
        raise InputError(
            f"it lasts {len(sound) / 48_000 / 60:.0f} minutes; {LONGEST_RECORDING_S // 60} is the most"
        )
    mono = np.ascontiguousarray(sound[:, 0])
    if float(np.max(np.abs(mono))) < _SILENT:
        raise InputError("nothing is to be heard in it; was the microphone on?")
    return mono

"""Sound files that a command is given: read in a process of their own."""

from pathlib import Path

from fox_cadence.errors import InputError
from fox_cadence.media.audio import Sound
from fox_cadence.media.isolated import run_isolated
from fox_cadence.media.recordings import read_recording


def sound_of_file(file: Path) -> Sound:
    """The sound of a file, mono at 48 kHz, its channels brought together.

    Raises:
        InputError: it is not there, can't be read, or nothing is to be heard in it.
    """
    if not file.is_file():
        raise InputError("there is no such file", str(file))
    try:
        sound: Sound = run_isolated(read_recording, file.resolve())
    except InputError as error:
        raise InputError(str(error), str(file)) from error
    return sound

"""Sounds that are read a stretch at a time, however long their file is."""

import wave
from pathlib import Path
from typing import Any, Protocol

import numpy as np
from numpy.typing import NDArray

from fox_cadence.media.audio import Sound, as_stereo


class SoundReader(Protocol):
    """A sound at 48 kHz."""

    @property
    def count(self) -> int:
        """How many samples it has."""
        ...

    def read(self, start: int, count: int) -> Sound:
        """Stereo samples, shape (count, 2); before its first and after its last there is silence."""
        ...


class InMemory:
    """A sound that is there as a whole."""

    def __init__(self, sound: Sound) -> None:
        self._sound = sound

    @property
    def count(self) -> int:
        return len(self._sound)

    def read(self, start: int, count: int) -> Sound:
        return _within(self._sound, start, count)


class WavFile:
    """A WAV file that `wav_bytes` wrote: only what is read comes into memory."""

    def __init__(self, path: Path) -> None:
        with wave.open(str(path), "rb") as file:
            channels, frames = file.getnchannels(), file.getnframes()
        offset = path.stat().st_size - frames * channels * 2  # its samples are the last in it
        shape = (frames, channels)
        self._data: NDArray[np.int16] = (
            np.memmap(path, "<i2", "r", offset, shape) if frames else np.zeros(shape, np.int16)
        )

    @property
    def count(self) -> int:
        return len(self._data)

    def read(self, start: int, count: int) -> Sound:
        part = _within(self._data, start, count)
        return np.asarray(part / np.float32(32767), dtype=np.float32)


def _within(data: NDArray[np.float32] | NDArray[np.int16], start: int, count: int) -> Sound:
    first, last = max(0, min(start, len(data))), max(0, min(start + count, len(data)))
    part: Any = np.asarray(data[first:last])
    if part.ndim == 2 and part.shape[1] == 1:
        part = part[:, 0]
    stereo = as_stereo(part)
    return stereo if len(stereo) == count else _padded(stereo, first - start, count)


def _padded(part: Sound, before: int, count: int) -> Sound:
    made = np.zeros((count, 2), part.dtype)
    before = max(0, min(before, count))
    made[before : before + len(part)] = part[: count - before]
    return made

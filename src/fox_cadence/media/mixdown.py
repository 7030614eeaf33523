"""Brings a mix to its loudness and under its true peak, block by block into a file: the same plan gives the
same samples, however long it is and however large the blocks are."""

import os
import tempfile
import wave
import weakref
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import IO

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.mix import CURVE_STEP
from fox_cadence.core.sound.settings import Column, MixSettings
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.audio import SILENT_LUFS, Loudness, Sound, measure_blocks, to_pcm16
from fox_cadence.media.limiter import Peaks, gain_at, held_under
from fox_cadence.media.meter import Meter
from fox_cadence.media.mixing import Mixer

BLOCK = SAMPLE_RATE_HZ * 10
_MARGIN_DB = 0.2
"""What a gain that moves can add between samples, and 16 bits by rounding."""
_TOLERANCE_LU = 0.08
_MOST_ROUNDS = 6
_MOST_STEP_DB, _LEAST_GIVEN = 6.0, 0.25
_LOUDEST_GAIN_DB = 30.0
_FRAME_BYTES = 8

Told = Callable[[int, int], None]
"""How many samples of how many are done; it may raise to stop the work."""


class _SampleFile:
    """Stereo float32 samples in a file without a name, gone when nobody has it any more."""

    def __init__(self, folder: Path) -> None:
        self._file: IO[bytes] = tempfile.TemporaryFile(dir=folder, buffering=0)  # noqa: SIM115 # read from later
        weakref.finalize(self, self._file.close)

    def append(self, block: Sound) -> None:
        data = memoryview(np.ascontiguousarray(block, dtype="<f4").tobytes())
        while len(data):
            written = self._file.write(data)
            data = data[written:]

    def read(self, start: int, count: int) -> Sound:
        """Samples from one on; before the first and after the last there is silence."""
        before = max(0, -start)
        at, wanted = max(0, start) * _FRAME_BYTES, max(0, count - before) * _FRAME_BYTES
        parts: list[bytes] = []
        while wanted and (got := os.pread(self._file.fileno(), wanted, at)):  # several may read at a time
            parts.append(got)
            at, wanted = at + len(got), wanted - len(got)
        data = np.frombuffer(b"".join(parts), dtype="<f4").reshape(-1, 2)
        if len(data) == count:
            return data
        made = np.zeros((count, 2), np.float32)
        made[before : before + len(data)] = data
        return made


@dataclass(frozen=True)
class Mix:
    """A finished mix. Its columns add up to it: each has the gain of the whole, and that of its limiter."""

    total_samples: int
    gain_db: float
    integrated_lufs: float
    short_term_lufs: NDArray[np.float64]
    _mixer: Mixer
    _raw: _SampleFile
    _limit: NDArray[np.float64]

    def read(self, start: int, count: int) -> Sound:
        """Stereo samples of the whole, shape (count, 2), or fewer at its end."""
        count = max(0, min(count, self.total_samples - start))
        return self._levelled(self._raw.read(start, count), start)

    def columns(self, start: int, count: int) -> dict[Column, Sound]:
        """Stereo samples of each column, as loud as they are in the whole."""
        count = max(0, min(count, self.total_samples - start))
        laid = self._mixer.columns(start, count)
        return {column: self._levelled(sound, start) for column, sound in laid.items()}

    def column(self, column: Column, start: int, count: int) -> Sound:
        """Stereo samples of one of them."""
        return self.columns(start, count)[column]

    def as_loud_as_here(self, mixer: Mixer, start: int, count: int) -> Sound:
        """Stereo samples of a part of what is mixed, with the gain and the limiter of the whole."""
        count = max(0, min(count, self.total_samples - start))
        return self._levelled(mixer.whole(start, count), start)

    @property
    def held_db(self) -> float:
        """By how many decibels its peaks are held down, or more, for a hundredth of its time."""
        if not len(self._limit):
            return 0.0
        return -20 * float(np.log10(max(1e-6, float(np.percentile(self._limit, 1)))))

    def blocks(self, column: Column | None = None) -> Iterator[Sound]:
        """The whole, or one column, block by block."""
        for start in range(0, self.total_samples, BLOCK):
            yield self.read(start, BLOCK) if column is None else self.column(column, start, BLOCK)

    def loudness(self) -> Loudness:
        """Measured of the whole by a meter that had no part in making it."""
        return measure_blocks(self.blocks(), self.total_samples)

    def _levelled(self, sound: Sound, start: int) -> Sound:
        gain = gain_at(self._limit, start, len(sound)) * np.float32(10 ** (self.gain_db / 20))
        return np.asarray(sound * gain[:, np.newaxis], dtype=np.float32)


def mix_down(mixer: Mixer, folder: Path, told: Told | None = None, block: int = BLOCK) -> Mix:
    """Lay all parts and bring the whole to its loudness, its true peak under its limit.

    Args:
        folder: where the samples are kept meanwhile.
        block: how many samples are worked on at a time: whole steps.
    """
    total = mixer.plan.total_samples
    raw, meter = _SampleFile(folder), Meter()
    peaks = Peaks(total, raw.read)
    for start in range(0, total, block):
        laid = mixer.whole(start, min(block, total - start))
        raw.append(laid)
        meter.feed(laid)
        peaks.feed(start, laid)
        if told is not None:
            told(min(total, start + block), total)
    integrated = meter.integrated_lufs()
    limit = np.ones(-(-total // CURVE_STEP))
    if integrated <= SILENT_LUFS:
        return Mix(total, 0.0, integrated, meter.short_term_lufs(), mixer, raw, limit)
    return _levelled(mixer, raw, peaks, integrated, block)


def _levelled(mixer: Mixer, raw: _SampleFile, peaks: Peaks, integrated: float, block: int) -> Mix:
    """The gain with which the whole is as loud as it should be once its peaks are held: what holding them
    costs is given back, of which it costs a part again."""
    settings: MixSettings = mixer.plan.settings
    ceiling = 10 ** ((settings.peak_db - _MARGIN_DB) / 20)
    gain_db = min(_LOUDEST_GAIN_DB, settings.aim_lufs - integrated)
    made = _with_gain(mixer, raw, peaks, gain_db, ceiling, block)
    gives = 1.0  # by how much the whole gets louder for a decibel of gain
    for _ in range(_MOST_ROUNDS):
        short = settings.aim_lufs - made.integrated_lufs
        if abs(short) <= _TOLERANCE_LU or gain_db >= _LOUDEST_GAIN_DB or _is_level(made):
            break
        step = max(-_MOST_STEP_DB, min(_MOST_STEP_DB, short / gives, _LOUDEST_GAIN_DB - gain_db))
        before = made.integrated_lufs
        gain_db += step
        made = _with_gain(mixer, raw, peaks, gain_db, ceiling, block)
        gives = max(_LEAST_GIVEN, (made.integrated_lufs - before) / step)
    return made


def _is_level(made: Mix) -> bool:
    """Nothing is held: the gain alone has made it as loud as it can be told to."""
    return bool(made._limit.min(initial=1.0) >= 1.0)


def _with_gain(
    mixer: Mixer, raw: _SampleFile, peaks: Peaks, gain_db: float, ceiling: float, block: int
) -> Mix:
    total = mixer.plan.total_samples
    limit = peaks.under(ceiling / 10 ** (gain_db / 20))
    meter = Meter()
    made = Mix(total, gain_db, SILENT_LUFS, np.zeros(0), mixer, raw, limit)
    for start in range(0, total, block):
        meter.feed(made.read(start, block))
    return Mix(total, gain_db, meter.integrated_lufs(), meter.short_term_lufs(), mixer, raw, limit)


def held_alone(mix: Mix, mixer: Mixer) -> Callable[[int, int], Sound]:
    """A part of what is mixed as a sound of its own, as loud as in the whole, its own peaks held: gives the
    samples from one on, so many."""
    settings = mixer.plan.settings
    gain = np.float32(10 ** (mix.gain_db / 20))

    def louder(start: int, count: int) -> Sound:
        count = max(0, min(count, mix.total_samples - start))
        return np.asarray(mixer.whole(start, count) * gain, dtype=np.float32)

    peaks = Peaks(mix.total_samples, louder)
    for start in range(0, mix.total_samples, BLOCK):
        peaks.feed(start, louder(start, BLOCK))
    limit = peaks.under(10 ** ((settings.peak_db - _MARGIN_DB) / 20))

    def held(start: int, count: int) -> Sound:
        sound = louder(start, count)
        return np.asarray(sound * gain_at(limit, start, len(sound))[:, np.newaxis], dtype=np.float32)

    return held


def part_at_once(mixer: Mixer, start: int, count: int, gain_db: float) -> Sound:
    """A stretch of a mix that is not finished, with the gain it is expected to have, its peaks held."""
    count = max(0, min(count, mixer.plan.total_samples - start))
    gain = np.float32(10 ** (min(gain_db, _LOUDEST_GAIN_DB) / 20))
    sound = np.asarray(mixer.whole(start, count) * gain, dtype=np.float32)
    return held_under(sound, mixer.plan.settings.peak_db - _MARGIN_DB)


def write_wav(path: Path, blocks: Iterator[Sound]) -> None:
    """A WAV file of stereo blocks: 48 kHz, 16 bit."""
    with wave.open(str(path), "wb") as file:
        file.setnchannels(2)
        file.setsampwidth(2)
        file.setframerate(SAMPLE_RATE_HZ)
        for block in blocks:
            file.writeframesraw(to_pcm16(block))

"""What was measured of each voice that comes with the application; `python -m scripts.measure_voices` writes
it."""

import itertools
import json
import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files

import numpy as np
from numpy.typing import NDArray

from fox_cadence.voices.speech_shape import Mono

BANDS = 12
_LOWEST_HZ, _HIGHEST_HZ = 120.0, 8_000.0
_FRAME = 2_048
_QUIET_DB = 35.0
"""Frames so far below the loudest one are no speech."""

_REACH_DB = 7.0
"""A band so far above the middle of all voices is at the edge of a voice's shape."""


@dataclass(frozen=True, slots=True)
class Measured:
    """Median pitch (Hz), its spread (standard deviation in semitones), letters a second of speech, loudness
    (LUFS), and its timbre: for each band of the spectrum how strong it is, from 0 to 1, against all voices
    (0.5 is their middle)."""

    pitch_hz: int
    spread_st: float
    letters_s: float
    lufs: float
    shape: tuple[float, ...]


def semitones_apart(one: Measured | None, other: Measured | None) -> float:
    """How far two voices are from one another: in pitch, and in how much it moves; 0 where nothing was
    measured."""
    if one is None or other is None:
        return 0.0
    return abs(12 * math.log2(one.pitch_hz / other.pitch_hz)) + abs(one.spread_st - other.spread_st)


@lru_cache(maxsize=1)
def measured() -> dict[str, Measured]:
    """What was measured, by the ids of the voices."""
    found = json.loads((files("fox_cadence.voices") / "data" / "measured.json").read_text("utf-8"))
    levels = np.array([each["bands_db"] for each in found.values()])
    shapes = np.clip(0.5 + (levels - np.median(levels, axis=0)) / (2 * _REACH_DB), 0, 1)
    return {
        voice_id: Measured(
            each["pitch_hz"], each["spread_st"], each["letters_s"], each["lufs"],
            tuple(round(float(value), 2) for value in shape),
        )
        for (voice_id, each), shape in zip(found.items(), shapes, strict=True)
    }  # fmt: skip


def blended(parts: Sequence[tuple[Measured, float]]) -> Measured | None:
    """What a mix of voices by shares is expected to come to: their means, of pitches in tone."""
    whole = sum(share for _, share in parts)
    if whole <= 0:
        return None

    def mean(values: Sequence[float]) -> float:
        return sum(value * share for value, (_, share) in zip(values, parts, strict=True)) / whole

    return Measured(
        round(2 ** mean([math.log2(each.pitch_hz) for each, _ in parts])),
        round(mean([each.spread_st for each, _ in parts]), 1),
        round(mean([each.letters_s for each, _ in parts]), 1),
        round(mean([each.lufs for each, _ in parts]), 1),
        tuple(round(mean([each.shape[n] for each, _ in parts]), 2) for n in range(BANDS)),
    )


def band_levels(sound: Mono, rate_hz: int) -> NDArray[np.float64]:
    """The level (dB against their mean) of speech in bands of the same width in tone; [BANDS]."""
    count = len(sound) // _FRAME
    if not count:
        return np.zeros(BANDS)
    frames = sound[: count * _FRAME].reshape(count, _FRAME).astype(np.float64)
    power = (frames**2).mean(axis=1)
    heard = frames[power > power.max() * 10 ** (-_QUIET_DB / 10)]
    spectrum = (np.abs(np.fft.rfft(heard * np.hanning(_FRAME), axis=1)) ** 2).mean(axis=0)
    hz = np.fft.rfftfreq(_FRAME, 1 / rate_hz)
    edges = np.geomspace(_LOWEST_HZ, _HIGHEST_HZ, BANDS + 1)
    levels = [
        10 * np.log10(spectrum[(hz >= low) & (hz < high)].mean() + 1e-12)
        for low, high in itertools.pairwise(edges)
    ]
    made: NDArray[np.float64] = np.array(levels, dtype=np.float64)
    made -= made.mean()
    return made

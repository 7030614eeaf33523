"""The melody of speech as a curve: its pitch moved and widened, and where it is silent."""

import numpy as np
from numpy.typing import NDArray

_VOICED_HZ = 40.0
"""Lower pitches stand for sounds without a voice."""

_GLIDE = 4
"""Values over which one pitch goes over into another: 50 ms, as fast as a voice can move (Y. Xu and X. Sun,
Maximum speed of pitch change, JASA 2002: four semitones take about 0.1 s)."""

Curve = NDArray[np.float32]


def moved_pitch(
    pitch: Curve, semitones: float, spread: float, own: NDArray[np.float64] | None = None
) -> Curve:
    """A pitch curve (Hz) so many semitones higher, its distances from its middle times `spread`, and where
    `own` is given moved by that besides, value by value."""
    voiced = pitch > _VOICED_HZ
    if not voiced.any() or (semitones == 0 and spread == 1 and own is None):
        return pitch
    middle = float(np.median(np.log2(pitch[voiced])))
    moved = np.full(len(pitch), semitones / 12)
    if own is not None:
        kernel = np.hanning(2 * _GLIDE + 1)[1:-1]
        padded = np.pad(own[: len(pitch)], _GLIDE - 1, mode="edge")
        moved = moved + np.convolve(padded, kernel / kernel.sum(), mode="valid") / 12
    heights = np.log2(np.maximum(pitch, 1e-3))
    made = 2.0 ** (middle + (heights - middle) * spread + moved)
    return np.where(voiced, made, pitch).astype(np.float32)


def crossings(level: Curve, floor: float) -> list[tuple[float, float]]:
    """Where a level lies above a floor: begin and end of each run, in values from the curve's start, between
    two values where the line through them crosses."""
    level = level.astype(np.float64)  # else a floor between two numbers of 32 bits is on both sides of one
    above = np.flatnonzero(np.diff(np.concatenate([[0], (level > floor).astype(np.int8), [0]])))
    runs: list[tuple[float, float]] = []
    for first, after in zip(above[::2], above[1::2], strict=True):
        start = 0.0 if first == 0 else _between(level, int(first) - 1, floor)
        end = float(len(level)) if after == len(level) else _between(level, int(after) - 1, floor)
        runs.append((start, end))
    return runs


def _between(level: Curve, place: int, floor: float) -> float:
    """Where the curve passes the floor after a value; values stand in the middle of their share of time."""
    here, following = float(level[place]), float(level[place + 1])
    return place + 0.5 + (floor - here) / (following - here)

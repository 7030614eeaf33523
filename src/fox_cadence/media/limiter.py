"""Holds the true peak of a mix under a ceiling: a gain for each millisecond that looks ahead, and depends on
nothing but what lies near it, so that it is the same block by block."""

from collections.abc import Callable
from functools import cache

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.mix import CURVE_STEP as STEP
from fox_cadence.core.scientific import part
from fox_cadence.media.audio import Sound
from fox_cadence.media.sound_reader import InMemory

_REACH = 20
"""Steps by which the gain goes down before a peak, and comes up after it."""
_OVERSAMPLED = 4
_TAPS = 32
"""Of the filter between samples, on each side, at the rate of the samples."""
_NEAR_DB = 2.0
"""Between samples a peak can stand so much above them (ITU-R BS.1770-4, annex 2), and no more."""

_NEAR_STEPS, _MOST_STEPS = 6, 2_000
"""Looking between samples costs by the call as well as by the sample."""

Read = Callable[[int, int], Sound]
"""Stereo samples from a sample on, so many."""


class Peaks:
    """The peak of each step of a sound: of its samples, and where these come near the ceiling also between
    them."""

    def __init__(self, total_samples: int, read: Read) -> None:
        self._steps = np.zeros(-(-total_samples // STEP))
        self._true = np.zeros(len(self._steps), bool)
        self._total = total_samples
        self._read = read

    def feed(self, start: int, block: Sound) -> None:
        """Take in the samples of a block that begins at a whole step."""
        count = -(-len(block) // STEP)
        loud = np.pad(np.abs(block).max(axis=1), (0, count * STEP - len(block)))
        first = start // STEP
        self._steps[first : first + count] = loud.reshape(count, STEP).max(axis=1)

    def under(self, ceiling: float) -> NDArray[np.float64]:
        """The gain of each step with which no peak is over a ceiling (linear)."""
        near = (self._steps > ceiling * 10 ** (-_NEAR_DB / 20)) & ~self._true
        for first, end in _stretches(near):
            self._look_between(first, end)
        wanted = np.minimum(1.0, ceiling / np.maximum(self._steps, 1e-9))
        return _smoothed(wanted)

    def _look_between(self, first: int, end: int) -> None:
        upfirdn = part("scipy.signal").upfirdn

        start = first * STEP - _TAPS
        count = (end - first) * STEP
        sound = self._read(start, count + 2 * _TAPS).astype(np.float64)
        fine = upfirdn(_between_samples(), sound, up=_OVERSAMPLED, axis=0)
        late = _TAPS * _OVERSAMPLED * 2  # of the filter, and of the samples before the stretch
        between = np.abs(fine[late : late + count * _OVERSAMPLED]).max(axis=1)
        between = np.pad(between, (0, count * _OVERSAMPLED - len(between)))
        found = between.reshape(end - first, STEP * _OVERSAMPLED).max(axis=1)
        self._steps[first:end] = np.maximum(self._steps[first:end], found)
        self._true[first:end] = True


def held_under(sound: Sound, ceiling_db: float) -> Sound:
    """A stereo sound that is there as a whole, its true peak held under a ceiling in dBTP; what is not near
    it stays as it is."""
    peaks = Peaks(len(sound), InMemory(sound).read)
    peaks.feed(0, sound)
    gain = gain_at(peaks.under(10 ** (ceiling_db / 20)), 0, len(sound))
    return np.asarray(sound * gain[:, np.newaxis], dtype=np.float32)


@cache
def _between_samples() -> NDArray[np.float64]:
    """The filter that tells what lies between samples."""
    firwin = part("scipy.signal").firwin

    taps = firwin(2 * _TAPS * _OVERSAMPLED + 1, 1 / _OVERSAMPLED) * _OVERSAMPLED
    return np.asarray(taps, dtype=np.float64)


def _stretches(wanted: NDArray[np.bool_]) -> list[tuple[int, int]]:
    """Runs of steps that are wanted, [first, end); what lies near together is one."""
    edges = np.flatnonzero(np.diff(np.concatenate([[False], wanted, [False]]).astype(np.int8)))
    found: list[tuple[int, int]] = []
    for first, end in zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True):
        if found and first - found[-1][1] < _NEAR_STEPS and end - found[-1][0] < _MOST_STEPS:
            found[-1] = (found[-1][0], end)
        else:
            found.append((first, end))
    return found


def _smoothed(wanted: NDArray[np.float64]) -> NDArray[np.float64]:
    """A gain that goes down and up smoothly and is never above what is wanted: the least of what lies near,
    then a mean weighted by a Hann window that reaches one step less far."""
    if len(wanted) == 0 or wanted.min() >= 1.0:
        return np.ones(len(wanted))
    wide = np.pad(wanted, _REACH + 1, mode="edge")
    least = np.lib.stride_tricks.sliding_window_view(wide, 2 * _REACH + 3).min(axis=1)
    window = np.hanning(2 * _REACH + 3)[1:-1]
    return np.convolve(np.pad(least, _REACH, mode="edge"), window / window.sum(), mode="valid")


def gain_at(steps: NDArray[np.float64], start: int, count: int) -> NDArray[np.float32]:
    """The gain of samples from one on: straight lines between the middles of the steps."""
    middles = np.arange(len(steps)) * STEP + STEP / 2
    first, last = max(0, start // STEP - 1), (start + count) // STEP + 2
    near = slice(first, last)
    if not len(middles[near]):
        return np.ones(count, np.float32)
    at = np.arange(start, start + count)
    return np.interp(at, middles[near], steps[near]).astype(np.float32)

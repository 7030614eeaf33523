"""The pitch of speech as it is heard: for frames of 40 ms the lag at which each is most like itself."""

import numpy as np
from numpy.lib.stride_tricks import sliding_window_view
from numpy.typing import NDArray

from fox_cadence.core.scientific import part
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.voices.speech_shape import Mono

_LOW_HZ, _HIGH_HZ = 60, 450
_RATE_HZ = 12_000
"""Sound is looked at in this rate: speech has its pitch far below half of it."""

_FRAME, _HOP = _RATE_HZ * 40 // 1000, _RATE_HZ * 20 // 1000
HOP_S = _HOP / _RATE_HZ
_VOICED, _AS_GOOD = 0.6, 0.05
"""A frame has a pitch where it is as like itself as this; the first lag within the second of the best counts,
as later ones are its multiples."""

_LEAST_POWER = 1e-3 / 4


def pitch_track(sound: Mono) -> NDArray[np.float64]:
    """The pitch (Hz) of every 20 ms of a sound in 48 kHz; 0 where it has none."""
    resample_poly = part("scipy.signal").resample_poly

    slow = resample_poly(sound.astype(np.float64), _RATE_HZ, SAMPLE_RATE_HZ)
    shortest, longest = _RATE_HZ // _HIGH_HZ - 1, _RATE_HZ // _LOW_HZ + 2
    starts = range(0, max(0, len(slow) - _FRAME - longest), _HOP)
    found = np.zeros(len(starts))
    for number, start in enumerate(starts):
        frame = slow[start : start + _FRAME]
        power = float(frame @ frame)
        if power < _LEAST_POWER:
            continue
        later = sliding_window_view(slow[start + shortest : start + longest + _FRAME - 1], _FRAME)
        alike = (later @ frame) / np.sqrt(power * np.einsum("ij,ij->i", later, later) + 1e-9)
        near = np.flatnonzero(alike > max(_VOICED, float(alike.max()) - _AS_GOOD))
        if not len(near):
            continue
        at = int(near[0])
        while at + 1 < len(alike) and alike[at + 1] > alike[at]:
            at += 1
        found[number] = _RATE_HZ / (shortest + at + _vertex(alike, at))
    return found


def _vertex(values: NDArray[np.float64], at: int) -> float:
    """How far from a highest value the parabola through it and its neighbours is highest."""
    if not 0 < at < len(values) - 1:
        return 0.0
    before, here, after = values[at - 1 : at + 2]
    bend = before - 2 * here + after
    return 0.0 if bend >= 0 else float(0.5 * (before - after) / bend)


def pitches_hz(sound: Mono) -> list[float]:
    """The pitches of all frames that have one."""
    track = pitch_track(sound)
    return [float(hz) for hz in track[track > 0]]

"""The key of music: the tone its others are counted from (Krumhansl's profiles, 1990)."""

import numpy as np

from fox_cadence.core.scientific import part
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.audio import Sound

_MAJOR = np.array([6.35, 2.23, 3.48, 2.33, 4.38, 4.09, 2.52, 5.19, 2.39, 3.66, 2.29, 2.88])
_MINOR = np.array([6.33, 2.68, 3.52, 5.38, 2.60, 3.53, 2.54, 4.75, 3.98, 2.69, 3.34, 3.17])
_C4_HZ = 261.626
_RATE = 8_000
_WINDOW = 4_096
"""Half a second: tones next to each other are told apart from 110 Hz up, which beats' short windows can't."""
_HEARD_HZ = (40, 2_000)
"""Down to the lowest tone of a bass: between a key and its relative, it is the bass that tells."""


def key_of(sound: Sound) -> int:
    """The tonic of a sound as a pitch class, 0 to 11 from c; 0 for silence."""
    tones = _tones(sound)
    if not np.any(tones):
        return 0
    fits = [
        (float(np.corrcoef(np.roll(tones, -tonic), profile)[0, 1]), tonic)
        for profile in (_MAJOR, _MINOR)
        for tonic in range(12)
    ]
    return max(fits)[1]


def _tones(sound: Sound) -> np.ndarray[tuple[int], np.dtype[np.float64]]:
    """How much there is of each of the twelve tones, from c on."""
    resample_poly = part("scipy.signal").resample_poly
    spectrogram = part("scipy.signal").spectrogram

    mono = sound if sound.ndim == 1 else sound.mean(axis=1)
    low = resample_poly(mono.astype(np.float64), 1, SAMPLE_RATE_HZ // _RATE)
    low = np.pad(low, (0, max(0, _WINDOW - len(low))))
    hertz, _, strength = spectrogram(low, _RATE, "hann", _WINDOW, _WINDOW // 2, mode="magnitude")
    heard = (hertz > _HEARD_HZ[0]) & (hertz < _HEARD_HZ[1])
    nearest = np.round(12 * np.log2(hertz[heard] / _C4_HZ)).astype(int) % 12
    tones = np.zeros(12)
    np.add.at(tones, nearest, strength[heard].sum(axis=1))
    return tones

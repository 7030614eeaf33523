"""Tells a sound that was recorded too loud: its peaks are flat, for they were cut off."""

import numpy as np

from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.sound_reader import SoundReader

_LOOKED_AT_S = 300
_BLOCK = SAMPLE_RATE_HZ * 10
_FLAT = 6
"""So many samples at the very top one after the other are no peak: a tone of 50 Hz has four there."""
_TOP = 0.9999
_LEAST_PLACES = 8
_LEAST_HEIGHT = 0.3


def is_clipped(sound: SoundReader) -> bool:
    """Whether the peaks of a sound are cut off, by its first five minutes. What was cut off may have been
    made quieter since."""
    count = min(sound.count, _LOOKED_AT_S * SAMPLE_RATE_HZ)
    blocks = range(0, count, _BLOCK)
    top = max((float(np.abs(sound.read(start, _BLOCK)).max(initial=0)) for start in blocks), default=0.0)
    if top < _LEAST_HEIGHT:
        return False
    places = 0
    for start in blocks:
        for side in sound.read(start, min(_BLOCK, count - start)).T:
            at_top = np.abs(side) >= _TOP * top
            edges = np.flatnonzero(np.diff(np.concatenate([[False], at_top, [False]]).astype(np.int8)))
            places += int(np.sum(edges[1::2] - edges[::2] >= _FLAT))
        if places >= _LEAST_PLACES:
            return True
    return False

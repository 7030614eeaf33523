"""The key of music: the tone its others are counted from (Krumhansl's profiles, 1990)."""

import numpy as np

from fox_cadence.media.audio import Sound
from fox_cadence.media.beats import tones_of

_MAJOR = np.array([6.35, 2.23, 3.48, 2.33, 4.38, 4.09, 2.52, 5.19, 2.39, 3.66, 2.29, 2.88])
_MINOR = np.array([6.33, 2.68, 3.52, 5.38, 2.60, 3.53, 2.54, 4.75, 3.98, 2.69, 3.34, 3.17])


def key_of(sound: Sound) -> int:
    """The tonic of a sound as a pitch class, 0 to 11 from c."""
    tones = tones_of(sound)
    if not np.any(tones):
        return 0
    fits = [
        (float(np.corrcoef(np.roll(tones, -tonic), profile)[0, 1]), tonic)
        for profile in (_MAJOR, _MINOR)
        for tonic in range(12)
    ]
    return max(fits)[1]

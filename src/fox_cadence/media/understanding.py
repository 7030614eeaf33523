"""How well words are understood over what sounds with them: ESTOI (Jensen and Taal, 2016), 1 where nothing
else is heard."""

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.scientific import part
from fox_cadence.media.audio import Sound

AIM = 0.90
"""What is aimed at; docs/benchmarks.md has over how much of a bed that is."""
_RATE = 10_000
_LEAST_S = 0.5
"""ESTOI looks at 30 frames of 25.6 ms at a time, half of each over the last."""

Low = NDArray[np.float64]


def lowered(sound: Sound) -> Low:
    """A sound as the measure takes it: mono, at 10 kHz."""
    resample_poly = part("scipy.signal").resample_poly

    mono = sound if sound.ndim == 1 else sound.mean(axis=1)
    return np.asarray(resample_poly(mono.astype(np.float64), 5, 24))


def understood(speech: Low, heard: Low) -> float | None:
    """How well the words of `speech` are understood in `heard`, both lowered and of the same length; None
    where there is too little of them."""
    pystoi = part("pystoi")  # it loads scipy too

    if len(speech) < _LEAST_S * _RATE or not np.any(speech):
        return None
    # what is 40 dB under the loudest frame is left aside by the measure; its noise would be random
    return float(np.clip(pystoi.stoi(speech, heard, _RATE, extended=True), 0, 1))


def needed_db(speech: Low, rest: Low, bed: Low, aim: float = AIM, most_db: float = 40.0) -> float | None:
    """By how many decibels a bed has to go down under speech for the words to be understood, to a quarter of
    one; None where no way down is enough, or nothing is said."""
    low, high = 0.0, most_db

    def with_bed(down_db: float) -> float:
        found = understood(speech, speech + rest + bed * 10 ** (-down_db / 20))
        return found if found is not None else 0.0

    if len(speech) < _LEAST_S * _RATE or with_bed(high) < aim:
        return None
    if with_bed(low) >= aim:
        return 0.0
    while high - low > 0.25:
        middle = (low + high) / 2
        low, high = (low, middle) if with_bed(middle) >= aim else (middle, high)
    return round(high * 4 + 0.499) / 4

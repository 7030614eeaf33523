"""Another throat for a voice: Praat's overlap-add of pitch periods, which keeps every word where it was.

Praat draws numbers by chance where a sound has no pitch; it is told which ones, so that the same sound comes
out the same. It works on one sound at a time.
"""

import threading
from typing import Any

import numpy as np

from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.core.treatment import Pitch
from fox_cadence.media.audio import Sound

_LOWEST_HZ, _HIGHEST_HZ = 60.0, 500.0
_LEAST_S = 0.1
_CLOSE = 0.01
_lock = threading.Lock()


def with_throat(sound: Sound, stage: Pitch) -> Sound:
    """The sound of a voice in another throat, as long as before.

    Args:
        sound: mono at 48 kHz.
    """
    plain = stage.semitones == 0 and stage.size == 1 and stage.melody == 1
    if plain or len(sound) < _LEAST_S * SAMPLE_RATE_HZ:
        return sound
    with _lock:
        before = _median_hz(sound)
        if before == 0:  # whispered, or no voice: there is nothing it could be changed by
            return sound
        wanted = before * 2 ** (stage.semitones / 12)
        made = _changed(sound, stage, wanted)
        if stage.semitones:
            # it comes out a little off where pitch is hard to follow: asked once more by as much
            found = _median_hz(made)
            if found > 0 and abs(found / wanted - 1) > _CLOSE:
                made = _changed(sound, stage, min(_HIGHEST_HZ, max(_LOWEST_HZ, wanted * wanted / found)))
    return made


def _praat_sound(sound: Sound) -> Any:
    import parselmouth  # it takes a while, for what few need

    return parselmouth.Sound(sound.astype(np.float64), sampling_frequency=float(SAMPLE_RATE_HZ))


def _median_hz(sound: Sound) -> float:
    """The pitch it has in the middle; 0 where it has none."""
    pitch = _praat_sound(sound).to_pitch(pitch_floor=_LOWEST_HZ, pitch_ceiling=_HIGHEST_HZ)
    hertz = pitch.selected_array["frequency"]
    voiced = hertz[hertz > 0]
    return float(np.median(voiced)) if len(voiced) else 0.0


def _changed(sound: Sound, stage: Pitch, median_hz: float) -> Sound:
    import parselmouth

    parselmouth.praat.run("random_initializeWithSeedUnsafelyButPredictably (5489)")
    made = parselmouth.praat.call(
        _praat_sound(sound),
        "Change gender",
        _LOWEST_HZ,
        _HIGHEST_HZ,
        1 / stage.size,
        median_hz if stage.semitones else 0,
        stage.melody,
        1,
    )
    values = np.asarray(made.values[0], dtype=np.float32)[: len(sound)]
    return np.pad(values, (0, len(sound) - len(values)))

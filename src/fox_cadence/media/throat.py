"""Another throat for a voice: Praat's overlap-add of pitch periods, which keeps every word where it was.

Praat draws numbers by chance where a sound has no pitch; it is told which ones, so that the same sound comes
out the same. It works on one sound at a time.
"""

import itertools
import math
import threading
from collections.abc import Sequence
from typing import Any

import numpy as np

from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.core.treatment import Pitch
from fox_cadence.media.audio import Sound

_LOWEST_HZ, _HIGHEST_HZ = 60.0, 500.0
_LEAST_S = 0.1
_CLOSE = 0.01
_EDGE_S = 0.0005
_GLIDE_S, _HELD_S = 0.05, 0.35
_TREMBLE_HZ, _TREMBLE_SEMITONES = 5.3, 0.35
Moments = Sequence[tuple[int, int]]
Notes = Sequence[tuple[int, int, float]]
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
        before = median_hz(sound)
        if before == 0:  # whispered, or no voice: there is nothing it could be changed by
            return sound
        wanted = before * 2 ** (stage.semitones / 12)
        made = _changed(sound, stage, wanted)
        if stage.semitones:
            # it comes out a little off where pitch is hard to follow: asked once more by as much
            found = median_hz(made)
            if found > 0 and abs(found / wanted - 1) > _CLOSE:
                made = _changed(sound, stage, min(_HIGHEST_HZ, max(_LOWEST_HZ, wanted * wanted / found)))
    return made


def _praat_sound(sound: Sound) -> Any:
    import parselmouth  # it takes a while, for what few need

    return parselmouth.Sound(sound.astype(np.float64), sampling_frequency=float(SAMPLE_RATE_HZ))


def median_hz(sound: Sound) -> float:
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


def retimed(
    sound: Sound, moments: Sequence[tuple[int, int]], notes: Sequence[tuple[int, int, float]] = ()
) -> Sound:
    """A voice whose moments are heard at other times, at its own pitch or on notes.

    Args:
        sound: mono at 48 kHz.
        moments: samples of the sound and of what is made, both rising; what comes before the first and after
            the last stays as long as it is.
        notes: from a sample of what is made to another, a pitch in hertz.
    """
    with _lock:
        return _retimed(sound, moments, notes)


def _retimed(
    sound: Sound, moments: Sequence[tuple[int, int]], notes: Sequence[tuple[int, int, float]]
) -> Sound:
    import parselmouth

    call = parselmouth.praat.call
    seconds = len(sound) / SAMPLE_RATE_HZ
    parselmouth.praat.run("random_initializeWithSeedUnsafelyButPredictably (5489)")
    handled = call(_praat_sound(sound), "To Manipulation", 0.01, _LOWEST_HZ, _HIGHEST_HZ)
    durations = call("Create DurationTier", "d", 0, seconds)
    edge = _EDGE_S
    call(durations, "Add point", max(0.0, moments[0][0] / SAMPLE_RATE_HZ - edge), 1.0)
    for (start, to), (end, until) in itertools.pairwise(moments):
        factor = (until - to) / (end - start)
        call(durations, "Add point", start / SAMPLE_RATE_HZ + edge, factor)
        call(
            durations,
            "Add point",
            max(start / SAMPLE_RATE_HZ + 2 * edge, end / SAMPLE_RATE_HZ - edge),
            factor,
        )
    call(durations, "Add point", min(seconds, moments[-1][0] / SAMPLE_RATE_HZ + edge), 1.0)
    call([durations, handled], "Replace duration tier")
    if notes:
        call([_melody(notes, moments, seconds), handled], "Replace pitch tier")
    made = call(handled, "Get resynthesis (overlap-add)")
    values = np.asarray(made.values[0], dtype=np.float32)
    wanted = len(sound) + (moments[-1][1] - moments[-1][0])
    return np.pad(values[:wanted], (0, max(0, wanted - len(values))))


def _melody(
    notes: Sequence[tuple[int, int, float]], moments: Sequence[tuple[int, int]], seconds: float
) -> Any:
    """Notes as Praat takes them: in the times of the sound as it was. Each glides in, and one that is held
    trembles a little."""
    import parselmouth

    tier = parselmouth.praat.call("Create PitchTier", "p", 0, seconds)
    was, now = [each[0] for each in moments], [each[1] for each in moments]
    before: float | None = None
    for start, end, hertz in notes:
        for at in range(start, end, SAMPLE_RATE_HZ // 100):
            since = (at - start) / SAMPLE_RATE_HZ
            pitch = hertz
            if before is not None and since < _GLIDE_S:
                pitch = before * (hertz / before) ** (0.5 + 0.5 * since / _GLIDE_S)
            if since > _HELD_S:
                depth = min(1.0, (since - _HELD_S) / 0.3) * _TREMBLE_SEMITONES
                pitch *= 2 ** (depth * math.sin(2 * math.pi * _TREMBLE_HZ * since) / 12)
            parselmouth.praat.call(tier, "Add point", float(np.interp(at, now, was)) / SAMPLE_RATE_HZ, pitch)
        before = hertz
    return tier

"""Carries out a mix plan: the same plan gives the same samples."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from fox_cadence.core.mix import TARGET_LUFS, TARGET_PEAK_DB, BedPart, MixPlan, ShotSound, gain_curve
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.audio import (
    SILENT_LUFS,
    Loudness,
    Sound,
    as_stereo,
    at_speed,
    limit_true_peak,
    measure_loudness,
)
from fox_cadence.media.treating import treated

_EDGE_FADE = SAMPLE_RATE_HZ * 10 // 1000
_CEILING_DB = TARGET_PEAK_DB - 0.2
_LEVEL_TOLERANCE_LU = 0.15
_MOST_ROUNDS = 4
_LOUDEST_GAIN_DB = 30.0

Loader = Callable[[str], Sound]
"""Gives the sound of a take or of a clip by its hash: mono or stereo at 48 kHz."""


@dataclass(frozen=True)
class Mix:
    """Stereo sounds of equal length; `narration` has the gain it has in the full mix and is not limited
    yet."""

    full: Sound
    narration: Sound

    def narration_alone(self) -> Sound:
        """The narration as a file of its own, its true peak held."""
        return limit_true_peak(self.narration, _CEILING_DB)

    def loudness(self) -> Loudness:
        """Measured of the full mix."""
        return measure_loudness(self.full)


def mix_down(plan: MixPlan, take_sound: Loader, clip_sound: Loader) -> Mix:
    """Lay all parts, then bring the whole to -14 LUFS with its true peak under -1 dBTP."""
    narration = np.zeros((plan.total_samples, 2), np.float32)
    for part in plan.speech:
        sound = take_sound(part.sound_hash)
        if part.treatment is not None:
            sound = treated(part.sound_hash, sound, part.treatment).sound
        _lay(narration, as_stereo(sound), part.at_sample, part.gain_db)
    rest = np.zeros_like(narration)
    for shot in plan.shots:
        _lay(
            rest,
            _edges_faded(_own_sound(shot, as_stereo(clip_sound(shot.clip_hash)))),
            shot.at_sample,
            shot.gain_db,
        )
    if plan.bed is not None:
        rest += _bed(plan.bed, as_stereo(clip_sound(plan.bed.clip_hash)), plan.total_samples)
    return _levelled(narration + rest, narration)


def _own_sound(shot: ShotSound, clip: Sound) -> Sound:
    """The part of its clip's sound that a shot has, from the beginning again where the shot repeats."""
    count = shot.repeat_samples or shot.count
    once = clip[shot.source_sample : shot.source_sample + -(-count * shot.speed_percent // 100)]
    if shot.speed_percent != 100:
        once = at_speed(once, shot.speed_percent / 100)[:count]
    if not shot.repeat_samples:
        return once
    once = np.pad(once, ((0, shot.repeat_samples - len(once)), (0, 0)))
    return np.asarray(np.resize(_edges_faded(once), (shot.count, 2)), dtype=np.float32)


def _levelled(full: Sound, narration: Sound) -> Mix:
    integrated = measure_loudness(full, true_peak=False).integrated_lufs
    if integrated <= SILENT_LUFS:
        return Mix(full, narration)
    gain_db = min(_LOUDEST_GAIN_DB, TARGET_LUFS - integrated)
    result = limit_true_peak(_louder(full, gain_db), _CEILING_DB)
    for _ in range(_MOST_ROUNDS):  # what the limiter takes away is given back, of which it takes a part again
        short = TARGET_LUFS - measure_loudness(result, true_peak=False).integrated_lufs
        if abs(short) <= _LEVEL_TOLERANCE_LU or gain_db + short >= _LOUDEST_GAIN_DB:
            break
        gain_db += short
        result = limit_true_peak(_louder(full, gain_db), _CEILING_DB)
    return Mix(result, _louder(narration, gain_db))


def _louder(sound: Sound, gain_db: float) -> Sound:
    return np.asarray(sound * np.float32(10 ** (gain_db / 20)), dtype=np.float32)


def _lay(target: Sound, sound: Sound, at: int, gain_db: float) -> None:
    start, end = max(0, at), min(len(target), at + len(sound))
    if end > start:
        target[start:end] += sound[start - at : end - at] * np.float32(10 ** (gain_db / 20))


def _edges_faded(sound: Sound) -> Sound:
    """Short fades at both ends, so that a cut in a shot's own sound does not click."""
    fade = min(_EDGE_FADE, len(sound) // 2)
    if fade == 0:
        return sound
    ramp = np.linspace(0, 1, fade, dtype=np.float32)[:, np.newaxis]
    made = sound.copy()
    made[:fade] *= ramp
    made[-fade:] *= ramp[::-1]
    return made


def _bed(bed: BedPart, music: Sound, total: int) -> Sound:
    if len(music) == 0 or total == 0:
        return np.zeros((total, 2), np.float32)
    laid = np.resize(music, (total, 2)).astype(np.float32)
    curve = gain_curve(bed.duck, total) * np.float32(10 ** (bed.gain_db / 20))
    fade_in, fade_out = min(bed.fade_in_samples, total), min(bed.fade_out_samples, total)
    if fade_in:
        curve[:fade_in] *= np.linspace(0, 1, fade_in, dtype=np.float32)
    if fade_out:
        curve[total - fade_out :] *= np.linspace(1, 0, fade_out, dtype=np.float32)
    return np.asarray(laid * curve[:, np.newaxis], dtype=np.float32)

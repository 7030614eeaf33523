"""Treats a voice: each stage of a treatment carried out so that no word moves by a sample.

Equalisers are linear in phase and their delay is taken off; dynamics look ahead and work on the gain alone;
what bends peaks is resampled by filters without delay. The same sound treated the same way gives the same
samples.
"""

import threading
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from cachetools import LRUCache
from numpy.typing import NDArray

from fox_cadence.core.scientific import part
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.core.treatment import (
    Bell,
    Compressor,
    DeEsser,
    Gate,
    HighPass,
    Pitch,
    Room,
    Shelf,
    Stage,
    Treatment,
    Warmth,
)
from fox_cadence.media.audio import SILENT_LUFS, measure_loudness
from fox_cadence.media.throat import with_throat

Mono = NDArray[np.float32]
Curve = NDArray[np.float64]

_TAPS = 4_097
"""Of an equaliser: 12 Hz apart, enough for the lowest high-pass."""
_STEP = 48
"""Levels are looked at each millisecond."""
_AHEAD = 5
"""Milliseconds by which dynamics see a peak before it comes."""
_LEAST_DB = -100.0
_ROOM_LATE_S = 0.012
_HIGHEST = 0.98
_NOTHING = 1e-6
"""A peak of -120 dB."""
_MOST_GAINS, _NEAR_LU = 5, 0.05


@dataclass(frozen=True)
class StageEffect:
    """What a stage did to a sound: by how many decibels it turned it down at most, and in the mean where
    somebody spoke; None for stages that do not follow the level."""

    most_db: float | None = None
    mean_db: float | None = None


@dataclass(frozen=True)
class Treated:
    """A treated sound as loud as it was, and what each stage did. A room rings on after its end."""

    sound: Mono
    effects: tuple[StageEffect, ...]


def treat(sound: Mono, treatment: Treatment) -> Treated:
    """Treat the sound of a voice.

    Args:
        sound: mono at 48 kHz.

    Returns:
        At least as many samples, every word where it was, as loud as before; a peak over full scale is
        turned down with all of it.
    """
    before = measure_loudness(sound, true_peak=False).integrated_lufs if len(sound) else SILENT_LUFS
    if before <= SILENT_LUFS or not treatment.stages:
        return Treated(sound, tuple(StageEffect() for _ in treatment.stages))
    made = sound.astype(np.float32)
    effects: list[StageEffect] = []
    for stage in treatment.stages:
        made, effect = _staged(made, stage, before)
        effects.append(effect)
    made = _as_loud(made, before)
    peak = float(np.abs(made).max(initial=0.0))
    return Treated(made * np.float32(_HIGHEST / peak) if peak > _HIGHEST else made, tuple(effects))


def _as_loud(sound: Mono, lufs: float) -> Mono:
    """With a gain that makes it as loud. Parts under -70 LUFS don't count (ITU-R BS.1770-5), and some that
    did not before the gain do after it, so that it is measured again."""
    for _ in range(_MOST_GAINS):
        after = measure_loudness(sound, true_peak=False).integrated_lufs
        if after <= SILENT_LUFS:  # nothing of it counts yet
            peak = float(np.abs(sound).max(initial=0.0))
            if peak < _NOTHING:
                break
            sound = sound / np.float32(peak)
            continue
        if abs(after - lufs) < _NEAR_LU:
            break
        sound = sound * np.float32(10 ** ((lufs - after) / 20))
    return sound


_MOST_KEPT = SAMPLE_RATE_HZ * 900
"""Samples of treated sound that are kept: a quarter of an hour, 170 MB."""
_kept: LRUCache[tuple[str, Treatment], Treated] = LRUCache(
    _MOST_KEPT, getsizeof=lambda made: min(_MOST_KEPT, max(1, len(made.sound)))
)
_lock = threading.Lock()


def treated(sound_hash: str, sound: Mono, treatment: Treatment) -> Treated:
    """As `treat`, kept by the hash of the sound: a mix is made anew at every change, most of its takes are
    not."""
    key = sound_hash, treatment
    with _lock:
        known = _kept.get(key)
    if known is None:
        known = treat(sound, treatment)
        known.sound.flags.writeable = False  # it is kept, and given out again
        with _lock:
            _kept[key] = known
    return known


BANDS_HZ = tuple(round(1_000 * 2 ** (number / 3), 1) for number in range(-13, 14))
"""Middles of third octaves from 50 Hz to 20 kHz (IEC 61260-1, base two)."""


def spectrum(sound: Mono) -> list[float]:
    """The level of each third octave of a sound in dBFS, in the order of `BANDS_HZ`."""
    welch = part("scipy.signal").welch

    if len(sound) < _STEP:
        return [_LEAST_DB] * len(BANDS_HZ)
    hertz, power = welch(sound.astype(np.float64), SAMPLE_RATE_HZ, nperseg=min(len(sound), 8_192))
    edge = 2 ** (1 / 6)
    found = [power[(hertz >= band / edge) & (hertz < band * edge)].sum() * hertz[1] for band in BANDS_HZ]
    return [round(float(10 * np.log10(max(each, 10 ** (_LEAST_DB / 10)))), 1) for each in found]


RESPONSE_HZ = tuple(round(20 * 10 ** (number / 30), 1) for number in range(91))
"""Frequencies from 20 Hz to 20 kHz at which the equalisers of a treatment are drawn."""


def response_db(treatment: Treatment) -> list[float]:
    """By how many decibels the equalisers of a treatment change each of `RESPONSE_HZ`, all together;
    exact."""
    stages = [stage for stage in treatment.stages if isinstance(stage, (HighPass, Bell, Shelf))]
    gains = response(stages, np.array(RESPONSE_HZ))
    return [round(float(20 * np.log10(max(gain, 1e-4))), 2) for gain in gains]


def _staged(sound: Mono, stage: Stage, lufs: float) -> tuple[Mono, StageEffect]:
    if isinstance(stage, (HighPass, Bell, Shelf)):
        return _filtered(sound, response((stage,), _grid())), StageEffect()
    if isinstance(stage, Compressor):
        gain = _smoothed(_compressed(_levels(sound), stage, lufs), stage.attack_ms, stage.release_ms)
        return _with_gain(sound, gain), _effect(gain, _levels(sound), lufs)
    if isinstance(stage, Gate):
        gain = _smoothed(_gated(_levels(sound), stage, lufs), 2.0, stage.release_ms, opens=True)
        return _with_gain(sound, gain), _effect(gain, _levels(sound), lufs)
    if isinstance(stage, DeEsser):
        return _de_essed(sound, stage, lufs)
    if isinstance(stage, Pitch):
        return with_throat(sound, stage), StageEffect()
    if isinstance(stage, Warmth):
        return _warmed(sound, stage, lufs), StageEffect()
    return _roomed(sound, stage), StageEffect()


# Equalisers


def _grid() -> Curve:
    return np.linspace(0, SAMPLE_RATE_HZ / 2, 2 * _TAPS)


def response(stages: Sequence[HighPass | Bell | Shelf], hertz: Curve) -> Curve:
    """By what factor equalisers change each frequency: the product of theirs.

    A high-pass falls by 24 dB an octave (Butterworth, fourth order); bells and shelves are those of R.
    Bristow-Johnson's Audio EQ Cookbook as analogue prototypes.
    """
    whole = np.ones(len(hertz))
    for stage in stages:
        ratio = np.maximum(hertz, 1e-3) / stage.hertz
        if isinstance(stage, HighPass):
            whole *= 1 / np.sqrt(1 + ratio**-8)
            continue
        amplitude = 10 ** (stage.gain_db / 40)
        s = 1j * ratio
        if isinstance(stage, Bell):
            q = 1 / (2 * np.sinh(np.log(2) / 2 * stage.octaves))
            whole *= np.abs((s**2 + s * amplitude / q + 1) / (s**2 + s / (amplitude * q) + 1))
            continue
        slope = np.sqrt(amplitude) / np.sqrt(0.5)
        low = amplitude * (s**2 + slope * s + amplitude) / (amplitude * s**2 + slope * s + 1)
        high = amplitude * (amplitude * s**2 + slope * s + 1) / (s**2 + slope * s + amplitude)
        whole *= np.abs(low if stage.side == "low" else high)
    return whole


def _filtered(sound: Mono, gains: Curve) -> Mono:
    firwin2 = part("scipy.signal").firwin2
    oaconvolve = part("scipy.signal").oaconvolve

    taps = firwin2(_TAPS, _grid() / (SAMPLE_RATE_HZ / 2), gains)
    whole = oaconvolve(sound.astype(np.float64), taps)
    late = (_TAPS - 1) // 2
    return np.asarray(whole[late : late + len(sound)], dtype=np.float32)


# Dynamics


def _levels(sound: Mono) -> Curve:
    """The level of each millisecond in dBFS: of the 10 around it, as their mean power."""
    steps = -(-len(sound) // _STEP)
    power = np.pad(sound.astype(np.float64), (0, steps * _STEP - len(sound))) ** 2
    means = power.reshape(steps, _STEP).mean(axis=1)
    smooth = np.convolve(means, np.full(10, 0.1), mode="same")
    return np.asarray(10 * np.log10(np.maximum(smooth, 10 ** (_LEAST_DB / 10))))


def _compressed(levels: Curve, stage: Compressor, lufs: float) -> Curve:
    over = np.maximum(0, levels - (lufs + stage.threshold_db))
    return -over * (1 - 1 / stage.ratio)


def _gated(levels: Curve, stage: Gate, lufs: float) -> Curve:
    return np.where(levels < lufs + stage.threshold_db, -stage.most_db, 0.0)


def _smoothed(gain: Curve, attack_ms: float, release_ms: float, opens: bool = False) -> Curve:
    """A gain that goes down in the attack and up in the release, each within a time constant, and sees what
    comes a little before it does; one that `opens` is quick on its way up instead."""
    ahead = np.concatenate([gain[_AHEAD:], np.repeat(gain[-1:], min(_AHEAD, len(gain)))])[: len(gain)]
    quick, slow = np.exp(-1 / attack_ms), np.exp(-1 / release_ms)
    made = np.empty(len(gain))
    now = 0.0
    for number, wanted in enumerate(ahead.tolist()):
        keeps = quick if (wanted < now) != opens else slow
        now = wanted + (now - wanted) * keeps
        made[number] = now
    return made


def _with_gain(sound: Mono, gain_db: Curve) -> Mono:
    middles = np.arange(len(gain_db)) * _STEP + _STEP / 2
    curve = np.interp(np.arange(len(sound)), middles, 10 ** (gain_db / 20))
    return np.asarray(sound * curve, dtype=np.float32)


def _effect(gain_db: Curve, levels: Curve, lufs: float) -> StageEffect:
    speaking = gain_db[levels > lufs - 20]
    mean = float(-speaking.mean()) if len(speaking) else 0.0
    return StageEffect(round(float(-gain_db.min(initial=0.0)), 2), round(mean, 2))


def _de_essed(sound: Mono, stage: DeEsser, lufs: float) -> tuple[Mono, StageEffect]:
    sharp = _filtered(sound, response((HighPass(hertz=stage.hertz),), _grid()))
    levels = _levels(sharp)
    over = np.clip(levels - (lufs + stage.threshold_db), 0, stage.most_db)
    gain = _smoothed(-over, 1.0, 40.0)
    made = sound - sharp + _with_gain(sharp, gain)
    return np.asarray(made, dtype=np.float32), _effect(gain, levels, lufs + stage.threshold_db + 20)


# Colour and room


def _warmed(sound: Mono, stage: Warmth, lufs: float) -> Mono:
    """Peaks bent by a hyperbolic tangent at four times the rate, so that what it adds does not fold back."""
    resample_poly = part("scipy.signal").resample_poly

    if not stage.drive_db:
        return sound
    drive = 10 ** ((stage.drive_db - lufs - 12) / 20)  # 12 dB: speech peaks lie so far over its loudness
    fine = np.tanh(resample_poly(sound.astype(np.float64), 4, 1) * drive) / drive
    return np.asarray(resample_poly(fine, 1, 4)[: len(sound)], dtype=np.float32)


def _roomed(sound: Mono, stage: Room) -> Mono:
    """The sound with what a room gives back: noise that dies away by 60 dB in the room's time, duller as it
    does."""
    oaconvolve = part("scipy.signal").oaconvolve

    count = round(stage.seconds * 1.1 * SAMPLE_RATE_HZ)
    late = round(_ROOM_LATE_S * SAMPLE_RATE_HZ)
    at = np.arange(count) / SAMPLE_RATE_HZ
    noise = np.random.default_rng(11).standard_normal(count)
    dull = np.convolve(noise, np.hanning(9) / np.hanning(9).sum(), mode="same")
    fades = 10 ** (-3 * at / stage.seconds)
    rings = noise * fades**1.6 + dull * fades
    answer = np.concatenate([np.zeros(late), rings / np.sqrt(np.sum(rings**2))])
    wet = oaconvolve(sound.astype(np.float64), answer)
    made = np.pad(sound.astype(np.float64), (0, len(wet) - len(sound))) * (1 - stage.share)
    return np.asarray(made + wet * stage.share * 1.5, dtype=np.float32)

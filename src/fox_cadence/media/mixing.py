"""Lays the sounds of a mix plan: any stretch of it, column by column, the same samples whatever is asked
for."""

import bisect
import threading
from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np
from cachetools import LRUCache

from fox_cadence.core.mix import JOIN_SAMPLES, BedPart, EffectPart, MixPlan, ShotSound, SpeechPart, gain_curve
from fox_cadence.core.sound.settings import COLUMNS, Column
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.audio import Sound, at_speed
from fox_cadence.media.sound_reader import InMemory, SoundReader
from fox_cadence.media.treating import treated

_EDGE_FADE = SAMPLE_RATE_HZ * 10 // 1000
_KEPT_SAMPLES = SAMPLE_RATE_HZ * 120
"""Of sounds that had to be worked out before they could be laid."""

TakeLoader = Callable[[str], Sound]
"""Gives the sound of a take by its hash: mono at 48 kHz."""
ClipLoader = Callable[[str], SoundReader]
"""Gives the sound of a clip by its hash."""


@dataclass(frozen=True)
class Loaders:
    take: TakeLoader
    clip: ClipLoader


class Mixer:
    """The sounds of a plan as they are laid, before the whole is brought to its loudness."""

    def __init__(self, plan: MixPlan, loaders: Loaders) -> None:
        self.plan = plan
        self._loaders = loaders
        self._clips: dict[str, SoundReader] = {}
        self._lock = threading.RLock()
        self._made: LRUCache[object, Sound] = LRUCache(
            _KEPT_SAMPLES, getsizeof=lambda sound: min(_KEPT_SAMPLES, max(1, len(sound)))
        )

    def columns(self, start: int, count: int) -> Mapping[Column, Sound]:
        """Each column from a sample on, stereo, shape (count, 2)."""
        with self._lock:  # what was worked out is kept, and may be asked for by several at a time
            return self._columns(start, count)

    def _columns(self, start: int, count: int) -> Mapping[Column, Sound]:
        made: dict[Column, Sound] = {column: np.zeros((count, 2), np.float32) for column in COLUMNS}
        for speech in self.plan.speech:
            self._lay_speech(made["speech"], start, speech)
        for shot in self.plan.shots:
            self._lay_own(made["own"], start, shot)
        for bed in self.plan.beds:
            self._lay_bed(made["bed"], start, bed)
        for effect in self.plan.effects:
            self._lay_effect(made["effects"], start, effect)
        return made

    def whole(self, start: int, count: int) -> Sound:
        """All columns together."""
        columns = self.columns(start, count)
        return np.asarray(sum(columns[column] for column in COLUMNS), dtype=np.float32)

    # what is laid

    def _lay_speech(self, target: Sound, start: int, part: SpeechPart) -> None:
        if part.at_sample >= start + len(target):
            return
        sound = self._spoken(part)
        low, high = _overlap(part.at_sample, len(sound), start, len(target))
        if high <= low:
            return
        gain = _gain(part.gain_db)
        heard = sound[low - part.at_sample : high - part.at_sample, np.newaxis]
        target[low - start : high - start] += heard * (_panned(part.pan) * gain)

    def _spoken(self, part: SpeechPart) -> Sound:
        key = part.sound_hash, part.treatment
        known = self._made.get(key)
        if known is None:
            known = self._loaders.take(part.sound_hash)
            if part.treatment is not None:
                known = treated(part.sound_hash, known, part.treatment).sound
            self._made[key] = known
        return known

    def _lay_own(self, target: Sound, start: int, part: ShotSound) -> None:
        low, high = _overlap(part.at_sample, part.count, start, len(target))
        if high <= low:
            return
        inside = low - part.at_sample
        if part.speed_percent == 100 and not part.repeat_samples:
            heard = self._clip(part.clip_hash).read(part.source_sample + inside, high - low)
        else:
            whole = self._worked_out(part)
            heard = InMemory(whole).read(inside, high - low)
        fades = max(part.fade_in_samples, _EDGE_FADE), max(part.fade_out_samples, _EDGE_FADE)
        gain = _faded(inside, high - low, part.count, *fades) * _gain(part.gain_db)
        if part.duck:
            gain = gain * gain_curve(part.duck, high - low, low)
        target[low - start : high - start] += heard * gain[:, np.newaxis]

    def _worked_out(self, part: ShotSound) -> Sound:
        """The own sound of a shot at another speed, or that begins again."""
        known = self._made.get(part)
        if known is not None:
            return known
        count = part.repeat_samples or part.count
        once = self._clip(part.clip_hash).read(part.source_sample, -(-count * part.speed_percent // 100))
        if part.speed_percent != 100:
            once = at_speed(once, part.speed_percent / 100)[:count]
        if part.repeat_samples:
            once = np.pad(once, ((0, part.repeat_samples - len(once)), (0, 0)))
            once = once * _faded(0, len(once), len(once), _EDGE_FADE, _EDGE_FADE)[:, np.newaxis]
            once = np.resize(once, (part.count, 2))
        made = np.asarray(once, dtype=np.float32)
        self._made[part] = made
        return made

    def _lay_bed(self, target: Sound, start: int, part: BedPart) -> None:
        low, high = _overlap(part.at_sample, part.count, start, len(target))
        if high <= low:
            return
        inside = low - part.at_sample
        heard = self._played(part, inside, high - low)
        gain = _faded(inside, high - low, part.count, part.fade_in_samples, part.fade_out_samples)
        gain = gain * gain_curve(part.duck, high - low, low) * _gain(part.gain_db)
        if part.levels:
            gain = gain * gain_curve(part.levels, high - low, low, smooth=False)
        target[low - start : high - start] += heard * gain[:, np.newaxis]

    def _played(self, part: BedPart, start: int, count: int) -> Sound:
        """What a bed plays of its clip, its runs joined."""
        clip, runs = self._clip(part.clip_hash), part.runs
        made = np.zeros((count, 2), np.float32)
        half = JOIN_SAMPLES // 2
        first = max(0, bisect.bisect_right(runs, start - half, key=lambda run: run.at_sample) - 1)
        for number in range(first, len(runs)):
            run = runs[number]
            if run.at_sample > start + count + half:
                break
            low, high = _overlap(run.at_sample, run.count, start, count)
            if high > low:
                made[low - start : high - start] = clip.read(
                    run.source_sample + low - run.at_sample, high - low
                )
        for number in range(first, len(runs) - 1):
            run, following = runs[number], runs[number + 1]
            edge = following.at_sample - half
            low, high = _overlap(edge, JOIN_SAMPLES, start, count)
            if run.joined and high > low:
                ends = run.source_sample + run.count - half
                seam = self._seam(part.clip_hash, ends, following.source_sample - half)
                made[low - start : high - start] = seam[low - edge : high - edge]
        return made

    def _seam(self, clip_hash: str, leaves: int, enters: int) -> Sound:
        """One place of a clip going over into another: faded across each other, and as loud in the middle
        whether both are alike or not."""
        key = clip_hash, leaves, enters
        known = self._made.get(key)
        if known is not None:
            return known
        clip = self._clip(clip_hash)
        one = clip.read(leaves, JOIN_SAMPLES).astype(np.float64)
        other = clip.read(enters, JOIN_SAMPLES).astype(np.float64)
        power = np.sqrt(np.sum(one**2) * np.sum(other**2))
        alike = float(np.clip(np.sum(one * other) / power, -0.9, 1.0)) if power > 0 else 0.0
        turn = (np.arange(JOIN_SAMPLES) + 0.5) / JOIN_SAMPLES * np.pi / 2
        down, up = np.cos(turn), np.sin(turn)
        even = np.sqrt(1 + 2 * alike * down * up)
        made = one * (down / even)[:, np.newaxis] + other * (up / even)[:, np.newaxis]
        self._made[key] = np.asarray(made, dtype=np.float32)
        return self._made[key]

    def _lay_effect(self, target: Sound, start: int, part: EffectPart) -> None:
        clip = self._clip(part.clip_hash)
        low, high = _overlap(part.at_sample, clip.count, start, len(target))
        if high <= low:
            return
        inside = low - part.at_sample
        gain = _faded(inside, high - low, clip.count, part.fade_in_samples, part.fade_out_samples)
        heard = clip.read(inside, high - low)
        target[low - start : high - start] += heard * (gain * _gain(part.gain_db))[:, np.newaxis]

    def _clip(self, clip_hash: str) -> SoundReader:
        if clip_hash not in self._clips:
            self._clips[clip_hash] = self._loaders.clip(clip_hash)
        return self._clips[clip_hash]


def _overlap(at: int, length: int, start: int, count: int) -> tuple[int, int]:
    """What of a sound lies in a stretch, as samples of the piece."""
    return max(at, start), min(at + length, start + count)


def _gain(decibels: float) -> np.float32:
    return np.float32(10 ** (decibels / 20))


def _panned(pan: float) -> Sound:
    """What both channels get of a voice: as much power wherever it stands; in the middle it is as it is."""
    turn = (pan + 1) * np.pi / 4
    return np.asarray([np.cos(turn), np.sin(turn)], dtype=np.float32) * np.float32(np.sqrt(2))


def _faded(start: int, count: int, whole: int, fade_in: int, fade_out: int) -> Sound:
    """The gain of samples of a sound that is faded at both its ends; fades that are too long meet in the
    middle."""
    fade_in, fade_out = min(fade_in, whole), min(fade_out, whole)
    if fade_in + fade_out > whole:
        fade_in, fade_out = whole // 2, whole - whole // 2
    at = np.arange(start, start + count)
    gain = np.ones(count, np.float32)
    if fade_in:
        gain = np.minimum(gain, (at + 0.5).astype(np.float32) / fade_in)
    if fade_out:
        gain = np.minimum(gain, (whole - at - 0.5).astype(np.float32) / fade_out)
    return np.asarray(np.clip(gain, 0, 1), dtype=np.float32)

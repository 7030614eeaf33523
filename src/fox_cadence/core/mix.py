"""What sounds when, and how loud: the plan of the mix. `media/mixdown.py` carries it out."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.delivery import manner_of
from fox_cadence.core.project import Index, delivery_of, treatment_of
from fox_cadence.core.shot_limits import repeats_after_ticks
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, ticks_to_samples
from fox_cadence.core.timeline import Timeline
from fox_cadence.core.treatment import Treatment

SPEECH_LUFS = -18.0
"""Every take is brought to this before the mix, so that no voice is louder than another."""

TARGET_LUFS = -14.0
TARGET_PEAK_DB = -1.0

DUCK_IN_SAMPLES = SAMPLE_RATE_HZ * 350 // 1000
DUCK_OUT_SAMPLES = SAMPLE_RATE_HZ * 700 // 1000
_CURVE_STEP = 48
"""The curve is computed every millisecond and joined by straight lines: nobody hears the difference, and it
is fast."""

DUCK_HOLD_SAMPLES = SAMPLE_RATE_HZ * 900 // 1000


@dataclass(frozen=True, slots=True)
class SpeechPart:
    """A take's sound, treated, laid at a sample of the piece (may be below 0: its first samples are cut)."""

    sound_hash: str
    at_sample: int
    gain_db: float
    treatment: Treatment | None = None


@dataclass(frozen=True, slots=True)
class ShotSound:
    """Sound of a shot's own clip from `source_sample` on, laid at `at_sample` for `count` samples.

    `speed_percent` of them pass in the clip, at the pitch it has. Where `repeat_samples` is above 0 it begins
    again after so many.
    """

    clip_hash: str
    source_sample: int
    at_sample: int
    count: int
    gain_db: float
    repeat_samples: int = 0
    speed_percent: int = 100


@dataclass(frozen=True, slots=True)
class BedPart:
    """Music over the whole piece; `duck` are points (sample, dB) between which the gain runs smoothly."""

    clip_hash: str
    gain_db: float
    fade_in_samples: int
    fade_out_samples: int
    duck: tuple[tuple[int, float], ...]


@dataclass(frozen=True, slots=True)
class MixPlan:
    total_samples: int
    speech: tuple[SpeechPart, ...]
    shots: tuple[ShotSound, ...]
    bed: BedPart | None


def plan_mix(timeline: Timeline) -> MixPlan:
    """The mix of a timeline, to the sample."""
    project = timeline.project
    index = Index(project)
    speech = tuple(
        SpeechPart(
            span.take.sound_hash,
            ticks_to_samples(span.sound_start_ticks),
            SPEECH_LUFS - span.take.loudness_lufs + manner_of(delivery_of(span.line, index)).gain_db,
            treatment_of(span.line, index),
        )
        for span in timeline.lines
        if span.take is not None
    )
    shots: list[ShotSound] = []
    for span in timeline.shots:
        clip = project.clips.get(span.shot.clip_hash or "")
        if clip is None or not clip.has_sound or span.shot.sound_gain_db <= -60:
            continue
        if span.shot.speed_percent == 0:  # a held frame has no sound
            continue
        start = ticks_to_samples(project.rate.ticks(span.start_frame))
        end = ticks_to_samples(project.rate.ticks(span.end_frame))
        source = ticks_to_samples(span.shot.source_in_ticks)
        gain = span.shot.sound_gain_db + min(12.0, SPEECH_LUFS - clip.loudness_lufs)
        repeats = ticks_to_samples(repeats_after_ticks(project, span.shot))
        shots.append(ShotSound(clip.hash, source, start, end - start, gain, repeats, span.shot.speed_percent))
    bed = None
    if project.bed is not None and project.bed.clip_hash in project.clips:
        music = project.clips[project.bed.clip_hash]
        speaking = [
            (ticks_to_samples(span.start_ticks), ticks_to_samples(span.end_ticks))
            for span in timeline.lines
            if span.take is not None
        ]
        bed = BedPart(
            music.hash,
            project.bed.gain_db + SPEECH_LUFS - music.loudness_lufs,
            ticks_to_samples(project.bed.fade_in_ticks),
            ticks_to_samples(project.bed.fade_out_ticks),
            duck_points(speaking, project.bed.duck_db),
        )
    return MixPlan(ticks_to_samples(timeline.total_ticks), speech, tuple(shots), bed)


def duck_points(speaking: list[tuple[int, int]], duck_db: float) -> tuple[tuple[int, float], ...]:
    """Points between which the bed's gain runs: down before speech, up after it, held down over short
    gaps."""
    joined: list[tuple[int, int]] = []
    for start, end in sorted(speaking):
        if joined and start - joined[-1][1] <= DUCK_HOLD_SAMPLES + DUCK_IN_SAMPLES + DUCK_OUT_SAMPLES:
            joined[-1] = (joined[-1][0], max(joined[-1][1], end))
        else:
            joined.append((start, end))
    points: list[tuple[int, float]] = []
    for start, end in joined:
        points += [
            (start - DUCK_IN_SAMPLES, 0.0),
            (start, -duck_db),
            (end, -duck_db),
            (end + DUCK_OUT_SAMPLES, 0.0),
        ]
    return tuple(points)


def gain_curve(points: tuple[tuple[int, float], ...], total_samples: int) -> NDArray[np.float32]:
    """Linear gain for every sample: between points the decibels follow half a cosine, so that no ramp has a
    corner."""
    if not points:
        return np.ones(total_samples, np.float32)
    at = np.array([sample for sample, _ in points], dtype=np.float64)
    level = np.array([db for _, db in points], dtype=np.float64)
    coarse = np.arange(0, total_samples + _CURVE_STEP, _CURVE_STEP)
    place = np.interp(coarse, at, np.arange(len(points), dtype=np.float64))
    whole = np.minimum(place.astype(np.int64), len(points) - 1)
    following = np.minimum(whole + 1, len(points) - 1)
    eased = (1 - np.cos(np.pi * (place - whole))) / 2
    decibels = level[whole] * (1 - eased) + level[following] * eased
    curve = np.interp(np.arange(total_samples), coarse, 10 ** (decibels / 20))
    return np.asarray(curve, dtype=np.float32)

"""What sounds when, and how loud: the plan of the mix. `media/mixing.py` carries it out."""

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.delivery import manner_of
from fox_cadence.core.project import Index, Project, delivery_of, treatment_of
from fox_cadence.core.shot import Clip, Shot
from fox_cadence.core.shot_limits import repeats_after_ticks
from fox_cadence.core.sound.bed import Bed
from fox_cadence.core.sound.effect import SpotEffect
from fox_cadence.core.sound.effect_places import effect_ticks
from fox_cadence.core.sound.settings import MixSettings
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, ticks_to_samples
from fox_cadence.core.timeline import ShotSpan, Timeline
from fox_cadence.core.treatment import Treatment

SPEECH_LUFS = -18.0
"""Every take is brought to this before the mix, so that no voice is louder than another."""

DUCK_IN_MS, DUCK_OUT_MS = 350, 700
DUCK_HOLD_SAMPLES = SAMPLE_RATE_HZ * 900 // 1000
OWN_DUCK_DB = 9.0
"""By how much a shot's own sound goes down under speech where it does."""
_MOST_LOUDER_DB = 12.0
"""A clip that is nearly silent is not lifted further: its noise would be."""
JOIN_SAMPLES = 480
"""Over how many samples two stretches of a bed are joined."""
CURVE_STEP = 48
"""Curves are computed every millisecond and joined by straight lines: nobody hears the difference, and it is
fast."""
_MOST_RUNS = 20_000

Points = tuple[tuple[int, float], ...]
"""Samples of the piece and decibels, in the order of time."""


@dataclass(frozen=True, slots=True)
class SpeechPart:
    """A take's sound, treated, laid at a sample of the piece (may be below 0: its first samples are cut);
    `pan` from the left (-1) to the right (1)."""

    sound_hash: str
    at_sample: int
    gain_db: float
    treatment: Treatment | None = None
    pan: float = 0.0
    line_id: str = ""


@dataclass(frozen=True, slots=True)
class ShotSound:
    """Sound of a shot's own clip from `source_sample` on, laid at `at_sample` for `count` samples.

    `speed_percent` of them pass in the clip, at the pitch it has. Where `repeat_samples` is above 0 it begins
    again after so many. `duck` are points between which its gain runs smoothly.
    """

    clip_hash: str
    source_sample: int
    at_sample: int
    count: int
    gain_db: float
    repeat_samples: int = 0
    speed_percent: int = 100
    fade_in_samples: int = 0
    fade_out_samples: int = 0
    duck: Points = ()


@dataclass(frozen=True, slots=True)
class Run:
    """A stretch of a bed's clip as it is heard: `count` samples from `source_sample` on, beginning at a
    sample of the bed. Where `joined`, it goes over into the next one without a seam."""

    at_sample: int
    source_sample: int
    count: int
    joined: bool = False


@dataclass(frozen=True, slots=True)
class BedPart:
    """Music from a sample of the piece on. Between the points of `duck` the gain runs smoothly, between those
    of `levels` in straight lines of decibels."""

    bed_id: str
    clip_hash: str
    at_sample: int
    count: int
    gain_db: float
    fade_in_samples: int
    fade_out_samples: int
    duck: Points
    levels: Points = ()
    runs: tuple[Run, ...] = ()


@dataclass(frozen=True, slots=True)
class EffectPart:
    """A short sound laid at a sample of the piece (may be below 0)."""

    clip_hash: str
    at_sample: int
    gain_db: float
    fade_in_samples: int = 0
    fade_out_samples: int = 0


@dataclass(frozen=True, slots=True)
class MixPlan:
    total_samples: int
    speech: tuple[SpeechPart, ...] = ()
    shots: tuple[ShotSound, ...] = ()
    beds: tuple[BedPart, ...] = ()
    effects: tuple[EffectPart, ...] = ()
    settings: MixSettings = field(default_factory=MixSettings)


def plan_mix(timeline: Timeline) -> MixPlan:
    """The mix of a timeline, to the sample."""
    project = timeline.project
    spoken = [
        (ticks_to_samples(span.start_ticks), ticks_to_samples(span.end_ticks))
        for span in timeline.lines
        if span.take is not None and project.mix.heard("speech", span.line.role_id)
    ]
    total = ticks_to_samples(timeline.total_ticks)
    return MixPlan(
        total,
        tuple(_speech(timeline)),
        tuple(_own_sounds(timeline, spoken)) if project.mix.heard("own") else (),
        tuple(bed_parts(project, total, spoken)) if project.mix.heard("bed") else (),
        tuple(_effects(timeline)) if project.mix.heard("effects") else (),
        project.mix.changed(muted=(), solo=()),
    )


def _speech(timeline: Timeline) -> list[SpeechPart]:
    project = timeline.project
    index = Index(project)
    return [
        SpeechPart(
            span.take.sound_hash,
            ticks_to_samples(span.sound_start_ticks),
            SPEECH_LUFS
            - span.take.loudness_lufs
            + manner_of(delivery_of(span.line, index)).gain_db
            + project.mix.speech_db,
            treatment_of(span.line, index),
            index.roles[span.line.role_id].pan,
            span.line.id,
        )
        for span in timeline.lines
        if span.take is not None and project.mix.heard("speech", span.line.role_id)
    ]


def own_gain_db(shot: Shot, clip: Clip) -> float:
    """By how much the own sound of a shot is made louder or quieter than it is in its clip."""
    return shot.sound_gain_db + min(_MOST_LOUDER_DB, SPEECH_LUFS - clip.loudness_lufs)


def has_own_sound(project: Project, shot: Shot) -> bool:
    """Whether a shot is heard: a held frame has no sound, nor has one that is muted."""
    clip = project.clips.get(shot.clip_hash or "")
    audible = shot.sound_gain_db > -60 and not shot.sound_muted and shot.speed_percent > 0
    return clip is not None and clip.has_sound and audible


def _own_sounds(timeline: Timeline, spoken: list[tuple[int, int]]) -> list[ShotSound]:
    return [
        _own_sound(timeline.project, span, spoken)
        for span in timeline.shots
        if has_own_sound(timeline.project, span.shot)
    ]


def _own_sound(project: Project, span: ShotSpan, spoken: list[tuple[int, int]]) -> ShotSound:
    shot = span.shot
    clip = project.clips[shot.clip_hash or ""]
    start = ticks_to_samples(project.rate.ticks(span.start_frame))
    end = ticks_to_samples(project.rate.ticks(span.end_frame))
    return ShotSound(
        clip.hash,
        ticks_to_samples(shot.source_in_ticks),
        start,
        end - start,
        own_gain_db(shot, clip) + project.mix.own_db,
        ticks_to_samples(repeats_after_ticks(project, shot)),
        shot.speed_percent,
        ticks_to_samples(shot.sound_fade_in_ticks),
        ticks_to_samples(shot.sound_fade_out_ticks),
        duck_points(spoken, OWN_DUCK_DB) if shot.sound_ducked else (),
    )


def _effects(timeline: Timeline) -> list[EffectPart]:
    project = timeline.project
    return [
        EffectPart(
            effect.clip_hash,
            ticks_to_samples(effect_ticks(timeline, effect)),
            effect_gain_db(project, effect),
            ticks_to_samples(effect.fade_in_ticks),
            ticks_to_samples(effect.fade_out_ticks),
        )
        for effect in project.effects
        if effect.clip_hash in project.clips
    ]


def effect_gain_db(project: Project, effect: SpotEffect) -> float:
    """By how much an effect is made louder or quieter than it is in its file: all are as loud as speech
    first."""
    loudness = project.clips[effect.clip_hash].loudness_lufs
    return effect.gain_db + project.mix.effects_db + min(2 * _MOST_LOUDER_DB, SPEECH_LUFS - loudness)


def bed_parts(project: Project, total_samples: int, spoken: list[tuple[int, int]]) -> list[BedPart]:
    """The beds of a piece of that length, under the stretches of samples in which somebody speaks."""
    found: list[BedPart] = []
    for bed in project.beds:
        start = ticks_to_samples(bed.start_ticks)
        if bed.clip_hash not in project.clips or start >= total_samples:
            continue
        end = total_samples
        if bed.length_ticks is not None:
            end = min(end, ticks_to_samples(bed.start_ticks + bed.length_ticks))
        clip = project.clips[bed.clip_hash]
        runs = bed_runs(bed, clip, end - start)
        count = min(end - start, runs[-1].at_sample + runs[-1].count) if runs else 0
        levels = tuple((ticks_to_samples(bed.start_ticks + p.at_ticks), p.gain_db) for p in bed.levels)
        gain = bed.gain_db + project.mix.bed_db + min(2 * _MOST_LOUDER_DB, SPEECH_LUFS - clip.loudness_lufs)
        fades = ticks_to_samples(bed.fade_in_ticks), ticks_to_samples(bed.fade_out_ticks)
        duck = duck_points(spoken, bed.duck_db, bed.duck_in_ms, bed.duck_out_ms)
        found.append(BedPart(bed.id, clip.hash, start, count, gain, *fades, duck, levels, runs))
    return found


def bed_runs(bed: Bed, clip: Clip, wanted_samples: int) -> tuple[Run, ...]:
    """What of its clip a bed plays, one run after the other, until so many samples are full.

    What was cut by bars is played as it was cut, and is not repeated. Else the part is played, and then its
    loop again and again: of a clip that was made to be repeated without a join, of a chosen loop with one.
    """
    if bed.stretches:
        at = 0
        runs: list[Run] = []
        for number, each in enumerate(bed.stretches):
            count = each.end_sample - each.start_sample
            runs.append(Run(at, each.start_sample, count, number + 1 < len(bed.stretches)))
            at += count
        return tuple(runs)
    length = ticks_to_samples(clip.length_ticks)
    first = min(ticks_to_samples(bed.source_in_ticks), length)
    last = length if bed.source_out_ticks is None else min(length, ticks_to_samples(bed.source_out_ticks))
    again = first if bed.loop_in_ticks is None else ticks_to_samples(bed.loop_in_ticks)
    end = last if bed.loop_out_ticks is None else min(last, ticks_to_samples(bed.loop_out_ticks))
    chosen = bed.loop_in_ticks is not None or bed.loop_out_ticks is not None
    if last <= first or end <= again:
        return ()
    made: list[Run] = []
    at, source = 0, first
    while at < wanted_samples and len(made) < _MOST_RUNS:
        count = min(end - source, wanted_samples - at)
        made.append(Run(at, source, count, chosen and at + count < wanted_samples))
        at, source = at + count, again
    return tuple(made)


def duck_points(
    speaking: Sequence[tuple[int, int]],
    duck_db: float,
    in_ms: int = DUCK_IN_MS,
    out_ms: int = DUCK_OUT_MS,
) -> Points:
    """Points between which a gain runs: down before speech, up after it, held down over short gaps."""
    down, up = SAMPLE_RATE_HZ * in_ms // 1000, SAMPLE_RATE_HZ * out_ms // 1000
    joined: list[tuple[int, int]] = []
    for start, end in sorted(speaking):
        if joined and start - joined[-1][1] <= DUCK_HOLD_SAMPLES + down + up:
            joined[-1] = (joined[-1][0], max(joined[-1][1], end))
        else:
            joined.append((start, end))
    points: list[tuple[int, float]] = []
    for start, end in joined:
        points += [(start - down, 0.0), (start, -duck_db), (end, -duck_db), (end + up, 0.0)]
    return tuple(points)


def gain_curve(
    points: Points, total_samples: int, start_sample: int = 0, smooth: bool = True
) -> NDArray[np.float32]:
    """Linear gain for `total_samples` samples from `start_sample` on: between points the decibels follow
    half a cosine, so that no ramp has a corner, or straight lines. The same whatever stretch is asked for."""
    if not points:
        return np.ones(total_samples, np.float32)
    at = np.array([sample for sample, _ in points], dtype=np.float64)
    level = np.array([db for _, db in points], dtype=np.float64)
    first = start_sample // CURVE_STEP
    coarse = np.arange(first, (start_sample + total_samples) // CURVE_STEP + 2) * CURVE_STEP
    place = np.interp(coarse, at, np.arange(len(points), dtype=np.float64))
    whole = np.minimum(place.astype(np.int64), len(points) - 1)
    following = np.minimum(whole + 1, len(points) - 1)
    part = place - whole
    eased = (1 - np.cos(np.pi * part)) / 2 if smooth else part
    decibels = level[whole] * (1 - eased) + level[following] * eased
    curve = np.interp(np.arange(start_sample, start_sample + total_samples), coarse, 10 ** (decibels / 20))
    return np.asarray(curve, dtype=np.float32)

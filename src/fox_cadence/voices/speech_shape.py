"""Where speech begins, pauses and ends inside a sound, and how parts of it are put together again at other
lengths."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.ticks import SAMPLE_RATE_HZ

FRAME = SAMPLE_RATE_HZ * 5 // 1000
FLOOR_DB = -40.0
LEAST_PAUSE_S = 0.10
CROSSFADE = SAMPLE_RATE_HZ * 8 // 1000
STRETCH_PAD = SAMPLE_RATE_HZ * 150 // 1000

_ROOM_SHARE, _OVER_ROOM_DB, _SURE_DB = 0.05, 9.0, -20.0
"""Where the noise of a room is looked for (its quietest frames), what is over it, and what is speech in any
room."""

_CLEAR_DB, _LEAST_HISS = -36.0, 40
"""An engine may go on with a hiss after its last word, a frame of which now and then is over the floor. What
comes later than 40 frames of 5 ms after the last that is clearly heard is no sound of speech."""

_SHORTEST_SOUND = 4
"""Frames of 5 ms: the burst of a stop lasts longer than a click of a mouse."""

Mono = NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class Shape:
    """First sound, end of the last sound, and the pauses between; samples, half-open."""

    onset: int
    end: int
    pauses: tuple[tuple[int, int], ...]


def find_shape(sound: Mono, least_pause_s: float = LEAST_PAUSE_S, recorded: bool = False) -> Shape:
    """Measure a sound in frames of 5 ms: sounding is what lies less than 40 dB under the peak (docs/fit.md).

    Args:
        recorded: the sound has a room in it: what lies within 9 dB of its quietest twentieth is silence too,
            and so is what sounds for less than 20 ms.
    """
    count = len(sound) // FRAME
    if count == 0 or not np.any(sound):
        return Shape(0, len(sound), ())
    level = np.sqrt(np.mean(sound[: count * FRAME].reshape(count, FRAME).astype(np.float64) ** 2, axis=1))
    floor = level.max() * 10 ** (FLOOR_DB / 20)
    if recorded:
        loud = _without_clicks(level > _over_the_room(level, floor))
    else:
        loud = _without_hiss(level > floor, level)
    sounding = np.flatnonzero(loud)
    if len(sounding) == 0:
        return Shape(0, len(sound), ())
    first, last = int(sounding[0]), int(sounding[-1])
    quiet = ~loud[first : last + 1]
    edges = np.flatnonzero(np.diff(np.concatenate([[0], quiet.astype(np.int8), [0]])))
    least = least_pause_s * SAMPLE_RATE_HZ / FRAME
    pauses = tuple(
        ((first + int(a)) * FRAME, (first + int(b)) * FRAME)
        for a, b in zip(edges[::2], edges[1::2], strict=True)
        if b - a >= least
    )
    return Shape(first * FRAME, (last + 1) * FRAME, pauses)


def _over_the_room(level: NDArray[np.float64], floor: float) -> float:
    """The level above which a recording sounds: over the noise of its room, and never over what is clearly
    speech."""
    room = float(np.quantile(level, _ROOM_SHARE)) * 10 ** (_OVER_ROOM_DB / 20)
    return min(max(floor, room), float(level.max()) * 10 ** (_SURE_DB / 20))


def _without_hiss(loud: NDArray[np.bool_], level: NDArray[np.float64]) -> NDArray[np.bool_]:
    """Frames that sound, without what comes long after the last one that is clearly heard."""
    last = int(np.flatnonzero(level > level.max() * 10 ** (_CLEAR_DB / 20))[-1])
    sounding = np.flatnonzero(loud)
    if len(sounding) == 0 or int(sounding[-1]) - last <= _LEAST_HISS:
        return loud
    quiet = np.flatnonzero(~loud[last:])
    made = loud.copy()
    made[last + (int(quiet[0]) if len(quiet) else 1) :] = False
    return made


def _without_clicks(loud: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Frames that sound, without runs of them that are too short to be a part of a word."""
    edges = np.flatnonzero(np.diff(np.concatenate([[0], loud.astype(np.int8), [0]])))
    kept = np.zeros(len(loud), dtype=np.bool_)
    for start, end in zip(edges[::2], edges[1::2], strict=True):
        kept[start:end] = end - start >= _SHORTEST_SOUND
    return kept


def quietest_near(sound: Mono, sample: int, reach: int) -> int:
    """The middle of the quietest 5 ms within `reach` samples of a place: where a cut is heard least."""
    low = max(0, sample - reach)
    part = sound[low : sample + reach].astype(np.float64)
    if len(part) <= FRAME:
        return sample
    energy = np.convolve(part**2, np.ones(FRAME), mode="valid")
    return low + int(np.argmin(energy)) + FRAME // 2


def stretch(sound: Mono, length: int) -> Mono:
    """Make a sound last exactly `length` samples at the same pitch. Padded, because the library fades its
    edges."""
    import python_stretch

    if length == len(sound):
        return sound
    factor = len(sound) / length
    padded = np.pad(sound, STRETCH_PAD)
    engine = python_stretch.Signalsmith.Stretch()
    engine.preset(1, SAMPLE_RATE_HZ)
    engine.setTimeFactor(factor)
    made = engine.process(np.ascontiguousarray(padded[np.newaxis]))[0]
    start = round(STRETCH_PAD / factor)
    cut = made[start : start + length]
    return np.asarray(np.pad(cut, (0, length - len(cut))), dtype=np.float32)


def transposed(sound: Mono, semitones: float) -> Mono:
    """A sound at another pitch, as long as before: for engines that have no pitch of their own."""
    import python_stretch

    if not semitones:
        return sound
    padded = np.pad(sound, STRETCH_PAD)
    engine = python_stretch.Signalsmith.Stretch()
    engine.preset(1, SAMPLE_RATE_HZ)
    engine.setTransposeSemitones(semitones)
    made = engine.process(np.ascontiguousarray(padded[np.newaxis]))[0]
    cut = made[STRETCH_PAD : STRETCH_PAD + len(sound)]
    return np.asarray(np.pad(cut, (0, len(sound) - len(cut))), dtype=np.float32)


def pause_of(tone: Mono, wanted: int) -> Mono:
    """A pause of the wanted length from its own room tone, ending as the old one ended so that no join is
    heard."""
    have = len(tone)
    if wanted == have:
        return tone
    if have == 0:
        return np.zeros(wanted, np.float32)
    made = np.resize(tone, wanted)
    fade = min(CROSSFADE, have, wanted)
    ramp = np.linspace(0, 1, fade, dtype=np.float32)
    made[wanted - fade :] = made[wanted - fade :] * (1 - ramp) + tone[have - fade :] * ramp
    return made


def faded(sound: Mono, begin: bool, end: bool) -> Mono:
    """A part with its edges faded where it was cut out of running speech."""
    fade = min(CROSSFADE, len(sound) // 2)
    if fade == 0 or not (begin or end):
        return sound
    made = sound.copy()
    ramp = np.linspace(0, 1, fade, dtype=np.float32)
    if begin:
        made[:fade] *= ramp
    if end:
        made[-fade:] *= ramp[::-1]
    return made

"""Looks into music: its bars and what they sound like, to cut and to repeat it by them."""

import itertools
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.sound.bar_cut import MOST_BARS, BarCut, cut_by_bars, loop_of, unlikeness
from fox_cadence.core.sound.bed import Stretch
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.audio import Sound
from fox_cadence.media.beats import Beats

_SLICES = 16
_BEFORE_S = 0.006
"""Cuts lie so long before a bar: what goes over into what has done so when the stroke is heard."""
_LEAST_RING_S, _MOST_RING_S = 1.2, 3.0
"""How long the ending is heard before the piece is over."""
_LEAST_BEGINNING_S = 0.2
_LOG_BANDS = 24


@dataclass(frozen=True, slots=True)
class CutMusic:
    """What of its clip is played, how often it jumps, what that costs, and when its last hit is, in seconds
    of the bed."""

    stretches: tuple[Stretch, ...]
    jumps: int
    cost: float
    hit_s: float


def bar_features(sound: Sound, bars_s: list[float]) -> NDArray[np.float64]:
    """What each bar but the last sounds like: logs of the energies in bands, in slices of the bar."""
    mono = sound if sound.ndim == 1 else sound.mean(axis=1)
    made = []
    for start, end in itertools.pairwise(bars_s):
        first, count = round(start * SAMPLE_RATE_HZ), round((end - start) * SAMPLE_RATE_HZ)
        part = np.zeros(count)
        heard = mono[max(0, first) : first + count]
        part[: len(heard)] = heard
        size = count // _SLICES
        slices = part[: size * _SLICES].reshape(_SLICES, size) * np.hanning(size)
        power = np.abs(np.fft.rfft(slices, axis=1)) ** 2
        edges = np.unique(np.geomspace(2, size // 3, _LOG_BANDS + 1).astype(int))
        bands = np.add.reduceat(power, edges[:-1], axis=1)
        made.append(np.log10(bands / size + 1e-6).ravel())
    width = min((len(each) for each in made), default=0)
    return np.array([each[:width] for each in made])


def cut_to_length(sound: Sound, beats: Beats, seconds: float) -> CutMusic:
    """Cut music to a length: it begins at its beginning, or a little later, and its ending rings out at the
    end.

    Raises:
        ValueError: too few bars were found.
    """
    bars = list(beats.bars_s)
    if len(bars) > MOST_BARS:
        bars = [*bars[: MOST_BARS - 5], *bars[-5:]]  # its beginning, and its ending
    if len(bars) < 3:
        raise ValueError("too few bars to cut")
    end = len(sound) / SAMPLE_RATE_HZ
    bar = float(np.median(np.diff(bars)))
    ring = min(end - bars[-1], max(_LEAST_RING_S, min(_MOST_RING_S, bar)), seconds / 2)
    unlike = unlikeness(bar_features(sound, bars))
    cut = cut_by_bars(bars, unlike, seconds - ring - min(bars[0], bar))
    return _as_stretches(cut, bars, end, seconds, ring)


def _as_stretches(cut: BarCut, bars: list[float], end: float, seconds: float, ring: float) -> CutMusic:
    """Stretches of samples: bars that follow each other are one."""
    parts: list[list[float]] = []
    for bar in cut.bars:
        if parts and abs(parts[-1][1] - bars[bar]) < 1e-9:
            parts[-1][1] = bars[bar + 1]
        else:
            parts.append([bars[bar], bars[bar + 1]])
    if abs(parts[-1][1] - bars[-1]) < 1e-9:
        parts[-1][1] = end
    else:
        parts.append([bars[-1], end])
    lead = min(parts[0][0], 4.0) if cut.bars[0] == 0 else 0.0  # what comes before the first bar
    parts[0][0] -= lead
    over = cut.hit_s + lead - (seconds - ring)
    if over > 0:  # it begins in the middle of its beginning
        parts[0][0] += min(over, parts[0][1] - parts[0][0] - _LEAST_BEGINNING_S)
    hit = sum(b - a for a, b in parts[:-1]) + (bars[-1] - parts[-1][0])
    samples: list[Stretch] = []
    before = 0
    for place, (a, b) in enumerate(parts):
        first = max(0, round((a - (_BEFORE_S if place else 0)) * SAMPLE_RATE_HZ))
        last = round((b - (_BEFORE_S if place + 1 < len(parts) else 0)) * SAMPLE_RATE_HZ)
        last = min(last, first + round(seconds * SAMPLE_RATE_HZ) - before)
        if last > first:
            samples.append(Stretch(start_sample=first, end_sample=last))
            before += last - first
    return CutMusic(tuple(samples), len(cut.jumps), cut.cost, hit)


def loop_region(sound: Sound, beats: Beats) -> tuple[float, float] | None:
    """The part that can be repeated best, in seconds; None where too few bars were found."""
    bars = list(beats.bars_s)[:MOST_BARS]
    if len(bars) < 6:
        return None
    found = loop_of(bars, unlikeness(bar_features(sound, bars)))
    return None if found is None else (bars[found[0]] - _BEFORE_S, bars[found[1]] - _BEFORE_S)

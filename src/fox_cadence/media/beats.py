"""Finds the beats, the bars and the tempo of music.

Where something begins is told by the spectral flux; a hidden Markov model (metricon) lays beats on it; bars
begin where the chord and the bass change most. What was found says how certain it is.
"""

import itertools
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.scientific import part
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.audio import Sound

Grid = NDArray[np.float64]

_RATE = 24_000
_FPS = 100
_HOP = _RATE // _FPS
_WINDOW = 1_024
_BANDS = 40
_LOWEST_HZ, _HIGHEST_HZ = 30.0, 11_000.0
_LATE_S = 0.0155
"""By how much the frames of a beat come before it: half a window less what a stroke takes to be heard."""
_USUAL_BPM, _SPREAD_OCTAVES = 105.0, 0.55
_SLOWEST_BPM, _FASTEST_BPM = 50.0, 215.0
_MAY_BE_HALF_BPM, _WEAK = 112.0, 0.75
"""Beats so quick of which every other one is so much weaker are half beats."""
_STEADY = 0.9
"""A grid of one tempo stands in for the beats found where so much of their strength lies on it."""
_RISE, _PLAYED = 10, 0.3
"""A beat that is played makes it louder in the tenth of a second after it, by so much of what is usual."""
_NOISE, _CLEAR = 3.0, 5.0
"""How many times stronger than all there is beats found in noise are, and how much more makes them
certain."""
_LEAST_S = 3.0
_SILENT = 1e-4
_PART_FRAMES = 6_000


@dataclass(frozen=True, slots=True)
class Beats:
    """The tempo in beats a minute (0 where there is none), beats and the beginnings of bars in seconds,
    beats a bar, and how certain that is, 0 to 1."""

    tempo_bpm: float = 0.0
    beats_s: tuple[float, ...] = ()
    bars_s: tuple[float, ...] = ()
    metre: int = 4
    certainty: float = 0.0


def find_beats(sound: Sound) -> Beats:
    """The beats of a sound, mono or stereo at 48 kHz; none in what is silent, or too short to have any."""
    if len(sound) < _LEAST_S * SAMPLE_RATE_HZ or float(np.abs(sound).max(initial=0)) < _SILENT:
        return Beats()
    bands, chroma, bass = _features(sound)
    flux = _flux(bands)
    if float(flux.max(initial=0.0)) <= 0:
        return Beats()
    likely = np.clip(flux / max(1e-9, float(np.percentile(flux, 98))), 0.005, 0.98)
    tempo = _likely_tempo(likely)
    places = _beats_at(likely, tempo)
    if len(places) < 4:
        return Beats()
    quick = 60 * _FPS / float(np.median(np.diff(places))) > _MAY_BE_HALF_BPM
    if quick and _every_other(likely, places) < _WEAK:
        places = _beats_at(likely, tempo / 2)
    places = _up_to_the_last(bands, _steadied(likely, places))
    metre, phase, sure = _bars(np.rint(places).astype(np.int64), chroma, bass, flux)
    beats = [float(place / _FPS + _LATE_S) for place in places]
    end = len(sound) / SAMPLE_RATE_HZ
    beats = [beat for beat in beats if beat < end]
    steps = np.diff(beats)
    bpm = 60 / float(np.median(steps))
    near = _strength(likely, places)
    steady = 1 - min(1.0, float(np.median(np.abs(steps - np.median(steps))) / np.median(steps)) * 4)
    stands_out = (float(near.mean()) / max(1e-9, float(likely.mean())) - _NOISE) / _CLEAR
    certainty = float(np.clip(stands_out, 0, 1)) * 0.6 + steady * 0.2 + sure * 0.2
    beats = [round(beat, 5) for beat in beats]
    return Beats(round(bpm, 2), tuple(beats), tuple(beats[phase::metre]), metre, round(certainty, 3))


def _features(sound: Sound) -> tuple[Grid, Grid, Grid]:
    """Log energies in bands, of the twelve tones, and of the bass, each by frame."""
    resample_poly = part("scipy.signal").resample_poly

    mono = sound if sound.ndim == 1 else sound.mean(axis=1)
    low = np.asarray(resample_poly(mono, 1, 2), dtype=np.float32)
    low = np.pad(low, (0, _WINDOW))
    count = (len(low) - _WINDOW) // _HOP
    hertz = np.fft.rfftfreq(_WINDOW, 1 / _RATE)
    edges = np.geomspace(_LOWEST_HZ, _HIGHEST_HZ, _BANDS + 1)
    in_band = np.array(
        [(hertz >= a) & (hertz < max(b, a + hertz[1])) for a, b in itertools.pairwise(edges)], float
    )
    tones = np.zeros((12, len(hertz)))
    heard = (hertz > 100) & (hertz < 2_000)
    tones[np.round(12 * np.log2(hertz[heard] / 440)).astype(int) % 12, np.flatnonzero(heard)] = 1
    lows = (hertz > 30) & (hertz < 200)
    window = np.hanning(_WINDOW).astype(np.float32)
    parts = []
    for start in range(0, count, _PART_FRAMES):
        at = (start + np.arange(min(_PART_FRAMES, count - start)))[:, np.newaxis] * _HOP + np.arange(_WINDOW)
        power = np.abs(np.fft.rfft(low[at] * window, axis=1)) / _WINDOW
        parts.append((np.log1p(100 * power @ in_band.T), power**2 @ tones.T, power[:, lows]))
    bands, chroma, bass = (np.concatenate([part[n] for part in parts]) for n in range(3))
    return bands, chroma, bass


def _flux(bands: Grid) -> Grid:
    """By how much more there is in the bands than before, against the second around."""
    rises = np.maximum(0, np.diff(bands, axis=0, prepend=bands[:1])).sum(axis=1)
    around = np.convolve(np.pad(rises, _FPS // 2, mode="edge"), np.full(_FPS, 1 / _FPS), mode="valid")
    return np.asarray(np.maximum(0, rises - around[: len(rises)]))


def _likely_tempo(likely: Grid) -> float:
    """The tempo that comes back most, those in the middle before others."""
    lags = np.arange(round(60 * _FPS / _FASTEST_BPM), round(60 * _FPS / _SLOWEST_BPM) + 1)
    even = likely - likely.mean()
    size = 1 << int(2 * len(even) - 1).bit_length()
    whole = np.fft.irfft(np.abs(np.fft.rfft(even, size)) ** 2, size)[: len(even)]
    whole = whole / np.maximum(1, len(even) - np.arange(len(even)))
    lags = lags[lags < len(whole) // 2]
    # what comes back after one beat does so after two and three as well
    comes = sum(_at(whole, lags * n) / n for n in (1, 2, 3, 4))
    usual = np.exp(-0.5 * (np.log2(60 * _FPS / lags / _USUAL_BPM) / _SPREAD_OCTAVES) ** 2)
    return 60 * _FPS / float(lags[int(np.argmax(np.maximum(comes, 0) * usual))])


def _at(values: Grid, places: NDArray[np.int64]) -> Grid:
    return np.where(places < len(values), values[np.minimum(places, len(values) - 1)], 0.0)


def _beats_at(likely: Grid, tempo: float) -> Grid:
    import metricon  # it is asked for when a bed is first looked at

    sureness = np.log(likely / (1 - likely))
    found = metricon.track_beats(
        sureness, fps=_FPS, min_bpm=max(_SLOWEST_BPM, tempo / 1.25), max_bpm=min(_FASTEST_BPM, tempo * 1.25)
    )
    return np.asarray(found.times, dtype=np.float64) * _FPS


def _strength(likely: Grid, places: Grid) -> Grid:
    """The strongest beginning within 30 ms of each place (in frames)."""
    near = np.rint(places).astype(np.int64)[:, np.newaxis] + np.arange(-3, 4)
    return np.asarray(likely[np.clip(near, 0, len(likely) - 1)].max(axis=1))


def _every_other(likely: Grid, places: Grid) -> float:
    """How strong the weaker half of beats is, against the stronger."""
    strong = _strength(likely, places)
    halves = sorted((float(strong[::2].mean()), float(strong[1::2].mean())))
    return halves[0] / max(1e-9, halves[1])


def _steadied(likely: Grid, places: Grid) -> Grid:
    """Beats on a grid of one tempo, from the first that could be one to the last, where the music keeps
    it."""
    step = float(np.median(np.diff(places)))
    numbers = np.arange(len(likely) / step + 1)
    wide = np.maximum(likely, np.maximum(np.roll(likely, 1), np.roll(likely, -1)))
    best: tuple[float, float, float] = (-1.0, step, 0.0)
    for tried in step * np.linspace(0.985, 1.015, 121):
        for first in np.arange(0, tried, 1.0):
            at = first + tried * numbers
            at = np.rint(at[at < len(likely) - 1]).astype(np.int64)
            best = max(best, (float(wide[at].mean()), float(tried), float(first)))
    _, tried, first = best
    grid = first + tried * numbers
    grid = grid[grid < len(likely)]
    if _strength(likely, grid).mean() < _STEADY * _strength(likely, places).mean():
        return places
    strong = np.flatnonzero(_strength(likely, grid) > 0.1)
    return grid[: int(strong[-1]) + 1] if len(strong) else places


def _up_to_the_last(bands: Grid, places: Grid) -> Grid:
    """Beats up to the last one that is played: what rings on after the last stroke only dies away."""
    level = np.concatenate([[0.0], np.cumsum(bands.sum(axis=1))])
    at = np.clip(np.rint(places).astype(np.int64), _RISE, len(bands) - _RISE - 1)
    rises = (level[at + _RISE + 1] - level[at + 1]) - (level[at] - level[at - _RISE])
    usual = np.median(rises[rises > 0]) if np.any(rises > 0) else 0.0
    played = np.flatnonzero(rises > _PLAYED * usual)
    return places[: int(played[-1]) + 1] if len(played) else places


def _bars(places: NDArray[np.int64], chroma: Grid, bass: Grid, flux: Grid) -> tuple[int, int, float]:
    """Beats a bar, the first beat that begins one, and how much it stands out (0 to 1).

    A bar begins where the chord of a bar's length after a beat differs from that before it, where the bass
    changes, and where something low is struck.
    """
    ends = [*places[1:].tolist(), len(flux)]
    tones = np.array([chroma[a : max(a + 1, b)].mean(axis=0) for a, b in zip(places, ends, strict=True)])
    lows = np.array([_unit(bass[a : max(a + 1, b)].mean(axis=0)) for a, b in zip(places, ends, strict=True)])
    steps = np.concatenate([[0.0], np.linalg.norm(np.diff(lows, axis=0), axis=1)])
    struck = np.array([bass[p : p + 6].sum() - bass[max(0, p - 6) : p].sum() for p in places])
    best = (-np.inf, 4, 0)
    for metre in (4, 3):
        changes = [_change(tones, beat, metre) for beat in range(len(places))]
        weight = _z(np.array(changes)) + 0.4 * _z(steps) + 0.8 * _z(struck)
        for phase in range(metre):
            chosen = weight[phase::metre]
            best = max(best, (float(chosen.mean() * np.sqrt(len(chosen))), metre, phase))
    score, metre, phase = best
    return metre, phase, float(np.clip(score / np.sqrt(max(1, len(places) / metre)) / 2, 0, 1))


def _change(tones: Grid, beat: int, metre: int) -> float:
    """By how much the tones of a bar from a beat on differ from those of the bar before."""
    before, after = tones[max(0, beat - metre) : beat], tones[beat : beat + metre]
    if not len(before) or not len(after):
        return 0.0
    return 1 - float(_unit(before.mean(axis=0)) @ _unit(after.mean(axis=0)))


def _unit(values: Grid) -> Grid:
    return np.asarray(values / max(1e-12, float(np.linalg.norm(values))))


def _z(values: Grid) -> Grid:
    return np.asarray((values - values.mean()) / max(1e-9, float(values.std())))

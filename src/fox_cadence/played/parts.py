"""What all played sounds are made of: tones, noise, envelopes. Mono float64 at 48 kHz; the same each time."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.scientific import part
from fox_cadence.core.ticks import SAMPLE_RATE_HZ as RATE

Mono = NDArray[np.float64]
Stereo = NDArray[np.float64]


def times(seconds: float) -> Mono:
    """The time of each sample of so many seconds."""
    return np.arange(max(1, round(seconds * RATE))) / RATE


def tone(hertz: float | Mono, seconds: float, partials: Sequence[tuple[float, float]] = ((1, 1),)) -> Mono:
    """Sines: each partial is so many times the pitch and so loud. The pitch may move, one value per
    sample."""
    moves = isinstance(hertz, np.ndarray)
    phase = 2 * np.pi * (np.cumsum(hertz) / RATE if moves else hertz * times(seconds))
    made = np.zeros(len(phase))
    top = float(np.max(hertz))
    for ratio, level in partials:
        if top * ratio < 0.45 * RATE:
            made += level * np.sin(ratio * phase)
    return made


def noise(seconds: float, low: float, high: float, seed: int) -> Mono:
    """Noise between two frequencies, falling off softly outside them, its loudest sample 1."""
    count = max(2, round(seconds * RATE))
    spectrum = np.fft.rfft(np.random.default_rng(seed).standard_normal(count))
    hertz = np.maximum(np.fft.rfftfreq(count, 1 / RATE), 1e-3)
    shaped = spectrum / (1 + (low / hertz) ** 4) / (1 + (hertz / high) ** 4)
    made = np.fft.irfft(shaped, n=count)
    return np.asarray(made / max(1e-9, float(np.abs(made).max())))


def moving_noise(seconds: float, middle: Mono, octaves: float, seed: int) -> Mono:
    """Noise around a frequency that moves (one value per sample), so many octaves wide."""
    count = round(seconds * RATE)
    window, hop = 4096, 1024
    shape = np.hanning(window)
    chance = np.random.default_rng(seed).standard_normal(count + window)
    made = np.zeros(count + 2 * window)
    hertz = np.maximum(np.fft.rfftfreq(window, 1 / RATE), 1e-3)
    for start in range(0, count, hop):
        at = middle[min(start, len(middle) - 1)]
        band = np.exp(-0.5 * (np.log2(hertz / at) / (octaves / 2)) ** 2)
        piece = np.fft.irfft(np.fft.rfft(chance[start : start + window] * shape) * band, n=window)
        made[start : start + window] += piece * shape
    made = made[:count]
    return np.asarray(made / max(1e-9, float(np.abs(made).max())))


def swell(seconds: float, attack: float, release: float, hold: float = 1.0) -> Mono:
    """Up in the attack, down over the release at the end, smoothly; between them `hold`."""
    t = times(seconds)
    rises = 0.5 - 0.5 * np.cos(np.pi * np.clip(t / max(attack, 1e-4), 0, 1))
    falls = 0.5 - 0.5 * np.cos(np.pi * np.clip((seconds - t) / max(release, 1e-4), 0, 1))
    return np.asarray(rises * falls * hold)


def struck(seconds: float, rings: float, attack: float = 0.003) -> Mono:
    """Up at once, then dying away by 60 dB in so many seconds; silent at the very end."""
    t = times(seconds)
    ends = np.clip((seconds - t) / 0.01, 0, 1)
    return np.asarray(np.clip(t / attack, 0, 1) * 10 ** (-3 * t / rings) * ends)


def glide(start: float, end: float, seconds: float, bend: float = 1.0) -> Mono:
    """A frequency that goes from one to another, evenly to the ear."""
    part = (times(seconds) / seconds) ** bend
    return np.asarray(start * (end / start) ** part)


def laid(seconds: float, *parts: tuple[float, float, Mono]) -> Mono:
    """Sounds laid into one of that length: each at a second, so loud."""
    made = np.zeros(round(seconds * RATE))
    for at, level, sound in parts:
        start = round(at * RATE)
        end = min(len(made), start + len(sound))
        if end > start >= 0:
            made[start:end] += level * sound[: end - start]
    return made


def in_a_room(sound: Stereo, seconds: float, share: float, seed: int = 5) -> Stereo:
    """A sound with what a room gives back, a little different on each side; as long as before."""
    if share <= 0:
        return sound
    oaconvolve = part("scipy.signal").oaconvolve

    t = times(seconds)
    answer = (
        np.random.default_rng(seed).standard_normal((len(t), 2)) * (10 ** (-3 * t / seconds))[:, np.newaxis]
    )
    answer = np.concatenate([np.zeros((RATE // 80, 2)), answer / np.sqrt(np.sum(answer**2, axis=0))])
    wet = oaconvolve(sound, answer, axes=0)[: len(sound)]
    return np.asarray(sound * (1 - share) + wet * share)

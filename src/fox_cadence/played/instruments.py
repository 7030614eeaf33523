"""Instruments: each plays a note of a pitch in hertz for so many seconds."""

from collections.abc import Callable, Mapping

import numpy as np

from fox_cadence.played.parts import Mono, glide, noise, struck, swell, times, tone

Instrument = Callable[[float, float], Mono]


def _harmonics(count: int, falls: float) -> list[tuple[float, float]]:
    return [(k, k**-falls) for k in range(1, count + 1)]


def pad(hertz: float, seconds: float) -> Mono:
    """Three soft voices a little out of tune with each other."""
    whole = seconds + 0.7
    made = sum(tone(hertz * by, whole, _harmonics(7, 1.9)) for by in (0.997, 1.0, 1.004))
    return np.asarray(made * swell(whole, 0.35, 0.9) * 0.16)


def strings(hertz: float, seconds: float) -> Mono:
    """Bowed: many harmonics, a slow vibrato."""
    whole = seconds + 0.3
    t = times(whole)
    pitch = hertz * (1 + 0.004 * np.sin(2 * np.pi * 5.1 * t) * np.clip(t / 0.5, 0, 1))
    return np.asarray(tone(pitch, whole, _harmonics(10, 1.35)) * swell(whole, 0.16, 0.35) * 0.16)


def keys(hertz: float, seconds: float) -> Mono:
    """A struck tine: bright at first, then round."""
    whole = seconds + 1.2
    t = times(whole)
    bright = 1.3 * np.exp(-t * 3.5)
    made = np.sin(2 * np.pi * hertz * t + bright * np.sin(2 * np.pi * hertz * t))
    made += 0.12 * np.sin(2 * np.pi * hertz * 7 * t) * np.exp(-t * 14) * (hertz * 7 < 18_000)
    ends = np.clip((whole - t) / 0.5, 0, 1)
    return np.asarray(made * struck(whole, 3.2, 0.004) * ends * 0.32)


def piano(hertz: float, seconds: float) -> Mono:
    """A hammered string: high harmonics die first, and lie a little too high."""
    whole = seconds + 0.9
    t = times(whole)
    made = np.zeros(len(t))
    for k in range(1, 11):
        pitch = hertz * k * (1 + 0.00035 * k * k)
        if pitch < 16_000:
            made += k**-1.15 * np.sin(2 * np.pi * pitch * t) * np.exp(-t * (1.1 + 0.55 * k))
    return np.asarray(made * np.clip(t / 0.002, 0, 1) * np.clip((whole - t) / 0.4, 0, 1) * 0.32)


def pluck(hertz: float, seconds: float) -> Mono:
    """A plucked string."""
    whole = seconds + 0.6
    t = times(whole)
    made = np.zeros(len(t))
    for k in range(1, 12):
        if hertz * k < 16_000:
            made += (
                np.sin(np.pi * k * 0.22)
                * k**-1.0
                * np.sin(2 * np.pi * hertz * k * t)
                * np.exp(-t * (2.2 + 0.9 * k))
            )
    return np.asarray(made * np.clip(t / 0.002, 0, 1) * np.clip((whole - t) / 0.2, 0, 1) * 0.5)


def mallet(hertz: float, seconds: float) -> Mono:
    """A wooden bar, struck."""
    whole = 0.9
    made = sum(
        level * tone(hertz * ratio, whole) * struck(whole, rings)
        for ratio, level, rings in ((1, 1.0, 0.8), (3.93, 0.25, 0.3), (9.24, 0.1, 0.12))
        if hertz * ratio < 18_000
    )
    return np.asarray(made * 0.42)


def bell(hertz: float, seconds: float) -> Mono:
    """A small bell that rings on."""
    whole = 2.6
    made = sum(
        level * tone(hertz * ratio, whole) * struck(whole, rings)
        for ratio, level, rings in ((1, 1.0, 3.4), (2.76, 0.45, 1.9), (5.4, 0.2, 0.9), (8.93, 0.08, 0.5))
        if hertz * ratio < 18_000
    )
    return np.asarray(made * 0.24)


def flute(hertz: float, seconds: float) -> Mono:
    """Blown: nearly a sine, with breath."""
    whole = seconds + 0.12
    t = times(whole)
    pitch = hertz * (1 + 0.006 * np.sin(2 * np.pi * 4.7 * t) * np.clip(t / 0.4 - 0.4, 0, 1))
    breath = noise(whole, hertz, hertz * 3, 7) * 0.05
    return np.asarray(
        (tone(pitch, whole, ((1, 1), (2, 0.25), (3, 0.08))) + breath) * swell(whole, 0.06, 0.14) * 0.3
    )


def bass(hertz: float, seconds: float) -> Mono:
    """A round low string."""
    whole = seconds + 0.12
    ends = np.clip((whole - times(whole)) / 0.1, 0, 1)
    return np.asarray(
        tone(hertz, whole, ((1, 1), (2, 0.45), (3, 0.16), (4, 0.06)))
        * struck(whole, 2.2, 0.008)
        * ends
        * 0.55
    )


def pulse(hertz: float, seconds: float) -> Mono:
    """A short buzzing tone of odd harmonics."""
    whole = seconds + 0.08
    t = times(whole)
    partials = [(k, 1 / k) for k in (1, 3, 5, 7, 9)]
    return np.asarray(tone(hertz, whole, partials) * np.exp(-t * 5) * swell(whole, 0.004, 0.06) * 0.26)


def kick(hertz: float, seconds: float) -> Mono:
    return np.asarray(tone(glide(120, 46, 0.32, 0.35), 0.32) * struck(0.32, 0.3, 0.002) * 0.95)


def snare(hertz: float, seconds: float) -> Mono:
    body = tone(glide(230, 170, 0.22, 0.5), 0.22) * struck(0.22, 0.18)
    return np.asarray(body * 0.35 + noise(0.22, 1_500, 9_000, 21) * struck(0.22, 0.22) * 0.5)


def brush(hertz: float, seconds: float) -> Mono:
    return np.asarray(noise(0.26, 1_800, 8_000, 22) * swell(0.26, 0.03, 0.2) * 0.3)


def hat(hertz: float, seconds: float) -> Mono:
    return np.asarray(noise(0.07, 7_000, 15_000, 23) * struck(0.07, 0.07, 0.001) * 0.26)


def shaker(hertz: float, seconds: float) -> Mono:
    return np.asarray(noise(0.11, 4_500, 12_000, 24) * swell(0.11, 0.035, 0.06) * 0.2)


def rim(hertz: float, seconds: float) -> Mono:
    made = tone(1_720, 0.06) * struck(0.06, 0.05, 0.001) + 0.5 * tone(2_460, 0.06) * struck(0.06, 0.04, 0.001)
    return np.asarray(made * 0.3)


def tom(hertz: float, seconds: float) -> Mono:
    return np.asarray(tone(glide(180, 96, 0.4, 0.5), 0.4) * struck(0.4, 0.42, 0.002) * 0.6)


INSTRUMENTS: Mapping[str, Instrument] = {
    each.__name__: each
    for each in (
        pad, strings, keys, piano, pluck, mallet, bell, flute, bass, pulse,
        kick, snare, brush, hat, shaker, rim, tom,
    )
}  # fmt: skip

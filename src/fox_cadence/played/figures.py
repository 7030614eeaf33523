"""What several effects are made of: air that rushes, drops, wood, metal, waves, calls, steps."""

from collections.abc import Callable

import numpy as np

from fox_cadence.played.parts import Mono, glide, laid, moving_noise, noise, struck, swell, times, tone


def rush(seconds: float, start: float, top: float, end: float, peak: float, seed: int) -> Mono:
    """Air that rushes past: noise whose middle goes up to a height and down again, loudest at its peak."""
    t = times(seconds) / seconds
    middle = np.where(
        t < peak, start * (top / start) ** (t / peak), top * (end / top) ** ((t - peak) / (1 - peak))
    )
    loud = np.where(t < peak, (t / peak) ** 2, (1 - (t - peak) / (1 - peak)) ** 1.5)
    return np.asarray(moving_noise(seconds, middle, 1.6, seed) * loud)


def drop(hertz: float, seconds: float = 0.16) -> Mono:
    """A bubble of air that rings in water and rises in pitch."""
    return np.asarray(
        tone(glide(hertz, hertz * 1.9, seconds, 2.2), seconds) * struck(seconds, seconds * 1.1, 0.004)
    )


def wood(hertz: float, seconds: float = 0.14) -> Mono:
    """Something wooden, hit."""
    body = tone(hertz, seconds, ((1, 1), (2.42, 0.5), (4.1, 0.25)))
    return np.asarray(
        body * struck(seconds, seconds, 0.001)
        + 0.2 * noise(seconds, 800, 5_000, 3) * struck(seconds, 0.04, 0.001)
    )


def ringing(hertz: float, seconds: float, partials: tuple[tuple[float, float, float], ...]) -> Mono:
    """Metal that rings: partials of a ratio, a level and how long each rings."""
    return np.asarray(
        sum(level * tone(hertz * ratio, seconds) * struck(seconds, rings) for ratio, level, rings in partials)
    )


METAL = ((1, 1.0, 2.6), (2.76, 0.5, 1.6), (5.4, 0.25, 0.8), (8.93, 0.1, 0.4))


def many(
    seconds: float, count: int, seed: int, one: Callable[[float, int], Mono], spread: float = 1.0
) -> Mono:
    """The same kind of sound at many moments drawn by chance; `one` is told a number 0 to 1, and which it
    is."""
    chance = np.random.default_rng(seed)
    moments = np.sort(chance.uniform(0, 1, count)) ** spread * (seconds - 0.3)
    return laid(
        seconds,
        *(
            (float(at), 0.5 + 0.5 * float(chance.random()), one(float(chance.random()), n))
            for n, at in enumerate(moments)
        ),
    )


def sea(seconds: float, seed: int, peak: float) -> Mono:
    """A wave that comes in, breaks and draws back over pebbles."""
    t = times(seconds) / seconds
    loud = np.where(
        t < peak, np.sin(np.pi / 2 * t / peak) ** 3, np.cos(np.pi / 2 * (t - peak) / (1 - peak)) ** 1.6
    )
    middle = 260 + 1_500 * loud
    hiss = noise(seconds, 2_500, 9_000, seed + 1) * loud**3 * 0.35
    return np.asarray(moving_noise(seconds, middle, 2.6, seed) * loud + hiss)


def call(curve: Mono, seconds: float, rough: float = 0.0) -> Mono:
    """An animal's call: a tone along a curve of pitch, rough by a quick trembling."""
    t = times(seconds)
    tremble = 1 - rough * (0.5 + 0.5 * np.sin(2 * np.pi * 62 * t))
    return np.asarray(
        tone(curve, seconds, ((1, 1), (2, 0.5), (3, 0.3), (4, 0.12))) * swell(seconds, 0.03, 0.09) * tremble
    )


def gull() -> Mono:
    def cry(at: float, top: float) -> tuple[float, float, Mono]:
        t = times(0.5) / 0.5
        return at, 0.8, call(700 + top * np.sin(np.pi * t) ** 0.7 * (1 - 0.35 * t), 0.5, 0.35)

    return laid(2.1, cry(0, 800), cry(0.55, 900), cry(1.05, 760), cry(1.5, 600))


def engine() -> Mono:
    seconds, made = 2.4, []
    for n in range(30):
        made.append(
            (n * 0.078, 0.9 if n % 4 == 0 else 0.65, tone(glide(95, 55, 0.09), 0.09) * struck(0.09, 0.1))
        )
        made.append((n * 0.078, 0.18, noise(0.05, 300, 2_000, n) * struck(0.05, 0.05)))
    return np.asarray(laid(seconds, *made) * swell(seconds, 0.2, 0.6))


def chimes(order: tuple[float, ...], gap: float) -> Mono:
    return laid(2.6, *((n * gap, 0.6, ringing(hertz, 1.6, METAL)) for n, hertz in enumerate(order)))


def steps(low: float, high: float, seed: int, heavy: float) -> Mono:
    def one(n: int) -> Mono:
        foot = noise(0.16, low, high, seed + n) * swell(0.16, 0.02, 0.12)
        return np.asarray(foot + heavy * tone(glide(120, 70, 0.16), 0.16) * struck(0.16, 0.1))

    return laid(2.3, *((n * 0.54 + 0.015 * (n % 2), 0.8 + 0.1 * (n % 2), one(n)) for n in range(4)))

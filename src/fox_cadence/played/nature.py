"""Effects of water, weather, animals and people."""

import numpy as np

from fox_cadence.played.effect import Effect
from fox_cadence.played.figures import (
    call,
    drop,
    gull,
    many,
    sea,
    steps,
)
from fox_cadence.played.parts import glide, laid, moving_noise, noise, struck, swell, times, tone

NATURE: tuple[Effect, ...] = (
    Effect(
        "plop",
        "Plop",
        "drop water fall in stone pond",
        lambda: laid(0.4, (0, 0.9, drop(380, 0.2)), (0.09, 0.35, drop(760, 0.12))),
    ),
    Effect(
        "drip",
        "Drips",
        "drop water tap cave leak rain",
        lambda: laid(2.0, (0, 0.8, drop(1_200)), (0.7, 0.7, drop(1_050)), (1.25, 0.8, drop(1_320))),
    ),
    Effect(
        "bubbles",
        "Bubbles",
        "water under bubbles dive sea tank boil",
        lambda: many(1.8, 26, 8, lambda x, n: drop(350 + 900 * x, 0.1 + 0.06 * x)),
    ),
    Effect(
        "splash",
        "Splash",
        "water fall in jump wet throw",
        lambda: (
            noise(0.9, 500, 7_000, 9) * struck(0.9, 0.7, 0.012)
            + 0.5 * many(0.9, 14, 10, lambda x, n: drop(500 + 900 * x, 0.1))
        ),
    ),
    Effect("surge", "Surge", "wave sea foam water coast short", lambda: sea(2.0, 11, 0.35)),
    Effect("long-wave", "Long wave", "wave sea ocean coast beach shore slow", lambda: sea(5.0, 13, 0.45)),
    Effect(
        "rain",
        "Rain",
        "rain weather wet storm roof water",
        lambda: (
            (
                0.45 * noise(4.0, 900, 8_000, 15)
                + 0.6
                * many(4.0, 240, 16, lambda x, n: noise(0.02, 1_500, 9_000, n) * struck(0.02, 0.02, 0.001))
            )
            * swell(4.0, 0.5, 0.8)
        ),
    ),
    Effect(
        "gust",
        "Gust of wind",
        "wind weather storm air blow cold",
        lambda: (
            moving_noise(3.2, 420 + 260 * np.sin(2 * np.pi * times(3.2) / 2.3), 1.3, 17)
            * swell(3.2, 1.2, 1.3)
        ),
    ),
    Effect(
        "thunder",
        "Thunder",
        "storm weather thunder sky far",
        lambda: (
            (
                noise(3.6, 30, 260, 18) * struck(3.6, 3.2, 0.05)
                + 0.6 * noise(3.6, 60, 900, 19) * struck(3.6, 0.8, 0.02)
            )
            * swell(3.6, 0.01, 0.8)
        ),
    ),
    Effect(
        "fire",
        "Fire",
        "fire crackle burn camp warm wood",
        lambda: (
            (
                0.2 * noise(3.2, 100, 900, 20)
                + 0.8
                * many(3.2, 60, 21, lambda x, n: noise(0.03, 900, 9_000, n) * struck(0.03, 0.02, 0.0008))
            )
            * swell(3.2, 0.3, 0.5)
        ),
    ),
    Effect("gull", "Gull", "gull bird sea coast cry harbour", gull),
    Effect(
        "chirp",
        "Small bird",
        "bird sing morning garden forest spring",
        lambda: laid(
            1.5,
            *(
                (at, 0.6, call(glide(a, b, 0.13), 0.13))
                for at, a, b in (
                    (0, 3_200, 4_600),
                    (0.2, 3_000, 4_400),
                    (0.4, 4_800, 3_000),
                    (0.85, 3_300, 4_700),
                    (1.05, 4_700, 3_200),
                )
            ),
        ),
    ),
    Effect(
        "owl",
        "Owl",
        "owl bird night forest dark",
        lambda: laid(
            2.0,
            (0, 0.8, tone(glide(390, 340, 0.35), 0.35, ((1, 1), (2, 0.15))) * swell(0.35, 0.08, 0.15)),
            (0.65, 0.9, tone(glide(400, 330, 0.8), 0.8, ((1, 1), (2, 0.15))) * swell(0.8, 0.1, 0.4)),
        ),
    ),
    Effect(
        "cricket",
        "Cricket",
        "cricket night summer grass insect",
        lambda: laid(
            2.0,
            *(
                (n * 0.34 + k * 0.045, 0.6, tone(4_300, 0.03) * swell(0.03, 0.006, 0.012))
                for n in range(5)
                for k in range(4)
            ),
        ),
    ),
    Effect(
        "frog",
        "Frog",
        "frog pond night water animal",
        lambda: laid(1.3, *((n * 0.6, 0.9, call(glide(240, 300, 0.3), 0.3, 0.85)) for n in range(2))),
    ),
    Effect(
        "bee",
        "Bee",
        "bee insect buzz fly garden flower",
        lambda: (
            tone(215 + 18 * np.sin(2 * np.pi * times(1.8) * 2.1), 1.8, [(k, 1 / k) for k in range(1, 9)])
            * swell(1.8, 0.5, 0.7)
            * 0.5
        ),
    ),
    Effect(
        "gravel",
        "Steps on gravel",
        "steps walk feet gravel path outside",
        lambda: steps(900, 7_000, 30, 0.25),
    ),
    Effect(
        "floor",
        "Steps on a floor",
        "steps walk feet floor wood room inside",
        lambda: steps(200, 2_200, 40, 0.9),
    ),
    Effect(
        "heartbeat",
        "Heartbeat",
        "heart beat body fear love pulse",
        lambda: laid(
            2.0,
            *(
                (
                    n * 0.95 + k * 0.26,
                    1 - 0.3 * k,
                    tone(glide(70, 42, 0.2), 0.2) * struck(0.2, 0.22, 0.008),
                )
                for n in range(2)
                for k in range(2)
            ),
        ),
    ),
)

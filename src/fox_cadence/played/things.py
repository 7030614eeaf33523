"""Effects of things: rushes and hits, wood, paper, metal, machines."""

import numpy as np

from fox_cadence.played.effect import Effect
from fox_cadence.played.figures import (
    METAL,
    chimes,
    engine,
    many,
    ringing,
    rush,
    wood,
)
from fox_cadence.played.parts import glide, laid, moving_noise, noise, struck, swell, times, tone

UP = (523.3, 659.3, 784.0, 1046.5, 1318.5)


THINGS: tuple[Effect, ...] = (
    Effect(
        "rush",
        "Rush",
        "whoosh air pass fast move swing transition cut",
        lambda: rush(0.7, 300, 3_200, 500, 0.55, 1),
    ),
    Effect(
        "long-rush",
        "Long rush",
        "whoosh air slow wind transition cut sweep",
        lambda: rush(1.8, 180, 2_400, 240, 0.7, 2),
    ),
    Effect(
        "quick-rush",
        "Quick rush",
        "swish flick short fast page swipe",
        lambda: rush(0.28, 900, 5_200, 1_800, 0.45, 3),
    ),
    Effect(
        "riser",
        "Riser",
        "build up rise tension reveal before cut",
        lambda: (
            moving_noise(2.2, glide(300, 6_000, 2.2), 1.2, 4)
            * (times(2.2) / 2.2) ** 2
            * swell(2.2, 0.1, 0.03)
        ),
    ),
    Effect(
        "fall",
        "Fall",
        "down drop end lose deflate sink",
        lambda: tone(glide(900, 90, 1.3, 0.8), 1.3, ((1, 1), (2, 0.3))) * swell(1.3, 0.02, 0.5),
    ),
    Effect(
        "boom",
        "Boom",
        "deep hit impact heavy big title drum",
        lambda: (
            tone(glide(90, 34, 1.8, 0.3), 1.8) * struck(1.8, 1.9, 0.004)
            + 0.25 * noise(1.8, 60, 900, 5) * struck(1.8, 0.4)
        ),
    ),
    Effect(
        "thud",
        "Thud",
        "hit fall land soft heavy drop put down",
        lambda: (
            tone(glide(150, 60, 0.3, 0.4), 0.3) * struck(0.3, 0.28)
            + 0.3 * noise(0.3, 100, 1_200, 6) * struck(0.3, 0.1)
        ),
    ),
    Effect("knock", "Knock", "door wood knock hit once", lambda: wood(310)),
    Effect(
        "three-knocks",
        "Three knocks",
        "door wood knock visit at the door",
        lambda: laid(0.95, (0, 0.9, wood(300)), (0.24, 0.8, wood(312)), (0.48, 1, wood(296))),
    ),
    Effect(
        "click",
        "Click",
        "button press switch choose interface",
        lambda: (
            noise(0.04, 1_800, 9_000, 7) * struck(0.04, 0.02, 0.0005)
            + 0.4 * tone(2_300, 0.04) * struck(0.04, 0.02)
        ),
    ),
    Effect(
        "two-clicks",
        "Two clicks",
        "switch snap claw crab mechanism lock",
        lambda: laid(0.3, (0, 0.9, wood(1_250, 0.06)), (0.13, 0.8, wood(1_020, 0.06))),
    ),
    Effect(
        "clock",
        "Clock",
        "tick tock time wait clock second",
        lambda: laid(2.1, *((n * 0.5, 0.9, wood(2_100 if n % 2 else 1_700, 0.05)) for n in range(4))),
    ),
    Effect(
        "pop",
        "Pop",
        "pop appear bubble small comic title",
        lambda: tone(glide(260, 900, 0.07, 0.6), 0.07) * struck(0.07, 0.08, 0.002),
    ),
    Effect(
        "paper",
        "Paper",
        "paper rustle page letter book unfold",
        lambda: many(0.9, 26, 50, lambda x, n: noise(0.06, 1_800, 9_000, n + 60) * swell(0.06, 0.01, 0.03)),
    ),
    Effect(
        "page",
        "Page turned",
        "page turn book read next paper",
        lambda: (
            rush(0.45, 1_500, 6_500, 2_500, 0.6, 51)
            + 0.4 * laid(0.45, (0.3, 1, noise(0.08, 900, 6_000, 52) * struck(0.08, 0.08)))
        ),
    ),
    Effect(
        "pencil",
        "Pencil",
        "pencil write draw sketch note paper",
        lambda: laid(
            1.6,
            *(
                (at, 0.8, noise(length, 2_200, 7_500, 53 + n) * swell(length, 0.04, 0.06))
                for n, (at, length) in enumerate(((0, 0.3), (0.36, 0.18), (0.6, 0.42), (1.1, 0.4)))
            ),
        ),
    ),
    Effect(
        "shutter",
        "Shutter",
        "camera photo picture still snap",
        lambda: laid(
            0.34,
            (0, 0.9, noise(0.05, 1_200, 8_000, 57) * struck(0.05, 0.04, 0.001)),
            (0.03, 0.5, wood(900, 0.05)),
            (0.14, 0.8, noise(0.09, 700, 6_000, 58) * struck(0.09, 0.07, 0.002)),
        ),
    ),
    Effect("bell", "Bell", "bell ring school door shop attention", lambda: ringing(880, 2.4, METAL)),
    Effect(
        "low-bell",
        "Low bell",
        "bell church buoy ship slow solemn",
        lambda: ringing(233, 3.6, tuple((a, b, c * 1.7) for a, b, c in METAL)),
    ),
    Effect("chime-up", "Chime upwards", "chime success right done good idea up", lambda: chimes(UP, 0.09)),
    Effect(
        "chime-down",
        "Chime downwards",
        "chime wrong end close back down",
        lambda: chimes(tuple(reversed(UP)), 0.11),
    ),
    Effect(
        "sparkle",
        "Sparkle",
        "sparkle shine magic star clean glint",
        lambda: many(
            1.6,
            22,
            70,
            lambda x, n: ringing(1_800 + 2_600 * x, 0.6, ((1, 0.6, 0.7), (2.7, 0.25, 0.3))),
            1.4,
        ),
    ),
    Effect(
        "coin",
        "Coin",
        "coin money price pay win",
        lambda: laid(
            0.9,
            (0, 0.7, ringing(1_975, 0.3, ((1, 1, 0.3), (2.7, 0.3, 0.2)))),
            (0.09, 0.8, ringing(2_637, 0.8, ((1, 1, 0.8), (2.7, 0.3, 0.4)))),
        ),
    ),
    Effect(
        "keys",
        "Bunch of keys",
        "keys metal jingle home door open",
        lambda: many(
            0.9,
            16,
            71,
            lambda x, n: ringing(
                2_600 + 2_400 * x, 0.3, ((1, 0.6, 0.25), (1.52, 0.5, 0.2), (2.31, 0.3, 0.15))
            ),
        ),
    ),
    Effect("engine", "Small engine", "engine motor boat putt machine start", engine),
    Effect(
        "horn",
        "Ship’s horn",
        "ship horn harbour fog leave signal",
        lambda: (
            tone(98, 2.2, [(k, 1 / k**0.8) for k in range(1, 10)]) * swell(2.2, 0.12, 0.4) * 0.5
            + 0.3 * tone(147, 2.2, [(k, 1 / k) for k in range(1, 7)]) * swell(2.2, 0.15, 0.4)
        ),
    ),
    Effect(
        "whistle",
        "Whistle",
        "whistle call referee start attention",
        lambda: (
            tone(2_350 + 60 * np.sin(2 * np.pi * 32 * times(0.7)), 0.7) * swell(0.7, 0.02, 0.08)
            + 0.1 * noise(0.7, 1_800, 6_000, 72) * swell(0.7, 0.02, 0.08)
        ),
    ),
    Effect(
        "tap-keys",
        "Keys tapped",
        "typing keyboard computer write text work",
        lambda: many(
            1.6,
            15,
            73,
            lambda x, n: laid(
                0.07,
                (0, 0.8, wood(1_400 + 500 * x, 0.03)),
                (0.02, 0.5, noise(0.03, 1_500, 7_000, n) * struck(0.03, 0.02, 0.001)),
            ),
        ),
    ),
    Effect(
        "switch",
        "Switch",
        "switch light on off electric room",
        lambda: laid(0.16, (0, 0.7, wood(1_900, 0.04)), (0.035, 1, wood(720, 0.08))),
    ),
)

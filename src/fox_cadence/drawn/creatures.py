"""Animals and people, drawn plainly."""

import math

from fox_cadence.drawn.brush import Brush
from fox_cadence.drawn.catalogue import entered


@entered(
    "animal-fish", "School of fish", "animals", "fish school swim sea water together group team follow animal"
)
def fish(b: Brush) -> None:
    b.sky((0, "#2a8ba0"), (1, "#0b3f58"))
    b.shafts(5, "#c8f4f8")
    for number in range(28):
        row = number % 7
        x = (number * 0.271 + 0.09 * b.t * (0.8 + 0.1 * (number % 3))) % 1.3 - 0.15
        y = 0.2 + 0.1 * row + 0.02 * math.sin(b.t * 1.2 + number)
        with b.square(x, y, 0.11, 5 * math.sin(b.t * 2 + number)) as s:
            tail = 0.08 * math.sin(b.t * 9 + number)
            s.shape([(0.95, 0.5), (0.6, 0.32), (0.2, 0.5), (0.6, 0.68)], ("#f2a25c", "#f7c58b")[number % 2])
            s.shape([(0.28, 0.5), (0.02, 0.32 + tail), (0.02, 0.68 + tail)], "#e0803f", smooth=False)
            s.disc(0.78, 0.46, 0.035, "#1a2a30")


@entered(
    "animal-jelly", "Jellyfish", "animals", "jellyfish sea deep float drift glow slow calm strange animal"
)
def jelly(b: Brush) -> None:
    b.sky((0, "#151b46"), (1, "#080a1f"))
    for number, (x, y, size) in enumerate(((0.34, 0.42, 0.42), (0.7, 0.66, 0.3), (0.72, 0.24, 0.2))):
        beat = math.sin(b.t * 2 + number * 1.7)
        with b.square(x + 0.01 * beat, y - 0.012 * b.t + 0.012 * beat, size) as s:
            for arm in range(7):
                base = 0.3 + 0.066 * arm
                line = [(base + 0.04 * math.sin(b.t * 2 + k * 0.7 + arm), 0.45 + 0.09 * k) for k in range(6)]
                s.stroke(line, "#d6a7f0", 0.014, 0.6)
            wide = 0.3 + 0.03 * beat
            s.shape(
                [
                    (0.5 - wide, 0.5),
                    (0.5 - wide * 0.8, 0.2),
                    (0.5, 0.1 - 0.02 * beat),
                    (0.5 + wide * 0.8, 0.2),
                    (0.5 + wide, 0.5),
                    (0.5, 0.44),
                ],
                "#c58be6",
                0.85,
            )
            s.disc(0.5, 0.3, 0.1, "#f6dcff", 0.5, soft=0.08)


@entered("animal-cat", "Cat asleep", "animals", "cat sleep pet rest home animal lazy cosy nap quiet relax")
def cat(b: Brush) -> None:
    b.sky((0, "#efe3d0"), (0.62, "#e2d0b4"), (0.63, "#b3573a"), (1, "#96452c"))
    breath = 0.012 * math.sin(b.t * 1.6)
    with b.square(0.5, 0.62, 0.9) as s:
        s.stroke([(0.78, 0.62), (0.9, 0.56), (0.84, 0.46 + breath)], "#4a4440", 0.06)
        s.shape(
            [
                (0.2, 0.66),
                (0.24, 0.42 - breath),
                (0.52, 0.32 - 2 * breath),
                (0.78, 0.44 - breath),
                (0.84, 0.66),
                (0.5, 0.74),
            ],
            "#5a534e",
        )
        s.disc(0.26, 0.56, 0.13, "#5a534e")
        s.shape([(0.15, 0.5), (0.17, 0.36), (0.25, 0.44)], "#5a534e", smooth=False)
        s.shape([(0.28, 0.44), (0.35, 0.37), (0.37, 0.5)], "#5a534e", smooth=False)
        for x in (0.2, 0.3):
            s.stroke([(x - 0.025, 0.56), (x, 0.575), (x + 0.025, 0.56)], "#2b2725", 0.012)
        s.disc(0.25, 0.605, 0.014, "#d98b7d")


@entered("animal-snail", "Snail", "animals", "snail slow patience animal garden small step time")
def snail(b: Brush) -> None:
    b.sky((0, "#cfe0b8"), (1, "#8fae71"))
    b.ridge(0.7, [0.0, 0.01, 0.0, -0.006, 0.0], "#5d7d43")
    with b.square(0.3 + 0.03 * b.t, 0.6, 0.6) as s:
        long = 0.02 * math.sin(b.t * 2.4)
        s.shape(
            [
                (0.1, 0.72),
                (0.3, 0.62),
                (0.8 + long, 0.62),
                (0.95 + long, 0.42),
                (0.99 + long, 0.5),
                (0.92 + long, 0.74),
            ],
            "#d9b98a",
        )
        for eye in (0.93, 0.99):
            s.stroke([(eye + long, 0.46), (eye + 0.03 + long, 0.3)], "#d9b98a", 0.018)
            s.disc(eye + 0.03 + long, 0.29, 0.018, "#3b2f22")
        s.disc(0.46, 0.46, 0.25, "#a4643c")
        for ring in range(26):
            a, reach = ring * 0.55, 0.22 * (1 - ring / 28)
            s.disc(0.46 + reach * math.cos(a), 0.46 + reach * math.sin(a), 0.017, "#6f3f24")


@entered(
    "people-talk",
    "Two people talk",
    "people",
    "people talk conversation interview speak discuss friend meet question answer dialogue chat",
)
def talk(b: Brush) -> None:
    b.sky((0, "#e9e2d2"), (1, "#d3c8b0"))
    for number, (x, code) in enumerate(((0.3, "#2f6b62"), (0.7, "#b8431f"))):
        with b.square(x, 0.72, 0.62) as s:
            s.shape([(0.1, 1.0), (0.16, 0.55), (0.5, 0.46), (0.84, 0.55), (0.9, 1.0)], code)
            s.disc(0.5, 0.3 + 0.008 * math.sin(b.t * 4 + 3 * number), 0.17, ("#e2b48c", "#8a5a3c")[number])
        speaks = (int(b.t / 1.75) % 2) == number
        if speaks:
            with b.square(x, 0.3, 0.4) as s:
                s.block(0.06, 0.1, 0.88, 0.56, "#fffdf6", corner=0.12)
                s.shape([(0.4, 0.62), (0.62, 0.62), (0.48, 0.86)], "#fffdf6", smooth=False)
                for dot in range(3):
                    s.disc(0.3 + 0.2 * dot, 0.38, 0.04 + 0.02 * max(0.0, math.sin(b.t * 6 - dot)), code)


@entered(
    "people-walk",
    "Somebody walks",
    "people",
    "walk person man woman step go alone leave health move street human",
)
def walk(b: Brush) -> None:
    b.sky((0, "#f3d3a5"), (0.7, "#e5ab7c"), (0.71, "#6b5a52"), (1, "#54463f"))
    b.disc(0.5, 0.5, 0.26, "#fff0cf", 0.8)
    x = 0.1 + 0.11 * b.t
    with b.square(x, 0.58 + 0.006 * abs(math.sin(b.t * 4)), 0.42) as s:
        swing = math.sin(b.t * 4)
        for side in (-1, 1):
            step = side * swing * 0.16
            s.stroke([(0.5, 0.58), (0.5 + step * 0.6, 0.76), (0.5 + step - 0.03, 0.96)], "#2b2a33", 0.07)
            s.stroke([(0.5, 0.32), (0.5 - step * 0.7, 0.46), (0.52 - step, 0.58)], "#2b2a33", 0.05)
        s.stroke([(0.5, 0.3), (0.5, 0.58)], "#2b2a33", 0.13)
        s.disc(0.52, 0.13, 0.09, "#2b2a33")


@entered(
    "people-crowd",
    "Crowd",
    "people",
    "crowd people audience group public society many community together event",
)
def crowd(b: Brush) -> None:
    b.sky((0, "#39324a"), (1, "#1c1826"))
    b.disc(0.5, 0.1, 0.5, "#f2c879", 0.3, soft=0.35)
    for row in range(6):
        y = 0.5 + 0.085 * row
        code = ("#5a4f6b", "#51465f", "#473d54", "#3c3348", "#30283a", "#241e2c")[row]
        for number in range(9):
            x = (number + 0.5 * (row % 2)) / 8.5
            jump = 0.012 * max(0.0, math.sin(b.t * 3.4 + number * 1.3 + row))
            b.disc(x, y - jump, 0.036 + 0.004 * row, code)
            b.block(x - 0.06, y + 0.04 - jump, 0.12, 0.2, code, corner=0.04)


@entered(
    "people-hands",
    "Two hands meet",
    "people",
    "hand hands help deal agree handshake trust partner together support promise",
    "still",
)
def hands(b: Brush) -> None:
    b.sky((0, "#dfe7e4"), (1, "#b4c6c0"))
    with b.square(0.5, 0.5, 1.0) as s:
        for side, sleeve, skin in ((0, "#2f6b62", "#e2b48c"), (1, "#b8431f", "#8a5a3c")):

            def at(x: float, y: float, way: int = side) -> tuple[float, float]:
                return (1 - x if way else x, y)

            s.shape([at(-0.1, 0.4), at(0.24, 0.42), at(0.24, 0.66), at(-0.1, 0.7)], sleeve, smooth=False)
            s.shape([at(0.22, 0.45), at(0.5, 0.42), at(0.6, 0.52), at(0.48, 0.62), at(0.22, 0.63)], skin)
            for finger in range(4):
                y = 0.47 + 0.04 * finger
                s.stroke([at(0.46, y), at(0.6 - 0.012 * finger, y + 0.01)], skin, 0.038)

"""Mountains, woods, fields and what grows."""

import math

from fox_cadence.drawn.brush import Brush
from fox_cadence.drawn.catalogue import entered


@entered(
    "land-ridges",
    "Blue ridges",
    "mountains",
    "mountain hill ridge range distance far horizon haze view landscape",
)
def ridges(b: Brush) -> None:
    b.sky((0, "#f2d9b8"), (0.5, "#e8b79b"), (1, "#6d7f96"))
    b.disc(0.7, 0.3, 0.08, "#fff4d8", soft=0.02)
    for number, code in enumerate(("#b7a4ad", "#94909f", "#717b8f", "#516579", "#35495c", "#1d2f3f")):
        heights = [
            0.05 * math.sin(0.9 * place + number * 2.3 + 0.02 * b.t * number)
            + 0.03 * math.sin(2.3 * place + number)
            for place in range(14)
        ]
        b.ridge(0.36 + 0.1 * number, heights, code)


@entered(
    "land-peak",
    "Snowy peak",
    "mountains",
    "mountain peak summit snow climb top goal achieve success challenge high",
)
def peak(b: Brush) -> None:
    b.sky((0, "#5c8fb8"), (0.7, "#c9dde6"), (1, "#8aa2ad"))
    with b.square(0.5, 0.58, 1.3) as s:
        s.shape([(0.5, 0.1), (0.95, 0.9), (0.05, 0.9)], "#5b6876", smooth=False)
        s.shape([(0.5, 0.1), (0.95, 0.9), (0.6, 0.9), (0.56, 0.5)], "#465260", smooth=False)
        snow = [(0.5, 0.1), (0.62, 0.32), (0.57, 0.36), (0.53, 0.3), (0.48, 0.38), (0.44, 0.31), (0.39, 0.33)]
        s.shape(snow, "#f6fbff", smooth=False)
    for number in range(4):
        x = (0.3 * number + 0.03 * b.t) % 1.3 - 0.15
        b.disc(x, 0.62 + 0.03 * (number % 2), 0.09, "#ffffff", 0.4, soft=0.09)
    b.ridge(0.84, [0.03, 0.0, 0.02, -0.01, 0.02, 0.0, 0.03], "#2e4a44")


@entered(
    "land-pines", "Pines in fog", "woods", "forest wood tree pine fog mist quiet mystery nature wild morning"
)
def pines(b: Brush) -> None:
    b.sky((0, "#c6d2d0"), (1, "#7f9691"))
    for row, (y, size, code) in enumerate(
        ((0.55, 0.26, "#8fa5a0"), (0.7, 0.36, "#5f7b75"), (0.88, 0.5, "#2f4a45"))
    ):
        for number in range(8 - row):
            x = (number + 0.3 * (row + 1)) / (7.2 - row) - 0.05
            with b.square(x, y, size, 0.7 * math.sin(b.t * 0.9 + number + row)) as s:
                for layer in range(4):
                    top = 0.1 + 0.18 * layer
                    wide = 0.1 + 0.07 * layer
                    s.shape(
                        [(0.5, top), (0.5 + wide, top + 0.28), (0.5 - wide, top + 0.28)], code, smooth=False
                    )
                s.block(0.47, 0.88, 0.06, 0.12, code)
        b.disc((0.2 + 0.06 * b.t + 0.4 * row) % 1.4 - 0.2, y + 0.03, 0.2, "#dfe8e6", 0.4, soft=0.2)


@entered(
    "land-leaves",
    "Falling leaves",
    "woods",
    "autumn fall leaf leaves tree wind change season time passing end",
)
def leaves(b: Brush) -> None:
    b.sky((0, "#f0dcb6"), (1, "#c98f55"))
    for x, lean in ((0.18, 0.03), (0.8, -0.02)):
        b.stroke([(x, 1), (x + lean, 0.5), (x + 2.4 * lean, 0)], "#5a3b2a", 0.06)
        b.stroke([(x + lean, 0.5), (x + lean + 0.16, 0.3)], "#5a3b2a", 0.03)
    for number in range(34):
        fall = (number * 0.173 + 0.13 * b.t * (0.7 + number % 4 * 0.2)) % 1.15 - 0.08
        x = (number * 0.29) % 1 + 0.06 * math.sin(b.t * 1.4 + number)
        with b.square(x, fall, 0.05 + 0.02 * (number % 3), 80 * math.sin(b.t * 1.7 + number)) as s:
            code = ("#b4472a", "#d77a2c", "#8c3f2a", "#e0a63b")[number % 4]
            s.shape([(0.5, 0.0), (0.85, 0.45), (0.5, 1.0), (0.15, 0.45)], code)


@entered(
    "land-wheat",
    "Field in the wind",
    "fields",
    "field wheat corn grain farm harvest wind country summer grow bread",
)
def wheat(b: Brush) -> None:
    b.sky((0, "#88b9d6"), (0.5, "#e7efdc"), (1, "#d8b765"))
    b.ridge(0.46, [0.01, -0.01, 0.0, -0.02, 0.0, 0.01], "#8fa06a")
    for row in range(5):
        y = 0.52 + 0.11 * row
        b.ridge(
            y,
            [0.004 * math.sin(row + place) for place in range(9)],
            ("#e2c36f", "#d8b55d", "#cba54c", "#bd943d", "#a8802f")[row],
        )
        for number in range(26):
            x = (number + 0.5 * (row % 2)) / 25
            bend = 0.02 * math.sin(b.t * 1.8 + x * 7 + row)
            b.stroke([(x, y + 0.03), (x + bend, y - 0.03 - 0.008 * row)], "#f2dc95", 0.006 + 0.001 * row, 0.8)


@entered(
    "land-flower",
    "A flower opens",
    "plants",
    "flower bloom blossom open spring begin new life garden beauty hope",
)
def flower(b: Brush) -> None:
    b.sky((0, "#dfeadf"), (1, "#9dbb93"))
    opened = min(1.0, 0.15 + b.t / 5)
    b.stroke([(0.5, 1.02), (0.48, 0.8), (0.5, 0.5)], "#4d7a3f", 0.025)
    with b.square(0.44, 0.8, 0.3, -30) as s:
        s.shape([(0.9, 0.6), (0.4, 0.3), (0.05, 0.55), (0.4, 0.72)], "#5d8d4b")
    with b.square(0.5, 0.46, 0.8) as s:
        for ring, (code, reach) in enumerate((("#c9527f", 0.44), ("#e98aa9", 0.34), ("#f6b9c9", 0.24))):
            for number in range(9):
                a = 2 * math.pi * (number + ring * 0.5) / 9
                long = reach * (0.35 + 0.65 * opened)
                tip = (0.5 + long * math.cos(a), 0.5 + long * math.sin(a))
                wide = 0.07 * (0.4 + 0.6 * opened)
                side = (-math.sin(a) * wide, math.cos(a) * wide)
                middle = (0.5 + long * 0.55 * math.cos(a), 0.5 + long * 0.55 * math.sin(a))
                s.shape(
                    [
                        (0.5, 0.5),
                        (middle[0] + side[0], middle[1] + side[1]),
                        tip,
                        (middle[0] - side[0], middle[1] - side[1]),
                    ],
                    code,
                )
        s.disc(0.5, 0.5, 0.06, "#f0c23f")


@entered(
    "land-sprout",
    "A seedling grows",
    "plants",
    "seed plant sprout grow growth begin start small invest money saving patience",
)
def sprout(b: Brush) -> None:
    b.sky((0, "#e9efe2"), (1, "#c9d8bc"))
    b.ridge(0.74, [0.01, 0.0, 0.008, 0.0, 0.012, 0.0], "#5b4331")
    b.pebbles(3, 14, 0.78, ("#6c523d", "#4b3728"))
    high = 0.42 * min(1.0, 0.08 + b.t / 6)
    top = 0.75 - high
    b.stroke([(0.5, 0.76), (0.5 + 0.02 * math.sin(b.t), 0.75 - high / 2), (0.5, top)], "#5f8f45", 0.022)
    for side in (-1, 1):
        with b.square(0.5, top, 0.9 * high + 0.04, side * (38 + 4 * math.sin(b.t))) as s:
            s.shape([(0.5, 0.5), (0.62, 0.2), (0.5, -0.05), (0.38, 0.2)], "#74a855")


@entered(
    "land-path",
    "Path through a wood",
    "woods",
    "path way walk road choice decide route forward tree forest",
    "still",
)
def path(b: Brush) -> None:
    b.sky((0, "#cfe0c4"), (0.5, "#9fbb8b"), (1, "#4c6b3f"))
    b.shape([(0.46, 0.5), (0.54, 0.5), (0.8, 1.02), (0.12, 1.02)], "#d9c299", smooth=False)
    for number in range(6):
        for side in (-1, 1):
            far = 1 - number / 6
            x = 0.5 + side * (0.12 + 0.42 * (1 - far))
            y = 0.5 + 0.3 * (1 - far)
            b.stroke([(x, y + 0.12), (x, y - 0.5)], "#3e3226", 0.02 + 0.05 * (1 - far))
            b.disc(x + side * 0.05, y - 0.42, 0.12 + 0.1 * (1 - far), ("#55793f", "#66904b")[number % 2], 0.9)

"""The shots of "Low tide at Marrow Bay", each a function that paints one moment of it."""

import math
from collections.abc import Callable

from fox_cadence.drawn.brush import Brush


def bay(b: Brush) -> None:
    b.sky((0, "#f3c98b"), (0.34, "#eda67b"), (0.46, "#c97b74"), (1, "#3f4f63"))
    b.disc(0.66, 0.36 + 0.004 * b.t, 0.34, "#ffe9b8", 0.35, soft=0.08)
    b.disc(0.66, 0.36 + 0.004 * b.t, 0.11, "#fff3d2")
    b.ridge(0.44, [0.02, 0.005, -0.03, -0.05, -0.02, 0.01, 0.02, 0.012, 0.02], "#6a5a6c")
    b.water(0.47, "#7c7b93", swell=0.003, pace=0.6)
    b.water(0.56, "#5d7391", swell=0.006, pace=0.9)
    b.water(0.68 + 0.012 * b.t, "#48668a", swell=0.009, pace=1.1)
    b.glints(3, 46, 0.5, "#ffe3b0")
    b.ridge(0.86, [0.05, 0.03, 0.035, 0.01, 0.0, 0.02, 0.045, 0.03, 0.06], "#c9a274")
    b.ridge(0.93, [0.02, 0.0, 0.02, 0.03, 0.01, 0.0, 0.015, 0.03, 0.02], "#a87f59")


def rocks(b: Brush) -> None:
    b.sky((0, "#bfd5cf"), (0.5, "#8fb3ae"), (1, "#54716d"))
    b.ridge(0.30, [0.04, -0.02, 0.0, -0.05, 0.02, 0.03, -0.03, 0.0, 0.05], "#55625c")
    b.ridge(0.42, [-0.03, 0.02, 0.05, 0.0, 0.04, -0.02, 0.03, 0.06, 0.0], "#434f4a")
    b.water(0.52, "#2f6e70", swell=0.004, pace=1.2)
    b.water(0.60, "#2a8484", swell=0.005, pace=-1.0, alpha=0.75)
    b.shafts(5, "#e8fff6")
    b.glints(11, 40, 0.54, "#d9fff4")
    for number in range(5):
        x = 0.12 + 0.19 * number
        sway = 0.03 * math.sin(b.t * 1.3 + number)
        b.stroke([(x, 0.99), (x + sway * 0.5, 0.86), (x + sway, 0.74)], "#5b7c3c", 0.022)
        b.stroke(
            [(x + 0.05, 1.0), (x + 0.05 + sway * 0.7, 0.9), (x + 0.05 + sway * 1.4, 0.82)], "#7d9a4a", 0.016
        )
    b.ridge(0.93, [0.0, -0.05, 0.01, 0.03, -0.02, -0.05, 0.0, -0.02, 0.03], "#39433f")


def anemone(b: Brush) -> None:
    b.sky((0, "#123a4a"), (0.6, "#0d5560"), (1, "#082f38"))
    b.shafts(6, "#9fe7dc")
    b.ridge(0.8, [0.03, 0.0, 0.02, -0.02, -0.03, -0.01, 0.02, 0.0, 0.03], "#274038")
    shut = max(0.0, min(1.0, (b.t - 2.4) * 1.2))
    for ring, (code, reach) in enumerate((("#8e2f5c", 0.36), ("#c8457a", 0.31), ("#f08aa6", 0.24))):
        for number in range(18):
            a = math.pi * (0.04 + 0.92 * number / 17)
            wave = 0.05 * math.sin(b.t * 1.8 + number * 0.7 + ring)
            long = reach * (1 - 0.5 * shut)
            spread = 1 - 0.65 * shut
            x = 0.5 - long * math.cos(a) * spread
            y = 0.74 - long * 0.62 * math.sin(a) + 0.02 * ring
            bend = (0.5 + (x - 0.5) * 0.5 + wave, (0.76 + y) / 2)
            b.stroke([(0.5 + (x - 0.5) * 0.25, 0.79), bend, (x + wave * 0.6, y)], code, 0.034 - 0.006 * ring)
            b.disc(x + wave * 0.6, y, 0.02 - 0.003 * ring, "#ffd0d8" if ring == 2 else code)
    b.shape([(0.33, 0.79), (0.5, 0.76), (0.67, 0.79), (0.7, 0.92), (0.5, 0.95), (0.3, 0.92)], "#6d2348")
    b.disc(0.3 + 0.4 * min(1, b.t / 2.4), 0.2, 0.5, "#04181f", 0.35 * (1 - abs(1 - b.t / 2.4)), soft=0.12)
    b.pebbles(5, 16, 0.9, ("#3d5a4e", "#53685a", "#2c443c"))


def hermit(b: Brush) -> None:
    b.sky((0, "#cfe3d2"), (0.45, "#a9c9b4"), (1, "#7d9c86"))
    b.ridge(0.55, [0.02, 0.01, 0.0, 0.02, 0.03, 0.01, 0.0, 0.02, 0.01], "#d8b876")
    b.pebbles(21, 22, 0.66, ("#b8935a", "#c9a871", "#9a7848", "#e0c48c"))
    step = b.t * 2.6
    x = 0.24 + 0.07 * b.t
    y = 0.66 + 0.006 * math.sin(step * 2)
    for number in range(4):
        reach = 0.05 * math.sin(step + number * 1.6)
        b.stroke(
            [(x + 0.05 + 0.03 * number, y + 0.03), (x + 0.09 + 0.045 * number + reach, y + 0.085)],
            "#b5472c",
            0.017,
        )
    b.shape(
        [(x + 0.16, y - 0.02), (x + 0.3, y - 0.005), (x + 0.3, y + 0.045), (x + 0.14, y + 0.05)], "#cf5a35"
    )
    claw = 0.02 * math.sin(step * 1.3)
    b.shape(
        [(x + 0.28, y), (x + 0.4, y - 0.03 - claw), (x + 0.44, y + 0.01), (x + 0.36, y + 0.04)], "#d96a3f"
    )
    for side in (0.22, 0.26):
        b.stroke([(x + side, y - 0.01), (x + side + 0.02, y - 0.06)], "#8f3420", 0.009)
        b.disc(x + side + 0.02, y - 0.062, 0.014, "#1b1b1b")
    turns = [(0.17, "#7f6a94"), (0.14, "#9b86ad"), (0.1, "#b9a7c7"), (0.06, "#d8cbe0")]
    for number, (radius, code) in enumerate(turns):
        b.disc(x + 0.03 - 0.024 * number, y - 0.02 - 0.012 * number, radius, code)
    b.disc(0.8, 0.8, 0.07, "#e7d7b1")
    b.disc(0.785, 0.79, 0.045, "#cdb581")


def limpet(b: Brush) -> None:
    b.sky((0, "#5d6a52"), (0.5, "#6f6f58"), (1, "#3b4036"))
    for number in range(14):
        y = 0.07 * number
        bend = 0.02 * math.sin(number * 1.7)
        b.stroke(
            [(0, y), (0.3, y + 0.05 + bend), (0.7, y + 0.02 - bend), (1, y + 0.07)], "#4d5444", 0.05, 0.5
        )
    wet = 0.5 + 0.5 * math.sin(b.t * 0.9)
    b.disc(0.5, 0.52, 0.37, "#2f352c", 0.8)
    b.disc(0.5, 0.515, 0.335, "#8a7c5c")
    lift = 0.006 * math.sin(b.t * 1.5)
    for number in range(26):
        a = 2 * math.pi * number / 26
        tip = (0.5 + 0.02 * math.cos(a), 0.485 - lift + 0.012 * math.sin(a))
        edge = (0.5 + 0.31 * math.cos(a), 0.51 + 0.172 * math.sin(a))
        b.stroke([tip, edge], "#cbbd95" if number % 2 else "#6d6146", 0.016)
    b.disc(0.5, 0.484 - lift, 0.06, "#e3d7b2")
    b.disc(0.47, 0.476 - lift, 0.03, "#fff8e0", 0.25 + 0.4 * wet, soft=0.01)
    b.shape(
        [(-0.1, 0.86), (0.3, 0.82 + 0.02 * wet), (0.7, 0.87), (1.1, 0.83), (1.1, 1.1), (-0.1, 1.1)],
        "#3e6d6a",
        0.8,
    )
    b.glints(8, 20, 0.86, "#dff7ec")


def starfish(b: Brush) -> None:
    b.sky((0, "#2f5f72"), (0.55, "#2a4f61"), (1, "#1c3745"))
    b.shafts(4, "#b9e6f2")
    b.ridge(0.74, [0.02, 0.035, 0.0, -0.01, 0.01, 0.03, 0.015, 0.0, 0.02], "#24414f")
    b.ridge(0.85, [0.0, 0.01, 0.03, 0.02, 0.0, 0.015, 0.03, 0.01, 0.02], "#54483f")
    turn = 0.25 * math.sin(b.t * 0.5) + 0.35
    middle = (0.5, 0.52)
    points: list[tuple[float, float]] = []
    for number in range(10):
        a = turn + math.pi * number / 5 - math.pi / 2
        curl = 0.03 * math.sin(b.t * 1.1 + number)
        reach = 0.34 + curl if number % 2 == 0 else 0.12
        points.append((middle[0] + reach * math.cos(a), middle[1] + reach * 0.5625 * math.sin(a)))
    b.shape([(x + 0.015, y + 0.02) for x, y in points], "#132833", 0.5, smooth=False)
    b.shape(points, "#e07a48", smooth=False)
    for number in range(0, 10, 2):
        tip = points[number]
        for share in (0.25, 0.45, 0.65):
            x = middle[0] + (tip[0] - middle[0]) * share
            y = middle[1] + (tip[1] - middle[1]) * share
            b.disc(x, y, 0.026 - 0.018 * share, "#f6b48c")
    b.disc(*middle, 0.035, "#f6b48c")
    b.glints(31, 18, 0.2, "#c7eefa")


def crab(b: Brush) -> None:
    b.sky((0, "#1b242b"), (0.5, "#222b2f"), (1, "#11171a"))
    b.ridge(0.6, [0.0, -0.04, -0.08, -0.05, -0.02, -0.05, -0.09, -0.03, 0.0], "#2f2a2a")
    peer = 0.02 * math.sin(b.t * 1.2)
    b.shape([(0.26, 0.62), (0.34, 0.53), (0.5, 0.505), (0.66, 0.53), (0.74, 0.62), (0.5, 0.7)], "#8e2c25")
    b.shape([(0.3, 0.6), (0.38, 0.545), (0.5, 0.53), (0.62, 0.545), (0.7, 0.6), (0.5, 0.65)], "#b33c30")
    for side in (-1, 1):
        root = 0.5 + side * 0.08
        eye = (root + side * 0.02 + peer, 0.445)
        b.stroke([(root, 0.53), eye], "#8e2c25", 0.022)
        b.disc(*eye, 0.034, "#f4efe2")
        b.disc(eye[0] + peer * 0.5, eye[1], 0.018, "#101010")
        grip = 0.012 * math.sin(b.t * 2.2 + side)
        b.stroke([(0.5 + side * 0.2, 0.6), (0.5 + side * 0.33, 0.66)], "#8e2c25", 0.04)
        claw = ((0.3, 0.65), (0.43, 0.6 - grip), (0.47, 0.67), (0.4, 0.73 + grip), (0.31, 0.71))
        b.shape([(0.5 + side * x, y) for x, y in claw], "#c24a38")
    b.ridge(0.76, [0.02, 0.0, 0.03, 0.01, 0.0, 0.02, 0.04, 0.0, 0.02], "#1a1f20")
    b.pebbles(77, 20, 0.82, ("#262c2d", "#343a39", "#1d2223"))
    b.disc(0.5, 0.3, 0.7, "#7f3a2a", 0.08 + 0.05 * math.sin(b.t * 1.4), soft=0.15)


def weed(b: Brush) -> None:
    b.sky((0, "#0e2a33"), (0.5, "#12404a"), (1, "#071d22"))
    b.shafts(7, "#7fd0c4")
    for number in range(17):
        x = (number + 0.5) / 17
        top = 0.16 + 0.3 * abs(math.sin(number * 2.3))
        sway = 0.05 * math.sin(b.t * 0.9 + number * 0.8)
        code = ("#2f5b2e", "#466f33", "#1f4a34", "#5f7f36")[number % 4]
        points = [(x + sway * k * k, 1.02 - (1.02 - top) * k) for k in (0, 0.25, 0.5, 0.75, 1)]
        b.stroke(points, code, 0.034 - 0.01 * (number % 3))
    for number in range(9):
        rise = (b.t * 0.08 + number * 0.13) % 1
        b.disc(
            0.1 + 0.1 * number + 0.015 * math.sin(b.t * 2 + number),
            1 - rise,
            0.008 + 0.006 * (number % 3),
            "#c8f5ec",
            0.5,
        )
    x = 0.1 + 0.17 * b.t
    for number in range(6):
        fx, fy = (
            x - 0.1 * (number % 3) - 0.05 * number,
            0.42 + 0.05 * number + 0.01 * math.sin(b.t * 3 + number),
        )
        b.shape([(fx, fy), (fx - 0.05, fy - 0.012), (fx - 0.1, fy), (fx - 0.05, fy + 0.012)], "#d7e7d0", 0.9)
        flick = 0.012 * math.sin(b.t * 9 + number)
        b.shape(
            [(fx - 0.09, fy), (fx - 0.13, fy - 0.014 + flick), (fx - 0.13, fy + 0.014 + flick)],
            "#b8d1b8",
            0.9,
            False,
        )


def tide(b: Brush) -> None:
    b.sky((0, "#28345c"), (0.3, "#5a5f8c"), (0.48, "#c58f8d"), (1, "#28405c"))
    b.disc(0.3, 0.2, 0.07, "#f6f0dc")
    b.disc(0.3, 0.2, 0.16, "#f6f0dc", 0.18, soft=0.05)
    b.ridge(0.46, [0.0, -0.02, -0.035, -0.015, 0.0, 0.01, 0.0, 0.01, 0.005], "#474c70")
    b.water(0.5, "#66789c", swell=0.004, pace=0.8)
    b.ridge(0.8, [0.05, 0.03, 0.02, 0.04, 0.02, 0.0, 0.02, 0.03, 0.05], "#a78768")
    reach = 0.1 * (1 - math.cos(min(b.t, 6.3) * 0.5)) / 2
    for number, code in enumerate(("#4f6f97", "#5f86a6", "#7aa3b6")):
        edge = 0.62 + 0.07 * number + reach * (1 + 0.4 * number)
        b.water(edge + 0.012, "#eef5f0", swell=0.008, pace=1.3 + 0.3 * number, alpha=0.8)
        b.water(edge + 0.02, code, swell=0.008, pace=1.3 + 0.3 * number)
    b.glints(14, 44, 0.52, "#ffe9d6")


SCENES: dict[str, Callable[[Brush], None]] = {
    "bay": bay,
    "rocks": rocks,
    "anemone": anemone,
    "hermit": hermit,
    "limpet": limpet,
    "starfish": starfish,
    "crab": crab,
    "weed": weed,
    "tide": tide,
}

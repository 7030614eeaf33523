"""What is done and stands indoors: work, food, light, music."""

import math

from fox_cadence.drawn.brush import Brush
from fox_cadence.drawn.catalogue import entered


@entered(
    "in-cup", "Steaming cup", "food", "coffee tea cup mug drink hot steam morning break warm cosy breakfast"
)
def cup(b: Brush) -> None:
    b.sky((0, "#e7d3b7"), (0.66, "#d9bd97"), (0.67, "#8a5f44"), (1, "#6f4a35"))
    with b.square(0.5, 0.6, 0.7) as s:
        for number in range(3):
            x = 0.38 + 0.12 * number
            rise = [(x + 0.03 * math.sin(b.t * 1.5 + k * 0.8 + number), 0.34 - 0.08 * k) for k in range(6)]
            s.stroke(rise, "#ffffff", 0.025, 0.35)
        s.shape([(0.2, 0.75), (0.5, 0.72), (0.8, 0.75), (0.5, 0.82)], "#f5ede0")
        s.shape([(0.26, 0.4), (0.74, 0.4), (0.68, 0.74), (0.32, 0.74)], "#c0512f", smooth=False)
        s.stroke([(0.72, 0.46), (0.84, 0.5), (0.8, 0.62), (0.7, 0.64)], "#c0512f", 0.05)
        s.shape([(0.26, 0.4), (0.5, 0.36), (0.74, 0.4), (0.5, 0.44)], "#4a2a1b")


@entered(
    "in-fruit",
    "Bowl of fruit",
    "food",
    "fruit bowl apple pear orange healthy food eat kitchen vitamin diet",
    "still",
)
def fruit(b: Brush) -> None:
    b.sky((0, "#dfe3d3"), (0.64, "#cfd4bd"), (0.65, "#a98458"), (1, "#8c6a44"))
    with b.square(0.5, 0.56, 0.8) as s:
        for x, y, size, code in (
            (0.36, 0.4, 0.13, "#d9541e"), (0.6, 0.38, 0.14, "#c73a32"), (0.48, 0.3, 0.12, "#e8b02c"), (0.7,
            0.46, 0.1, "#88a83a"),
        ):  # fmt: skip
            s.disc(x, y, size, code)
            s.disc(x - size * 0.35, y - size * 0.35, size * 0.3, "#ffffff", 0.35, soft=0.03)
            s.stroke([(x, y - size), (x + 0.02, y - size - 0.05)], "#4a3323", 0.012)
        s.shape([(0.14, 0.46), (0.86, 0.46), (0.7, 0.78), (0.3, 0.78)], "#3d6e78")
        s.block(0.38, 0.74, 0.24, 0.05, "#2f5760", corner=0.02)


@entered(
    "in-pot", "Pot on the fire", "food", "cook cooking pot kitchen soup boil recipe stove heat dinner prepare"
)
def pot(b: Brush) -> None:
    b.sky((0, "#3d4347"), (0.72, "#2c3135"), (0.73, "#1f2224"), (1, "#151718"))
    with b.square(0.5, 0.56, 0.8) as s:
        for number in range(9):
            x = 0.3 + 0.05 * number
            high = 0.07 + 0.03 * math.sin(b.t * 9 + number * 1.9)
            s.shape(
                [(x - 0.03, 0.86), (x, 0.86 - high), (x + 0.03, 0.86)],
                ("#3f8fe0", "#f0a13a")[number % 2],
                0.9,
            )
        s.block(0.22, 0.42, 0.56, 0.36, "#b9bfc2", corner=0.05)
        s.block(0.12, 0.5, 0.12, 0.05, "#6b7073", corner=0.02)
        s.block(0.76, 0.5, 0.12, 0.05, "#6b7073", corner=0.02)
        lift = 0.012 * max(0.0, math.sin(b.t * 6))
        s.block(0.2, 0.37 - lift, 0.6, 0.06, "#d3d8da", corner=0.03)
        s.disc(0.5, 0.35 - lift, 0.025, "#6b7073")
        for number in range(4):
            rise = (b.t * 0.35 + number * 0.25) % 1
            s.disc(
                0.34 + 0.1 * number + 0.03 * math.sin(b.t + number),
                0.33 - 0.3 * rise,
                0.05,
                "#ffffff",
                0.3 * (1 - rise),
                soft=0.05,
            )


@entered(
    "in-notebook",
    "Writing in a notebook",
    "work",
    "write writing notebook pen note diary letter plan list work study learn script",
)
def notebook(b: Brush) -> None:
    b.sky((0, "#b58a5f"), (1, "#8d6643"))
    with b.square(0.5, 0.5, 0.95, -5) as s:
        s.block(0.16, 0.1, 0.68, 0.82, "#fbf7ea", corner=0.01)
        s.block(0.16, 0.1, 0.06, 0.82, "#d8cfb7")
        written = 30 * b.t / 6.5
        tip = (0.28, 0.2)
        for row in range(8):
            y = 0.2 + 0.085 * row
            s.stroke([(0.26, y + 0.02), (0.8, y + 0.02)], "#c9d6e0", 0.003)
            count = max(0, min(30 // 6, int(written - row * 4)))
            if count:
                line = [(0.27 + 0.009 * k, y + 0.008 * math.sin(k * 1.9 + row)) for k in range(count * 11)]
                s.stroke(line, "#2a3b57", 0.006)
                tip = line[-1]
        s.stroke([tip, (tip[0] + 0.16, tip[1] - 0.2)], "#b8431f", 0.03)
        s.stroke([tip, (tip[0] + 0.02, tip[1] - 0.025)], "#2a2a2a", 0.014)


@entered(
    "in-screen",
    "Typing on a screen",
    "work",
    "computer screen laptop type code program work office digital internet write online",
)
def screen(b: Brush) -> None:
    b.sky((0, "#39434a"), (0.74, "#2d363c"), (0.75, "#5a4636"), (1, "#46362a"))
    with b.square(0.5, 0.52, 0.95) as s:
        s.block(0.1, 0.16, 0.8, 0.54, "#15191c", corner=0.02)
        s.block(0.13, 0.19, 0.74, 0.48, "#eef3ee")
        done = int(b.t * 9)
        for row in range(9):
            words = min(6, max(0, done - row * 6))
            x = 0.16
            for word in range(words):
                wide = 0.04 + 0.05 * abs(math.sin(row * 3 + word * 1.7))
                s.block(
                    x,
                    0.22 + 0.05 * row,
                    wide,
                    0.018,
                    ("#3b5a54", "#8a8f86", "#b8431f")[(row + word) % 3],
                    corner=0.008,
                )
                x += wide + 0.015
            if words and words < 6 and math.sin(b.t * 9) > 0:
                s.block(x, 0.215 + 0.05 * row, 0.008, 0.028, "#15191c")
        s.block(0.02, 0.7, 0.96, 0.05, "#9aa2a5", corner=0.02)


@entered("in-clock", "Clock", "time", "clock time hour minute wait deadline late schedule hurry hands watch")
def clock(b: Brush) -> None:
    b.sky((0, "#d9dfe0"), (1, "#aeb9bb"))
    with b.square(0.5, 0.5, 0.8) as s:
        s.disc(0.51, 0.53, 0.43, "#000000", 0.15, soft=0.04)
        s.disc(0.5, 0.5, 0.43, "#2c3538")
        s.disc(0.5, 0.5, 0.39, "#fbfaf4")
        for mark in range(12):
            a = math.pi * mark / 6
            s.stroke(
                [
                    (0.5 + 0.32 * math.sin(a), 0.5 - 0.32 * math.cos(a)),
                    (0.5 + 0.36 * math.sin(a), 0.5 - 0.36 * math.cos(a)),
                ],
                "#2c3538",
                0.014,
            )
        for turns, reach, thick, code in (
            (b.t / 42, 0.2, 0.024, "#2c3538"),
            (b.t / 3.5, 0.31, 0.015, "#2c3538"),
            (b.t * 0.9, 0.33, 0.006, "#b8431f"),
        ):
            a = 2 * math.pi * turns + 0.7
            s.stroke([(0.5, 0.5), (0.5 + reach * math.sin(a), 0.5 - reach * math.cos(a))], code, thick)
        s.disc(0.5, 0.5, 0.018, "#b8431f")


@entered("in-hourglass", "Hourglass", "time", "hourglass sand time wait patience running out slow pass age")
def hourglass(b: Brush) -> None:
    b.sky((0, "#f0e4cf"), (1, "#cdb38c"))
    gone = min(1.0, b.t / 7)
    with b.square(0.5, 0.5, 0.9) as s:
        for y in (0.08, 0.88):
            s.block(0.24, y, 0.52, 0.05, "#6b4530", corner=0.015)
        s.shape(
            [(0.3, 0.13), (0.7, 0.13), (0.53, 0.5), (0.7, 0.88), (0.3, 0.88), (0.47, 0.5)],
            "#ffffff",
            0.55,
            smooth=False,
        )
        top = 0.18 + 0.28 * gone
        wide = 0.17 * (0.5 - top) / 0.37
        s.shape([(0.5 - wide, top), (0.5 + wide, top), (0.5, 0.5)], "#d9a441", smooth=False)
        s.stroke([(0.5, 0.49), (0.5, 0.87)], "#d9a441", 0.008)
        s.shape([(0.33, 0.88), (0.5, 0.86 - 0.22 * gone), (0.67, 0.88)], "#d9a441", smooth=False)


@entered("in-candle", "Candle", "home", "candle flame light fire warm evening memory quiet prayer hope dark")
def candle(b: Brush) -> None:
    b.sky((0, "#1c1512"), (1, "#2e1f17"))
    flicker = 0.01 * math.sin(b.t * 7) + 0.008 * math.sin(b.t * 11.3)
    b.disc(0.5, 0.42, 0.34 + flicker, "#ffb45a", 0.22, soft=0.3)
    with b.square(0.5, 0.56, 0.8) as s:
        s.block(0.42, 0.36, 0.16, 0.5, "#f3e6cc", corner=0.02)
        s.stroke([(0.5, 0.36), (0.5, 0.31)], "#2a1d14", 0.012)
        s.shape([(0.46, 0.3), (0.5 + 2 * flicker, 0.08), (0.54, 0.3), (0.5, 0.34)], "#ffb347")
        s.shape([(0.48, 0.3), (0.5 + flicker, 0.18), (0.52, 0.3), (0.5, 0.33)], "#fff2c6")
        s.block(0.32, 0.84, 0.36, 0.05, "#8a6a4a", corner=0.02)


@entered(
    "in-window",
    "Curtain in the wind",
    "home",
    "window curtain room home wind morning light summer air open calm house",
)
def window(b: Brush) -> None:
    b.sky((0, "#e8ddcc"), (1, "#cbb89d"))
    b.block(0.14, 0.1, 0.72, 0.7, "#fffaf0")
    b.block(0.18, 0.13, 0.64, 0.64, "#9fd0e2")
    b.block(0.18, 0.5, 0.64, 0.27, "#9cc08a")
    b.block(0.49, 0.13, 0.02, 0.64, "#fffaf0")
    for fold in range(6):
        sway = 0.05 * math.sin(b.t * 1.1 + fold * 0.5)
        for side in (-1, 1):
            x = 0.5 + side * (0.42 - 0.055 * fold)
            b.shape(
                [(x - 0.03, 0.06), (x + 0.03, 0.06), (x + 0.04 + sway * side, 0.92), (x - 0.04 + sway * side,
                0.92)], ("#f5efe2", "#e9dfca")[fold % 2], 0.92,
            )  # fmt: skip


@entered(
    "in-record",
    "Record turning",
    "music",
    "music record vinyl song turn play album listen party sound rhythm",
)
def record(b: Brush) -> None:
    b.sky((0, "#c98b58"), (1, "#9a6238"))
    with b.square(0.5, 0.5, 0.95) as s:
        s.block(0.04, 0.04, 0.92, 0.92, "#5c3a24", corner=0.04)
        s.disc(0.46, 0.5, 0.37, "#17181a")
        for ring in range(6):
            s.disc(0.46, 0.5, 0.34 - 0.035 * ring, ("#202225", "#17181a")[ring % 2])
        with s.square(0.46, 0.5, 0.26, 200 * b.t) as label:
            label.disc(0.5, 0.5, 0.5, "#b8431f")
            label.block(0.2, 0.3, 0.6, 0.08, "#fbeedd")
            label.block(0.3, 0.62, 0.4, 0.06, "#fbeedd")
            label.disc(0.5, 0.5, 0.05, "#17181a")
        s.stroke([(0.9, 0.12), (0.86, 0.5), (0.68, 0.66 + 0.004 * math.sin(b.t * 9))], "#d8d8d4", 0.022)
        s.disc(0.9, 0.12, 0.05, "#b5b5b0")


@entered(
    "in-bars", "Sound as bars", "music", "sound audio music voice wave podcast speak radio level equal listen"
)
def bars(b: Brush) -> None:
    b.sky((0, "#15262a"), (1, "#0d1719"))
    for number in range(23):
        x = 0.06 + 0.039 * number
        high = 0.04 + 0.2 * abs(math.sin(b.t * 2.7 + number * 0.8) * math.sin(b.t * 1.3 + number * 0.35))
        b.block(x, 0.5 - high, 0.024, 2 * high, ("#e58a4c", "#f0b46d", "#5fa697")[number % 3], corner=0.011)


@entered(
    "in-books",
    "Shelf of books",
    "learning",
    "book books read library learn study school knowledge story education",
    "still",
)
def books(b: Brush) -> None:
    b.sky((0, "#6d5440"), (1, "#4f3b2c"))
    for row in range(4):
        y = 0.05 + 0.24 * row
        b.block(0, y + 0.2, 1, 0.03, "#37281d")
        x = 0.03
        number = 0
        while x < 0.94:
            wide = 0.03 + 0.03 * abs(math.sin(row * 7 + number * 2.3))
            high = 0.14 + 0.05 * abs(math.sin(row * 3 + number * 1.1))
            code = ("#a4483a", "#3d6e78", "#d0a349", "#5c7a4a", "#7d5a7a", "#d8cbb0")[
                (row * 5 + number * 7) % 6
            ]
            b.block(x, y + 0.2 - high, wide, high, code, corner=0.004)
            b.block(x + wide * 0.2, y + 0.215 - high, wide * 0.6, 0.008, "#f2e6c8", 0.8)
            x, number = x + wide + 0.006, number + 1

"""Things that stand for a thought: numbers, money, science, safety."""

import math

from fox_cadence.drawn.brush import Brush
from fox_cadence.drawn.catalogue import entered


@entered(
    "idea-columns",
    "Columns rise",
    "numbers",
    "chart graph column growth rise numbers data statistics result business sales more",
)
def columns(b: Brush) -> None:
    b.sky((0, "#f1efe6"), (1, "#dfdccf"))
    with b.square(0.5, 0.52, 0.9) as s:
        for line in range(5):
            s.stroke([(0.06, 0.14 + 0.17 * line), (0.94, 0.14 + 0.17 * line)], "#c8c4b4", 0.004)
        for number, high in enumerate((0.18, 0.27, 0.24, 0.42, 0.55, 0.68)):
            shown = high * min(1.0, max(0.0, (b.t - 0.45 * number) / 1.6)) ** 0.5
            s.block(
                0.1 + 0.14 * number,
                0.82 - shown,
                0.1,
                shown,
                ("#5fa697", "#b8431f")[number == 5],
                corner=0.008,
            )
        s.stroke([(0.06, 0.82), (0.94, 0.82)], "#3b4644", 0.01)


@entered(
    "idea-line",
    "A line climbs",
    "numbers",
    "chart graph line growth rise stock price trend up progress data market economy",
)
def line(b: Brush) -> None:
    b.sky((0, "#14282c"), (1, "#0b1719"))
    with b.square(0.5, 0.52, 0.92) as s:
        for number in range(6):
            s.stroke([(0.05, 0.12 + 0.15 * number), (0.95, 0.12 + 0.15 * number)], "#2a4146", 0.003)
        points = [
            (0.06 + 0.88 * k / 60, 0.8 - 0.6 * (k / 60) ** 1.5 - 0.05 * math.sin(k * 0.55) * (1 - k / 90))
            for k in range(61)
        ]
        seen = points[: max(2, min(61, int(61 * b.t / 5.5)))]
        s.stroke(seen, "#f0a15a", 0.016)
        s.disc(*seen[-1], 0.024, "#fff1dc")


@entered(
    "idea-fall",
    "A line falls",
    "numbers",
    "chart graph fall drop loss decline crisis down less decrease debt recession",
)
def fall(b: Brush) -> None:
    b.sky((0, "#f4ece4"), (1, "#e3d3c6"))
    with b.square(0.5, 0.5, 0.92) as s:
        for number in range(6):
            s.stroke([(0.05, 0.12 + 0.15 * number), (0.95, 0.12 + 0.15 * number)], "#d6c5b6", 0.003)
        points = [
            (0.06 + 0.88 * k / 60, 0.2 + 0.6 * (k / 60) ** 1.7 + 0.04 * math.sin(k * 0.6)) for k in range(61)
        ]
        seen = points[: max(2, min(61, int(61 * b.t / 5.0)))]
        s.stroke(seen, "#8f2f1d", 0.018)
        s.disc(*seen[-1], 0.026, "#8f2f1d")


@entered(
    "idea-shares",
    "Shares of a whole",
    "numbers",
    "pie chart share part percent half majority divide budget survey statistics",
)
def shares(b: Brush) -> None:
    b.sky((0, "#e4ebe7"), (1, "#c9d6d0"))
    with b.square(0.5, 0.5, 0.8) as s:
        start = -math.pi / 2
        shown = 2 * math.pi * min(1.0, b.t / 3.2)
        for share, code in ((0.44, "#2f6b62"), (0.27, "#e08a4a"), (0.19, "#d9c36a"), (0.1, "#8a6a8a")):
            end = min(start + 2 * math.pi * share, -math.pi / 2 + shown)
            if end <= start:
                break
            steps = max(2, int((end - start) * 20))
            rim = [
                (
                    0.5 + 0.44 * math.cos(start + (end - start) * k / steps),
                    0.5 + 0.44 * math.sin(start + (end - start) * k / steps),
                )
                for k in range(steps + 1)
            ]
            s.shape([(0.5, 0.5), *rim], code, smooth=False)
            start = end
        s.disc(0.5, 0.5, 0.2, "#d6e1dc")


@entered(
    "idea-coins",
    "Coins pile up",
    "money",
    "money coin coins save saving rich price cost pay budget finance bank income",
)
def coins(b: Brush) -> None:
    b.sky((0, "#26423d"), (1, "#162925"))
    with b.square(0.5, 0.55, 0.95) as s:
        for pile, most in enumerate((4, 7, 10)):
            x = 0.2 + 0.28 * pile
            for number in range(most):
                come = min(1.0, max(0.0, b.t * 2.4 - number - 0.6 * pile))
                if come <= 0:
                    continue
                y = 0.84 - 0.055 * number - 0.4 * (1 - come) ** 2
                s.block(x - 0.11, y, 0.22, 0.06, "#b98a2b", come, corner=0.03)
                s.block(x - 0.11, y - 0.012, 0.22, 0.05, "#f0c75a", come, corner=0.025)


@entered(
    "idea-bulb",
    "An idea lights up",
    "ideas",
    "idea light bulb think invention solution clever tip trick creative learn",
)
def bulb(b: Brush) -> None:
    glow = min(1.0, max(0.0, (b.t - 1.2) / 1.0))
    b.sky((0, "#20303a"), (1, "#142027"))
    b.disc(0.5, 0.42, 0.42, "#ffdf8a", 0.4 * glow, soft=0.34)
    with b.square(0.5, 0.46, 0.7) as s:
        s.disc(0.5, 0.38, 0.28, "#5b6a70")
        s.disc(0.5, 0.38, 0.26, "#ffe9a8", 0.25 + 0.75 * glow)
        s.shape(
            [(0.36, 0.56), (0.64, 0.56), (0.6, 0.72), (0.4, 0.72)],
            "#ffe9a8",
            0.25 + 0.75 * glow,
            smooth=False,
        )
        s.stroke([(0.42, 0.58), (0.4, 0.38), (0.5, 0.46), (0.6, 0.38), (0.58, 0.58)], "#b8731f", 0.014)
        for number in range(3):
            s.block(0.4, 0.73 + 0.05 * number, 0.2, 0.035, "#9aa5a8", corner=0.015)


@entered(
    "idea-lock",
    "Closed lock",
    "safety",
    "lock safe security password private protect key data closed secret trust",
    "still",
)
def lock(b: Brush) -> None:
    b.sky((0, "#37474d"), (1, "#22302f"))
    with b.square(0.5, 0.52, 0.75) as s:
        s.stroke(
            [(0.32, 0.46), (0.32, 0.28), (0.4, 0.16), (0.5, 0.13), (0.6, 0.16), (0.68, 0.28), (0.68, 0.46)],
            "#c9cfd0",
            0.07,
        )
        s.block(0.2, 0.44, 0.6, 0.44, "#d99a3f", corner=0.05)
        s.disc(0.5, 0.62, 0.06, "#3a2a18")
        s.shape([(0.47, 0.64), (0.53, 0.64), (0.55, 0.78), (0.45, 0.78)], "#3a2a18", smooth=False)


@entered(
    "idea-planet",
    "Planet and moons",
    "science",
    "planet space science orbit moon world earth astronomy universe future",
)
def planet(b: Brush) -> None:
    b.sky((0, "#0a0f1f"), (1, "#1a1f3a"))
    for number in range(70):
        b.disc(
            (number * 0.618) % 1, (number * 0.377) % 1, 0.002, "#ffffff", 0.4 + 0.4 * math.sin(number + b.t)
        )
    with b.square(0.5, 0.5, 0.9) as s:
        moons = [
            (0.46 * math.cos(b.t * 0.9), 0.14 * math.sin(b.t * 0.9), 0.03, "#d8d2c4"),
            (-0.36 * math.cos(b.t * 1.4), 0.1 * math.sin(b.t * 1.4), 0.02, "#e0a37a"),
        ]
        for x, y, size, code in moons:
            if y < 0:
                s.disc(0.5 + x, 0.5 + y, size, code)
        s.disc(0.5, 0.5, 0.24, "#3f7fa3")
        for number in range(5):
            x = 0.5 + 0.14 * math.sin(b.t * 0.5 + number * 1.3)
            s.disc(x, 0.38 + 0.06 * number, 0.05, "#7fb28a", 0.85, soft=0.02)
        s.disc(0.6, 0.58, 0.2, "#0a0f1f", 0.4, soft=0.14)
        for x, y, size, code in moons:
            if y >= 0:
                s.disc(0.5 + x, 0.5 + y, size, code)


@entered(
    "idea-flask",
    "Bubbling flask",
    "science",
    "science flask chemistry experiment test laboratory research mix reaction study medicine",
)
def flask(b: Brush) -> None:
    b.sky((0, "#e3ecec"), (0.76, "#cbdada"), (0.77, "#8a9a98"), (1, "#728280"))
    with b.square(0.5, 0.5, 0.85) as s:
        s.shape(
            [(0.43, 0.1), (0.57, 0.1), (0.57, 0.4), (0.84, 0.86), (0.16, 0.86), (0.43, 0.4)],
            "#f4fbfb",
            0.8,
            smooth=False,
        )
        s.shape([(0.34, 0.56), (0.66, 0.56), (0.82, 0.84), (0.18, 0.84)], "#3fa38c", 0.9, smooth=False)
        for number in range(14):
            rise = (b.t * 0.35 + number * 0.137) % 1
            x = 0.5 + (0.26 * (1 - rise) + 0.03) * math.sin(number * 2.4)
            s.disc(x, 0.82 - 0.5 * rise, 0.012 + 0.012 * (number % 3), "#d9fff2", 0.8 * (1 - rise * 0.7))
        s.block(0.4, 0.07, 0.2, 0.05, "#9fb3b3", corner=0.02)


@entered(
    "idea-gears",
    "Wheels turn together",
    "work",
    "gear wheel machine work engine process system technology mechanic factory together",
)
def gears(b: Brush) -> None:
    b.sky((0, "#d9d4c8"), (1, "#b5ad9c"))
    for x, y, size, teeth, pace, code in (
        (0.36, 0.4, 0.62, 12, 18, "#4f6a6c"),
        (0.68, 0.66, 0.46, 9, -24, "#b06a38"),
        (0.74, 0.24, 0.36, 7, -31, "#7b7f5a"),
    ):
        with b.square(x, y, size, pace * b.t) as s:
            for tooth in range(teeth):
                a = 2 * math.pi * tooth / teeth
                s.stroke(
                    [
                        (0.5 + 0.3 * math.cos(a), 0.5 + 0.3 * math.sin(a)),
                        (0.5 + 0.43 * math.cos(a), 0.5 + 0.43 * math.sin(a)),
                    ],
                    code,
                    0.1,
                )
            s.disc(0.5, 0.5, 0.36, code)
            s.disc(0.5, 0.5, 0.12, "#d0c9ba")


@entered(
    "idea-tick",
    "Ticked off",
    "ideas",
    "check tick done list task yes right correct complete finish success agree",
)
def tick(b: Brush) -> None:
    b.sky((0, "#e6efe6"), (1, "#c4d8c6"))
    with b.square(0.5, 0.5, 0.85) as s:
        for row in range(4):
            y = 0.16 + 0.2 * row
            s.block(0.1, y, 0.12, 0.12, "#ffffff", corner=0.02)
            s.block(0.28, y + 0.035, 0.6 - 0.09 * (row % 2), 0.05, "#8aa394", corner=0.025)
            done = min(1.0, max(0.0, (b.t - 0.6 - 1.3 * row) / 0.4))
            if done:
                mark = [(0.12, y + 0.06), (0.155, y + 0.1), (0.155 + 0.09 * done, y + 0.1 - 0.14 * done)]
                s.stroke(mark, "#b8431f", 0.028)

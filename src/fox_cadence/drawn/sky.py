"""Weather, sun, moon and stars."""

import math

import numpy as np

from fox_cadence.drawn.brush import Brush
from fox_cadence.drawn.catalogue import entered


@entered("sky-clouds", "Passing clouds", "sky", "cloud sky blue air day light dream free think weather")
def clouds(b: Brush) -> None:
    b.sky((0, "#5d9cc9"), (1, "#d8ebf2"))
    for number in range(9):
        speed = 0.02 + 0.012 * (number % 3)
        x, y = (number * 0.23 + speed * b.t) % 1.5 - 0.25, 0.12 + 0.095 * number
        for puff, (dx, size) in enumerate(((-0.09, 0.06), (0.0, 0.09), (0.09, 0.065), (0.04, 0.07))):
            b.disc(x + dx, y - 0.012 * (puff % 2), size, "#ffffff", 0.75, soft=0.03)


@entered("sky-rain", "Rain on a window", "sky", "rain drop window sad wet weather autumn wait lonely bad day")
def rain(b: Brush) -> None:
    b.sky((0, "#55636d"), (1, "#2b363f"))
    for number in range(10):
        b.disc(
            (number * 0.37) % 1,
            (number * 0.23) % 1,
            0.07,
            ("#e2b36b", "#9db6c4")[number % 2],
            0.16,
            soft=0.06,
        )
    for number in range(60):
        x = (number * 0.618) % 1
        y = (number * 0.271 + 0.05 * b.t * (1 + number % 5)) % 1.1 - 0.05
        b.stroke([(x, y - 0.05), (x + 0.002, y)], "#cfdde4", 0.004, 0.35)
        b.disc(x, y, 0.007 + 0.004 * (number % 3), "#e6f0f4", 0.7)


@entered("sky-snow", "Snowfall", "sky", "snow winter cold christmas quiet white flakes season weather")
def snow(b: Brush) -> None:
    b.sky((0, "#3c4c66"), (1, "#8ea1b8"))
    b.ridge(0.8, [0.02, 0.0, 0.03, 0.01, 0.0, 0.02], "#dfe8f0")
    for number, (across, down) in enumerate(np.random.default_rng(3).random((130, 2))):
        near = 0.4 + (number % 5) * 0.25
        x = (across + 0.02 * math.sin(b.t * 0.9 + number)) % 1
        y = (down * 1.06 + 0.07 * b.t * near) % 1.06 - 0.03
        b.disc(x, y, 0.004 * near + 0.002, "#ffffff", 0.85)


@entered(
    "sky-sunrise", "Sunrise", "sky", "sun sunrise morning dawn begin start new day light hope warm energy"
)
def sunrise(b: Brush) -> None:
    b.sky((0, "#486a94"), (0.55, "#f2b17a"), (0.7, "#ffdf9f"), (1, "#3d3540"))
    up = 0.72 - 0.036 * b.t
    b.disc(0.5, up, 0.34, "#ffe7b0", 0.4, soft=0.2)
    b.disc(0.5, up, 0.13, "#fff5d6")
    b.ridge(0.7, [0.02, -0.03, -0.01, 0.02, -0.02, -0.04, 0.0, 0.02], "#463a4c")
    b.ridge(0.82, [0.0, 0.02, -0.01, 0.0, 0.03, 0.0, -0.02], "#2c2733")


@entered(
    "sky-stars", "Stars turn", "sky", "star night space universe sky sleep dream infinite galaxy dark time"
)
def stars(b: Brush) -> None:
    b.sky((0, "#070b18"), (1, "#1b2740"))
    with b.square(0.5, 0.6, 2.4, 3 * b.t) as s:
        for number in range(220):
            a, reach = number * 2.39996, 0.5 * math.sqrt((number + 0.5) / 220)
            shine = 0.5 + 0.5 * math.sin(b.t * 1.3 + number)
            s.disc(
                0.5 + reach * math.cos(a),
                0.5 + reach * math.sin(a),
                0.0012 + 0.0012 * (number % 3),
                "#f4f2e6",
                0.4 + 0.6 * shine,
            )
    b.ridge(0.9, [0.03, 0.0, 0.02, -0.02, 0.01, 0.03], "#05070d")


@entered("sky-moon", "Moon and cloud", "sky", "moon night cloud quiet sleep dark mystery late")
def moon(b: Brush) -> None:
    b.sky((0, "#0f1830"), (1, "#33425f"))
    b.disc(0.56, 0.36, 0.3, "#cdd8ea", 0.2, soft=0.18)
    b.disc(0.56, 0.36, 0.15, "#f3f1e4")
    for x, y, size in ((0.52, 0.33, 0.03), (0.6, 0.4, 0.022), (0.57, 0.31, 0.015)):
        b.disc(x, y, size, "#d9d6c6")
    for number in range(5):
        b.disc(
            (0.28 * number + 0.035 * b.t) % 1.4 - 0.2,
            0.42 + 0.06 * (number % 3),
            0.11,
            "#26334d",
            0.85,
            soft=0.09,
        )


@entered(
    "sky-birds", "Birds fly over", "sky", "bird flock fly flight free freedom leave migrate together team"
)
def birds(b: Brush) -> None:
    b.sky((0, "#f0cfa2"), (1, "#b9c7cf"))
    for number in range(13):
        row = (number + 1) // 2
        side = 1 if number % 2 else -1
        x = 0.05 + 0.11 * b.t - 0.05 * row + 0.01 * math.sin(b.t + number)
        y = 0.4 + side * 0.032 * row + 0.01 * math.sin(b.t * 1.3 + number)
        beat = 0.28 * math.sin(b.t * 7 + number)
        with b.square(x, y, 0.085) as s:
            s.stroke(
                [(0.0, 0.45 - beat), (0.3, 0.42), (0.5, 0.55), (0.7, 0.42), (1.0, 0.45 - beat)],
                "#2d2f36",
                0.1,
            )

"""Towns, streets and ways."""

import math

from fox_cadence.drawn.brush import Brush
from fox_cadence.drawn.catalogue import entered


@entered(
    "town-night",
    "Town at night",
    "town",
    "city town night skyline lights buildings windows late urban business",
)
def night(b: Brush) -> None:
    b.sky((0, "#141a30"), (0.7, "#3d3553"), (1, "#151520"))
    for row, (base, code) in enumerate(((0.42, "#2a2b46"), (0.56, "#1d1e33"), (0.7, "#11121f"))):
        for number in range(7):
            x = number / 6.6 - 0.03 + 0.02 * row
            top = base - 0.1 * abs(math.sin(number * 2.1 + row * 1.3))
            b.block(x, top, 0.13, 1, code)
            for window in range(14):
                on = math.sin(number * 5.1 + window * 3.3 + row + 0.25 * b.t) > 0.25
                if on:
                    b.block(
                        x + 0.02 + 0.036 * (window % 3), top + 0.02 + 0.035 * (window // 3), 0.018, 0.014,
                        ("#ffd98a", "#ffc76a", "#cfe3ff")[(window + number) % 3], 0.9,
                    )  # fmt: skip


@entered(
    "town-cars",
    "Lights of cars",
    "town",
    "street car traffic road drive rush hour busy commute speed night city",
)
def cars(b: Brush) -> None:
    b.sky((0, "#1b2033"), (0.45, "#3a3a50"), (1, "#12141c"))
    b.shape([(0.44, 0.45), (0.56, 0.45), (1.3, 1.02), (-0.3, 1.02)], "#23262f", smooth=False)
    for number in range(16):
        way = number % 2
        far = (number * 0.137 + (0.12 if way else -0.16) * b.t) % 1
        near = far * far
        y = 0.46 + 0.55 * near
        x = 0.5 + (0.06 + 0.36 * near) * (1 if way else -1)
        for side in (-1, 1):
            code = "#ff4b3a" if way else "#fff3cf"
            b.disc(x + side * 0.05 * near, y, 0.004 + 0.02 * near, code, 0.9, soft=0.012 * (0.2 + near))


@entered(
    "town-road", "Open road", "ways", "road highway drive travel trip journey forward future car way ahead"
)
def road(b: Brush) -> None:
    b.sky((0, "#7fb2cf"), (0.5, "#f1dfb9"), (1, "#8d9a63"))
    b.ridge(0.48, [0.0, -0.04, -0.01, -0.06, -0.02, -0.03, 0.0], "#7c8b86")
    b.ridge(0.52, [0.0, 0.003, 0.0], "#9aa56c")
    b.shape([(0.485, 0.52), (0.515, 0.52), (0.95, 1.02), (0.05, 1.02)], "#4b4d52", smooth=False)
    for number in range(9):
        far = ((number + 0.9 * b.t) % 9) / 9
        near, next_ = far**2.4, min(1.0, far + 0.05) ** 2.4
        b.shape(
            [(0.5 - 0.012 * near, 0.52 + 0.5 * near), (0.5 + 0.012 * near, 0.52 + 0.5 * near),
             (0.5 + 0.012 * next_, 0.52 + 0.5 * next_), (0.5 - 0.012 * next_, 0.52 + 0.5 * next_)],
            "#f5efd8", smooth=False,
        )  # fmt: skip


@entered(
    "town-train",
    "A train passes",
    "ways",
    "train rail railway travel commute station fast journey passing transport",
)
def train(b: Brush) -> None:
    b.sky((0, "#cfdbe2"), (0.6, "#e9e2d3"), (1, "#8b8f78"))
    b.ridge(0.55, [0.01, -0.03, 0.0, -0.02, 0.01, -0.01], "#93a48e")
    b.block(0, 0.66, 1, 0.4, "#7d7a63")
    b.block(0, 0.665, 1, 0.012, "#5b5650")
    for number in range(6):
        x = -2.2 + 0.52 * number + 0.55 * b.t
        b.block(x, 0.5, 0.5, 0.155, "#b4442f" if number < 5 else "#8f3424", corner=0.02)
        b.block(x, 0.6, 0.5, 0.015, "#f2e3c4")
        for window in range(5):
            b.block(x + 0.03 + 0.092 * window, 0.525, 0.07, 0.05, "#dcebf0", corner=0.01)
        for wheel in (0.1, 0.4):
            b.disc(x + wheel, 0.66, 0.025, "#33312f")


@entered(
    "town-map",
    "A route on a map",
    "ways",
    "map route plan way place navigation travel delivery location find where",
)
def route(b: Brush) -> None:
    b.sky((0, "#eee5cf"), (1, "#e3d6b8"))
    for number in range(6):
        y = 0.1 + 0.16 * number
        b.stroke(
            [(-0.02, y), (0.3, y + 0.05 * math.sin(number)), (0.7, y - 0.04), (1.02, y + 0.03)],
            "#cdbf9d",
            0.02,
        )
        x = 0.08 + 0.18 * number
        b.stroke([(x, -0.02), (x + 0.04 * math.cos(number), 0.5), (x - 0.03, 1.02)], "#cdbf9d", 0.014)
    b.shape([(0.6, 0.15), (0.95, 0.2), (0.9, 0.42), (0.62, 0.36)], "#b8d1d6")
    way = [
        (0.2 + 0.5 * k / 40 + 0.07 * math.sin(k / 5), 0.85 - 0.6 * k / 40 + 0.04 * math.cos(k / 3.4))
        for k in range(41)
    ]
    seen = max(2, min(41, int(41 * b.t / 5.5)))
    b.stroke(way[:seen], "#b8431f", 0.016)
    b.disc(*way[0], 0.022, "#2b4a46")
    end = way[seen - 1]
    with b.square(end[0], end[1] - 0.03, 0.12) as s:
        s.shape([(0.5, 0.95), (0.2, 0.35), (0.5, 0.02), (0.8, 0.35)], "#b8431f")
        s.disc(0.5, 0.36, 0.12, "#fff6e6")


@entered(
    "town-plane",
    "Paper aeroplane",
    "ways",
    "paper plane aeroplane fly send message mail idea launch travel trip light",
)
def plane(b: Brush) -> None:
    b.sky((0, "#a9cfe0"), (1, "#e8f2ee"))
    for number in range(5):
        b.disc((0.31 * number - 0.03 * b.t) % 1.4 - 0.2, 0.2 + 0.15 * number, 0.08, "#ffffff", 0.6, soft=0.06)
    x, y = 0.02 + 0.14 * b.t, 0.62 - 0.035 * b.t + 0.03 * math.sin(b.t * 1.7)
    b.stroke([(x - 0.3, y + 0.09), (x - 0.14, y + 0.05), (x - 0.05, y + 0.02)], "#ffffff", 0.006, 0.8)
    with b.square(x, y, 0.3, -14 + 6 * math.cos(b.t * 1.7)) as s:
        s.shape([(0.0, 0.5), (1.0, 0.3), (0.32, 0.62)], "#ffffff", smooth=False)
        s.shape([(0.32, 0.62), (1.0, 0.3), (0.5, 0.8)], "#d5dde0", smooth=False)
        s.shape([(0.32, 0.62), (0.42, 0.68), (0.36, 0.86)], "#b7c3c8", smooth=False)


@entered(
    "town-door",
    "A door stands open",
    "home",
    "door open house home welcome enter chance opportunity begin light",
    "still",
)
def door(b: Brush) -> None:
    b.sky((0, "#4b5a62"), (1, "#333f45"))
    b.block(0, 0.84, 1, 0.2, "#2a3338")
    with b.square(0.5, 0.5, 0.9) as s:
        s.block(0.28, 0.08, 0.44, 0.82, "#ffe5ae")
        s.block(0.22, 0.04, 0.06, 0.86, "#c9b799")
        s.block(0.72, 0.04, 0.06, 0.86, "#c9b799")
        s.block(0.22, 0.02, 0.56, 0.06, "#c9b799")
        s.shape([(0.72, 0.08), (0.98, 0.14), (0.98, 1.0), (0.72, 0.9)], "#7a3f2c", smooth=False)
        s.disc(0.94, 0.55, 0.015, "#e3c46b")
    b.shape([(0.3, 0.88), (0.7, 0.88), (0.9, 1.02), (0.1, 1.02)], "#ffe5ae", 0.35, smooth=False)

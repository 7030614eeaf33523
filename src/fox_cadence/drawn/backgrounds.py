"""Backgrounds in three colours of the piece: moving, quiet, to put words on. Each repeats without a seam."""

import math
from collections.abc import Callable

import numpy as np
import skia

from fox_cadence.drawn.brush import Brush, colour
from fox_cadence.drawn.catalogue import BACKGROUND_S, Painter, entered

Colours = tuple[str, str, str]
"""The ground, and two that lie on it."""

USUAL: Colours = ("#1d3b3a", "#3f7f78", "#e0a05a")

InColours = Callable[[Brush, Colours], None]
_PAINTERS: dict[str, InColours] = {}


def _background(item_id: str, title: str, words: str) -> Callable[[InColours], Painter]:
    def enter(paint: InColours) -> Painter:
        _PAINTERS[item_id] = paint
        return entered(item_id, title, "backgrounds", f"background ground {words}", "background")(
            lambda b: paint(b, USUAL)
        )

    return enter


def in_colours(item_id: str, colours: Colours) -> Painter:
    """A background in other colours. Raises KeyError for what is none."""
    paint = _PAINTERS[item_id]
    return lambda b: paint(b, colours)


def turn(b: Brush) -> float:
    """The angle that goes round once while a background lasts."""
    return 2 * math.pi * b.t / BACKGROUND_S


@_background("ground-water", "Moving water", "water sea wave flow calm")
def water(b: Brush, c: Colours) -> None:
    b.sky((0, c[0]), (1, c[0]))
    for number in range(9):
        y = 0.06 + 0.11 * number
        heights = [
            0.018 * math.sin(0.42 * k + turn(b) * (1 + number % 2) + number * 1.9)
            + 0.012 * math.sin(0.9 * k - turn(b) + number)
            for k in range(40)
        ]
        b.ridge(y, heights, c[1 + number % 2] if number % 3 == 2 else c[1], 0.16)


@_background("ground-light", "Soft light", "light glow warm blur calm sun")
def light(b: Brush, c: Colours) -> None:
    b.sky((0, c[0]), (1, c[0]))
    for number in range(5):
        x = 0.5 + 0.42 * math.sin(turn(b) * (1 + number % 2) + number * 1.7)
        y = 0.5 + 0.42 * math.cos(turn(b) + number * 2.3)
        b.disc(x, y, 0.36, c[1 + number % 2], 0.42, soft=0.34)


@_background("ground-grain", "Grain", "film grain old texture noise")
def grain(b: Brush, c: Colours) -> None:
    b.sky((0, c[1]), (1, c[0]))
    b.disc(0.5, 0.5, 0.5, c[1], 0.5, soft=0.4)
    chance = np.random.default_rng(int(b.t * 12))
    for x, y, size in chance.random((420, 3)):
        b.disc(x, y, 0.0012 + 0.0016 * size, c[2] if size > 0.5 else "#000000", 0.35)


@_background("ground-paper", "Paper", "paper page texture note craft write")
def paper(b: Brush, c: Colours) -> None:
    b.sky((0, c[0]), (1, c[0]))
    chance = np.random.default_rng(7)
    for x, y, lean, long in chance.random((260, 4)):
        a = lean * math.pi
        reach = 0.01 + 0.025 * long
        b.stroke([(x, y), (x + reach * math.cos(a), y + reach * math.sin(a) * 0.6)], c[1], 0.0022, 0.55)
    edge = 0.5 + 0.5 * math.sin(turn(b))
    b.disc(0.3 + 0.4 * edge, 0.2, 0.5, c[2], 0.1, soft=0.45)


@_background("ground-shapes", "Drifting shapes", "shapes drift circles geometry playful abstract")
def shapes(b: Brush, c: Colours) -> None:
    b.sky((0, c[0]), (1, c[0]))
    for number, (across, down) in enumerate(np.random.default_rng(21).random((16, 2))):
        x = across + 0.06 * math.sin(turn(b) + number)
        y = down + 0.05 * math.cos(turn(b) + number * 1.3)
        with b.square(
            x, y, 0.1 + 0.05 * (number % 4), math.degrees(turn(b)) * (-1) ** number + 25 * number
        ) as s:
            code = c[1 + number % 2]
            if number % 3 == 0:
                s.disc(0.5, 0.5, 0.5, code, 0.5)
            elif number % 3 == 1:
                s.block(0.08, 0.08, 0.84, 0.84, code, 0.45, corner=0.12)
            else:
                s.shape([(0.5, 0.05), (0.95, 0.85), (0.05, 0.85)], code, 0.5, smooth=False)


@_background("ground-stripes", "Slow stripes", "stripes lines pattern bands")
def stripes(b: Brush, c: Colours) -> None:
    b.sky((0, c[0]), (1, c[0]))
    for number in range(-2, 11):
        x = 0.2 * (number + b.t / BACKGROUND_S * 2) - 0.3
        b.shape(
            [(x, -0.05), (x + 0.09, -0.05), (x - 0.16, 1.05), (x - 0.25, 1.05)],
            c[1 + number % 2],
            0.32,
            smooth=False,
        )


@_background("ground-dots", "Field of dots", "dots grid pattern points pulse")
def dots(b: Brush, c: Colours) -> None:
    b.sky((0, c[0]), (1, c[0]))
    across, down = (9, 16) if b.height > b.width else (16, 9)
    for row in range(down):
        for column in range(across):
            x, y = (column + 0.5) / across, (row + 0.5) / down
            beat = 0.5 + 0.5 * math.sin(turn(b) * 2 - 5 * math.hypot(x - 0.5, y - 0.5))
            b.disc(x, y, 0.006 + 0.018 * beat, c[1 + (row + column) % 2], 0.35 + 0.4 * beat)


@_background("ground-rays", "Turning rays", "rays sun light beams turn energy")
def rays(b: Brush, c: Colours) -> None:
    b.sky((0, c[0]), (1, c[0]))
    with b.square(0.5, 0.5, 3.2, 45 * b.t / BACKGROUND_S) as s:
        for number in range(8):
            a = 2 * math.pi * number / 8
            s.shape(
                [(0.5, 0.5), (0.5 + 0.5 * math.cos(a), 0.5 + 0.5 * math.sin(a)),
                 (0.5 + 0.5 * math.cos(a + 0.39), 0.5 + 0.5 * math.sin(a + 0.39))],
                c[1], 0.4, smooth=False,
            )  # fmt: skip
    b.disc(0.5, 0.5, 0.16, c[2], 0.5, soft=0.14)


@_background("ground-mist", "Rising mist", "mist fog smoke cloud soft")
def mist(b: Brush, c: Colours) -> None:
    b.sky((0, c[0]), (1, c[1]))
    for number in range(12):
        rise = (number / 12 + b.t / BACKGROUND_S) % 1
        x = (number * 0.618) % 1 + 0.08 * math.sin(turn(b) + number)
        b.disc(x, 1.2 - 1.4 * rise, 0.16, c[2], 0.22 * math.sin(math.pi * rise), soft=0.15)


@_background("ground-weave", "Weave", "cloth fabric weave lines pattern")
def weave(b: Brush, c: Colours) -> None:
    b.sky((0, c[0]), (1, c[0]))
    paint = skia.Paint(AntiAlias=True, Style=skia.Paint.kStroke_Style, StrokeWidth=b.unit * 0.006)
    for number in range(26):
        at = (number + 0.5) / 26
        paint.setColor(colour(c[1 + number % 2], 0.4))
        for lying in (True, False):
            points = [
                (k / 30, at + 0.012 * math.sin(k * 0.7 + number * math.pi + turn(b))) if lying
                else (at + 0.012 * math.sin(k * 0.7 + number * math.pi - turn(b)), k / 30)
                for k in range(31)
            ]  # fmt: skip
            made = skia.PathBuilder() if hasattr(skia, "PathBuilder") else skia.Path()
            made.moveTo(points[0][0] * b.width, points[0][1] * b.height)
            for x, y in points[1:]:
                made.lineTo(x * b.width, y * b.height)
            b.canvas.drawPath(made.detach() if hasattr(made, "detach") else made, paint)

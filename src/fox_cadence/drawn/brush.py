"""What pictures are painted with. Coordinates run from 0 to 1 across and 0 to 1 down."""

import math
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from functools import lru_cache

import numpy as np
import skia


class Brush:
    """A canvas with a clock: `t` is in seconds."""

    def __init__(self, canvas: skia.Canvas, width: float, height: float, t: float) -> None:
        self.canvas, self.width, self.height, self.t = canvas, width, height, t
        self.unit = min(width, height)

    @contextmanager
    def square(self, x: float, y: float, size: float, turned: float = 0.0) -> Iterator["Brush"]:
        """A brush for things that keep their shape in every frame: it paints in a square around a point,
        `size` against the shorter side, turned by some degrees."""
        side = size * self.unit
        self.canvas.save()
        self.canvas.translate(x * self.width, y * self.height)
        self.canvas.rotate(turned)
        self.canvas.translate(-side / 2, -side / 2)
        yield Brush(self.canvas, side, side, self.t)
        self.canvas.restore()

    def block(
        self, x: float, y: float, wide: float, high: float, code: str, alpha: float = 1, corner: float = 0
    ) -> None:
        """A rectangle by its left upper corner; `corner` is the radius of its corners against the
        shorter side."""
        rect = skia.Rect.MakeXYWH(x * self.width, y * self.height, wide * self.width, high * self.height)
        paint = skia.Paint(AntiAlias=True, Color=colour(code, alpha))
        self.canvas.drawRoundRect(rect, corner * self.unit, corner * self.unit, paint)

    def sky(self, *stops: tuple[float, str]) -> None:
        """Fill everything with colours running down."""
        self.canvas.drawImage(_gradient(round(self.width), round(self.height), stops), 0, 0)

    def disc(self, x: float, y: float, radius: float, code: str, alpha: float = 1, soft: float = 0) -> None:
        """A disc; `radius` against the shorter side, `soft` lets its edge fade out over that share of it."""
        paint = skia.Paint(AntiAlias=True, Color=colour(code, alpha))
        outer = (radius + soft) * self.unit
        middle = skia.Point(x * self.width, y * self.height)
        if soft:  # a gradient looks as a blur would and costs a tenth of it
            paint.setShader(
                skia.GradientShader.MakeRadial(
                    center=middle,
                    radius=outer,
                    colors=[colour(code, alpha), colour(code, alpha), colour(code, 0)],
                    positions=[0, max(0.0, (radius - soft) / (radius + soft)), 1],
                )
            )
        self.canvas.drawCircle(middle, outer, paint)

    def shape(
        self, points: Sequence[tuple[float, float]], code: str, alpha: float = 1, smooth: bool = True
    ) -> None:
        """A closed shape through points; smooth ones are drawn with curves through the middles."""
        path = self._path([(x * self.width, y * self.height) for x, y in points], smooth)
        self.canvas.drawPath(path, skia.Paint(AntiAlias=True, Color=colour(code, alpha)))

    def stroke(
        self, points: Sequence[tuple[float, float]], code: str, thick: float, alpha: float = 1
    ) -> None:
        """An open line through points, `thick` against the shorter side, with round ends."""
        paint = skia.Paint(
            AntiAlias=True, Style=skia.Paint.kStroke_Style, StrokeWidth=thick * self.unit,
            Color=colour(code, alpha),
            StrokeCap=skia.Paint.kRound_Cap, StrokeJoin=skia.Paint.kRound_Join,
        )  # fmt: skip
        builder = skia.PathBuilder() if hasattr(skia, "PathBuilder") else skia.Path()
        for number, (x, y) in enumerate(points):
            (builder.lineTo if number else builder.moveTo)(x * self.width, y * self.height)
        self.canvas.drawPath(builder.detach() if hasattr(builder, "detach") else builder, paint)

    def ridge(self, y: float, heights: Sequence[float], code: str, alpha: float = 1) -> None:
        """Ground or water up to a line: `heights` are offsets of the line along the width, joined
        smoothly."""
        count = len(heights) - 1
        steps = np.linspace(0, count, 6 * count + 1) if count < 20 else np.arange(count + 1)
        whole = np.minimum(steps.astype(int), count - 1)
        eased = (1 - np.cos(np.pi * (steps - whole))) / 2
        level = np.array(heights)
        line = level[whole] * (1 - eased) + level[whole + 1] * eased
        top = [(float(at) / count, y + float(height)) for at, height in zip(steps, line, strict=True)]
        self.shape([*top, (1.02, 1.02), (-0.02, 1.02)], code, alpha, smooth=False)

    def water(
        self, y: float, code: str, *, swell: float, pace: float, alpha: float = 1, count: int = 48
    ) -> None:
        """Moving water below a line."""
        heights = [
            swell * math.sin(6.3 * number / count + pace * self.t)
            + swell * 0.5 * math.sin(15.1 * number / count - pace * 1.7 * self.t + 1.3)
            for number in range(count + 1)
        ]
        self.ridge(y, heights, code, alpha)

    def glints(self, seed: int, count: int, top: float, code: str) -> None:
        """Light on water: short strokes that come and go."""
        chance = np.random.default_rng(seed)
        for x, y, phase, length in chance.random((count, 4)):
            shine = max(0.0, math.sin(2.1 * self.t + phase * 6.3))
            at = top + y * (1 - top)
            drift = 0.02 * math.sin(self.t * 0.7 + phase * 9)
            reach = 0.02 + 0.05 * length * (0.4 + at)
            self.stroke(
                [(x + drift - reach, at), (x + drift + reach, at)], code, 0.004 + 0.004 * at, 0.55 * shine
            )

    def shafts(self, count: int, code: str) -> None:
        """Slow shafts of light from above."""
        for number in range(count):
            x = (number + 0.5) / count + 0.06 * math.sin(self.t * 0.5 + number * 2.1)
            glow = 0.07 + 0.05 * math.sin(self.t * 0.9 + number * 1.7)
            self.shape(
                [(x - 0.03, 0), (x + 0.03, 0), (x + 0.2, 1), (x + 0.02, 1)], code, max(0, glow), smooth=False
            )

    def pebbles(self, seed: int, count: int, top: float, codes: Sequence[str]) -> None:
        """Stones on the ground, larger towards the viewer."""
        chance = np.random.default_rng(seed)
        for x, y, size, tone in sorted(chance.random((count, 4)).tolist(), key=lambda row: row[1]):
            at = top + y * (1 - top)
            wide = (0.02 + 0.07 * size) * (0.4 + 0.9 * y)
            stone = [
                (
                    x + wide * math.cos(a) * (1 + 0.12 * math.sin(3 * a + size * 9)),
                    at + wide * 0.42 * math.sin(a),
                )
                for a in np.linspace(0, 2 * math.pi, 12, endpoint=False)
            ]
            self.shape(stone, codes[int(tone * len(codes))])

    def _path(self, points: list[tuple[float, float]], smooth: bool) -> skia.Path:
        builder = skia.PathBuilder() if hasattr(skia, "PathBuilder") else skia.Path()
        if not smooth:
            builder.moveTo(*points[0])
            for point in points[1:]:
                builder.lineTo(*point)
        else:
            middles = [
                ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
                for a, b in zip(points, [*points[1:], points[0]], strict=True)
            ]
            builder.moveTo(*middles[-1])
            for point, middle in zip(points, middles, strict=True):
                builder.quadTo(*point, *middle)
        builder.close()
        return builder.detach() if hasattr(builder, "detach") else builder


@lru_cache(maxsize=16)
def _gradient(width: int, height: int, stops: tuple[tuple[float, str], ...]) -> skia.Image:
    """Colours running down; kept, because every frame of a scene begins with the same ones."""
    surface = skia.Surface(width, height)
    shader = skia.GradientShader.MakeLinear(
        [skia.Point(0, 0), skia.Point(0, height)],
        [colour(code) for _, code in stops],
        [at for at, _ in stops],
    )
    with surface as canvas:
        canvas.drawPaint(skia.Paint(Shader=shader))
    return surface.makeImageSnapshot()


def colour(code: str, alpha: float = 1) -> int:
    red, green, blue = (int(code[i : i + 2], 16) for i in (1, 3, 5))
    return int(skia.Color(red, green, blue, round(max(0.0, min(1.0, alpha)) * 255)))

"""Paints caption drawings with Skia: into pixels of their own, or onto the planes of a picture."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import cached_property, lru_cache
from typing import Literal, TypeAlias

import numpy as np
import skia
from numpy.typing import NDArray

from fox_cadence.core.kept import Kept
from fox_cadence.core.lettering.drawing import CaptionDrawing, spoken_mark
from fox_cadence.core.lettering.grounds import Box
from fox_cadence.core.lettering.motion import REST, Pose, Shown
from fox_cadence.core.outline import Outline
from fox_cadence.media.plates import Plane, Planes
from fox_cadence.media.soft_edges import SoftEdge, soft_edge

Layer = Literal["all", "behind", "ink"]
"""What of words is painted: what is behind their ink, their ink, or both."""

ColourOf: TypeAlias = Callable[[str, float], int]
"""A colour (#rrggbb) and an opacity as Skia takes it for what is painted on."""


class _Paths:
    """The outlines of a drawing as Skia has them."""

    def __init__(self, drawing: CaptionDrawing) -> None:
        self._drawing = drawing
        self.marks = tuple(path_of(mark.path) for mark in drawing.marks)
        self.words = tuple(path_of(word.path) for word in drawing.words)
        self.spoken = tuple(path_of(spoken_mark(drawing, number)) for number in range(len(drawing.words)))
        self.pictures = tuple(
            tuple(path_of(picture.path, picture.even_odd) for picture in word.pictures)
            for word in drawing.words
        )

    @cached_property
    def soft(self) -> tuple[SoftEdge, ...]:
        """Of each word the lines around it, laid one over the other, where they are many: a shadow, a
        glow."""
        return tuple(soft_edge(self._drawing, path) for path in self.words)

    @cached_property
    def edges(self) -> tuple[tuple[skia.Path, ...], ...]:
        """The lines around the letters as shapes that are filled."""
        return tuple(tuple(_around(word, edge.width) for word in self.words) for edge in self._drawing.edges)

    @cached_property
    def simple_edges(self) -> tuple[tuple[skia.Path, ...], ...]:
        """The same without outlines inside of them: that takes a while, and spares more where they are filled
        in frame after frame."""
        return tuple(tuple(_simpler(path) for path in paths) for paths in self.edges)


_kept: Kept[CaptionDrawing, _Paths] = Kept(most=24)


def paths_of(drawing: CaptionDrawing) -> _Paths:
    """The outlines of a drawing, kept: they are asked for in every frame."""
    return _kept.get(drawing) or _kept.keep(drawing, (), _Paths(drawing))


def _around(path: skia.Path, width: float) -> skia.Path:
    """A line of some width around a path, as a path that is filled."""
    if not width:
        return path
    line = skia.Paint(Style=skia.Paint.kStroke_Style, StrokeJoin=skia.Paint.kRound_Join, StrokeWidth=width)
    around = skia.Path()
    line.getFillPath(path, around)
    return around


def _simpler(path: skia.Path) -> skia.Path:
    try:
        return skia.Simplify(path)
    except RuntimeError:  # it was not able to; the shape is the same as it is
        return path


def draw(
    canvas: skia.Canvas,
    drawing: CaptionDrawing,
    shown: Shown,
    colour: ColourOf,
    shift: tuple[float, float] = (0.0, 0.0),
    plane: Plane | None = None,
    layer: Layer = "all",
) -> None:
    """Draw words as they are shown in a frame: what stands behind them and the edges of all, then their ink.

    Args:
        shift: how far from its own place it is drawn, in pixels.
        plane: the points of the canvas where it is one of a picture's planes, into which many frames are
            drawn.
    """
    canvas.save()
    canvas.translate(*shift)
    pen = _Pen(canvas, drawing, shown, colour, plane)
    with pen.posed(shown.whole, drawing.units[0].box, drawing.backwards):
        if layer != "ink":
            pen.marks()
            pen.edges()
        if layer != "behind":
            pen.words()
    canvas.restore()


class _Pen:
    """Draws the parts of one drawing as they are shown in one frame."""

    def __init__(
        self,
        canvas: skia.Canvas,
        drawing: CaptionDrawing,
        shown: Shown,
        colour: ColourOf,
        plane: Plane | None,
    ) -> None:
        self._canvas, self._drawing, self._shown, self._colour = canvas, drawing, shown, colour
        self._plane = plane
        self._paths = paths_of(drawing)
        numbers = range(len(drawing.words)) if shown.words is None else shown.words
        self._words = [n for n in numbers if shown.units[drawing.word_units[n]].alpha]

    def marks(self) -> None:
        """What stands behind the words."""
        for mark, path in zip(self._drawing.marks, self._paths.marks, strict=True):
            pose = self._shown.units[mark.unit]
            if not pose.alpha or (self._shown.marks is not None and mark.unit not in self._shown.marks):
                continue
            paint = self._paint(mark.colour, mark.opacity * self._seen(mark.unit))
            if mark.width:
                paint.setStyle(skia.Paint.kStroke_Style)
                paint.setStrokeWidth(mark.width)
            with self._unit(mark.unit):
                self._canvas.drawPath(path, paint)

    def edges(self) -> None:
        """What sets the letters off."""
        if len(self._drawing.edges) > 1:
            self._soft_edges()
            return
        around = self._paths.edges if self._plane is None else self._paths.simple_edges
        for edge, paths in zip(self._drawing.edges, around, strict=True):
            for number in self._words:
                paint = self._paint(edge.colour, edge.opacity * self._seen(self._drawing.word_units[number]))
                with self._word(number):
                    self._canvas.translate(edge.dx, edge.dy)
                    self._canvas.drawPath(paths[number], paint)

    def _soft_edges(self) -> None:
        for number in self._words:
            seen = self._seen(self._drawing.word_units[number])
            colour = self._colour(self._drawing.edges[0].colour, seen)
            with self._word(number):
                self._paths.soft[number].draw(self._canvas, colour, self._plane)

    def words(self) -> None:
        """The letters, and what shows which word is spoken."""
        for number in self._words:
            seen = self._seen(self._drawing.word_units[number])
            with self._word(number), self._layer(number, seen) as alone:
                self._ink(number, alone)

    def _ink(self, number: int, seen: float) -> None:
        drawing, shown, paths = self._drawing, self._shown, self._paths
        now = drawing.of_same_word(number, shown.word)
        if now and drawing.spoken in ("box", "underline"):
            with self._part(number):
                self._fill(paths.spoken[number], drawing.lit, seen)
        past = drawing.spoken == "fill" and shown.word is not None and number < shown.word and not now
        lit = past or (now and drawing.spoken in ("lit", "swell"))
        self._fill(paths.words[number], drawing.lit if lit else drawing.ink, seen)
        if now and drawing.spoken == "fill":
            with self._part(number):
                self._fill(paths.words[number], drawing.lit, seen)
        for picture, path in zip(drawing.words[number].pictures, paths.pictures[number], strict=True):
            self._fill(path, picture.colour, picture.opacity * seen)

    def _seen(self, unit: int) -> float:
        return self._shown.whole.alpha * self._shown.units[unit].alpha

    def _paint(self, code: str, opacity: float) -> skia.Paint:
        return skia.Paint(AntiAlias=True, Color=self._colour(code, opacity))

    def _fill(self, path: skia.Path, code: str, opacity: float) -> None:
        self._canvas.drawPath(path, self._paint(code, opacity))

    @contextmanager
    def posed(self, pose: Pose, box: Box, backwards: bool) -> Iterator[None]:
        """Draw as a pose has it, about the middle of a box."""
        self._canvas.save()
        if pose is not REST:
            self._canvas.concat(posed_matrix(pose, box, self._drawing.em))
            self._clip(box, pose.seen, backwards)
        yield
        self._canvas.restore()

    @contextmanager
    def _unit(self, unit: int) -> Iterator[None]:
        its = self._drawing.units[unit]
        with self.posed(self._shown.units[unit], its.box, its.backwards):
            yield

    @contextmanager
    def _word(self, number: int) -> Iterator[None]:
        with self._unit(self._drawing.word_units[number]):
            swell = self._shown.swell if number == self._shown.word else REST
            with self.posed(swell, self._drawing.words[number].box, False):
                yield

    @contextmanager
    def _layer(self, number: int, seen: float) -> Iterator[float]:
        """A word of several shapes is made see-through as a whole: what of them shows through each other
        would be seen else. Yields how far its shapes are seen by themselves."""
        several = self._drawing.words[number].pictures or self._drawing.spoken in ("box", "underline", "fill")
        if seen >= 1 or not several:
            yield seen
            return
        x, y, wide, high = self._drawing.words[number].box
        bounds = skia.Rect.MakeXYWH(x - high, y - high, wide + 2 * high, 3 * high)
        self._canvas.saveLayerAlpha(bounds, round(seen * 255))
        yield 1.0
        self._canvas.restore()

    @contextmanager
    def _part(self, number: int) -> Iterator[None]:
        """As much of a word as has been spoken."""
        word = self._drawing.words[number]
        self._canvas.save()
        self._clip(word.box, self._shown.part, word.backwards)
        yield
        self._canvas.restore()

    def _clip(self, box: Box, share: float, backwards: bool) -> None:
        if share < 1:
            x, y, wide, high = box
            left = x + wide * (1 - share) if backwards else x
            self._canvas.clipRect(skia.Rect.MakeXYWH(left, y - high, wide * share, 3 * high), True)


def paint_rgba(drawing: CaptionDrawing, shown: Shown) -> NDArray[np.uint8]:
    """The drawing's box as premultiplied RGBA, shape (height, width, 4)."""
    return painted_part(drawing, shown, drawing.box, "all")


def painted_part(
    drawing: CaptionDrawing, shown: Shown, room: tuple[int, int, int, int], layer: Layer
) -> NDArray[np.uint8]:
    """A part of the drawing, in pixels of the frame, as premultiplied RGBA."""
    x, y, width, height = room
    surface = skia.Surface.MakeRaster(
        skia.ImageInfo.Make(max(1, width), max(1, height), skia.kRGBA_8888_ColorType, skia.kPremul_AlphaType)
    )
    with surface as canvas:
        canvas.clear(skia.Color(0, 0, 0, 0))
        canvas.translate(-x, -y)
        draw(canvas, drawing, shown, _rgb, layer=layer)
    image = surface.makeImageSnapshot()
    rgba = image.toarray(colorType=skia.kRGBA_8888_ColorType, alphaType=skia.kPremul_AlphaType)
    return np.asarray(rgba, dtype=np.uint8)


def _rgb(code: str, opacity: float) -> int:
    red, green, blue = (int(code[i : i + 2], 16) for i in (1, 3, 5))
    return int(skia.Color(red, green, blue, round(opacity * 255)))


@lru_cache(maxsize=200)
def _yuv(code: str) -> tuple[int, int, int]:
    """A colour as BT.709 in limited range (ITU-R BT.709-6, item 3)."""
    red, green, blue = (int(code[i : i + 2], 16) for i in (1, 3, 5))
    luma = 0.2126 * red + 0.7152 * green + 0.0722 * blue
    u, v = 128 + (blue - luma) / 1.8556 * 224 / 255, 128 + (red - luma) / 1.5748 * 224 / 255
    return round(16 + luma * 219 / 255), round(u), round(v)


def paint_onto(
    planes: Planes,
    drawing: CaptionDrawing,
    shown: Shown,
    shift: tuple[float, float] = (0.0, 0.0),
    layer: Layer = "all",
) -> None:
    """Paint a drawing onto the Y, U and V planes of a 4:2:0 picture, in place."""
    on_planes(planes, lambda canvas, colour, plane: draw(canvas, drawing, shown, colour, shift, plane, layer))


def on_planes(planes: Planes, paint: Callable[[skia.Canvas, ColourOf, Plane], None]) -> None:
    """Paint something onto the Y, U and V planes of a 4:2:0 picture, in place.

    Each plane is painted as a grey picture, which spares the way over RGB: blending is linear, and so is that
    way.
    """
    for number, plane in enumerate(planes):
        height, width = plane.shape
        info = skia.ImageInfo.Make(width, height, skia.kGray_8_ColorType, skia.kOpaque_AlphaType)
        canvas = skia.Surface.MakeRasterDirect(info, plane, plane.strides[0]).getCanvas()
        if number:
            canvas.scale(0.5, 0.5)

        def grey(code: str, opacity: float, number: int = number) -> int:
            value = _yuv(code)[number]
            return int(skia.Color(value, value, value, round(opacity * 255)))

        paint(canvas, grey, plane)


def path_of(commands: Outline, even_odd: bool = False) -> skia.Path:
    """An outline as a path of Skia."""
    path = skia.PathBuilder() if hasattr(skia, "PathBuilder") else skia.Path()
    for name, v in commands:
        if name == "M":
            path.moveTo(*v)
        elif name == "L":
            path.lineTo(*v)
        elif name == "Q":
            path.quadTo(*v)
        elif name == "C":
            path.cubicTo(*v)
        else:
            path.close()
    made = path.detach() if hasattr(path, "detach") else path
    if even_odd:
        made.setFillType(skia.PathFillType.kEvenOdd)
    return made


def posed_matrix(pose: Pose, box: Box, em: float) -> skia.Matrix:
    """What a pose does, about the middle of a box."""
    x, y = box[0] + box[2] / 2, box[1] + box[3] / 2
    matrix = skia.Matrix.Translate(x + pose.dx * em, y + pose.dy * em)
    matrix.preRotate(pose.turn)
    matrix.preScale(pose.scale, pose.scale)
    matrix.preTranslate(-x, -y)
    return matrix


def edge_reach(drawing: CaptionDrawing) -> float:
    """How far the edges of a drawing go past its letters, in pixels."""
    return max((edge.width / 2 + abs(edge.dx) + abs(edge.dy) for edge in drawing.edges), default=0.0)

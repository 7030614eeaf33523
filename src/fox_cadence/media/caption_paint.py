"""Paints caption drawings with Skia: into pixels of their own, or onto the planes of a picture."""

import math
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import TypeAlias

import numpy as np
import skia
from numpy.typing import NDArray

from fox_cadence.core.kept import Kept
from fox_cadence.core.lettering.drawing import CaptionDrawing, spoken_mark
from fox_cadence.core.lettering.grounds import Box
from fox_cadence.core.lettering.motion import REST, Pose, Shown
from fox_cadence.core.outline import Outline

Plane = NDArray[np.uint8]
Planes: TypeAlias = tuple[Plane, Plane, Plane]
ColourOf: TypeAlias = Callable[[str, float], int]
"""A colour (#rrggbb) and an opacity as Skia takes it for what is painted on."""


@dataclass(frozen=True)
class PaintedCaption:
    """A caption ready to blend: premultiplied luma and chroma (BT.709, limited range) and what shines
    through.

    Arrays are in 0..255 scaled by 256; chroma ones have half the size each way.
    """

    x: int
    y: int
    luma: NDArray[np.uint16]
    luma_through: NDArray[np.uint16]
    chroma: tuple[NDArray[np.uint16], NDArray[np.uint16]]
    chroma_through: NDArray[np.uint16]


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
    def soft(self) -> tuple["_Mask", ...]:
        """Of each word the lines around it, laid one over the other, where they are many: a shadow, a
        glow."""
        return tuple(_mask(self._drawing, path) for path in self.words)

    @cached_property
    def edges(self) -> tuple[tuple[skia.Path, ...], ...]:
        """The lines around the letters as shapes that are filled."""
        return tuple(tuple(_around(word, edge.width) for word in self.words) for edge in self._drawing.edges)

    @cached_property
    def simple_edges(self) -> tuple[tuple[skia.Path, ...], ...]:
        """The same without outlines inside of them: that takes a while, and spares more where they are filled
        in frame after frame."""
        return tuple(tuple(_simpler(path) for path in paths) for paths in self.edges)


@dataclass(frozen=True)
class _Mask:
    """How far a picture is covered, with its left upper corner in whole pixels; None where there is
    nothing."""

    image: skia.Image | None
    left: int
    top: int


def _mask(drawing: CaptionDrawing, word: skia.Path) -> _Mask:
    """All lines around a word as one picture of how far they cover what is behind: they have one colour, so
    that it says all there is to say, and to draw it costs a tenth of what the lines cost."""
    bounds = word.getBounds()
    if bounds.isEmpty():
        return _Mask(None, 0, 0)
    reach = max(edge.width / 2 + max(abs(edge.dx), abs(edge.dy)) for edge in drawing.edges) + 2
    left, top = math.floor(bounds.left() - reach), math.floor(bounds.top() - reach)
    wide, high = math.ceil(bounds.right() + reach) - left, math.ceil(bounds.bottom() + reach) - top
    surface = skia.Surface.MakeRaster(skia.ImageInfo.MakeA8(wide, high))
    with surface as canvas:
        canvas.translate(-left, -top)
        for edge in drawing.edges:
            canvas.save()
            canvas.translate(edge.dx, edge.dy)
            paint = skia.Paint(AntiAlias=True, Color=skia.Color(0, 0, 0, round(edge.opacity * 255)))
            if edge.width:
                paint.setStyle(skia.Paint.kStroke_Style)
                paint.setStrokeJoin(skia.Paint.kRound_Join)
                paint.setStrokeWidth(edge.width)
            canvas.drawPath(word, paint)
            canvas.restore()
    return _Mask(surface.makeImageSnapshot(), left, top)


_LINEAR = skia.SamplingOptions(skia.FilterMode.kLinear)

_kept: Kept[CaptionDrawing, _Paths] = Kept(most=24)


def _paths(drawing: CaptionDrawing) -> _Paths:
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
    again: bool = False,
) -> None:
    """Draw words as they are shown in a frame: what stands behind them, the edges of all, then their ink.

    Args:
        shift: how far from its own place it is drawn, in pixels.
        again: it will be drawn in many frames.
    """
    canvas.save()
    canvas.translate(*shift)
    pen = _Pen(canvas, drawing, shown, colour)
    with pen.posed(shown.whole, drawing.units[0].box, drawing.backwards):
        pen.marks()
        pen.edges(again)
        pen.words()
    canvas.restore()


class _Pen:
    """Draws the parts of one drawing as they are shown in one frame."""

    def __init__(self, canvas: skia.Canvas, drawing: CaptionDrawing, shown: Shown, colour: ColourOf) -> None:
        self._canvas, self._drawing, self._shown, self._colour = canvas, drawing, shown, colour
        self._paths = _paths(drawing)
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

    def edges(self, again: bool) -> None:
        """What sets the letters off."""
        if len(self._drawing.edges) > 1:
            return self._soft_edges()
        around = self._paths.simple_edges if again else self._paths.edges
        for edge, paths in zip(self._drawing.edges, around, strict=True):
            for number in self._words:
                paint = self._paint(edge.colour, edge.opacity * self._seen(self._drawing.word_units[number]))
                with self._word(number):
                    self._canvas.translate(edge.dx, edge.dy)
                    self._canvas.drawPath(paths[number], paint)

    def _soft_edges(self) -> None:
        for number in self._words:
            mask = self._paths.soft[number]
            if mask.image is None:
                continue
            seen = self._seen(self._drawing.word_units[number])
            paint = self._paint(self._drawing.edges[0].colour, seen)
            with self._word(number):
                self._canvas.drawImage(mask.image, mask.left, mask.top, _LINEAR, paint)

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
            x, y = box[0] + box[2] / 2, box[1] + box[3] / 2
            self._canvas.translate(x + pose.dx * self._drawing.em, y + pose.dy * self._drawing.em)
            self._canvas.rotate(pose.turn)
            self._canvas.scale(pose.scale, pose.scale)
            self._canvas.translate(-x, -y)
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
    x, y, width, height = drawing.box
    surface = skia.Surface.MakeRaster(
        skia.ImageInfo.Make(max(1, width), max(1, height), skia.kRGBA_8888_ColorType, skia.kPremul_AlphaType)
    )
    with surface as canvas:
        canvas.clear(skia.Color(0, 0, 0, 0))
        canvas.translate(-x, -y)
        draw(canvas, drawing, shown, _rgb)
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
    planes: Planes, drawing: CaptionDrawing, shown: Shown, shift: tuple[float, float] = (0.0, 0.0)
) -> None:
    """Paint a drawing onto the Y, U and V planes of a 4:2:0 picture, in place."""
    on_planes(planes, lambda canvas, colour: draw(canvas, drawing, shown, colour, shift, again=True))


def on_planes(planes: Planes, paint: Callable[[skia.Canvas, ColourOf], None]) -> None:
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

        paint(canvas, grey)


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


def prepare(drawing: CaptionDrawing, shown: Shown, shift: tuple[float, float] = (0.0, 0.0)) -> PaintedCaption:
    """Paint words that do not move and turn them into planes, `shift` from their place in even pixels."""
    left, top = drawing.box[0] + round(shift[0] / 2) * 2, drawing.box[1] + round(shift[1] / 2) * 2
    return prepared(paint_rgba(drawing, shown), left, top)


_TO_PLANES = np.array(
    [
        [0.2126 * 219 / 255, -0.2126 / 1.8556 * 224 / 255, (1 - 0.2126) / 1.5748 * 224 / 255],
        [0.7152 * 219 / 255, -0.7152 / 1.8556 * 224 / 255, -0.7152 / 1.5748 * 224 / 255],
        [0.0722 * 219 / 255, (1 - 0.0722) / 1.8556 * 224 / 255, -0.0722 / 1.5748 * 224 / 255],
        [16 / 255, 128 / 255, 128 / 255],
    ],
    np.float32,
)
"""Red, green, blue and alpha, premultiplied, as luma and chroma: BT.709, limited range (ITU-R BT.709-6, item
3)."""


def prepared(painted: NDArray[np.uint8], left: int, top: int) -> PaintedCaption:
    """Premultiplied RGBA, even in width and height, as planes to blend at an even place."""
    whole = painted.astype(np.float32)
    rows = whole[0::2] + whole[1::2]
    halves = rows[:, 0::2] + rows[:, 1::2]  # four points each
    matrix = _TO_PLANES * 256
    luma = whole @ matrix[:, 0]
    chroma = halves @ (matrix[:, 1:] / 4)

    def fixed(plane: NDArray[np.floating]) -> NDArray[np.uint16]:
        return (plane + np.float32(0.5)).astype(np.uint16)

    return PaintedCaption(
        x=left,
        y=top,
        luma=fixed(luma),
        luma_through=fixed(256 - whole[..., 3] * np.float32(256 / 255)),
        chroma=(fixed(chroma[..., 0]), fixed(chroma[..., 1])),
        chroma_through=fixed(256 - halves[..., 3] * np.float32(64 / 255)),
    )


def blend(planes: Planes, caption: PaintedCaption) -> None:
    """Blend a painted caption onto the Y, U and V planes of a 4:2:0 picture, in place."""
    _blend(planes[0], caption.x, caption.y, caption.luma, caption.luma_through)
    for plane, ink in zip(planes[1:], caption.chroma, strict=True):
        _blend(plane, caption.x // 2, caption.y // 2, ink, caption.chroma_through)


def _blend(plane: Plane, x: int, y: int, ink: NDArray[np.uint16], through: NDArray[np.uint16]) -> None:
    """What is behind times what shines through, plus the ink, is never over 255 × 256: 16 bits hold it."""
    height, width = ink.shape
    target = plane[y : y + height, x : x + width]
    seen = target * through
    seen += ink
    seen += 128
    seen >>= 8
    target[:] = seen

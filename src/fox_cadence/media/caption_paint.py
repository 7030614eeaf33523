"""Paints a caption drawing into pixels with Skia, and blends it onto the planes of a picture."""

from dataclasses import dataclass

import numpy as np
import skia
from numpy.typing import NDArray

from fox_cadence.core.lettering import CaptionDrawing
from fox_cadence.core.outline import Outline

Plane = NDArray[np.uint8]


@dataclass(frozen=True)
class PaintedCaption:
    """A caption ready to blend: premultiplied luma and chroma (BT.709, limited range) and what shines
    through.

    Arrays are uint16 in 0..255 scaled by 256; chroma ones have half the size each way.
    """

    x: int
    y: int
    luma: NDArray[np.uint32]
    luma_through: NDArray[np.uint32]
    chroma: tuple[NDArray[np.uint32], NDArray[np.uint32]]
    chroma_through: NDArray[np.uint32]


def paint_rgba(drawing: CaptionDrawing, lit: int | None) -> NDArray[np.uint8]:
    """The drawing's box as premultiplied RGBA, shape (height, width, 4); word `lit` in the lit colour."""
    x, y, width, height = drawing.box
    surface = skia.Surface.MakeRaster(
        skia.ImageInfo.Make(max(1, width), max(1, height), skia.kRGBA_8888_ColorType, skia.kPremul_AlphaType)
    )
    with surface as canvas:
        canvas.clear(skia.Color(0, 0, 0, 0))
        canvas.translate(-x, -y)
        if drawing.plate is not None:
            plate = drawing.plate
            paint = skia.Paint(AntiAlias=True, Color=_colour(plate.colour, plate.opacity))
            rect = skia.Rect.MakeXYWH(plate.x, plate.y, plate.width, plate.height)
            canvas.drawRoundRect(rect, plate.radius, plate.radius, paint)
        paths = [path_of(word.path) for word in drawing.words]
        if drawing.stroke is not None:
            outline = skia.Paint(
                AntiAlias=True, Style=skia.Paint.kStroke_Style, StrokeJoin=skia.Paint.kRound_Join,
                StrokeWidth=drawing.stroke_width, Color=_colour(drawing.stroke, 1),
            )  # fmt: skip
            for path in paths:
                canvas.drawPath(path, outline)
        for number, path in enumerate(paths):
            colour = drawing.lit if number == lit else drawing.fill
            canvas.drawPath(path, skia.Paint(AntiAlias=True, Color=_colour(colour, 1)))
    image = surface.makeImageSnapshot()
    rgba = image.toarray(colorType=skia.kRGBA_8888_ColorType, alphaType=skia.kPremul_AlphaType)
    return np.asarray(rgba, dtype=np.uint8)


def _colour(code: str, opacity: float) -> int:
    red, green, blue = (int(code[i : i + 2], 16) for i in (1, 3, 5))
    return int(skia.Color(red, green, blue, round(opacity * 255)))


def path_of(commands: Outline) -> skia.Path:
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
    return path.detach() if hasattr(path, "detach") else path


def prepare(drawing: CaptionDrawing, lit: int | None) -> PaintedCaption:
    """Paint a caption and turn it into planes."""
    return prepared(paint_rgba(drawing, lit), drawing.box[0], drawing.box[1])


def prepared(painted: NDArray[np.uint8], left: int, top: int) -> PaintedCaption:
    """Premultiplied RGBA, even in width and height, as planes (BT.709 limited range; ITU-R BT.709-6, item 3)
    to blend at an even place."""
    rgba = painted.astype(np.float32)
    alpha = rgba[..., 3] / 255
    red, green, blue = (rgba[..., i] for i in range(3))
    luma = 0.2126 * red + 0.7152 * green + 0.0722 * blue
    cb, cr = (blue - luma) / 1.8556, (red - luma) / 1.5748
    y = luma * 219 / 255 + 16 * alpha
    u = cb * 224 / 255 + 128 * alpha
    v = cr * 224 / 255 + 128 * alpha

    def scaled(plane: NDArray[np.floating]) -> NDArray[np.uint32]:
        return np.asarray(np.rint(plane * 256), dtype=np.uint32)

    def halved(plane: NDArray[np.floating]) -> NDArray[np.floating]:
        height, width = plane.shape
        return np.asarray(plane.reshape(height // 2, 2, width // 2, 2).mean(axis=(1, 3)))

    return PaintedCaption(
        x=left,
        y=top,
        luma=scaled(y),
        luma_through=scaled(1 - alpha),
        chroma=(scaled(halved(u)), scaled(halved(v))),
        chroma_through=scaled(halved(1 - alpha)),
    )


def blend(planes: tuple[Plane, Plane, Plane], caption: PaintedCaption) -> None:
    """Blend a painted caption onto the Y, U and V planes of a 4:2:0 picture, in place."""
    _blend(planes[0], caption.x, caption.y, caption.luma, caption.luma_through)
    for plane, ink in zip(planes[1:], caption.chroma, strict=True):
        _blend(plane, caption.x // 2, caption.y // 2, ink, caption.chroma_through)


def _blend(plane: Plane, x: int, y: int, ink: NDArray[np.uint32], through: NDArray[np.uint32]) -> None:
    height, width = ink.shape
    target = plane[y : y + height, x : x + width]
    target[:] = ((target * through + ink + 128) >> 8).astype(np.uint8)

"""Shadows and glows of words: many lines around letters, kept as one picture of how far they cover."""

import math
from dataclasses import dataclass

import numpy as np
import skia
from numpy.typing import NDArray

from fox_cadence.core.lettering.drawing import CaptionDrawing
from fox_cadence.media.plates import Plane

_LINEAR = skia.SamplingOptions(skia.FilterMode.kLinear)


@dataclass(frozen=True)
class SoftEdge:
    """All lines around a word as one picture of how far they cover what is behind: they have one colour, so
    that it says all there is to say. `left` and `top` are its corner in whole pixels of the drawing;
    `halved` is the picture at half the size."""

    image: skia.Image | None
    cover: NDArray[np.uint16]
    halved: NDArray[np.uint16]
    left: int
    top: int

    def draw(self, canvas: skia.Canvas, colour: int, plane: Plane | None) -> None:
        """Draw it in a colour as Skia has it, where the canvas stands.

        Args:
            plane: the points of the canvas, where it is a plane of a picture. What is only moved is blended
                into them by whole pixels, which nobody sees of a soft edge, in a tenth of the time.
        """
        if self.image is None:
            return
        matrix = canvas.getTotalMatrix()
        scale = matrix.getScaleX()
        straight = matrix.getScaleY() == scale and not matrix.getSkewX() and not matrix.getSkewY()
        if plane is None or not straight or scale not in (0.5, 1.0):
            canvas.drawImage(self.image, self.left, self.top, _LINEAR, skia.Paint(Color=colour))
            return
        cover = self.cover if scale == 1 else self.halved
        left = round(matrix.getTranslateX() + self.left * scale)
        top = round(matrix.getTranslateY() + self.top * scale)
        clip = canvas.getDeviceClipBounds()
        x, right = max(left, clip.left(), 0), min(left + cover.shape[1], clip.right(), plane.shape[1])
        y, bottom = max(top, clip.top(), 0), min(top + cover.shape[0], clip.bottom(), plane.shape[0])
        if x < right and y < bottom:
            part = cover[y - top : bottom - top, x - left : right - left]
            _cover(plane[y:bottom, x:right], part, colour & 255, colour >> 24)


def _cover(target: Plane, cover: NDArray[np.uint16], value: int, opacity: int) -> None:
    """Blend a grey value over a part of a plane, in place: all in 16 bits, divided by 255 as (t + t/256) /
    256."""
    share = cover if opacity == 255 else cover * np.uint16(opacity) // np.uint16(255)
    sums = target * (255 - share)
    sums += share * np.uint16(value)
    sums += 128
    sums += sums >> 8
    sums >>= 8
    target[:] = sums


def soft_edge(drawing: CaptionDrawing, word: skia.Path) -> SoftEdge:
    """The edge of a word of a drawing at rest."""
    bounds = word.getBounds()
    if bounds.isEmpty():
        nothing = np.zeros((0, 0), np.uint16)
        return SoftEdge(None, nothing, nothing, 0, 0)
    reach = max(edge.width / 2 + max(abs(edge.dx), abs(edge.dy)) for edge in drawing.edges) + 2
    left, top = math.floor(bounds.left() - reach) // 2 * 2, math.floor(bounds.top() - reach) // 2 * 2
    wide = math.ceil((bounds.right() + reach - left) / 2) * 2
    high = math.ceil((bounds.bottom() + reach - top) / 2) * 2
    info = skia.ImageInfo.MakeA8(wide, high)
    surface = skia.Surface.MakeRaster(info)
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
    image = surface.makeImageSnapshot()
    points = np.zeros((high, wide), np.uint8)
    image.readPixels(info, points, points.strides[0], 0, 0)
    cover = points.astype(np.uint16)
    halved = (cover[0::2, 0::2] + cover[1::2, 0::2] + cover[0::2, 1::2] + cover[1::2, 1::2] + 2) // 4
    return SoftEdge(image, cover, halved.astype(np.uint16), left, top)

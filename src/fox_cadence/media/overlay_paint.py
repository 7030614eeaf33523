"""Paints pictures laid over a shot with Skia, for blending as captions are."""

import io

import numpy as np
import skia
from numpy.typing import NDArray
from PIL import Image

from fox_cadence.core.overlay import Laid, overlay_by_id
from fox_cadence.media.caption_paint import path_of
from fox_cadence.media.plates import Plate, prepared

_GROUND = 214


def paint_laid(laid: Laid, width: int, height: int) -> Plate | None:
    """A laid picture ready to blend into a frame; None for one that this version does not have."""
    rgba = laid_rgba(laid, width, height)
    if rgba is None:
        return None
    rows, columns = (np.flatnonzero(rgba[..., 3].any(axis=axis)) for axis in (1, 0))
    if not len(rows):
        return None
    top, left = int(rows[0]) // 2 * 2, int(columns[0]) // 2 * 2
    bottom = min(height, (int(rows[-1]) + 2) // 2 * 2)
    right = min(width, (int(columns[-1]) + 2) // 2 * 2)
    return prepared(rgba[top:bottom, left:right], left, top)


def laid_rgba(laid: Laid, width: int, height: int) -> NDArray[np.uint8] | None:
    """A whole frame of it, premultiplied, shape (height, width, 4)."""
    overlay = overlay_by_id(laid.picture)
    if overlay is None:
        return None
    path = path_of(overlay.outline(width / height))
    path.setFillType(skia.PathFillType.kEvenOdd)
    surface = skia.Surface.MakeRaster(
        skia.ImageInfo.Make(width, height, skia.kRGBA_8888_ColorType, skia.kPremul_AlphaType)
    )
    unit = laid.size * (width if overlay.whole_frame else min(width, height))
    red, green, blue = (int(laid.colour[place : place + 2], 16) for place in (1, 3, 5))
    with surface as canvas:
        canvas.clear(skia.Color(0, 0, 0, 0))
        canvas.translate(laid.x * width, laid.y * height)
        canvas.rotate(laid.turn)
        canvas.scale(unit, unit)
        colour = skia.Color(red, green, blue, round(laid.opacity * 255))
        canvas.drawPath(path, skia.Paint(AntiAlias=True, Color=colour))
    image = surface.makeImageSnapshot()
    return np.asarray(
        image.toarray(colorType=skia.kRGBA_8888_ColorType, alphaType=skia.kPremul_AlphaType), np.uint8
    )


def look_at_overlay(overlay_id: str, width: int, height: int) -> bytes | None:
    """A small JPEG of a picture on a plain ground; None for what is none."""
    overlay = overlay_by_id(overlay_id)
    if overlay is None:
        return None
    size = 0.94 if overlay.whole_frame else 0.7
    rgba = laid_rgba(Laid(id="look", picture=overlay_id, size=size), width, height)
    assert rgba is not None
    ground = np.full((height, width, 3), _GROUND, np.float32)
    seen = ground * (1 - rgba[..., 3:].astype(np.float32) / 255) + rgba[..., :3]
    made = io.BytesIO()
    Image.fromarray(seen.astype(np.uint8)).save(made, format="JPEG", quality=85)
    return made.getvalue()

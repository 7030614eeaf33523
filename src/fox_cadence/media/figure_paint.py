"""Paints figures with Skia onto the planes of a picture."""

from collections.abc import Sequence
from functools import lru_cache

import skia

from fox_cadence.core.acting import Acted
from fox_cadence.core.figures.drawing import BOX, Part, Pose
from fox_cadence.media.caption_paint import ColourOf, on_planes, path_of
from fox_cadence.media.plates import Plane, Planes

_REST = Pose()


@lru_cache(maxsize=1_000)
def _at_rest(part: Part) -> skia.Path:
    return path_of(part.posed(_REST))


class FigurePainter:
    """Paints the figures of a piece into its frames."""

    def __init__(self, figures: Sequence[Acted]) -> None:
        self._figures = figures

    def paint(self, planes: Planes, frame: int) -> None:
        """Paint the figures of a frame of the piece, one over the other."""
        for each in self._figures:
            pose = each.pose_at(frame)
            if pose is not None:
                _paint(planes, each, pose)


def _paint(planes: Planes, acted: Acted, pose: Pose) -> None:
    paths = [(part.colour, _path(part, pose)) for part in acted.drawing.parts]
    left, top, scale = acted.stands

    def draw(canvas: skia.Canvas, colour: ColourOf, plane: Plane) -> None:
        canvas.save()
        canvas.translate(left, top)
        canvas.scale(scale, scale)
        canvas.clipRect(skia.Rect.MakeWH(*BOX), True)
        if pose.seen < 100:
            canvas.saveLayerAlpha(skia.Rect.MakeWH(*BOX), round(pose.seen * 2.55))
        for code, path in paths:
            canvas.drawPath(path, skia.Paint(AntiAlias=True, Color=colour(code, 1.0)))
        if pose.seen < 100:
            canvas.restore()
        canvas.restore()

    on_planes(planes, draw)


def _path(part: Part, pose: Pose) -> skia.Path:
    moving = any(pose[number] for number, _ in part.moves)
    return path_of(part.posed(pose)) if moving else _at_rest(part)

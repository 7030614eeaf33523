"""How well words are told from the picture behind them: WCAG's contrast ratio, measured on the pictures of a
piece."""

from collections.abc import Mapping
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.lettering.drawing import CaptionDrawing
from fox_cadence.core.lettering.style import CaptionStyle
from fox_cadence.core.screen import Screen, ScreenShot
from fox_cadence.media.framer import Framer
from fox_cadence.media.picture import Planes
from fox_cadence.media.proxies import frames_from

Picture = NDArray[np.float32]
"""Red, green and blue as they are coded (0 to 1), shape (height, width, 3)."""

_WORST = 0.05
"""The share of the room of a word in which the contrast may be worse than what is told: a sparkle on the sea
does not make a word unreadable."""
_COVERING = frozenset(("plate", "strips", "blocks", "band", "ticket", "disc"))
_AROUND = {"contour": 1.0, "shadow": 0.4, "glow": 0.5}
"""How much of what stands next to a letter is its edge: of the soft ones, what their lines add up to
there."""


def rgb_of(planes: Planes) -> Picture:
    """A picture of 4:2:0 in BT.709, limited range (ITU-R BT.709-6, item 3), as red, green and blue."""
    y, u, v = (plane.astype(np.float32) for plane in planes)
    u, v = (np.repeat(np.repeat(each, 2, axis=0), 2, axis=1)[: y.shape[0], : y.shape[1]] for each in (u, v))
    luma, cb, cr = (y - 16) / 219, (u - 128) / 224, (v - 128) / 224
    red, blue = luma + 1.5748 * cr, luma + 1.8556 * cb
    green = (luma - 0.2126 * red - 0.0722 * blue) / 0.7152
    return np.clip(np.stack([red, green, blue], axis=-1), 0, 1).astype(np.float32)


def luminance(colours: NDArray[np.floating]) -> NDArray[np.floating]:
    """Relative luminance of coded colours, the last axis red, green and blue (WCAG 2.2)."""
    linear = np.where(colours <= 0.04045, colours / 12.92, ((colours + 0.055) / 1.055) ** 2.4)
    return np.asarray(linear @ np.array([0.2126, 0.7152, 0.0722]))


def code_rgb(code: str) -> NDArray[np.float32]:
    """#rrggbb as red, green and blue, 0 to 1."""
    return np.array([int(code[at : at + 2], 16) / 255 for at in (1, 3, 5)], np.float32)


def contrast(
    drawing: CaptionDrawing, style: CaptionStyle, shift: tuple[float, float], pictures: list[Picture]
) -> float | None:
    """The contrast of words against what is behind them in some pictures of the frame: that of the worst word
    in the worst picture; None without a picture or a word.

    Args:
        pictures: of the whole frame, at any size.
    """
    ink = float(luminance(code_rgb(style.ink)))
    worst: float | None = None
    for picture in pictures:
        scale = picture.shape[1] / drawing.width
        for word in drawing.words:
            if not word.path:
                continue
            x, y, wide, high = word.box
            top, left = max(0, int((y + shift[1]) * scale)), max(0, int((x + shift[0]) * scale))
            bottom, right = int((y + shift[1] + high) * scale) + 1, int((x + shift[0] + wide) * scale) + 1
            behind = picture[top:bottom, left:right]
            if not behind.size:
                continue
            seen = luminance(_behind(behind, style))
            light, dark = np.maximum(seen, ink), np.minimum(seen, ink)
            ratio = float(np.quantile((light + 0.05) / (dark + 0.05), _WORST))
            worst = ratio if worst is None else min(worst, ratio)
    return worst


def _behind(picture: Picture, style: CaptionStyle) -> NDArray[np.floating]:
    """What a letter is seen against: the picture under the ground and the edge of its style."""
    seen: NDArray[np.floating] = picture
    if style.ground.kind in _COVERING:
        seen = seen * (1 - style.ground.opacity) + code_rgb(style.ground.colour) * style.ground.opacity
    share = _AROUND.get(style.edge.kind, 0.0)
    return seen * (1 - share) + code_rgb(style.edge.colour) * share


def picture_at(screen: Screen, frame: int, packs: Mapping[str, Path]) -> Picture | None:
    """What is behind the words in a frame of a piece: of a transition the shot that comes, of a clip its
    small frames; None where one is not at hand.

    Args:
        screen: in the size that is wanted.
        packs: the small frames of clips (media/proxies.py) and looks, by hash.
    """
    # it paints with a library that every start would wait for
    from fox_cadence.media.figure_paint import FigurePainter

    planes = _planes_at(screen, frame, packs)
    if planes is None:
        return None
    if any(each.pose_at(frame) for each in screen.figures):
        planes = (
            planes[0].copy(),
            planes[1].copy(),
            planes[2].copy(),
        )  # those given may be kept for other frames
        FigurePainter(screen.figures).paint(planes, frame)
    return rgb_of(planes)


def _planes_at(screen: Screen, frame: int, packs: Mapping[str, Path]) -> Planes | None:
    from fox_cadence.media.render import adjuster_of, plain_colour

    shot = next((each for each in reversed(screen.shots) if each.start_frame <= frame < each.end_frame), None)
    if shot is None:
        return None
    if shot.clip_hash is None:
        return plain_colour(shot.colour, screen.width, screen.height)
    path = packs.get(shot.clip_hash)
    if path is None or not path.is_file():
        return None
    ground = plain_colour(shot.framing.colour, screen.width, screen.height)
    framer = Framer(screen.width, screen.height, shot.framing, ground, adjuster_of(shot, dict(packs)))
    ticks = shot.source_ticks(screen.rate.ticks(frame - shot.start_frame))
    _, decoded = next(frames_from(path, ticks))
    return framer.planes(decoded, shot.passed_at(frame))


def sampled(shots: tuple[ScreenShot, ...], in_frame: int, out_frame: int) -> tuple[int, ...]:
    """The frames in which words on the screen in [in_frame, out_frame) are looked at: the first, the middle
    and the last one over each shot."""
    found: set[int] = set()
    for shot in shots:
        first, last = max(shot.start_frame, in_frame), min(shot.end_frame, out_frame) - 1
        if first <= last:
            found |= {first, (first + last) // 2, last}
    return tuple(sorted(found))

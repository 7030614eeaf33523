"""Where captions and titles stand: where they are wanted, clear of what matters in the picture where that is
asked, and never over one another."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fox_cadence.core.lettering.drawing import CaptionDrawing
from fox_cadence.core.lettering.grounds import Box
from fox_cadence.core.lettering.style import CaptionStyle, Place

SAFE_ACROSS, SAFE_DOWN = 0.05, 0.05
"""Margins of the frame in which no words should stand, as shares of its width and height (title safe area of
EBU R 95: 5 % on every side for 16:9 and what is cut from it)."""
INTEREST_REACH = 0.13
"""How far around the point of interest the picture matters, as a share of the frame's shorter side."""
_APART = 0.012
"""Words that would cover others or what matters stand so far from them, as a share of the frame's height."""

NAMED: Mapping[str, Place] = {
    "top": Place(y=0.08, hold="top"),
    "upper third": Place(y=0.333, hold="middle"),
    "middle": Place(y=0.5, hold="middle"),
    "lower third": Place(y=0.667, hold="middle"),
    "bottom": Place(y=0.92, hold="bottom"),
}
"""Places that have a name, for what is set from the middle."""


@dataclass(frozen=True, slots=True)
class Standing:
    """A drawing on the screen in the frames [in_frame, out_frame), and where it is wanted; `interest` is
    where in the frame (shares) what matters is, at some moments of that time."""

    drawing: CaptionDrawing
    style: CaptionStyle
    place: Place | None
    in_frame: int
    out_frame: int
    interest: tuple[tuple[float, float], ...] = ()


def wanted_shift(drawing: CaptionDrawing, style: CaptionStyle, place: Place | None) -> tuple[float, float]:
    """How far a place of its own is from that of the style, in pixels."""
    if place is None:
        return 0.0, 0.0
    high = drawing.block[3]
    held = {"top": 0.0, "middle": high / 2, "bottom": high}
    dx = (place.x - style.place.x) * drawing.width
    if drawing.backwards and style.align != "middle":
        dx = -dx
    before = style.place.y * drawing.height - held[style.place.hold]
    return dx, place.y * drawing.height - held[place.hold] - before


def around(drawing: CaptionDrawing, shift: tuple[float, float]) -> Box:
    """The room a drawing takes, its ground included, in pixels."""
    x, y, wide, high = drawing.box
    return x + shift[0], y + shift[1], float(wide), float(high)


def placed(items: Sequence[Standing]) -> list[tuple[float, float]]:
    """How far each is shifted from its style's place, in even pixels (chroma is stored for pairs of them);
    those that come first keep their place."""
    shifts: list[tuple[float, float]] = []
    for number, item in enumerate(items):
        shift = wanted_shift(item.drawing, item.style, item.place)
        place = item.place or item.style.place
        taken = [
            around(other.drawing, shifts[before])
            for before, other in enumerate(items[:number])
            if other.in_frame < item.out_frame and item.in_frame < other.out_frame
        ]
        if place.clear:
            taken += _interests(item)
        dx, dy = _freed(item.drawing, shift, taken)
        shifts.append((2.0 * round(dx / 2), 2.0 * round(dy / 2)))
    return shifts


def _interests(item: Standing) -> list[Box]:
    width, height = item.drawing.width, item.drawing.height
    reach = INTEREST_REACH * min(width, height)
    return [(x * width - reach, y * height - reach, 2 * reach, 2 * reach) for x, y in item.interest]


def overlap(one: Box, other: Box) -> bool:
    """Whether two boxes have any room in common."""
    return (
        one[0] < other[0] + other[2]
        and other[0] < one[0] + one[2]
        and one[1] < other[1] + other[3]
        and other[1] < one[1] + one[3]
    )


def _freed(drawing: CaptionDrawing, shift: tuple[float, float], taken: Sequence[Box]) -> tuple[float, float]:
    """The shift nearest to the one wanted, up or down, at which nothing that is taken is covered; the wanted
    one where there is none within the frame."""
    apart = _APART * drawing.height
    box = around(drawing, shift)
    in_the_way = [other for other in taken if overlap(box, other)]
    if not in_the_way:
        return shift
    tries = [0.0]
    for other in taken:
        tries += (other[1] - apart - box[3] - box[1], other[1] + other[3] + apart - box[1])
    least, most = SAFE_DOWN * drawing.height, (1 - SAFE_DOWN) * drawing.height
    for dy in sorted(tries, key=abs):
        moved = (box[0], box[1] + dy, box[2], box[3])
        if dy and (moved[1] < least or moved[1] + moved[3] > most):
            continue
        if not any(overlap(moved, other) for other in taken):
            return shift[0], shift[1] + dy
    return shift

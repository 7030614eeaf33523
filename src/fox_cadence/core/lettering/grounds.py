"""What stands behind the words of a caption, as outlines in pixels of the frame."""

from collections.abc import Sequence
from dataclasses import dataclass

from fox_cadence.core.lettering.style import CaptionStyle
from fox_cadence.core.outline import Command, Outline

_KAPPA = 0.5522847498307936
"""Control points of a quarter of a circle as a cubic, as a share of its radius: 4/3 (√2 − 1)."""
_RULE = 0.004
_BAR = 0.009
_CORNER = 0.07

Box = tuple[float, float, float, float]
"""x, y, width, height in pixels of the frame."""


@dataclass(frozen=True, slots=True)
class Mark:
    """A shape behind the words. `width` is that of its line; 0 where it is filled. `unit` is the part of the
    caption it comes in with."""

    path: Outline
    colour: str
    opacity: float
    width: float
    unit: int


def grounds(
    style: CaptionStyle,
    frame: tuple[int, int],
    block: Box,
    lines: Sequence[Box],
    words: Sequence[Box],
    units: tuple[Sequence[int], Sequence[int]],
    backwards: bool,
) -> tuple[Mark, ...]:
    """The marks of a style's ground.

    Args:
        frame: width and height.
        block, lines, words: boxes of what is set.
        units: of each line and of each word, those its mark comes in with; the block has unit 0.
        backwards: the text begins on the right.
    """
    ground, kind = style.ground, style.ground.kind
    short = min(frame)
    reach = ground.reach * short

    def mark(path: Outline, unit: int = 0, width: float = 0.0) -> Mark:
        return Mark(path, ground.colour, ground.opacity, width, unit)

    x, y, wide, high = block
    around = (x - reach, y - reach * 0.6, wide + 2 * reach, high + 1.2 * reach)
    if kind == "plate":
        return (mark(rounded(around, ground.round * around[3] / 2)),)
    if kind == "box":
        return (mark(rounded(around, ground.round * around[3] / 2), width=_RULE * 1.4 * short),)
    if kind == "ticket":
        return (mark(_ticket(around, reach * 0.55)),)
    if kind == "band":
        return (mark(rounded((0.0, y - reach, float(frame[0]), high + 2 * reach), 0.0)),)
    if kind == "bar":
        side = x + wide + reach * 0.6 if backwards else x - reach * 0.6 - _BAR * short
        return (mark(rounded((side, y, _BAR * short, high), 0.0)),)
    if kind == "rules":
        rule = _RULE * short
        above, below = (x, y - reach * 0.6 - rule, wide, rule), (x, y + high + reach * 0.6, wide, rule)
        return mark(rounded(above, 0.0)), mark(rounded(below, 0.0))
    if kind == "corners":
        return tuple(mark(corner) for corner in _corners(around, _CORNER * short, _RULE * 1.6 * short))
    if kind == "disc":
        radius = ((wide / 2) ** 2 + (high / 2) ** 2) ** 0.5 + reach
        middle = (x + wide / 2, y + high / 2)
        return (mark(rounded((middle[0] - radius, middle[1] - radius, 2 * radius, 2 * radius), radius)),)
    if kind in ("strips", "blocks"):
        boxes, their = (lines, units[0]) if kind == "strips" else (words, units[1])
        return tuple(
            mark(rounded(grown(box, reach, reach * 0.4), ground.round * (box[3] + reach * 0.8) / 2), unit)
            for box, unit in zip(boxes, their, strict=True)
        )
    return ()


def grown(box: Box, across: float, down: float) -> Box:
    """A box with so much more on every side."""
    return box[0] - across, box[1] - down, box[2] + 2 * across, box[3] + 2 * down


def rounded(box: Box, radius: float) -> Outline:
    """A rectangle with round corners."""
    x, y, wide, high = box
    r = max(0.0, min(radius, wide / 2, high / 2))
    right, bottom = x + wide, y + high
    if r == 0:
        return (("M", (x, y)), ("L", (right, y)), ("L", (right, bottom)), ("L", (x, bottom)), ("Z", ()))
    k = r * (1 - _KAPPA)
    return (
        ("M", (x + r, y)),
        ("L", (right - r, y)),
        ("C", (right - k, y, right, y + k, right, y + r)),
        ("L", (right, bottom - r)),
        ("C", (right, bottom - k, right - k, bottom, right - r, bottom)),
        ("L", (x + r, bottom)),
        ("C", (x + k, bottom, x, bottom - k, x, bottom - r)),
        ("L", (x, y + r)),
        ("C", (x, y + k, x + k, y, x + r, y)),
        ("Z", ()),
    )


def _ticket(box: Box, notch: float) -> Outline:
    """A plate with a half round bite out of the middle of either side."""
    x, y, wide, high = box
    r = min(notch, high / 3)
    k = r * _KAPPA
    right, bottom, middle = x + wide, y + high, y + high / 2
    commands: list[Command] = [
        ("M", (x, y)),
        ("L", (right, y)),
        ("L", (right, middle - r)),
        ("C", (right - k, middle - r, right - r, middle - k, right - r, middle)),
        ("C", (right - r, middle + k, right - k, middle + r, right, middle + r)),
        ("L", (right, bottom)),
        ("L", (x, bottom)),
        ("L", (x, middle + r)),
        ("C", (x + k, middle + r, x + r, middle + k, x + r, middle)),
        ("C", (x + r, middle - k, x + k, middle - r, x, middle - r)),
        ("Z", ()),
    ]
    return tuple(commands)


def _corners(box: Box, length: float, thick: float) -> list[Outline]:
    x, y, wide, high = box
    long_x, long_y = min(length, wide / 2), min(length, high / 2)
    found: list[Outline] = []
    for at_x, to_x in ((x, 1.0), (x + wide, -1.0)):
        for at_y, to_y in ((y, 1.0), (y + high, -1.0)):
            points = (
                (0.0, 0.0),
                (long_x, 0.0),
                (long_x, thick),
                (thick, thick),
                (thick, long_y),
                (0.0, long_y),
            )
            placed = [(at_x + to_x * px, at_y + to_y * py) for px, py in points]
            first, *others = placed
            found.append((("M", first), *(("L", point) for point in others), ("Z", ())))
    return found

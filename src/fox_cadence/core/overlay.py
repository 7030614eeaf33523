"""Simple pictures laid over a shot: shapes, arrows, marks and frames, as outlines that preview and export
fill alike."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import TypeAlias

from pydantic import Field

from fox_cadence.core.outline import Command, Outline
from fox_cadence.core.value import Value

Point: TypeAlias = tuple[float, float]


MOST_LAID = 20
"""Over one shot."""


class Laid(Value):
    """A picture over a shot. `x` and `y` are its middle as shares of the frame, `size` its width against the
    shorter side (frames have that of the frame at 1), `turn` in degrees to the right. It is seen from
    `begins` to `ends`, shares of the shot."""

    id: str = Field(max_length=40)
    picture: str = Field(max_length=40)
    x: float = Field(0.5, ge=-0.5, le=1.5)
    y: float = Field(0.5, ge=-0.5, le=1.5)
    size: float = Field(0.4, ge=0.02, le=3)
    turn: float = Field(0.0, ge=-180, le=180)
    colour: str = Field("#e0503a", pattern=r"^#[0-9a-fA-F]{6}$")
    opacity: float = Field(1.0, ge=0.05, le=1)
    begins: float = Field(0.0, ge=0, le=1)
    ends: float = Field(1.0, ge=0, le=1)

    def seen_at(self, share: float) -> bool:
        """Whether it is seen when so much of the shot has passed."""
        return self.begins <= share <= self.ends


@dataclass(frozen=True, slots=True)
class Overlay:
    """A picture that can be laid; `outline` makes it for the shape of a frame (width / height), with the
    middle at 0, 0, its width 1 and y down. It is filled by the even-odd rule."""

    id: str
    title: str
    words: str
    outline: Callable[[float], Outline]
    whole_frame: bool = False


def _lines(*loops: Sequence[Point]) -> Outline:
    made: list[Command] = []
    for loop in loops:
        made += [("L" if place else "M", point) for place, point in enumerate(loop)]
        made.append(("Z", ()))
    return tuple(made)


def _ellipse(x: float, y: float, wide: float, high: float) -> list[Command]:
    k = 0.5522847498  # of a quarter circle as a Bézier curve
    return [
        ("M", (x + wide, y)),
        ("C", (x + wide, y + k * high, x + k * wide, y + high, x, y + high)),
        ("C", (x - k * wide, y + high, x - wide, y + k * high, x - wide, y)),
        ("C", (x - wide, y - k * high, x - k * wide, y - high, x, y - high)),
        ("C", (x + k * wide, y - high, x + wide, y - k * high, x + wide, y)),
        ("Z", ()),
    ]


def _box(left: float, top: float, right: float, bottom: float) -> list[Point]:
    return [(left, top), (right, top), (right, bottom), (left, bottom)]


def _stroke(points: Sequence[Point], thick: float) -> list[Point]:
    """A line with some width as a loop around it."""
    left: list[Point] = []
    right: list[Point] = []
    for place, (x, y) in enumerate(points):
        before, after = points[max(0, place - 1)], points[min(len(points) - 1, place + 1)]
        dx, dy = after[0] - before[0], after[1] - before[1]
        long = math.hypot(dx, dy) or 1.0
        across = (-dy / long * thick / 2, dx / long * thick / 2)
        left.append((x + across[0], y + across[1]))
        right.append((x - across[0], y - across[1]))
    return [*left, *reversed(right)]


def _arrow(_: float) -> Outline:
    return _lines(
        [(-0.5, -0.06), (0.16, -0.06), (0.16, -0.2), (0.5, 0), (0.16, 0.2), (0.16, 0.06), (-0.5, 0.06)]
    )


def _bent_arrow(_: float) -> Outline:
    bow = [(-0.45 + 0.75 * k / 16, 0.3 - 0.5 * math.sin(k / 16 * math.pi * 0.62)) for k in range(17)]
    return (*_lines(_stroke(bow, 0.09)), *_lines([(0.18, -0.36), (0.5, -0.12), (0.14, 0.06)]))


def _ring(_: float) -> Outline:
    return (*_ellipse(0, 0, 0.5, 0.42), *_ellipse(0, 0, 0.44, 0.36))


def _dot(_: float) -> Outline:
    return tuple(_ellipse(0, 0, 0.5, 0.5))


def _underline(_: float) -> Outline:
    wave = [(-0.5 + k / 24, 0.02 * math.sin(k * 0.9) - 0.012 * k / 24) for k in range(25)]
    return _lines(_stroke(wave, 0.045))


def _bar(_: float) -> Outline:
    return _lines([(-0.5, -0.1), (0.49, -0.12), (0.5, 0.1), (-0.48, 0.12)])


def _cross(_: float) -> Outline:
    return (
        *_lines(_stroke([(-0.4, -0.4), (0.4, 0.4)], 0.13)),
        *_lines(_stroke([(0.4, -0.4), (0.07, -0.07)], 0.13)),
        *_lines(_stroke([(-0.07, 0.07), (-0.4, 0.4)], 0.13)),
    )


def _tick(_: float) -> Outline:
    return _lines([(-0.5, 0.02), (-0.38, -0.1), (-0.16, 0.12), (0.38, -0.42), (0.5, -0.3), (-0.16, 0.36)])


def _star(_: float) -> Outline:
    turn = [math.pi * k / 5 - math.pi / 2 for k in range(10)]
    return _lines(
        [((0.5, 0.21)[k % 2] * math.cos(a), (0.5, 0.21)[k % 2] * math.sin(a)) for k, a in enumerate(turn)]
    )


def _bubble(_: float) -> Outline:
    return (
        ("M", (-0.4, -0.34)), ("L", (0.4, -0.34)), ("Q", (0.5, -0.34, 0.5, -0.24)), ("L", (0.5, 0.1)),
        ("Q", (0.5, 0.2, 0.4, 0.2)), ("L", (-0.08, 0.2)), ("L", (-0.24, 0.42)), ("L", (-0.24, 0.2)),
        ("L", (-0.4, 0.2)), ("Q", (-0.5, 0.2, -0.5, 0.1)), ("L", (-0.5, -0.24)),
        ("Q", (-0.5, -0.34, -0.4, -0.34)), ("Z", ()),
    )  # fmt: skip


def _frame_box(_: float) -> Outline:
    return _lines(_box(-0.5, -0.36, 0.5, 0.36), _box(-0.46, -0.32, 0.46, 0.32))


def _brackets(_: float) -> Outline:
    side = [
        (0.5, -0.4),
        (0.5, 0.4),
        (0.3, 0.4),
        (0.3, 0.33),
        (0.43, 0.33),
        (0.43, -0.33),
        (0.3, -0.33),
        (0.3, -0.4),
    ]
    return _lines(side, [(-x, y) for x, y in side])


def _pointer(_: float) -> Outline:
    return _lines([(-0.4, -0.36), (0.4, -0.36), (0, 0.42)])


def _burst(_: float) -> Outline:
    turn = [math.pi * k / 12 for k in range(24)]
    return _lines(
        [((0.5, 0.36)[k % 2] * math.cos(a), (0.5, 0.36)[k % 2] * math.sin(a)) for k, a in enumerate(turn)]
    )


def _sides(ratio: float) -> tuple[float, float]:
    """Half the width and the height of a frame whose width is 1."""
    return 0.5, 0.5 / ratio


def _border(ratio: float) -> Outline:
    x, y = _sides(ratio)
    edge = 0.03 * min(1.0, 1 / ratio)
    return _lines(_box(-x, -y, x, y), _box(-x + edge, -y + edge, x - edge, y - edge))


def _corners(ratio: float) -> Outline:
    x, y = _sides(ratio)
    unit = min(1.0, 1 / ratio)
    inset, long, thick = 0.06 * unit, 0.14 * unit, 0.016 * unit
    loops: list[list[Point]] = []
    for across in (-1, 1):
        for down in (-1, 1):
            cx, cy = across * (x - inset), down * (y - inset)
            loops.append(
                [
                    (cx, cy),
                    (cx - across * long, cy),
                    (cx - across * long, cy - down * thick),
                    (cx - across * thick, cy - down * thick),
                    (cx - across * thick, cy - down * long),
                    (cx, cy - down * long),
                ]
            )
    return _lines(*loops)


def _bars(ratio: float) -> Outline:
    x, y = _sides(ratio)
    deep = 0.24 * y
    return _lines(_box(-x, -y, x, -y + deep), _box(-x, y - deep, x, y))


def _window(ratio: float) -> Outline:
    x, y = _sides(ratio)
    return (*_lines(_box(-x, -y, x, y)), *_ellipse(0, 0, x * 0.84, y * 0.84))


OVERLAYS: tuple[Overlay, ...] = (
    Overlay("arrow", "Arrow", "arrow point show direction here look", _arrow),
    Overlay("bent-arrow", "Bent arrow", "arrow curved point show follow turn", _bent_arrow),
    Overlay("pointer", "Pointer", "pointer down triangle here mark place", _pointer),
    Overlay("ring", "Ring", "ring circle mark around attention look", _ring),
    Overlay("dot", "Dot", "dot circle disc point spot", _dot),
    Overlay("box", "Box", "box rectangle mark around outline", _frame_box),
    Overlay("brackets", "Brackets", "brackets focus mark around", _brackets),
    Overlay("underline", "Underline", "underline line stress mark word", _underline),
    Overlay("bar", "Bar", "bar highlight band strip ground for words", _bar),
    Overlay("cross", "Cross", "cross wrong no false stop not delete", _cross),
    Overlay("tick", "Tick", "tick check right yes done correct", _tick),
    Overlay("star", "Star", "star favourite best rating award", _star),
    Overlay("burst", "Burst", "burst sale new price boom attention", _burst),
    Overlay("bubble", "Speech bubble", "speech bubble talk say quote comment", _bubble),
    Overlay("border", "Border", "frame border edge outline", _border, whole_frame=True),
    Overlay("corners", "Corner marks", "frame corners marks camera viewfinder", _corners, whole_frame=True),
    Overlay("bars", "Bars above and below", "frame bars cinema wide letterbox", _bars, whole_frame=True),
    Overlay("oval", "Oval window", "frame oval window round portrait old", _window, whole_frame=True),
)

_BY_ID = {overlay.id: overlay for overlay in OVERLAYS}


def overlay_by_id(overlay_id: str) -> Overlay | None:
    """None for what is none."""
    return _BY_ID.get(overlay_id)


def within_part(laid: tuple[Laid, ...], first: float, last: float) -> tuple[Laid, ...]:
    """What is seen of laid pictures in a part of the shot, their times counted in it."""
    reach = last - first
    if reach <= 0:
        return ()
    return tuple(
        each.changed(
            begins=min(1.0, max(0.0, (each.begins - first) / reach)),
            ends=min(1.0, max(0.0, (each.ends - first) / reach)),
        )
        for each in laid
        if each.begins < last and each.ends > first
    )


def of_both(one: tuple[Laid, ...], other: tuple[Laid, ...], share: float) -> tuple[Laid, ...]:
    """Laid pictures of two shots that become one, the first of which takes a share of it. One that was split
    is whole again."""
    made = {each.id: each.changed(begins=each.begins * share, ends=each.ends * share) for each in one}
    for each in other:
        later = each.changed(
            begins=share + each.begins * (1 - share), ends=min(1.0, share + each.ends * (1 - share))
        )
        before = made.get(each.id)
        alike = before is not None and before.changed(begins=0.0, ends=1.0) == later.changed(
            begins=0.0, ends=1.0
        )
        if before is not None and alike:
            made[each.id] = before.changed(ends=later.ends)
        else:
            name = each.id
            while name in made:
                name += "b"
            made[name] = later.changed(id=name)
    return tuple(made.values())

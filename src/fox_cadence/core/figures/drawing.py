"""A figure as outlines that follow a pose: the page and the export work them out with the same few sums.

Each part is an outline at rest and, for everything a pose can do, how far each of its points moves when that
is done fully. A part in a pose is the outline at rest plus those moves, each by its share: no curve is bent
anywhere else.
"""

from dataclasses import dataclass
from typing import NamedTuple

from fox_cadence.core.outline import Outline

BOX = (800, 1000)
"""Width and height of what a character is drawn in."""


class Pose(NamedTuple):
    """What a figure does at a moment, in hundredths: its mouth (see `MouthShape`), how far its eyes are
    closed, its head is bowed, its eyes look aside (-100 to 100), and how far it is seen at all."""

    jaw: int = 0
    wide: int = 0
    round: int = 0
    teeth: int = 0
    tongue: int = 0
    blink: int = 0
    nod: int = 0
    look: int = 0
    seen: int = 100


MOVES = ("jaw", "wide", "round", "teeth", "tongue", "blink", "nod", "look")
"""What moves points, in the order of a pose."""


@dataclass(frozen=True, slots=True)
class Part:
    """An outline (commands of a path, and their coordinates one after the other) in one colour; `moves` holds
    numbers of `MOVES` with how far each coordinate moves."""

    commands: str
    base: tuple[float, ...]
    moves: tuple[tuple[int, tuple[float, ...]], ...]
    colour: str

    def posed(self, pose: Pose) -> Outline:
        """Its outline in a pose."""
        points = list(self.base)
        for number, by in self.moves:
            if share := pose[number] / 100:
                points = [point + share * move for point, move in zip(points, by, strict=True)]
        outline: list[tuple[str, tuple[float, ...]]] = []
        at = 0
        for name in self.commands:
            count = _COORDINATES[name]
            outline.append((name, tuple(points[at : at + count])))
            at += count
        return tuple(outline)


_COORDINATES = {"M": 2, "L": 2, "C": 6, "Z": 0}


@dataclass(frozen=True)
class FigureDrawing:
    """The parts of a character in the order in which they are painted, in units of `BOX`."""

    parts: tuple[Part, ...]


class Standing(NamedTuple):
    """Where a figure stands in a frame: pixels of its left upper corner and pixels of a unit of `BOX`."""

    left: float
    top: float
    scale: float


def standing(x: float, y: float, size: float, frame: tuple[int, int]) -> Standing:
    """Where a figure stands that has its middle at shares of a frame and is so high against the shorter side
    of it."""
    width, height = frame
    scale = size * min(width, height) / BOX[1]
    return Standing(x * width - BOX[0] * scale / 2, y * height - BOX[1] * scale / 2, scale)

"""Outlines of characters with the moves that belong to them: ovals, smooth curves, and what bends them.

Every shape is a run of points that a path is drawn through; what a pose does to it is given for those points,
and is carried over to the path, whose coordinates are sums of theirs.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.figures.drawing import MOVES, Part

Points = NDArray[np.float64]

_CIRCLE = 4 / 3 * (np.sqrt(2) - 1)
"""How far the handles of a quarter circle reach, against its radius."""
_INSIDE = 0.82
"""How far teeth and tongue reach towards the lips that they lie behind."""
_TENSION = 1 / 6
"""Handles of a curve through points are a sixth of the way between its neighbours: a Catmull-Rom spline."""


@dataclass(frozen=True)
class Shape:
    """Commands of a path with its coordinates (points by 2), how they move, and a colour."""

    commands: str
    points: Points
    colour: str
    moves: Mapping[str, Points] = field(default_factory=dict)

    def part(self, colours: Mapping[str, str]) -> Part:
        """The shape as it is drawn; coordinates to a hundredth of a unit."""
        return Part(
            self.commands,
            _flat(self.points),
            tuple(
                (MOVES.index(name), _flat(by))
                for name, by in self.moves.items()
                if np.abs(by).max(initial=0) >= 0.01
            ),
            colours.get(self.colour, self.colour),
        )

    def moved(self, name: str, by: Callable[[Points], Points]) -> "Shape":
        """The shape with a move added: `by` says for points (n by 2) how far each goes."""
        before = self.moves.get(name, np.zeros_like(self.points))
        return replace(self, moves={**self.moves, name: before + by(self.points)})

    def shifted(self, dx: float, dy: float) -> "Shape":
        """The shape somewhere else."""
        return replace(self, points=self.points + np.array([dx, dy]))


def _flat(points: Points) -> tuple[float, ...]:
    return tuple(round(float(value), 2) for value in points.reshape(-1))


def along(dx: float, dy: float) -> Callable[[Points], Points]:
    """All points go the same way."""
    return lambda points: np.broadcast_to(np.array([dx, dy]), points.shape).copy()


def onto(y: float, share: float = 1.0) -> Callable[[Points], Points]:
    """All points go down or up to a height."""
    return lambda points: np.stack([np.zeros(len(points)), (y - points[:, 1]) * share], axis=1)


def about(x: float, y: float, degrees: float) -> Callable[[Points], Points]:
    """Points turn about a place; for turns so small that their way is straight."""
    turn = np.radians(degrees)
    return lambda points: np.stack([-(points[:, 1] - y) * turn, (points[:, 0] - x) * turn], axis=1)


def bowed(shapes: Sequence[Shape], x: float, y: float, degrees: float, down: float) -> list[Shape]:
    """A head that bows about its neck."""
    return [shape.moved("nod", about(x, y, degrees)).moved("nod", along(0, down)) for shape in shapes]


def oval(colour: str, x: float, y: float, wide: float, high: float, degrees: float = 0.0) -> Shape:
    """An ellipse by its middle and half of its width and height."""
    k = _CIRCLE
    unit = np.array(
        [
            [1, 0], [1, k], [k, 1], [0, 1], [-k, 1], [-1, k], [-1, 0], [-1, -k], [-k, -1], [0, -1], [k, -1],
            [1, -k], [1, 0],
        ]
    )  # fmt: skip
    turn = np.radians(degrees)
    spin = np.array([[np.cos(turn), np.sin(turn)], [-np.sin(turn), np.cos(turn)]])
    return Shape("MCCCCZ", unit * np.array([wide, high]) @ spin + np.array([x, y]), colour)


def corners(colour: str, points: Sequence[tuple[float, float]]) -> Shape:
    """A polygon."""
    return Shape("M" + "L" * (len(points) - 1) + "Z", np.array(points, dtype=np.float64), colour)


def curve(
    colour: str,
    points: Sequence[tuple[float, float]] | Points,
    moves: Mapping[str, Sequence[tuple[float, float]] | Points] | None = None,
    sharp: Sequence[int] = (),
) -> Shape:
    """A closed smooth curve through points.

    Args:
        moves: how far each of the points goes.
        sharp: numbers of points that are corners.
    """
    through = np.array(points, dtype=np.float64)
    made = {name: _through(np.array(by, dtype=np.float64), sharp) for name, by in (moves or {}).items()}
    return Shape("M" + "C" * len(through) + "Z", _through(through, sharp), colour, made)


def _through(points: Points, sharp: Sequence[int]) -> Points:
    """The coordinates of a curve through points; a sum of them, so that moves go the same way."""
    before, after = np.roll(points, 1, axis=0), np.roll(points, -1, axis=0)
    handle = (after - before) * _TENSION
    handle[list(sharp)] = 0.0
    found = [points[0]]
    for number in range(len(points)):
        following = (number + 1) % len(points)
        found += [points[number] + handle[number], points[following] - handle[following], points[following]]
    return np.array(found)


def stroke(colour: str, points: Sequence[tuple[float, float]], width: float) -> Shape:
    """A line through points, thickest in its middle, as a shape of its own."""
    line = np.array(points, dtype=np.float64)
    way = np.gradient(line, axis=0)
    across = np.stack([-way[:, 1], way[:, 0]], axis=1)
    across /= np.maximum(np.hypot(across[:, 0], across[:, 1]), 1e-9)[:, None]
    thick = width / 2 * (0.35 + 0.65 * np.sin(np.linspace(0, np.pi, len(line))))[:, None]
    return curve(colour, np.concatenate([line + across * thick, (line - across * thick)[::-1]]))


def mouth(
    x: float, y: float, half: float, opening: float, lips: str, thick: float = 9.0, curl: float = 0.0
) -> list[Shape]:
    """A mouth that speaks: lips, the dark behind them, teeth and tongue.

    Args:
        half: half its width at rest, and `opening` how far it opens at most.
        lips: their colour; `thick` is how thick they are.
        curl: how far its corners are drawn up.
    """
    ups = np.array([0.0, -0.24, -0.28, -0.24, 0.0, 0.55, 0.72, 0.55])
    across = np.array([-1.0, -0.5, 0.0, 0.5, 1.0, 0.5, 0.0, -0.5])
    bow = np.array([-curl, 0.0, curl * 0.3, 0.0, -curl, 0.0, curl * 0.3, 0.0])
    at_rest = np.stack([x + across * half, y + bow], axis=1)

    def ring(colour: str, more: float) -> Shape:
        out = np.array([0.0, -1.0, -1.1, -1.0, 0.0, 1.1, 1.3, 1.1])
        points = at_rest + np.stack([np.sign(across) * (np.abs(across) == 1) * more, out * more], axis=1)
        return curve(
            colour,
            points,
            {
                "jaw": np.stack([-across * half * 0.06, ups * opening], axis=1),
                "wide": np.stack([across * half * 0.24, -np.abs(across) * curl * 0.4], axis=1),
                "round": np.stack(
                    [-across * half * 0.46, np.sign(ups) * opening * 0.09 * (more > 3)], axis=1
                ),
            },
            sharp=(0, 4),
        )

    def strip(colour: str, name: str, edge: Sequence[int], towards: float) -> Shape:
        """From one lip inwards, by as much as a move says."""
        there_and_back = [*edge, *reversed(edge)]
        rim = at_rest[there_and_back]
        rim[:, 0] = x + (rim[:, 0] - x) * _INSIDE
        both = ups[there_and_back] * opening * _INSIDE
        shares = across[there_and_back] * _INSIDE
        inwards = np.array([0.0, 0.0, 0.0, 0.55, 1.0, 0.55]) * towards * opening
        return curve(
            colour,
            rim,
            {
                "jaw": np.stack([-shares * half * 0.06, both], axis=1),
                "wide": np.stack([shares * half * 0.24, np.zeros(6)], axis=1),
                "round": np.stack([-shares * half * 0.46, np.zeros(6)], axis=1),
                name: np.stack([np.zeros(6), inwards], axis=1),
            },
            sharp=(0, 2, 3, 5),
        )

    return [
        ring(lips, thick),
        ring("inside", 1.6),
        strip("tongue", "tongue", (7, 6, 5), -1.0),
        strip("teeth", "teeth", (1, 2, 3), 1.0),
    ]


def eye(
    x: float, y: float, wide: float, high: float, skin: str, look: float = 12.0, size: float = 0.62
) -> list[Shape]:
    """An eye that looks aside and closes: the white, the iris with its pupil and a light in it, and the lid's
    edge.

    Args:
        wide, high: half of its width and height.
        skin: the colour of the lid's edge.
        look: how far the iris goes aside; `size` is that of the iris against the eye's height.
    """
    low = y + high * 0.72
    iris = high * size
    shut = onto(low)
    balls = [
        oval("white", x, y, wide, high),
        oval("iris", x, y, iris, iris).moved("look", along(look, 0)),
        oval("pupil", x, y, iris * 0.55, iris * 0.55).moved("look", along(look, 0)),
        oval("white", x + iris * 0.34, y - iris * 0.36, iris * 0.22, iris * 0.22).moved(
            "look", along(look * 0.8, 0)
        ),
    ]
    angles = np.radians([200, 235, 270, 305, 340])
    top = np.stack([x + np.cos(angles) * wide * 1.06, y + np.sin(angles) * high * 1.06], axis=1)
    lash = stroke(skin, [(float(a), float(b)) for a, b in top], high * 0.24)
    sag = high * 0.3

    def closes(points: Points) -> Points:
        aside = np.clip((points[:, 0] - x) / wide, -1, 1)
        over = y + np.sin(np.arccos(np.clip(aside, -1, 1))) * -high * 1.06
        return np.stack([np.zeros(len(points)), low + sag * (1 - aside**2) - over - sag * 0.6], axis=1)

    return [*(ball.moved("blink", shut) for ball in balls), lash.moved("blink", closes)]

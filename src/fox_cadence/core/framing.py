"""How a clip fills the frame: which part of its picture is seen at every moment, as pure numbers.

`static/scripts/frame/framing.js` says the same for the preview; a test keeps both in step.
"""

from dataclasses import dataclass
from typing import Literal, TypeAlias

from pydantic import Field

from fox_cadence.core.value import Value

Fit: TypeAlias = Literal["fill", "blur", "colour"]
"""The picture fills the frame, or is seen whole on a blurred copy of itself or on a colour."""

Movement: TypeAlias = Literal["none", "in", "out", "across", "back", "to"]
"""The view stands, comes nearer, goes away, passes to the right or to the left, or goes to another view."""


class Framing(Value):
    """`x` and `y` are the point of interest, as shares of the upright picture from its left and its top; the
    view is centred on it as far as the picture reaches. `zoom` is against the largest view there is, `turns`
    are quarter turns to the right, after `mirror`. `amount` is by which share the view changes over the whole
    movement, of which the shot shows the part from `begins` to `ends`: a shot that is split goes on moving as
    it did. `to_x`, `to_y` and `to_zoom` are where a movement to another view ends.
    """

    fit: Fit = "fill"
    x: float = Field(0.5, ge=0, le=1)
    y: float = Field(0.5, ge=0, le=1)
    zoom: float = Field(1.0, ge=1, le=4)
    turns: int = Field(0, ge=0, le=3)
    mirror: bool = False
    movement: Movement = "none"
    amount: float = Field(0.06, ge=0.01, le=0.5)
    to_x: float = Field(0.5, ge=0, le=1)
    to_y: float = Field(0.5, ge=0, le=1)
    to_zoom: float = Field(1.0, ge=1, le=4)
    soft: bool = True
    begins: float = Field(0.0, ge=0, le=1)
    ends: float = Field(1.0, ge=0, le=1)
    colour: str = Field("#20302c", pattern=r"^#[0-9a-fA-F]{6}$")

    def part(self, first: float, last: float) -> "Framing":
        """The framing of a part of a shot, from one share of its time to another."""
        if self.movement == "none":
            return self
        reach = self.ends - self.begins
        return self.changed(begins=self.begins + first * reach, ends=self.begins + last * reach)


PLAIN = Framing()
"""Fills the frame around its middle and stands."""


@dataclass(frozen=True, slots=True)
class View:
    """What the frame shows, as shares of the turned picture: it may reach past the picture where that is seen
    whole."""

    left: float
    top: float
    width: float
    height: float

    def towards(self, other: "View", share: float) -> "View":
        """On the straight way to another view; within the picture where both are."""
        return View(
            self.left + (other.left - self.left) * share,
            self.top + (other.top - self.top) * share,
            self.width + (other.width - self.width) * share,
            self.height + (other.height - self.height) * share,
        )


def view(framing: Framing, picture: tuple[float, float], frame: tuple[float, float], share: float) -> View:
    """The view at a moment.

    Args:
        picture: width and height of the clip, upright; in any unit.
        frame: width and height of the frame.
        share: how much of the shot has passed, 0 to 1.
    """
    wide, high = picture if framing.turns % 2 == 0 else picture[::-1]
    ratio = (frame[0] / frame[1]) / (wide / high)
    bound = min if framing.fit == "fill" else max
    width, height = bound(1.0, ratio), bound(1.0, 1 / ratio)
    at = framing.begins + share * (framing.ends - framing.begins)
    passed = at * at * (3 - 2 * at) if framing.soft else at
    x, y = _turned(framing, framing.x, framing.y)
    if framing.movement == "to":
        end = _turned(framing, framing.to_x, framing.to_y)
        first = _around((x, y), width / framing.zoom, height / framing.zoom)
        return first.towards(_around(end, width / framing.to_zoom, height / framing.to_zoom), passed)
    nearer = framing.zoom
    match framing.movement:
        case "in":
            nearer *= 1 + framing.amount * passed
        case "out":
            nearer *= 1 + framing.amount * (1 - passed)
        case "across" | "back":
            nearer *= 1 + framing.amount  # the picture needs room to pass in
            way = 1 if framing.movement == "across" else -1
            x += way * framing.amount * (passed - 0.5) * width / nearer
    return _around((x, y), width / nearer, height / nearer)


def _around(centre: tuple[float, float], width: float, height: float) -> View:
    return View(_placed(centre[0], width), _placed(centre[1], height), width, height)


def _turned(framing: Framing, x: float, y: float) -> tuple[float, float]:
    """A point of the picture as it is turned."""
    x = 1 - x if framing.mirror else x
    for _ in range(framing.turns):
        x, y = 1 - y, x
    return x, y


def _placed(centre: float, size: float) -> float:
    """Where a view of a size begins: around its centre, but never past the picture where it needn't."""
    if size >= 1:
        return (1 - size) / 2
    return min(1 - size, max(0.0, centre - size / 2))


def interest_in_frame(
    framing: Framing, picture: tuple[float, float], frame: tuple[float, float], share: float
) -> tuple[float, float]:
    """Where the point of interest is seen at a moment, as shares of the frame from its left and its top; it
    may lie outside. For the arguments see `view`."""
    seen = view(framing, picture, frame, share)
    x, y = _turned(framing, framing.x, framing.y)
    return (x - seen.left) / seen.width, (y - seen.top) / seen.height

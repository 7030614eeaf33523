"""A figure of a project: which character it is, whose lines it speaks, where it stands."""

from typing import Literal

from pydantic import Field

from fox_cadence.core.lettering.style import Colour
from fox_cadence.core.value import Value

CharacterId = Literal["juniper", "tobit", "rusk", "skerry", "limpet", "bell"]
Facing = Literal["left", "ahead", "right"]
ShownWhen = Literal["always", "speaking"]

LEAST_SIZE, LARGEST_SIZE = 0.1, 1.5


class Figure(Value):
    """A drawn character on the picture that speaks the lines of a role.

    `x` and `y` are its middle in shares of the frame's width and height; `size` is its height in shares of
    the frame's shorter side. `colours` stand in for those of the character, by the name of what they colour.
    """

    id: str
    role_id: str
    character: CharacterId = "juniper"
    x: float = Field(0.24, ge=-0.5, le=1.5)
    y: float = Field(0.74, ge=-0.5, le=1.5)
    size: float = Field(0.5, ge=LEAST_SIZE, le=LARGEST_SIZE)
    facing: Facing = "right"
    shown: ShownWhen = "always"
    colours: dict[str, Colour] = Field(default_factory=dict, max_length=12)

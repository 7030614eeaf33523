"""How captions and titles look and move: one value, of which the styles that ship are instances.

Sizes are shares of the shorter side of the frame, so that they hold in every frame shape; places are shares
of its width and height. Colours are #rrggbb.
"""

from typing import Annotated, Literal

from pydantic import Field

from fox_cadence.core.value import Value

Colour = Annotated[str, Field(pattern=r"^#[0-9a-fA-F]{6}$")]
Share = Annotated[float, Field(ge=0, le=1)]

Align = Literal["start", "middle", "end"]
Case = Literal["as written", "upper", "lower"]
Hold = Literal["top", "middle", "bottom"]
GroundKind = Literal[
    "none", "plate", "strips", "blocks", "band", "bar", "ticket", "rules", "corners", "box", "disc"
]
EdgeKind = Literal["none", "contour", "shadow", "glow", "copy"]
MovementKind = Literal["none", "fade", "rise", "sink", "slide", "type", "unroll", "grow", "tilt", "settle"]
MovesBy = Literal["all", "line", "word"]
SpokenKind = Literal["none", "lit", "swell", "underline", "fill", "box"]

MOST_MOVEMENT_S = 3.0


class Ground(Value):
    """What stands behind the words: one plate, a strip for each line, a block for each word, a band across
    the frame, a bar beside them, a ticket with notched sides, rules above and below, corners, a drawn box or
    a disc. `reach` is how far it goes past the words, `round` how round its corners are (1 is half its
    height)."""

    kind: GroundKind = "none"
    colour: Colour = "#17211d"
    opacity: Share = 0.86
    reach: float = Field(0.032, ge=0, le=0.2)
    round: Share = 0.12


class Edge(Value):
    """What sets letters off from the picture: a contour, a soft shadow, a glow, or a hard copy beside
    them."""

    kind: EdgeKind = "none"
    colour: Colour = "#17211d"
    width: float = Field(0.013, ge=0, le=0.06)


class Movement(Value):
    """How words come in or go out, in how long, and whether all at once, by lines, or word by word with the
    voice."""

    kind: MovementKind = "none"
    seconds: float = Field(0.2, ge=0, le=MOST_MOVEMENT_S)
    by: MovesBy = "all"


class Place(Value):
    """Where the block stands: a point of the frame, and which part of the block is held there. Across, it is
    its beginning, middle or end as the style aligns it. `clear` asks that it keeps clear of what matters in
    the picture."""

    x: Share = 0.5
    y: Share = 0.86
    hold: Hold = "bottom"
    clear: bool = False


class CaptionStyle(Value):
    """How captions (or titles) look and move. `family` is a shipped family or `own:` and the hash of a font
    file; `width` is the share of the frame's width the lines may have. `first_line` is the size of the first
    line against the others."""

    id: str = Field(min_length=1, max_length=60)
    name: str = Field(min_length=1, max_length=60)
    family: str = Field("instrument-sans", max_length=80)
    weight: int = Field(700, ge=100, le=900)
    size: float = Field(0.062, ge=0.012, le=0.4)
    first_line: float = Field(1.0, ge=0.3, le=3)
    line_height: float = Field(1.22, ge=0.7, le=2.5)
    letter_spacing: float = Field(0.0, ge=-0.1, le=0.6)
    case: Case = "as written"
    align: Align = "middle"
    width: float = Field(0.82, ge=0.2, le=1)
    most_lines: int = Field(4, ge=1, le=12)
    ink: Colour = "#ffffff"
    lit: Colour = "#f6c35b"
    ground: Ground = Ground()
    edge: Edge = Edge()
    place: Place = Place()
    comes: Movement = Movement()
    goes: Movement = Movement()
    spoken: SpokenKind = "lit"
    for_titles: bool = False


class Lettering(Value):
    """The lettering of a project: the style of its captions where a role or a caption has none of its own,
    the styles kept under names, and whether movement is calm."""

    style: CaptionStyle
    kept: tuple[CaptionStyle, ...] = Field((), max_length=200)
    calm: bool = False


def calmed(style: CaptionStyle) -> CaptionStyle:
    """The style without anything that moves: words fade in and out, the spoken one is lit at most."""
    comes, goes = (
        move if move.kind in ("none", "fade") else Movement(kind="fade", seconds=min(0.2, move.seconds))
        for move in (style.comes, style.goes)
    )
    spoken: SpokenKind = "lit" if style.spoken in ("swell", "fill") else style.spoken
    return style.changed(comes=comes, goes=goes, spoken=spoken)

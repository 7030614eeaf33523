"""What the pages are told of lettering: styles, drawings, movements and rules."""

from typing import Any, NotRequired, TypedDict

from fox_cadence.core.lettering.style import (
    Align,
    Case,
    EdgeKind,
    GroundKind,
    Hold,
    MovementKind,
    MovesBy,
    SpokenKind,
)
from fox_cadence.core.proofing import RuleName


class GroundJson(TypedDict):
    kind: GroundKind
    colour: str
    opacity: float
    reach: float
    round: float


class EdgeJson(TypedDict):
    kind: EdgeKind
    colour: str
    width: float


class MovementJson(TypedDict):
    kind: MovementKind
    seconds: float
    by: MovesBy


class PlaceJson(TypedDict):
    x: float
    y: float
    hold: Hold
    clear: bool


class CaptionStyleJson(TypedDict):
    """A style as core/lettering/style.py has it."""

    id: str
    name: str
    family: str
    weight: int
    size: float
    first_line: float
    line_height: float
    letter_spacing: float
    case: Case
    align: Align
    width: float
    most_lines: int
    ink: str
    lit: str
    ground: GroundJson
    edge: EdgeJson
    place: PlaceJson
    comes: MovementJson
    goes: MovementJson
    spoken: SpokenKind
    for_titles: bool


class LetteringJson(TypedDict):
    """`style` is that of the captions where nothing else is said; `styles` are those in use, by the keys that
    rows have, as they are seen: calm ones where `calm` is asked for."""

    style: CaptionStyleJson
    kept: list[CaptionStyleJson]
    calm: bool
    styles: dict[str, CaptionStyleJson]


class TitleRow(TypedDict):
    """A title; frames from the start of its shot. `own_style` is its style as it was chosen, `style` the key
    of that it is seen in, `shift` how far it is moved from the place of its style (pixels)."""

    id: str
    shot: str
    in_frame: int
    out_frame: int
    text: str
    drawn: bool
    missing: tuple[str, ...]
    style: str
    own_style: CaptionStyleJson
    place: PlaceJson | None
    shift: tuple[float, float]


class MarkJson(TypedDict):
    """A shape behind the words; `width` of its line, 0 where it is filled."""

    d: str
    colour: str
    opacity: float
    width: float
    unit: int


class EdgeLineJson(TypedDict):
    """A line around every word; filled instead where `width` is 0."""

    colour: str
    opacity: float
    width: float
    dx: float
    dy: float


class EmojiShapeJson(TypedDict):
    d: str
    colour: str
    opacity: float
    even_odd: bool


class DrawnWordJson(TypedDict):
    """`spoken` is what is drawn behind or under it while it is spoken, `line` its number."""

    text: str
    line: int
    d: str
    pictures: list[EmojiShapeJson]
    box: tuple[float, float, float, float]
    backwards: bool
    unit: int
    spoken: str


class UnitJson(TypedDict):
    box: tuple[float, float, float, float]
    edges: tuple[float, ...]
    backwards: bool


class DrawingJson(TypedDict):
    """A caption drawing for SVG, at rest, in pixels of the frame. `block` is the room of its words, `of` the
    numbers of the words that are drawn: a word that no line holds stands in parts."""

    width: int
    height: int
    block: tuple[float, float, float, float]
    marks: list[MarkJson]
    edges: list[EdgeLineJson]
    words: list[DrawnWordJson]
    units: list[UnitJson]
    ink: str
    lit: str
    spoken_as: SpokenKind
    comes: MovementKind
    goes: MovementKind
    em: float
    backwards: bool
    of: tuple[int, ...]


class MomentsJson(TypedDict):
    """When its parts move, in frames from its in frame: of each unit the first frame and how many it comes
    in, and the first frame of going out and how many that takes."""

    comes: list[tuple[int, int]]
    goes: tuple[int, int]


class DrawnJson(TypedDict):
    """What was asked for of one caption; a drawing only where the page has none."""

    drawing: NotRequired[DrawingJson]
    moments: MomentsJson


PoseRow = list[tuple[float, float, float, float, float, float]]
"""Poses in even steps: dx, dy, scale, turn, alpha, seen (core/lettering/motion.py)."""


class MovementsJson(TypedDict):
    """Rows of poses by kind of movement, for texts that run to the right and to the left."""

    coming: dict[str, PoseRow]
    coming_back: dict[str, PoseRow]
    going: dict[str, PoseRow]
    going_back: dict[str, PoseRow]
    swelling: PoseRow


class FamilyJson(TypedDict):
    """A family of typefaces; `own` is a file of the user's."""

    id: str
    name: str
    kind: str
    weights: list[int]
    own: bool


class NamedPlaceJson(TypedDict):
    name: str
    y: float
    hold: Hold


class ShippedJson(TypedDict):
    """What there is to choose from; `mine` are the styles the user keeps for all projects."""

    captions: list[CaptionStyleJson]
    titles: list[CaptionStyleJson]
    mine: list[CaptionStyleJson]
    families: list[FamilyJson]
    places: list[NamedPlaceJson]


class CureJson(TypedDict):
    """A change that was tried and found to cure a fault without another: in words, and as an edit."""

    text: str
    edit: dict[str, Any]


class FaultJson(TypedDict):
    """A rule that words on the screen break: what was found against its limit, in words."""

    rule: RuleName
    text: str
    value: float
    limit: float


class ProofJson(TypedDict):
    """What was found of words on the screen."""

    faults: list[FaultJson]
    contrast: float | None

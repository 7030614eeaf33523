"""The shapes of the JSON about pictures: how a shot shows its clip, the shelf, what fills a stretch."""

from typing import TypedDict


class FramingJson(TypedDict):
    """`x` and `y` as shares of the upright picture, `turns` to the right, `amount` over the whole
    movement, of which the shot shows the part from `begins` to `ends`."""

    fit: str
    x: float
    y: float
    zoom: float
    turns: int
    mirror: bool
    movement: str
    amount: float
    to_x: float
    to_y: float
    to_zoom: float
    soft: bool
    begins: float
    ends: float
    colour: str


class AdjustmentJson(TypedDict):
    """As core/adjustment.py has it; `look` is empty, the id of a shipped look or the hash of a clip that is
    one."""

    exposure: float
    contrast: float
    warmth: float
    tint: float
    saturation: float
    sharpness: float
    vignette: float
    look: str
    look_share: float


class LaidJson(TypedDict):
    """A picture over a shot, as core/overlay.py has it; `outline` is an SVG path of width 1 around 0, 0 that
    is filled by the even-odd rule."""

    id: str
    picture: str
    title: str
    outline: str
    whole_frame: bool
    x: float
    y: float
    size: float
    turn: float
    colour: str
    opacity: float
    begins: float
    ends: float


class ShelfItemJson(TypedDict):
    """Something on the shelf. `looks` are small pictures of it at moments, in order; `clip` is null for what
    is still to be drawn, `seconds` 0 for a still."""

    id: str
    title: str
    words: str
    kind: str
    seconds: float
    shape: str
    source: str
    licence: str
    commercial: bool
    clip: str | None
    sound: bool
    kept: bool
    used: bool
    looks: list[str]


class ShelfJson(TypedDict):
    """What answers to what is looked for; `line_words` are words of the chosen line that may be looked up,
    `left_out` how many the piece may not use."""

    items: list[ShelfItemJson]
    line_words: list[str]
    left_out: int


class ShotChoiceJson(TypedDict):
    """A shot of a plan: the frames [start, end) of the piece, the item it shows, and others that would do."""

    start: int
    end: int
    item: str
    words: str
    others: list[str]


class StretchPlanJson(TypedDict):
    name: str
    first_shot_id: str
    last_shot_id: str
    shots: list[ShotChoiceJson]
    cost: float


class FillJson(TypedDict):
    """What would fill a stretch or several, and the items that are named."""

    plans: list[StretchPlanJson]
    items: dict[str, ShelfItemJson]

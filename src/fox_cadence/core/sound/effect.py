"""A spot effect: a short sound at a moment of the piece that it stays with."""

from pydantic import Field

from fox_cadence.core.value import Value

MOST_EFFECTS = 200


class SpotEffect(Value):
    """A short sound, `offset_ticks` after what it is held to: a word of a line, the coming in of a title, or
    the cut its shot begins with.

    What it was held to may be gone; then it stays with its shot, `shot_offset_ticks` after the cut.
    """

    id: str
    clip_hash: str
    shot_id: str
    shot_offset_ticks: int = 0
    line_id: str | None = None
    word: int = Field(0, ge=0)
    title_id: str | None = None
    offset_ticks: int = 0
    gain_db: float = Field(-6.0, ge=-60, le=12)
    fade_in_ticks: int = Field(0, ge=0)
    fade_out_ticks: int = Field(0, ge=0)

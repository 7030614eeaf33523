"""The fonts that ship with the application."""

from functools import cache
from pathlib import Path

from fox_cadence.core.lettering import Face

FONTS = Path(__file__).resolve().parent.parent / "fonts"
CAPTION_FONT = "InstrumentSans_700Bold.ttf"


@cache
def caption_face() -> Face:
    """The face captions are set in."""
    return Face((FONTS / CAPTION_FONT).read_bytes())

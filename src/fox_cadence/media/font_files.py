"""Font files that come from outside, looked into in a process of its own."""

from dataclasses import dataclass
from pathlib import Path

from fox_cadence.errors import InputError
from fox_cadence.media.isolated import Progress

LARGEST_BYTES = 40 << 20
_RESTRICTED = 0x0002
"""Bit of fsType that forbids embedding (OpenType, table OS/2)."""
_PLAIN_WEIGHT = 400


@dataclass(frozen=True, slots=True)
class FontFile:
    """What a font file says of itself: its name, weight (100 to 900), and how many signs it has."""

    name: str
    weight: int
    signs: int


def look_into(path: Path, progress: Progress) -> FontFile:
    """Read a TrueType or OpenType file as far as is needed to know that words can be set in it.

    Raises:
        InputError: it is no such file, has no outlines or no signs, or must not be embedded.
    """
    # only this process needs the library, and a start should not wait for it
    from fontTools.ttLib import TTFont

    progress(0, 1)
    try:
        with TTFont(path, lazy=True, fontNumber=0) as font:
            if font.flavor:
                raise InputError(
                    f"this is a {font.flavor.upper()} file; give the TTF or OTF it was made from"
                )
            if not any(table in font for table in ("glyf", "CFF ", "CFF2")):
                raise InputError("this font has no outlines, only pictures of letters")
            signs = len(font.getBestCmap() or {})
            if not signs:
                raise InputError("this font has no letters that could be typed")
            about = font.get("OS/2")
            if about is not None and about.fsType & 0x000F == _RESTRICTED:
                raise InputError("its maker does not allow this font to be embedded in a video")
            weight = about.usWeightClass if about is not None else _PLAIN_WEIGHT
            names = font.get("name")
            name = names.getBestFullName() if names is not None else None
            return FontFile((name or path.stem)[:60], min(900, max(100, weight)), signs)
    except InputError:
        raise
    except Exception as error:  # a broken table may fail in any way
        raise InputError("this is not a font file that can be read (TTF or OTF)") from error

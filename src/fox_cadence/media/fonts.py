"""The typefaces that ship with the application, and those of the user's own font files.

Each family may stand alone; signs it has no picture for come from the Noto faces, in an order that depends on
the language where Chinese signs have another shape in Japanese.
"""

import gzip
import json
import re
from collections.abc import Callable
from dataclasses import dataclass
from functools import cache, lru_cache, partial
from pathlib import Path

from fox_cadence.core.languages import primary
from fox_cadence.core.lettered import OWN
from fox_cadence.core.lettering.faces import Emoji, Face, Faces, Picture
from fox_cadence.core.lettering.style import CaptionStyle
from fox_cadence.core.outline import Command, Outline

FONTS = Path(__file__).resolve().parent.parent / "fonts"


@dataclass(frozen=True, slots=True)
class Family:
    """A family of typefaces: `files` by weight, `kind` what it looks like, in a word or two."""

    id: str
    name: str
    kind: str
    files: dict[int, str]


FAMILIES: tuple[Family, ...] = (
    Family(
        "instrument-sans",
        "Instrument Sans",
        "plain",
        {
            400: "InstrumentSans_400Regular",
            500: "InstrumentSans_500Medium",
            600: "InstrumentSans_600SemiBold",
            700: "InstrumentSans_700Bold",
        },
    ),
    Family(
        "bricolage-grotesque",
        "Bricolage Grotesque",
        "plain, with a hand",
        {600: "BricolageGrotesque_600SemiBold", 700: "BricolageGrotesque_700Bold"},
    ),
    Family("rubik", "Rubik", "plain, soft corners", {500: "Rubik_500Medium", 800: "Rubik_800ExtraBold"}),
    Family(
        "noto-sans", "Noto Sans", "plain, many scripts", {400: "NotoSans_400Regular", 700: "NotoSans_700Bold"}
    ),
    Family("fredoka", "Fredoka", "round", {500: "Fredoka_500Medium", 700: "Fredoka_700Bold"}),
    Family("lilita-one", "Lilita One", "round, heavy", {400: "LilitaOne_400Regular"}),
    Family("archivo-black", "Archivo Black", "heavy", {400: "ArchivoBlack_400Regular"}),
    Family("unbounded", "Unbounded", "wide", {400: "Unbounded_400Regular", 700: "Unbounded_700Bold"}),
    Family("oswald", "Oswald", "narrow", {400: "Oswald_400Regular", 600: "Oswald_600SemiBold"}),
    Family("anton", "Anton", "narrow, heavy", {400: "Anton_400Regular"}),
    Family("bebas-neue", "Bebas Neue", "narrow, capitals", {400: "BebasNeue_400Regular"}),
    Family("bangers", "Bangers", "drawn, slanted", {400: "Bangers_400Regular"}),
    Family("literata", "Literata", "for books", {400: "Literata_400Regular", 700: "Literata_700Bold"}),
    Family(
        "playfair-display",
        "Playfair Display",
        "thick and thin",
        {500: "PlayfairDisplay_500Medium", 800: "PlayfairDisplay_800ExtraBold"},
    ),
    Family(
        "dm-serif-display", "DM Serif Display", "thick and thin, soft", {400: "DMSerifDisplay_400Regular"}
    ),
    Family("caveat", "Caveat", "handwritten", {700: "Caveat_700Bold"}),
    Family("pacifico", "Pacifico", "brush", {400: "Pacifico_400Regular"}),
    Family(
        "spline-sans-mono",
        "Spline Sans Mono",
        "one width",
        {400: "SplineSansMono_400Regular", 500: "SplineSansMono_500Medium"},
    ),
)
"""Those one chooses from, plain ones first."""
_BY_ID = {family.id: family for family in FAMILIES}

_STAND_INS = (
    "NotoSans",
    "NotoSansArabic",
    "NotoSansHebrew",
    "NotoSansDevanagari",
    "NotoSansBengali",
    "NotoSansTamil",
    "NotoSansThai",
)
_EAST = {
    "ja": ("JP", "SC", "TC", "KR"),
    "ko": ("KR", "JP", "SC", "TC"),
    "zh-hant": ("TC", "SC", "JP", "KR"),
    "zh": ("SC", "TC", "JP", "KR"),
}
_LIGHTEST_BOLD = 550


def weight_of(family: Family, weight: int) -> int:
    """The weight of a family that is nearest to the one wanted."""
    return min(family.files, key=lambda each: (abs(each - weight), each))


@cache
def _shipped(file: str) -> Face:
    return Face((FONTS / f"{file}.ttf").read_bytes())


@lru_cache(maxsize=24)
def _own(path: Path) -> Face:
    return Face(path.read_bytes())


def faces_for(style: CaptionStyle, language: str, own_files: Path | None = None) -> Faces:
    """The faces a style is set in.

    Args:
        language: of the project.
        own_files: the folder of the user's font files, by hash; a family that is not there is set in the
            first one that ships.
    """
    if style.family.startswith(OWN) and own_files is not None:
        name = style.family.removeprefix(OWN)
        path = own_files / name
        if name.isalnum() and path.is_file():
            return _faces(path, style.weight, language)
    return _faces(style.family, style.weight, language)


def faces_of(language: str, own_files: Path | None = None) -> Callable[[CaptionStyle], Faces]:
    """What sets any style in a language; for the arguments see `faces_for`."""
    return lambda style: faces_for(style, language, own_files)


@lru_cache(maxsize=60)
def _faces(family_id: str | Path, weight: int, language: str) -> Faces:
    if isinstance(family_id, Path):
        main = _own(family_id)
    else:
        family = _BY_ID.get(family_id, FAMILIES[0])
        main = _shipped(family.files[weight_of(family, weight)])
    bold = weight >= _LIGHTEST_BOLD
    files = [f"{name}_{'700Bold' if bold else '400Regular'}" for name in _STAND_INS]
    files += [f"NotoSans{name}_700Bold" for name in _east(language)]
    return Faces(main, [partial(_shipped, file) for file in files], emoji(), language)


def _east(language: str) -> tuple[str, ...]:
    lowered = language.lower()
    if primary(language) == "zh" and any(part in lowered for part in ("hant", "-tw", "-hk", "-mo")):
        return _EAST["zh-hant"]
    return _EAST.get(primary(language), _EAST["zh"])


@cache
def _emoji_data() -> dict[str, list[list[str | float]]]:
    """Coloured outlines by code points, as scripts/make_fonts.py packs them; 4 MB that are read when the
    first emoji is drawn."""
    found: dict[str, list[list[str | float]]] = json.loads(
        gzip.decompress((FONTS / "emoji.json.gz").read_bytes())
    )
    return found


@lru_cache(maxsize=500)
def _emoji_drawing(signs: str) -> tuple[Picture, ...] | None:
    data = _emoji_data()
    name = "-".join(f"{ord(sign):x}" for sign in signs)
    bare = "-".join(f"{ord(sign):x}" for sign in signs if sign != "\ufe0f")
    found = data.get(name) or data.get(bare)
    if found is None:
        return None
    return tuple(
        Picture(str(colour), float(opacity), _outline(str(path)), bool(rule))
        for colour, opacity, path, *rule in found
    )


_COMMAND = re.compile(r"([MLQCZ])([^MLQCZ]*)")


def _outline(data: str) -> Outline:
    commands: list[Command] = []
    for name, values in _COMMAND.findall(data):
        commands.append((name, tuple(float(value) for value in values.split())))
    return tuple(commands)


@cache
def _emoji_starts() -> frozenset[str]:
    return frozenset(chr(int(name.split("-")[0], 16)) for name in _emoji_data())


@cache
def emoji() -> Emoji:
    """The emoji that ship."""
    return Emoji(_emoji_drawing, _LONGEST_EMOJI, _emoji_starts)


_LONGEST_EMOJI = 14
"""Signs in the longest of them with its variation selectors."""

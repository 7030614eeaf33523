"""The characters that ship: two people, two animals, a shell and a buoy with a face."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from fox_cadence.core.figures.animals import rusk, skerry
from fox_cadence.core.figures.drawing import FigureDrawing
from fox_cadence.core.figures.figure import CharacterId, Facing
from fox_cadence.core.figures.people import juniper, tobit
from fox_cadence.core.figures.shapes import Shape
from fox_cadence.core.figures.things import bell, limpet

_FIXED = {
    "inside": "#3a1518",
    "teeth": "#fdf8ee",
    "tongue": "#c65b5e",
    "white": "#fffdf8",
    "pupil": "#15161a",
}
"""Colours nobody chooses."""

_SIDES: Mapping[Facing, float] = {"left": -1.0, "ahead": 0.0, "right": 1.0}


@dataclass(frozen=True)
class Character:
    """A character: what it is called and what it is, the colours it can be given, how it is drawn, for a side
    from -1 to 1, and how high its eyes and its mouth are, in units of its box."""

    id: CharacterId
    name: str
    described: str
    colours: Mapping[str, str]
    shapes: Callable[[float], Sequence[Shape]]
    face: tuple[int, int]


@lru_cache(maxsize=64)
def _drawn(character_id: CharacterId, facing: Facing, colours: tuple[tuple[str, str], ...]) -> FigureDrawing:
    character = CHARACTERS[character_id]
    chosen = {**_FIXED, **character.colours, **dict(colours)}
    return FigureDrawing(tuple(shape.part(chosen) for shape in character.shapes(_SIDES[facing])))


def drawn(character_id: CharacterId, facing: Facing, colours: Mapping[str, str]) -> FigureDrawing:
    """A character in its colours; always the same object for the same."""
    known = CHARACTERS[character_id].colours
    return _drawn(character_id, facing, tuple(sorted((k, v) for k, v in colours.items() if k in known)))


_LINE = "#2b2320"

CHARACTERS: Mapping[CharacterId, Character] = {
    each.id: each
    for each in (
        Character(
            "juniper",
            "Juniper",
            "a young woman with her hair in a bun",
            {
                "skin": "#c98a63",
                "shade": "#a96c49",
                "hair": "#2f211d",
                "cloth": "#2f6f73",
                "trim": "#f2c14e",
                "lips": "#a8484a",
                "blush": "#d3755b",
                "iris": "#4b2e1e",
                "line": _LINE,
            },
            juniper,
            (432, 600),
        ),
        Character(
            "tobit",
            "Tobit",
            "an old man of the sea with a beard and a knitted cap",
            {
                "skin": "#e8b48f",
                "shade": "#cf936c",
                "hair": "#d9d5cb",
                "beard": "#c2bcb0",
                "cloth": "#2d4059",
                "trim": "#c8553d",
                "lips": "#9c5348",
                "iris": "#3f6f87",
                "line": _LINE,
            },
            tobit,
            (430, 640),
        ),
        Character(
            "rusk",
            "Rusk",
            "a fox with a scarf",
            {
                "coat": "#d0662f",
                "cream": "#f6e6cf",
                "dark": "#33231e",
                "trim": "#3c6e57",
                "iris": "#7a4a12",
                "line": _LINE,
            },
            rusk,
            (410, 640),
        ),
        Character(
            "skerry",
            "Skerry",
            "a tern with a black cap",
            {
                "plume": "#eef1ee",
                "wing": "#a9b7bd",
                "cap": "#26292e",
                "crest": "#26292e",
                "beak": "#d9482b",
                "tip": "#7d2417",
                "blush": "#f0b7a4",
                "iris": "#5a3a1c",
                "line": _LINE,
            },
            skerry,
            (428, 590),
        ),
        Character(
            "limpet",
            "Limpet",
            "a shell with a face",
            {
                "shell": "#8a7f6d",
                "stripe": "#5e574c",
                "foot": "#c9a27e",
                "shade": "#a9825f",
                "face": "#ecd3ae",
                "lips": "#a8544a",
                "blush": "#e0a184",
                "iris": "#3e5a46",
                "line": _LINE,
            },
            limpet,
            (612, 750),
        ),
        Character(
            "bell",
            "Bell",
            "a buoy with a lamp and a bell",
            {
                "body": "#c9403a",
                "trim": "#f3ede0",
                "frame": "#4a4f57",
                "lamp": "#f4c64f",
                "water": "#2f7f93",
                "lips": "#6d1f1f",
                "iris": "#2c4d63",
                "line": _LINE,
            },
            bell,
            (620, 750),
        ),
    )
}

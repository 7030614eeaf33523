"""Figures as the pages are told of them."""

from collections.abc import Sequence
from typing import TypedDict

from fox_cadence.core.acting import Acted
from fox_cadence.core.figures.characters import CHARACTERS, drawn
from fox_cadence.core.figures.drawing import FigureDrawing, Pose
from fox_cadence.core.figures.figure import CharacterId, Facing, Figure, ShownWhen
from fox_cadence.core.kept import Kept
from fox_cadence.core.outline import svg_data


class FigureRow(TypedDict):
    """A figure as core/figures/figure.py has it."""

    id: str
    role: str
    character: CharacterId
    x: float
    y: float
    size: float
    facing: Facing
    shown: ShownWhen
    colours: dict[str, str]


class FigurePartJson(TypedDict):
    """A part of a character: commands of a path, its coordinates at rest, and for numbers of a pose how far
    each of them moves when that is 100."""

    commands: str
    base: tuple[float, ...]
    moves: list[tuple[int, tuple[float, ...]]]
    colour: str


class ActedJson(TypedDict):
    """What a figure does in the frames from `first` on: poses of nine numbers in hundredths one after the
    other. `drawing` is the key of what it looks like."""

    id: str
    drawing: str
    first: int
    poses: list[int]


class ActingJson(TypedDict):
    """Figures of some frames, and the drawings the page has not had."""

    figures: list[ActedJson]
    drawings: dict[str, list[FigurePartJson]]


class ColourSlotJson(TypedDict):
    name: str
    label: str
    colour: str


class PortraitPathJson(TypedDict):
    d: str
    colour: str


class CharacterJson(TypedDict):
    """A character to choose, with its picture in a box of 800 by 1000."""

    id: CharacterId
    name: str
    described: str
    colours: list[ColourSlotJson]
    portrait: list[PortraitPathJson]


_LABELS = {"iris": "eyes", "cloth": "clothes", "line": "lines", "plume": "feathers", "tip": "tip of the beak"}
"""Where what is coloured has another name on the screen."""

_kept: Kept[FigureDrawing, list[FigurePartJson]] = Kept(most=64)


def figure_row(figure: Figure) -> FigureRow:
    return {
        "id": figure.id,
        "role": figure.role_id,
        "character": figure.character,
        "x": figure.x,
        "y": figure.y,
        "size": figure.size,
        "facing": figure.facing,
        "shown": figure.shown,
        "colours": figure.colours,
    }


def acting_json(figures: Sequence[Acted], known: Sequence[str]) -> ActingJson:
    """Figures with their poses.

    Args:
        known: keys of drawings that the page has.
    """
    keys = {each.figure.id: _key(each.figure) for each in figures}
    return {
        "figures": [
            {
                "id": each.figure.id,
                "drawing": keys[each.figure.id],
                "first": each.first,
                "poses": [value for pose in each.poses for value in pose],
            }
            for each in figures
        ],
        "drawings": {
            keys[each.figure.id]: _drawing(each.drawing)
            for each in figures
            if keys[each.figure.id] not in known
        },
    }


def _key(figure: Figure) -> str:
    colours = ",".join(f"{name}{code}" for name, code in sorted(figure.colours.items()))
    return f"{figure.character} {figure.facing} {colours}"


def _drawing(drawing: FigureDrawing) -> list[FigurePartJson]:
    return _kept.get(drawing) or _kept.keep(
        drawing,
        (),
        [
            {
                "commands": part.commands,
                "base": part.base,
                "moves": list(part.moves),
                "colour": part.colour,
            }
            for part in drawing.parts
        ],
    )


def characters_json() -> list[CharacterJson]:
    """All characters that ship."""
    return [
        {
            "id": each.id,
            "name": each.name,
            "described": each.described,
            "colours": [
                {"name": name, "label": _LABELS.get(name, name), "colour": code}
                for name, code in each.colours.items()
            ],
            "portrait": [
                {"d": svg_data(part.posed(Pose()), 1), "colour": part.colour}
                for part in drawn(each.id, "right", {}).parts
            ],
        }
        for each in CHARACTERS.values()
    ]

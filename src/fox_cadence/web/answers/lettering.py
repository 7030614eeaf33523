"""Lettering as the pages are told of it."""

import hashlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import cast

from fox_cadence.core.kept import Kept
from fox_cadence.core.lettered import OWN, FacesOf
from fox_cadence.core.lettering.drawing import CaptionDrawing, spoken_mark
from fox_cadence.core.lettering.motion import Moments, Pose, coming, going, swelling
from fox_cadence.core.lettering.placing import NAMED
from fox_cadence.core.lettering.style import CaptionStyle, Lettering, Place
from fox_cadence.core.lettering.styles import STYLES, TITLES
from fox_cadence.core.outline import svg_data
from fox_cadence.core.project import Title
from fox_cadence.core.standing import ShownWords, shifts
from fox_cadence.core.timeline import Timeline
from fox_cadence.media.font_files import FontFile
from fox_cadence.media.fonts import FAMILIES
from fox_cadence.web.answers.lettering_shapes import (
    CaptionStyleJson,
    DrawingJson,
    FamilyJson,
    LetteringJson,
    MomentsJson,
    MovementsJson,
    PlaceJson,
    PoseRow,
    ShippedJson,
    TitleRow,
)


@dataclass(frozen=True, slots=True)
class Lettered:
    """Of words on the screen: the key of their style, signs without a picture, and how far they are moved."""

    style: str = ""
    missing: tuple[str, ...] = ()
    shift: tuple[float, float] = (0.0, 0.0)


UNLETTERED = Lettered()
"""Of words that are not on the screen."""


_keys: Kept[CaptionStyle, str] = Kept(most=2_000)
_styles: Kept[CaptionStyle, CaptionStyleJson] = Kept(most=2_000)


def style_key(style: CaptionStyle) -> str:
    """A short name of all that a style says."""
    known = _keys.get(style)
    if known is not None:
        return known
    said = hashlib.blake2s(style.model_dump_json().encode(), digest_size=6).hexdigest()
    return _keys.keep(style, (), said)


def style_json(style: CaptionStyle) -> CaptionStyleJson:
    return _styles.get(style) or _styles.keep(style, (), cast(CaptionStyleJson, style.model_dump()))


def place_json(place: Place | None) -> PlaceJson | None:
    return None if place is None else cast(PlaceJson, place.model_dump())


def lettering_json(lettering: Lettering, words: Sequence[ShownWords]) -> LetteringJson:
    used = {style_key(each.style): each.style for each in words}
    used[style_key(lettering.style)] = lettering.style
    return {
        "style": style_json(lettering.style),
        "kept": [style_json(style) for style in lettering.kept],
        "calm": lettering.calm,
        "styles": {key: style_json(style) for key, style in used.items()},
    }


def lettered_of(timeline: Timeline, words: Sequence[ShownWords], faces_of: FacesOf) -> dict[str, Lettered]:
    """What there is to say of all words on the screen, by id."""
    moved = shifts(timeline, words, faces_of)
    return {
        each.id: Lettered(
            style_key(each.style), faces_of(each.style).missing(each.text), moved.get(each.id, (0.0, 0.0))
        )
        for each in words
    }


def title_row(title: Title, lettered: Lettered) -> TitleRow:
    return {
        "id": title.id,
        "shot": title.shot_id,
        "in_frame": title.in_frames,
        "out_frame": title.out_frames,
        "text": title.text,
        "drawn": bool(title.text.strip()),
        "missing": lettered.missing,
        "style": lettered.style,
        "own_style": style_json(title.style),
        "place": place_json(title.place),
        "shift": lettered.shift,
    }


def drawing_json(drawing: CaptionDrawing) -> DrawingJson:
    """A drawing for SVG, rounded to a hundredth of a pixel."""

    def near(values: Sequence[float]) -> tuple[float, ...]:
        return tuple(round(value, 2) for value in values)

    return {
        "width": drawing.width,
        "height": drawing.height,
        "block": _four(near(drawing.block)),
        "marks": [
            {
                "d": svg_data(mark.path, 2),
                "colour": mark.colour,
                "opacity": mark.opacity,
                "width": round(mark.width, 2),
                "unit": mark.unit,
            }
            for mark in drawing.marks
        ],
        "edges": [
            {
                "colour": edge.colour,
                "opacity": edge.opacity,
                "width": round(edge.width, 2),
                "dx": round(edge.dx, 2),
                "dy": round(edge.dy, 2),
            }
            for edge in drawing.edges
        ],
        "words": [
            {
                "text": word.text,
                "line": word.line,
                "d": svg_data(word.path, 2),
                "pictures": [
                    {
                        "d": svg_data(picture.path, 2),
                        "colour": picture.colour,
                        "opacity": picture.opacity,
                        "even_odd": picture.even_odd,
                    }
                    for picture in word.pictures
                ],
                "box": _four(near(word.box)),
                "backwards": word.backwards,
                "unit": unit,
                "spoken": svg_data(spoken_mark(drawing, number), 2),
            }
            for number, (word, unit) in enumerate(zip(drawing.words, drawing.word_units, strict=True))
        ],
        "units": [
            {"box": _four(near(unit.box)), "edges": unit.edges, "backwards": unit.backwards}
            for unit in drawing.units
        ],
        "ink": drawing.ink,
        "lit": drawing.lit,
        "spoken_as": drawing.spoken,
        "comes": drawing.comes,
        "goes": drawing.goes,
        "em": round(drawing.em, 3),
        "backwards": drawing.backwards,
        "of": drawing.of,
    }


def _four(values: Sequence[float]) -> tuple[float, float, float, float]:
    return values[0], values[1], values[2], values[3]


def moments_json(when: Moments, in_frame: int) -> MomentsJson:
    return {
        "comes": [(first - in_frame, frames) for first, frames in when.comes],
        "goes": (when.goes[0] - in_frame, when.goes[1]),
    }


def own_families(kept: Mapping[str, FontFile]) -> list[FamilyJson]:
    """Font files of the user's as families of one weight."""
    return [
        {"id": f"{OWN}{key}", "name": font.name, "kind": "your own", "weights": [font.weight], "own": True}
        for key, font in kept.items()
    ]


def shipped_json(own: Sequence[FamilyJson], mine: Sequence[CaptionStyle] = ()) -> ShippedJson:
    """What there is to choose from: styles, families of typefaces, and places with a name."""
    families: list[FamilyJson] = [
        {
            "id": family.id,
            "name": family.name,
            "kind": family.kind,
            "weights": sorted(family.files),
            "own": False,
        }
        for family in FAMILIES
    ]
    return {
        "captions": [style_json(style) for style in STYLES],
        "titles": [style_json(style) for style in TITLES],
        "mine": [style_json(style) for style in mine],
        "families": [*families, *own],
        "places": [{"name": name, "y": place.y, "hold": place.hold} for name, place in NAMED.items()],
    }


KINDS = ("fade", "rise", "sink", "slide", "type", "unroll", "grow", "tilt", "settle")


def movements_json() -> MovementsJson:
    """All movements there are, as rows of poses."""
    return {
        "coming": {kind: _row(coming(kind, False)) for kind in KINDS},
        "coming_back": {kind: _row(coming(kind, True)) for kind in KINDS},
        "going": {kind: _row(going(kind, False)) for kind in KINDS},
        "going_back": {kind: _row(going(kind, True)) for kind in KINDS},
        "swelling": _row(swelling()),
    }


def _row(poses: Sequence[Pose]) -> PoseRow:
    return [(pose.dx, pose.dy, pose.scale, pose.turn, pose.alpha, pose.seen) for pose in poses]

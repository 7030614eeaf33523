"""Words that stand as plates: painted once, repaired where they come to look otherwise."""

import math
from dataclasses import replace

import skia

from fox_cadence.core.lettering.drawing import CaptionDrawing
from fox_cadence.core.lettering.motion import Shown, changed_parts
from fox_cadence.media.caption_paint import Layer, edge_reach, painted_part, paths_of, posed_matrix
from fox_cadence.media.plates import Plate, empty, prepared, replace_part


def _at(room: tuple[int, int, int, int], shift: tuple[float, float]) -> tuple[int, int]:
    """Where a part of a drawing lies in the frame, on even pixels."""
    return room[0] + round(shift[0] / 2) * 2, room[1] + round(shift[1] / 2) * 2


def repair(
    plate: Plate,
    drawing: CaptionDrawing,
    before: Shown,
    shown: Shown,
    shift: tuple[float, float] = (0.0, 0.0),
    layer: Layer = "all",
) -> None:
    """Bring the plate of words that stood in one way to another way in which they stand, in place: what has
    not changed is not painted again."""
    for room in _changed_rooms(drawing, before, shown):
        part = prepared(painted_part(drawing, shown, room, layer), *_at(room, shift))
        replace_part(plate, part)


def apart(drawing: CaptionDrawing, stands: Shown, moves: Shown) -> bool:
    """Whether nothing that moves comes over a letter that stands, so that it may be painted over all that
    does."""
    if moves.marks:
        return False
    paths, em = paths_of(drawing), drawing.em
    reach = edge_reach(drawing) + max(0.16 * em, 1)  # what shows that a word is spoken goes so far past it
    ink = [
        paths.words[n].getBounds() for n in stands.words or () if stands.units[drawing.word_units[n]].alpha
    ]
    for number in moves.words or ():
        box, unit = drawing.words[number].box, drawing.units[drawing.word_units[number]].box
        room = paths.words[number].getBounds().makeOutset(reach, reach)
        if number == moves.word:
            room = posed_matrix(moves.swell, box, em).mapRect(room)
        room = posed_matrix(moves.units[drawing.word_units[number]], unit, em).mapRect(room)
        if any(skia.Rect.Intersects(room, each) for each in ink):
            return False
    return True


def _changed_rooms(drawing: CaptionDrawing, before: Shown, shown: Shown) -> list[tuple[int, int, int, int]]:
    """The parts of a drawing's box in which two states differ, in even pixels; none over another."""
    paths = paths_of(drawing)
    words, marks = changed_parts(drawing, before, shown)
    reach = edge_reach(drawing) + 2
    found: list[skia.Rect] = []
    for number in words:
        room = skia.Rect.MakeEmpty()
        for path in (paths.words[number], paths.spoken[number], *paths.pictures[number]):
            if not path.isEmpty():
                room.join(path.getBounds().makeOutset(reach, reach))
        found.append(room)
    for number in marks:
        by = drawing.marks[number].width / 2 + 2
        found.append(paths.marks[number].getBounds().makeOutset(by, by))
    x, y, width, height = drawing.box
    rooms: list[tuple[int, int, int, int]] = []
    for room in _apart(found):
        left = max(x, math.floor(room.left() / 2) * 2)
        top = max(y, math.floor(room.top() / 2) * 2)
        right = min(x + width, math.ceil(room.right() / 2) * 2)
        bottom = min(y + height, math.ceil(room.bottom() / 2) * 2)
        if left < right and top < bottom:
            rooms.append((left, top, right - left, bottom - top))
    return rooms


def _apart(rooms: list[skia.Rect]) -> list[skia.Rect]:
    """Rooms with those joined that lie over one another."""
    found: list[skia.Rect] = []
    for room in rooms:
        whole = skia.Rect(room.left(), room.top(), room.right(), room.bottom())
        while touching := [each for each in found if skia.Rect.Intersects(each, whole)]:
            for each in touching:
                found.remove(each)
                whole.join(each)
        found.append(whole)
    return found


def prepare(
    drawing: CaptionDrawing,
    shown: Shown,
    shift: tuple[float, float] = (0.0, 0.0),
    layer: Layer = "all",
) -> Plate:
    """Paint words that do not move and turn them into planes, `shift` from their place in even pixels."""
    plate = empty(*_at(drawing.box, shift), *drawing.box[2:])
    repair(plate, drawing, replace(shown, words=(), marks=()), shown, shift, layer)
    return plate

"""Places at which words were found."""

from fox_cadence.core.finding import Place
from fox_cadence.core.project import Project
from fox_cadence.web.answers.shapes import Row

_AROUND = 24


def place_json(project: Project, place: Place) -> Row:
    """A place words were found at, with what stands before and after it, and the line to go to."""
    if place.kind == "line":
        line_id: str | None = place.object_id
    else:
        line_id = next(
            (
                line.id
                for line in project.lines
                if place.object_id in line.caption_ids or place.object_id == line.scene_text_id
            ),
            None,
        )
    ids = {
        "caption": [item.id for item in project.captions],
        "line": [item.id for item in project.lines],
        "scene_text": [item.id for item in project.scene_texts],
        "title": [item.id for item in project.titles],
    }[place.kind]
    names = {"caption": "Caption", "line": "Said in line", "scene_text": "Scene text", "title": "Title"}
    name = names[place.kind]
    return {
        "where": f"{name} {ids.index(place.object_id) + 1}",
        "line": line_id,
        "before": place.text[max(0, place.start - _AROUND) : place.start],
        "match": place.text[place.start : place.end],
        "after": place.text[place.end : place.end + _AROUND],
    }

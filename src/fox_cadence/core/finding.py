"""Where a text stands in the words of a project: its captions, the own wording of its lines, its scene
texts."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from fox_cadence.core.project import Project


@dataclass(frozen=True, slots=True)
class Query:
    """What is looked for. Spaces in it match any white space; `whole_words` leaves out parts of longer
    words."""

    text: str
    whole_words: bool = True
    match_case: bool = False

    def pattern(self) -> re.Pattern[str]:
        words = r"\s+".join(re.escape(word) for word in self.text.split())
        if not words:
            words = r"(?!)"  # nothing is found nowhere
        elif self.whole_words:
            words = rf"(?<!\w){words}(?!\w)"
        return re.compile(words, 0 if self.match_case else re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Place:
    """An occurrence: the characters [start, end) of the text of a caption, a line's own wording or a scene
    text."""

    kind: Literal["caption", "line", "scene_text", "title"]
    object_id: str
    text: str
    start: int
    end: int


def find(project: Project, query: Query) -> Iterator[Place]:
    """All places, captions first, each kind in the order of the project."""
    pattern = query.pattern()
    texts: list[tuple[Literal["caption", "line", "scene_text", "title"], str, str]] = [
        *(("caption", item.id, item.text) for item in project.captions),
        *(("line", item.id, item.said) for item in project.lines if item.said is not None),
        *(("scene_text", item.id, item.text) for item in project.scene_texts),
        *(("title", item.id, item.text) for item in project.titles),
    ]
    for kind, object_id, text in texts:
        for match in pattern.finditer(text):
            yield Place(kind, object_id, text, match.start(), match.end())

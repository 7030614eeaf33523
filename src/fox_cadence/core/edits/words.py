"""Edits of words wherever they stand."""

import re
from collections import Counter
from typing import Annotated, Literal

from pydantic import Field

from fox_cadence.core.edits.base import EditError, EditValue, ShortText, carry_marks, marks_gone, number
from fox_cadence.core.finding import Query, find
from fox_cadence.core.numbers import counted
from fox_cadence.core.project import Caption, Line, Project, SceneText
from fox_cadence.core.words import words_of


class ReplaceWords(EditValue):
    """Put other words for some, in all captions, titles, own wordings and scene texts. Marks stay with their
    words."""

    kind: Literal["replace_words"] = "replace_words"
    find: ShortText
    by: Annotated[str, Field(max_length=200)]
    whole_words: bool = True
    match_case: bool = False

    def apply(self, project: Project) -> tuple[Project, str]:
        query = Query(self.find, self.whole_words, self.match_case)
        counts = Counter((place.kind, place.object_id) for place in find(project, query))
        if not counts:
            raise EditError(f"“{self.find}” stands nowhere in the words of this project.")
        pattern = query.pattern()

        def changed(text: str) -> str:
            return re.sub(r" {2,}", " ", pattern.sub(lambda _: self.by, text)).strip()

        captions = tuple(
            item.changed(text=changed(item.text)) if ("caption", item.id) in counts else item
            for item in project.captions
        )
        lines = tuple(
            item.changed(said=changed(item.said or "")) if ("line", item.id) in counts else item
            for item in project.lines
        )
        texts = tuple(
            item.changed(text=changed(item.text)) if ("scene_text", item.id) in counts else item
            for item in project.scene_texts
        )
        titles = tuple(
            item.changed(text=changed(item.text)) if ("title", item.id) in counts else item
            for item in project.titles
        )
        _refuse_emptied(project, captions, lines, texts)
        made = project.changed(captions=captions, lines=lines, scene_texts=texts, titles=titles)
        lost = 0
        for line in project.lines:
            made, gone = carry_marks(project, made, line.id)
            lost += gone
        total = sum(counts.values())
        label = f"“{self.find}” replaced by “{self.by}” in {counted(total, 'place')}"
        return made, label + marks_gone(lost)


def _refuse_emptied(
    project: Project, captions: tuple[Caption, ...], lines: tuple[Line, ...], texts: tuple[SceneText, ...]
) -> None:
    """A text that said something must still say something: a line is deleted by name, not by replacing its
    words."""
    for before, after in zip(project.captions, captions, strict=True):
        if words_of(before.text) and not words_of(after.text):
            raise EditError(
                f"Caption {number(project.captions, before.id)} would have no word left; delete its line."
            )
    for line, made in zip(project.lines, lines, strict=True):
        if line.said and words_of(line.said) and not words_of(made.said or ""):
            raise EditError(
                f"Line {number(project.lines, line.id)} would have no word left; delete it instead."
            )
    for text, made_text in zip(project.scene_texts, texts, strict=True):
        if words_of(text.text) and not words_of(made_text.text):
            raise EditError(f"The scene text “{text.text}” would have no word left; delete it instead.")

"""Edits of what the whole piece is: its frame, its rate, its language."""

from typing import Literal

from pydantic import Field

from fox_cadence.core.edits.base import EditError, EditValue
from fox_cadence.core.frame_change import worth_a_look
from fox_cadence.core.frame_size import LEAST_SIDE, MOST_SIDE, even
from fox_cadence.core.languages import is_language, language_name
from fox_cadence.core.project import Project
from fox_cadence.core.rate_change import at_rate
from fox_cadence.core.ticks import frame_rate, ticks_to_seconds


class SetFrame(EditValue):
    """Width and height of the frame; odd numbers are made even. Pictures keep their points of interest, and
    captions are lettered anew."""

    kind: Literal["frame"] = "frame"
    width: int = Field(ge=LEAST_SIDE, le=MOST_SIDE)
    height: int = Field(ge=LEAST_SIDE, le=MOST_SIDE)

    def apply(self, project: Project) -> tuple[Project, str]:
        width, height = even(self.width), even(self.height)
        mended = "" if (width, height) == (self.width, self.height) else ", made even"
        made = project.changed(width=width, height=height)
        few = [str(place + 1) for place in worth_a_look(project, made)]
        shots = f"{'shot' if len(few) == 1 else 'shots'} {', '.join(few)}"
        look = f"; worth a look, as little of the picture is seen: {shots}" if few else ""
        return made, f"Frame {width} × {height}{mended}{look}"


class SetRate(EditValue):
    """Frames a second, as an editor names them: 25 or 29.97. Cuts and captions keep their times to a
    frame."""

    kind: Literal["rate"] = "rate"
    rate: str = Field(max_length=20)

    def apply(self, project: Project) -> tuple[Project, str]:
        try:
            rate = frame_rate(self.rate)
        except ValueError as error:
            raise EditError(f"The {error}.") from error
        made, moved = at_rate(project, rate)
        milliseconds = ticks_to_seconds(moved) * 1000
        how = f"cuts and captions moved by at most {milliseconds:.0f} ms" if moved else "nothing moved"
        return made, f"{rate.label} frames a second, {how}"


class SetLanguage(EditValue):
    """The language of the words. The cast stays; the lexicon's entries of the language are used."""

    kind: Literal["language"] = "language"
    language: str = Field(max_length=35)

    def apply(self, project: Project) -> tuple[Project, str]:
        if not is_language(self.language):
            raise EditError(f"There is no language {self.language!r}; use a tag such as en or pt-BR.")
        return project.changed(language=self.language), f"Language {language_name(self.language)}"

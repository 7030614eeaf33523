"""Edits of the marks inside a line."""

from typing import Literal

from pydantic import Field

from fox_cadence.core.edits.base import EditError, EditValue, number, with_line
from fox_cadence.core.marks import Mark, PauseMark, SyncPoint
from fox_cadence.core.project import Line, Project, said_text
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.words import words_of


def _word(project: Project, line: Line, word: int) -> str:
    words = words_of(said_text(project, line))
    if word >= len(words):
        raise EditError(f"Line {number(project.lines, line.id)} has {len(words)} words; there is no word {word + 1}.")
    return words[word].text.strip(".,;:!?…–—\"'“”‘’()")


def _with_marks(project: Project, line: Line, marks: list[Mark]) -> Project:
    return with_line(project, line.model_copy(update={"marks": tuple(marks)}))


class SetPause(EditValue):
    """A pause of just this length after a word; None takes the mark away and leaves the pause to the voice."""

    kind: Literal["pause"] = "pause"
    line_id: str
    after_word: int = Field(ge=0)
    seconds: float | None = Field(None, ge=0, le=10)

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id)
        word = _word(project, line, self.after_word)
        if self.after_word + 1 >= len(words_of(said_text(project, line))):
            raise EditError("A pause stands between two words; after the last one there is nothing to hold up.")
        marks = [m for m in line.marks if not (isinstance(m, PauseMark) and m.after_word == self.after_word)]
        place = number(project.lines, line.id)
        if self.seconds is None:
            return _with_marks(project, line, marks), f"Line {place}: no written pause after “{word}”"
        marks.append(PauseMark(after_word=self.after_word, ticks=seconds_to_ticks(self.seconds)))
        return _with_marks(project, line, marks), f"Line {place}: pause of {self.seconds:.2f} s after “{word}”"


class SetSync(EditValue):
    """Hold a word to a frame of a shot (0 is the cut it begins with); no shot lets the word go."""

    kind: Literal["sync"] = "sync"
    line_id: str
    word: int = Field(ge=0)
    shot_id: str | None = None
    frames: int = Field(0, ge=0)

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id)
        word = _word(project, line, self.word)
        place = number(project.lines, line.id)
        marks = [m for m in line.marks if not (isinstance(m, SyncPoint) and m.word == self.word)]
        if self.shot_id is None:
            return _with_marks(project, line, marks), f"Line {place}: “{word}” let go"
        shot = project.shot(self.shot_id)
        if self.frames >= shot.length_frames:
            raise EditError(
                f"Shot {number(project.shots, shot.id)} has {shot.length_frames} frames, not {self.frames}."
            )
        if line.locked:
            raise EditError(f"Line {place} is locked. Unlock it to hold a word of it to the picture.")
        marks.append(SyncPoint(word=self.word, shot_id=shot.id, frames=self.frames))
        where = (
            f"the cut to shot {number(project.shots, shot.id)}"
            if self.frames == 0
            else (f"frame {self.frames} of shot {number(project.shots, shot.id)}")
        )
        return _with_marks(project, line, marks), f"Line {place}: “{word}” on {where}"

"""What all edits share. An edit is a value: `apply` turns a project into the next one and names the step for
undo."""

from typing import Annotated, Any, Protocol, TypeVar

from pydantic import ConfigDict, Field

from fox_cadence.core.figures.figure import Figure
from fox_cadence.core.marks import carried
from fox_cadence.core.numbers import counted
from fox_cadence.core.project import Caption, Line, Project, Role, Title, said_text
from fox_cadence.core.shot import Shot
from fox_cadence.core.sound.bed import Bed
from fox_cadence.core.sound.effect import SpotEffect
from fox_cadence.core.sound.effect_places import effects_carried
from fox_cadence.core.timeline import shot_spans
from fox_cadence.core.value import Value
from fox_cadence.core.words import words_of
from fox_cadence.errors import EditError as EditError  # where the terminal finds it without the edits

Text = Annotated[str, Field(max_length=5000)]
FilledText = Annotated[str, Field(min_length=1, max_length=5000)]
ShortText = Annotated[str, Field(min_length=1, max_length=200)]


def marks_gone(lost: int) -> str:
    """The end of a step's name where marks went with their words."""
    return f", {counted(lost, 'mark')} gone with their words" if lost else ""


class EditValue(Value):
    """Base of all edits: a field it does not know is refused, not passed over."""

    model_config = ConfigDict(frozen=True, extra="forbid")


class Applied(Protocol):
    """Anything that can be done to a project in one undoable step."""

    def apply(self, project: Project) -> tuple[Project, str]:
        """The next project and the name of the step.

        Raises:
            EditError: it can't be done; says why.
            NotInProjectError: an id names nothing.
        """
        ...

    def model_dump(self) -> dict[str, Any]:
        """The edit as JSON, as it can be sent back."""
        ...


T = TypeVar("T", Shot, Caption, Title, Line, Role, Figure, Bed, SpotEffect)


def replaced(items: tuple[T, ...], made: T) -> tuple[T, ...]:
    """The items with the one of the same id replaced; unchanged where there is none."""
    return tuple(made if item.id == made.id else item for item in items)


def position(items: tuple[Shot, ...] | tuple[Caption, ...] | tuple[Line, ...], object_id: str) -> int:
    """Where an object stands, counted from 0. Raises EditError when it is gone."""
    ids = [item.id for item in items]
    if object_id not in ids:
        raise EditError("That is no longer in the project.")
    return ids.index(object_id)


def number(items: tuple[Shot, ...] | tuple[Caption, ...] | tuple[Line, ...], object_id: str) -> int:
    """As the editor counts: from 1."""
    return position(items, object_id) + 1


def shot_start(project: Project, shot_id: str) -> int:
    """The frame of the piece a shot begins at."""
    for span in shot_spans(project):
        if span.shot.id == shot_id:
            return span.start_frame
    raise EditError("That shot is no longer in the project.")


def with_shot(project: Project, shot: Shot) -> Project:
    """The project with the shot of that id replaced."""
    return project.changed(shots=replaced(project.shots, shot))


def with_caption(project: Project, caption: Caption) -> Project:
    """The project with the caption of that id replaced."""
    return project.changed(captions=replaced(project.captions, caption))


def with_line(project: Project, line: Line) -> Project:
    """The project with the line of that id replaced."""
    return project.changed(lines=replaced(project.lines, line))


def with_lines(project: Project, lines: list[Line] | tuple[Line, ...]) -> Project:
    """The project with these lines instead of its own."""
    return project.changed(lines=tuple(lines))


def carry_marks(before: Project, after: Project, line_id: str) -> tuple[Project, int]:
    """Take the marks of a line along to its new words; the project, and how many marks lost their word."""
    line = after.line(line_id)
    held = any(effect.line_id == line_id for effect in after.effects)
    if not line.marks and not held:
        return after, 0
    old = [word.text for word in words_of(said_text(before, before.line(line_id)))]
    new = [word.text for word in words_of(said_text(after, line))]
    if held:
        after = after.changed(effects=effects_carried(after.effects, line_id, old, new))
    marks = carried(line.marks, old, new)
    return with_line(after, line.changed(marks=marks)), len(line.marks) - len(marks)

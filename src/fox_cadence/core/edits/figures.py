"""Edits of figures: drawn characters that speak the lines of a role."""

from typing import Annotated, Literal

from pydantic import Field

from fox_cadence.core.edits.base import EditError, EditValue, replaced
from fox_cadence.core.figures.characters import CHARACTERS
from fox_cadence.core.figures.drawing import BOX
from fox_cadence.core.figures.figure import (
    LARGEST_SIZE,
    LEAST_SIZE,
    CharacterId,
    Facing,
    Figure,
    ShownWhen,
)
from fox_cadence.core.lettering.style import Colour
from fox_cadence.core.project import Project
from fox_cadence.core.script_layout import next_id

MOST_FIGURES = 12
_NEW_SIZE = 0.5
_INSET = 0.04


class AddFigure(EditValue):
    """A figure that speaks for a role, on the left of the frame, or on the right where one is on the left
    already; it looks into the picture, and stands on the captions where those are low."""

    kind: Literal["add_figure"] = "add_figure"
    role_id: str
    character: CharacterId

    def apply(self, project: Project) -> tuple[Project, str]:
        role = project.role(self.role_id)
        if len(project.figures) >= MOST_FIGURES:
            raise EditError(f"A piece has at most {MOST_FIGURES} figures.")
        wide, high = _extent(project, _NEW_SIZE)
        on_left = any(each.x < 0.5 for each in project.figures)
        x = 1 - _INSET - wide / 2 if on_left else _INSET + wide / 2
        made = Figure(
            id=next_id("g", [each.id for each in project.figures]),
            role_id=role.id,
            character=self.character,
            x=round(x, 4),
            y=round(_ground(project) - high / 2, 4),
            size=_NEW_SIZE,
            facing="left" if on_left else "right",
        )
        label = f"{CHARACTERS[self.character].name} speaks for {role.name}"
        return project.changed(figures=(*project.figures, made)), label


def _ground(project: Project) -> float:
    """Where a new figure stands, in shares of the frame's height: on the upper edge of low captions of two
    lines, else on the frame's."""
    style = project.lettering.style
    block = min(2, style.most_lines) * style.size * style.line_height
    block *= min(project.width, project.height) / project.height
    top = style.place.y - {"top": 0.0, "middle": block / 2, "bottom": block}[style.place.hold]
    return top if top > 0.5 and project.captions else 1.0


def _extent(project: Project, size: float) -> tuple[float, float]:
    """Width and height of a figure in shares of the frame."""
    high = size * min(project.width, project.height)
    return high * BOX[0] / BOX[1] / project.width, high / project.height


class SetFigure(EditValue):
    """Anything of a figure; what is None stays. `colours` stand in for all chosen before."""

    kind: Literal["figure"] = "figure"
    figure_id: str
    role_id: str | None = None
    character: CharacterId | None = None
    x: Annotated[float, Field(ge=-0.5, le=1.5)] | None = None
    y: Annotated[float, Field(ge=-0.5, le=1.5)] | None = None
    size: Annotated[float, Field(ge=LEAST_SIZE, le=LARGEST_SIZE)] | None = None
    facing: Facing | None = None
    shown: ShownWhen | None = None
    colours: Annotated[dict[str, Colour], Field(max_length=12)] | None = None

    def apply(self, project: Project) -> tuple[Project, str]:
        figure = project.figure(self.figure_id)
        if self.role_id is not None:
            project.role(self.role_id)
        change = {
            name: value
            for name, value in self.model_dump(exclude={"kind", "figure_id"}).items()
            if value is not None
        }
        if self.character not in (None, figure.character):
            change.setdefault("colours", {})  # another one has other things to colour
        made = figure.changed(**change)
        unknown = sorted(set(made.colours) - set(CHARACTERS[made.character].colours))
        if unknown:
            raise EditError(f"{CHARACTERS[made.character].name} has no {unknown[0]!r} to colour.")
        figures = replaced(project.figures, made)
        return project.changed(figures=figures), f"Figure {CHARACTERS[made.character].name}"


class DeleteFigure(EditValue):
    kind: Literal["delete_figure"] = "delete_figure"
    figure_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        figure = project.figure(self.figure_id)
        left = tuple(each for each in project.figures if each.id != figure.id)
        return project.changed(figures=left), f"Figure {CHARACTERS[figure.character].name} taken off"

"""Edits of the takes a line keeps; choosing one is in actions/choosing.py, which knows what they were made
from."""

from typing import Literal

from pydantic import Field

from fox_cadence.core.edits.base import EditError, EditValue, number, with_line
from fox_cadence.core.project import KeptTake, Project


class NameTake(EditValue):
    kind: Literal["name_take"] = "name_take"
    line_id: str
    take_id: str
    name: str = Field("", max_length=80)

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id)
        if all(kept.take_id != self.take_id for kept in line.takes):
            line = line.keeping(KeptTake(take_id=self.take_id))
        takes = tuple(
            kept.changed(name=self.name.strip()) if kept.take_id == self.take_id else kept
            for kept in line.takes
        )
        label = f"Line {number(project.lines, line.id)}: take named “{self.name.strip()}”"
        return with_line(project, line.changed(takes=takes)), label


class DropTake(EditValue):
    """Let a line keep a take no longer; the one that plays stays. Undo brings it back."""

    kind: Literal["drop_take"] = "drop_take"
    line_id: str
    take_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id)
        if line.take_id == self.take_id:
            raise EditError("This take plays in the piece. Choose another one first.")
        takes = tuple(kept for kept in line.takes if kept.take_id != self.take_id)
        if len(takes) == len(line.takes):
            raise EditError("The line no longer keeps this take.")
        label = f"Line {number(project.lines, line.id)}: a take deleted"
        return with_line(project, line.changed(takes=takes)), label

"""Locking and unlocking."""

from typing import Literal

from fox_cadence.core.edits.base import EditValue, number, with_caption, with_line, with_shot
from fox_cadence.core.project import Project


class SetLock(EditValue):
    kind: Literal["lock"] = "lock"
    what: Literal["shot", "caption", "line"]
    id: str
    locked: bool

    def apply(self, project: Project) -> tuple[Project, str]:
        change = {"locked": self.locked}
        verb = "locked" if self.locked else "unlocked"
        if self.what == "shot":
            made = with_shot(project, project.shot(self.id).changed(**change))
            return made, f"Shot {number(project.shots, self.id)} {verb}"
        if self.what == "caption":
            made = with_caption(project, project.caption(self.id).changed(**change))
            return made, f"Caption {number(project.captions, self.id)} {verb}"
        made = with_line(project, project.line(self.id).changed(**change))
        return made, f"Line {number(project.lines, self.id)} {verb}"

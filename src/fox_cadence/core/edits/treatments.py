"""Edits of treatments: how the voice of a role or of a line is finished."""

from typing import Literal

from fox_cadence.core.edits.base import EditError, EditValue, ShortText, number, replaced, with_line
from fox_cadence.core.names import tidy_name
from fox_cadence.core.project import Project
from fox_cadence.core.treatment import Treatment

_MOST_KEPT = 100


class SetTreatment(EditValue):
    """A treatment of a role, or of a line. None: of a role not at all, of a line as its role."""

    kind: Literal["treatment"] = "treatment"
    role_id: str | None = None
    line_id: str | None = None
    treatment: Treatment | None

    def apply(self, project: Project) -> tuple[Project, str]:
        if (self.role_id is None) == (self.line_id is None):
            raise EditError("Choose the role or the line to treat.")
        if self.line_id is not None:
            line = project.line(self.line_id)
            how = _called(self.treatment) if self.treatment is not None else "treated as its role"
            made = with_line(project, line.changed(treatment=self.treatment))
            return made, f"Line {number(project.lines, line.id)}: {how}"
        role = project.role(self.role_id or "")
        roles = replaced(project.roles, role.changed(treatment=self.treatment))
        return project.changed(roles=roles), f"{role.name}: {_called(self.treatment)}"


def _called(treatment: Treatment | None) -> str:
    if treatment is None or not treatment.stages:
        return "not treated"
    return f"treated, {treatment.name}" if treatment.name else "treated"


class KeepTreatment(EditValue):
    """Keeps a treatment under its name; one of that name is replaced."""

    kind: Literal["keep_treatment"] = "keep_treatment"
    treatment: Treatment

    def apply(self, project: Project) -> tuple[Project, str]:
        name = tidy_name(self.treatment.name)
        if not name:
            raise EditError("A treatment needs a name to be kept under.")
        if not self.treatment.stages:
            raise EditError("There is nothing to keep: the treatment has no stages.")
        others = tuple(each for each in project.treatments if each.name.casefold() != name.casefold())
        if len(others) >= _MOST_KEPT:
            raise EditError(f"A project keeps at most {_MOST_KEPT} treatments.")
        made = (*others, self.treatment.changed(name=name))
        return project.changed(treatments=made), f"Treatment “{name}” kept"


class ForgetTreatment(EditValue):
    """No longer keeps a treatment; voices that have it keep it."""

    kind: Literal["forget_treatment"] = "forget_treatment"
    name: ShortText

    def apply(self, project: Project) -> tuple[Project, str]:
        left = tuple(each for each in project.treatments if each.name != self.name)
        if len(left) == len(project.treatments):
            raise EditError(f"There is no treatment “{self.name}” kept.")
        return project.changed(treatments=left), f"Treatment “{self.name}” no longer kept"

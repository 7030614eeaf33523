"""Edits of the cast."""

from typing import Literal

from pydantic import Field

from fox_cadence.core.arrange import next_id
from fox_cadence.core.edits.base import EditValue, ShortText, replaced
from fox_cadence.core.project import ROLE_COLOURS, Project, Role


class SetRole(EditValue):
    """Voice and delivery of a role; what is None stays."""

    kind: Literal["role"] = "role"
    role_id: str
    name: ShortText | None = None
    voice_id: ShortText | None = None
    pace: float | None = Field(None, ge=0.5, le=2)
    pitch_semitones: float | None = Field(None, ge=-6, le=6)
    gain_db: float | None = Field(None, ge=-24, le=12)

    def apply(self, project: Project) -> tuple[Project, str]:
        role = project.role(self.role_id)
        change = self.model_dump(exclude={"kind", "role_id"}, exclude_none=True)
        made = role.model_copy(update=change)
        what = "Voice" if self.voice_id is not None else "Delivery"
        return project.model_copy(update={"roles": replaced(project.roles, made)}), f"{what} of {made.name}"


class AddRole(EditValue):
    kind: Literal["add_role"] = "add_role"
    name: ShortText
    voice_id: ShortText

    def apply(self, project: Project) -> tuple[Project, str]:
        role_id = next_id("r", [role.id for role in project.roles])
        role = Role(
            id=role_id, name=self.name.strip(), voice_id=self.voice_id, colour=len(project.roles) % ROLE_COLOURS
        )
        return project.model_copy(update={"roles": (*project.roles, role)}), f"Role {role.name}"

"""Edits of the cast: roles, deliveries, the shortlist."""

from collections.abc import Sequence
from typing import Literal

from pydantic import Field

from fox_cadence.core.delivery import STYLES, Delivery, SavedDelivery, style_named
from fox_cadence.core.edits.base import (
    EditError,
    EditValue,
    ShortText,
    number,
    replaced,
    with_line,
    with_lines,
)
from fox_cadence.core.project import ROLE_COLOURS, Line, Project, Role
from fox_cadence.core.script_layout import next_id


def _checked_style(style: str | None) -> None:
    if style is not None and style not in {each.id for each in STYLES}:
        raise EditError(f"There is no style “{style}”.")


class SetRole(EditValue):
    """Voice and delivery of a role; what is None stays."""

    kind: Literal["role"] = "role"
    role_id: str
    name: ShortText | None = None
    voice_id: ShortText | None = None
    style: ShortText | None = None
    pace: float | None = Field(None, ge=0.5, le=2)
    pitch_semitones: float | None = Field(None, ge=-12, le=12)
    pitch_range: float | None = Field(None, ge=0.2, le=2)
    gain_db: float | None = Field(None, ge=-24, le=12)
    pan: float | None = Field(None, ge=-1, le=1)
    colour: int | None = Field(None, ge=0, lt=ROLE_COLOURS)

    def apply(self, project: Project) -> tuple[Project, str]:
        role = project.role(self.role_id)
        _checked_style(self.style)
        change = self.model_dump(exclude={"kind", "role_id"}, exclude_none=True)
        made = role.changed(**change)
        what = "Voice" if self.voice_id is not None else "Delivery"
        if set(change) <= {"name", "colour"}:
            what = "Name" if self.name is not None else "Colour"
        return project.changed(roles=replaced(project.roles, made)), f"{what} of {made.name}"


class AddRole(EditValue):
    kind: Literal["add_role"] = "add_role"
    name: ShortText
    voice_id: ShortText

    def apply(self, project: Project) -> tuple[Project, str]:
        role_id = next_id("r", [role.id for role in project.roles])
        role = Role(
            id=role_id,
            name=self.name.strip(),
            voice_id=self.voice_id,
            colour=len(project.roles) % ROLE_COLOURS,
        )
        return project.changed(roles=(*project.roles, role)), f"Role {role.name}"


class DeleteRole(EditValue):
    """Takes a role out of the cast; its lines and figures go to another."""

    kind: Literal["delete_role"] = "delete_role"
    role_id: str
    to_role_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        role, other = project.role(self.role_id), project.role(self.to_role_id)
        if role.id == other.id:
            raise EditError("Choose another role to say its lines.")
        lines = [
            line.changed(role_id=other.id) if line.role_id == role.id else line for line in project.lines
        ]
        left = tuple(each for each in project.roles if each.id != role.id)
        figures = tuple(
            each.changed(role_id=other.id) if each.role_id == role.id else each for each in project.figures
        )
        made = with_lines(project.changed(roles=left, figures=figures), lines)
        return made, f"Role {role.name} given to {other.name}"


class SetLineDelivery(EditValue):
    """A voice and a delivery of a line's own; None: as its role has it."""

    kind: Literal["line_delivery"] = "line_delivery"
    line_id: str
    voice_id: ShortText | None = None
    delivery: Delivery | None = None

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id)
        if self.delivery is not None:
            _checked_style(self.delivery.style)
        made = line.changed(voice_id=self.voice_id, delivery=self.delivery)
        how = "its own delivery" if self.delivery or self.voice_id else "as its role says it"
        return with_line(project, made), f"Line {number(project.lines, line.id)}: {how}"


Where = Literal["line", "role", "section", "all"]


class ApplyDelivery(EditValue):
    """Give a delivery to a line, a role, a section (the lines from one heading to the next) or everything.

    Roles get it as theirs, and what their lines had of their own goes; a section's lines get it as their own.
    """

    kind: Literal["apply_delivery"] = "apply_delivery"
    delivery: Delivery
    where: Where
    line_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        _checked_style(self.delivery.style)
        line = project.line(self.line_id)
        name = style_named(self.delivery.style).name
        if self.where in ("role", "all"):
            ids = {line.role_id} if self.where == "role" else {role.id for role in project.roles}
            roles = tuple(
                role.changed(**{name: getattr(self.delivery, name) for name in Delivery.model_fields})
                if role.id in ids
                else role
                for role in project.roles
            )
            lines = [each.changed(delivery=None) if each.role_id in ids else each for each in project.lines]
            whose = project.role(line.role_id).name if self.where == "role" else "everything"
            return with_lines(project.changed(roles=roles), lines), f"{name} for {whose}"
        chosen = {line.id} if self.where == "line" else {each.id for each in section_of(project, line)}
        lines = [
            each.changed(delivery=self.delivery) if each.id in chosen else each for each in project.lines
        ]
        whose = (
            f"line {number(project.lines, line.id)}"
            if self.where == "line"
            else f"a section of {len(chosen)} lines"
        )
        return with_lines(project, lines), f"{name} for {whose}"


def section_of(project: Project, line: Line) -> Sequence[Line]:
    """The lines of the section a line stands in."""
    for _, lines in sections(project):
        if any(each.id == line.id for each in lines):
            return lines
    return [line]


def sections(project: Project) -> list[tuple[str, list[Line]]]:
    """The lines by the headings they come after: a heading is a scene text nobody says, on the shot it begins
    with."""
    said = {line.scene_text_id for line in project.lines}
    headings = {text.shot_id: text.text for text in project.scene_texts if text.id not in said}
    if not headings:
        return [("", list(project.lines))] if project.lines else []
    index = project.shot_index()
    found: list[tuple[str, list[Line]]] = [("", [])]
    at = -1
    for line in project.lines:
        place = index[line.first_shot_id]
        found += [
            (headings[shot.id], []) for shot in project.shots[at + 1 : place + 1] if shot.id in headings
        ]
        at = max(at, place)
        found[-1][1].append(line)
    return [(name, lines) for name, lines in found if lines]


class SaveDelivery(EditValue):
    """Keep a delivery under a name in the project; one of the same name is replaced, None takes it away."""

    kind: Literal["save_delivery"] = "save_delivery"
    name: ShortText
    delivery: Delivery | None = None

    def apply(self, project: Project) -> tuple[Project, str]:
        name = self.name.strip()
        left = [each for each in project.deliveries if each.name != name]
        if self.delivery is None:
            return project.changed(deliveries=tuple(left)), f"Delivery “{name}” deleted"
        _checked_style(self.delivery.style)
        made = SavedDelivery(
            id=next_id("d", [e.id for e in project.deliveries]), name=name, delivery=self.delivery
        )
        return project.changed(deliveries=(*left, made)), f"Delivery “{name}” kept"


class SetShortlist(EditValue):
    """Put a voice on the shortlist, or take it off."""

    kind: Literal["shortlist"] = "shortlist"
    voice_id: ShortText
    listed: bool = True

    def apply(self, project: Project) -> tuple[Project, str]:
        left = tuple(each for each in project.shortlist if each != self.voice_id)
        made = (*left, self.voice_id) if self.listed else left
        what = "on the shortlist" if self.listed else "off the shortlist"
        return project.changed(shortlist=made), f"A voice {what}"

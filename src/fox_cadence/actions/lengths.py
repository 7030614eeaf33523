"""How long the lines of a project last, or will last before anything is voiced."""

from dataclasses import dataclass
from typing import Literal

from fox_cadence.actions.workspace import Workspace


@dataclass(frozen=True, slots=True)
class LineLength:
    """A line's length at natural pace in ticks, and where it comes from: its take, the engine before any
    sound, or an estimate where neither knows."""

    line_id: str
    text: str
    ticks: int
    source: Literal["take", "engine", "estimate"]


def lengths_of(workspace: Workspace, project_id: str, voice_id: str | None = None) -> list[LineLength]:
    """The lengths of all lines; with a voice as if every role had it. Nothing is voiced or changed."""
    project = workspace.head(project_id).project
    if voice_id is not None:
        roles = tuple(role.changed(voice_id=voice_id) for role in project.roles)
        bare = {"take_id": None, "placement": None, "voice_id": None}
        project = project.changed(roles=roles, lines=tuple(line.changed(**bare) for line in project.lines))
    workspace.settle_lengths(project)
    found: list[LineLength] = []
    for span in workspace.timeline(project).lines:
        source: Literal["take", "engine", "estimate"] = "estimate"
        if span.foreseen:
            source = "engine"
        elif span.take is not None and not span.stale:
            source = "take"
        found.append(LineLength(span.line.id, span.said, span.natural_ticks, source))
    return found

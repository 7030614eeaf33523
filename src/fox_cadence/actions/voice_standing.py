"""How a piece would stand with another voice for a role: from lengths alone, before anything is voiced."""

from collections.abc import Sequence
from dataclasses import dataclass

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.fit.proposal import propose
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.project import Line, Project
from fox_cadence.core.states import LineState

MOST_VOICES = 12


@dataclass(frozen=True, slots=True)
class VoiceStanding:
    """A role's lines in one voice after a fit: their natural length (ticks), the states they would have in
    their order (empty while no fit is possible), the slowest and the fastest pace among them, and how long
    the piece would be (ticks). `known`: all these lengths are known, none is a guess any more."""

    voice_id: str
    natural_ticks: int
    states: tuple[LineState, ...]
    slowest: float
    fastest: float
    total_ticks: int
    known: bool


def voice_standings(
    workspace: Workspace, project_id: str, role_id: str, voice_ids: Sequence[str]
) -> list[VoiceStanding]:
    """How the piece would stand with each of some voices for a role. Nothing is voiced or changed.

    The voice the role has is judged by its takes, the others by the lengths their lines will have, or by a
    guess until they are known; locked and recorded lines, and those in a voice of their own, stay as they
    are.

    Raises:
        NotInProjectError: there is no such role.
    """
    project = workspace.head(project_id).project
    role = project.role(role_id)
    found: list[VoiceStanding] = []
    for voice_id in list(dict.fromkeys(voice_ids))[:MOST_VOICES]:
        cast = project if voice_id == role.voice_id else _recast(workspace, project, role_id, voice_id)
        timeline = workspace.timeline(cast)
        proposal = propose(timeline)
        places = [n for n, span in enumerate(timeline.lines) if span.line.role_id == role_id]
        solved = proposal.status is Status.SOLVED
        plans = [proposal.lines[n] for n in places] if solved else []
        frames = sum(proposal.shot_frames) if solved else timeline.total_frames
        overlap = sum(shot.transition_frames for shot in cast.shots[:-1]) if solved else 0
        found.append(
            VoiceStanding(
                voice_id,
                sum(timeline.lines[n].natural_ticks for n in places),
                tuple(plan.state for plan in plans),
                min((plan.pace for plan in plans), default=1.0),
                max((plan.pace for plan in plans), default=1.0),
                cast.rate.ticks(frames - overlap),
                workspace.foreseeing(timeline) == 0,
            )
        )
    return found


def _recast(workspace: Workspace, project: Project, role_id: str, voice_id: str) -> Project:
    """The project with another voice for a role, whose lines have no sound of it yet."""
    role = project.role(role_id)
    takes = workspace.takes_of(project)

    def cast(line: Line) -> Line:
        if line.role_id != role_id or line.voice_id is not None:
            return line
        take = takes.get(line.take_id or "")
        if line.locked or (take is not None and take.recorded):
            return line.changed(voice_id=role.voice_id)
        return line.changed(take_id=None, placement=None)

    roles = tuple(each.changed(voice_id=voice_id) if each is role else each for each in project.roles)
    return project.changed(lines=tuple(cast(line) for line in project.lines), roles=roles)

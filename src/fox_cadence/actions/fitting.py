"""Fitting: make a proposal, look at it, change what it was made for, accept it."""

from collections.abc import Sequence
from dataclasses import dataclass, field

from fox_cadence.actions.realising import LineResult, Realised, realise
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import Applied, apply_all
from fox_cadence.core.fit.conflicts import Conflict, find_conflict
from fox_cadence.core.fit.ending import wishes_against
from fox_cadence.core.fit.plan import Proposal
from fox_cadence.core.fit.proposal import propose
from fox_cadence.core.fit.remedies import Remedy, remedies
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.project import NotInProjectError, Project
from fox_cadence.core.timeline import Timeline
from fox_cadence.errors import ClashError, InputError
from fox_cadence.jobs.runner import Unwatched, Watcher


@dataclass(frozen=True, slots=True)
class Keep:
    """What a proposal shall leave as it is: lines in their shots, lengths of shots."""

    line_ids: frozenset[str] = frozenset()
    shot_ids: frozenset[str] = frozenset()


@dataclass(frozen=True, slots=True)
class Fitted:
    """A proposal with the revision it was made on, what it was made for, and why there is none."""

    revision: int
    project: Project
    timeline: Timeline
    proposal: Proposal
    keep: Keep = field(default_factory=Keep)
    conflict: Conflict | None = None


@dataclass(frozen=True, slots=True)
class Accepted:
    """What became of a proposal: its new revision, and the lines of which takes were made or found at its paces."""

    revision: int
    proposal: Proposal
    lines: tuple[LineResult, ...]
    failed: tuple[tuple[str, str], ...]
    rounds: int


def fit(workspace: Workspace, project_id: str, keep: Keep | None = None) -> Fitted:
    """Compute a proposal. Changes nothing."""
    head = workspace.head(project_id)
    return _fitted(workspace, head.revision, head.project, keep or Keep())


def try_edits(
    workspace: Workspace, project_id: str, based_on: int, edits: Sequence[Applied], keep: Keep | None = None
) -> Fitted:
    """What a fit would make of edits that are not made yet.

    Raises:
        ClashError: the project has changed since revision `based_on`.
        EditError: an edit can't be made.
    """
    head = workspace.head(project_id)
    if head.revision != based_on:
        raise ClashError(based_on, head.revision)
    project, _ = apply_all(head.project, edits)
    return _fitted(workspace, head.revision, project, keep or Keep(), explain=False)


def _fitted(workspace: Workspace, revision: int, project: Project, keep: Keep, explain: bool = True) -> Fitted:
    timeline = workspace.timeline(_holding(project, keep))
    proposal = propose(timeline, keep.line_ids)
    conflict = None
    if explain and proposal.status is not Status.SOLVED and project.shots:
        conflict = find_conflict(timeline.project, workspace.timeline)
    elif explain and proposal.outside:
        conflict = _outside(timeline.project, proposal)
    return Fitted(revision, project, timeline, proposal, keep, conflict)


def _outside(project: Project, proposal: Proposal) -> Conflict:
    """The words that a proposal leaves outside the piece against what holds its length, which can be let go."""
    wishes = wishes_against(project, proposal)
    return Conflict(wishes, wishes, None, proposal.outside)


def _holding(project: Project, keep: Keep) -> Project:
    """The project with the lengths of some shots held for this fit only."""
    if not keep.shot_ids:
        return project
    shots = tuple(shot.changed(give_way="picture") if shot.id in keep.shot_ids else shot for shot in project.shots)
    return project.changed(shots=shots)


def remedies_of(workspace: Workspace, project_id: str, line_id: str) -> tuple[Remedy, ...]:
    """What would cure a line of a project as it stands."""
    fitted = fit(workspace, project_id)
    if fitted.proposal.status is not Status.SOLVED:
        return ()
    place = next((n for n, plan in enumerate(fitted.proposal.lines) if plan.line_id == line_id), None)
    if place is None:
        raise NotInProjectError("line", line_id)
    return remedies(fitted.timeline, fitted.proposal, place, workspace.timeline, workspace.lengths)


def preview(
    workspace: Workspace, project_id: str, based_on: int, keep: Keep, watcher: Watcher | None = None
) -> Realised:
    """Make what a proposal sounds like, without keeping it; accepting it afterwards is quick.

    Raises:
        ClashError: the project has changed since revision `based_on`.
        InputError: there is no proposal; says why.
    """
    return _realised(workspace, project_id, based_on, keep, watcher or Unwatched())


def _realised(workspace: Workspace, project_id: str, based_on: int, keep: Keep, watch: Watcher) -> Realised:
    fitted = fit(workspace, project_id, keep)
    if fitted.revision != based_on:
        raise ClashError(based_on, fitted.revision)
    if fitted.proposal.status is not Status.SOLVED:
        raise InputError(fitted.conflict.reason if fitted.conflict else fitted.proposal.reason)
    if fitted.proposal.outside:
        raise InputError(_outside(fitted.timeline.project, fitted.proposal).reason)
    return realise(workspace, fitted.project, fitted.timeline, fitted.proposal, keep.line_ids, watch)


def accept(
    workspace: Workspace, project_id: str, based_on: int, keep: Keep | None = None, watcher: Watcher | None = None
) -> Accepted:
    """Make the takes at the proposal's paces and keep everything as one undoable step.

    Raises:
        ClashError: the project has changed since revision `based_on`.
        InputError: there is no proposal to accept; says why.
    """
    made = _realised(workspace, project_id, based_on, keep or Keep(), watcher or Unwatched())
    revision = based_on
    if made.project != workspace.head(project_id).project:
        revision = workspace.projects.commit(project_id, based_on, made.project, "Fit accepted")
    return Accepted(revision, made.proposal, made.lines, made.failed, made.rounds)

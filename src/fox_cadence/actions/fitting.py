"""Fitting: make a proposal, look at it, change what it was made for, accept it."""

from collections.abc import Sequence
from dataclasses import dataclass, field

from fox_cadence.actions.pacing_loop import LineResult, Realised, realise
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import Applied, apply_all
from fox_cadence.core.fit.conflicts import Conflict, find_conflict
from fox_cadence.core.fit.ending import wishes_against
from fox_cadence.core.fit.plan import Proposal
from fox_cadence.core.fit.proposal import propose
from fox_cadence.core.fit.remedies import Remedy, remedies
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.project import NotInProjectError, Project
from fox_cadence.core.timeline import ShotSpan, Timeline, shot_spans
from fox_cadence.errors import ClashError, InputError
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.store.projects import Head

_PATIENCE_S = 3.0
"""How long a fit waits for lengths that are known; what is not ready then is expected."""


@dataclass(frozen=True, slots=True)
class Keep:
    """What a proposal shall leave as it is: lines in their shots, lengths of shots."""

    line_ids: frozenset[str] = frozenset()
    shot_ids: frozenset[str] = frozenset()


@dataclass(frozen=True, slots=True)
class Fitted:
    """A proposal with the revision of which project it was made on, what it was made for, and why there is
    none."""

    project_id: str
    revision: int
    project: Project
    timeline: Timeline
    proposal: Proposal
    keep: Keep = field(default_factory=Keep)
    conflict: Conflict | None = None

    def shots_then(self) -> tuple[ShotSpan, ...]:
        """The shots with the lengths they would have; none where there is no proposal."""
        if self.proposal.status is not Status.SOLVED:
            return ()
        return shot_spans(self.project, self.proposal.shot_frames)


@dataclass(frozen=True, slots=True)
class Accepted:
    """What became of a proposal: its new revision, and the lines of which takes were made or found at its
    paces."""

    revision: int
    proposal: Proposal
    lines: tuple[LineResult, ...]
    failed: tuple[tuple[str, str], ...]
    rounds: int


def fit(workspace: Workspace, project_id: str, keep: Keep | None = None) -> Fitted:
    """Compute a proposal. Changes nothing."""
    head = workspace.head(project_id)
    workspace.settle_lengths(head.project, _PATIENCE_S)
    return _fitted(workspace, head, head.project, keep or Keep())


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
    keep = keep or Keep()
    timeline = workspace.timeline(_holding(project, keep))
    proposal = propose(timeline, keep.line_ids, workspace.newest_trials.find(project_id))
    if proposal.basis is not None:  # the next step of a drag goes on from here
        workspace.newest_trials.keep(proposal.basis, project_id)
    return Fitted(project_id, head.revision, project, timeline, proposal, keep)


def _fitted(workspace: Workspace, head: Head, project: Project, keep: Keep) -> Fitted:
    timeline = workspace.timeline(_holding(project, keep))
    proposal = propose(timeline, keep.line_ids)
    conflict = None
    if proposal.status is not Status.SOLVED and project.shots:
        conflict = find_conflict(timeline.project, workspace.timeline)
    elif proposal.outside:
        conflict = _outside(timeline.project, proposal)
    return Fitted(head.project_id, head.revision, project, timeline, proposal, keep, conflict)


def _outside(project: Project, proposal: Proposal) -> Conflict:
    """The words that a proposal leaves outside the piece against what holds its length, which can be let
    go."""
    wishes = wishes_against(project, proposal)
    return Conflict(wishes, wishes, None, proposal.outside)


def _holding(project: Project, keep: Keep) -> Project:
    """The project with the lengths of some shots held for this fit only."""
    if not keep.shot_ids:
        return project
    shots = tuple(
        shot.changed(give_way="picture") if shot.id in keep.shot_ids else shot for shot in project.shots
    )
    return project.changed(shots=shots)


def remedies_of(workspace: Workspace, fitted: Fitted, line_id: str) -> tuple[Remedy, ...]:
    """What would cure a line of a project that a proposal was made for. Raises NotInProjectError."""
    if fitted.proposal.status is not Status.SOLVED:
        return ()
    return remedies(
        fitted.timeline, fitted.proposal, line_place(fitted, line_id), workspace.timeline, workspace.lengths
    )


def line_place(fitted: Fitted, line_id: str) -> int:
    """Which line of a fitted project one is, counted from 0. Raises NotInProjectError."""
    for place, line in enumerate(fitted.project.lines):
        if line.id == line_id:
            return place
    raise NotInProjectError("line", line_id)


def preview(workspace: Workspace, fitted: Fitted, watcher: Watcher | None = None) -> Realised:
    """Make what a proposal sounds like, without keeping it; accepting it afterwards is quick.

    Raises:
        ClashError: the project has changed since the proposal was made.
        InputError: there is no proposal; says why.
    """
    head = workspace.head(fitted.project_id)
    if head.revision != fitted.revision:
        raise ClashError(fitted.revision, head.revision)
    if fitted.proposal.status is not Status.SOLVED:
        raise InputError(fitted.conflict.reason if fitted.conflict else fitted.proposal.reason)
    if fitted.proposal.outside:
        raise InputError(_outside(fitted.timeline.project, fitted.proposal).reason)
    return realise(
        workspace,
        fitted.project,
        fitted.timeline,
        fitted.proposal,
        fitted.keep.line_ids,
        watcher or Unwatched(),
    )


def accept(workspace: Workspace, fitted: Fitted, watcher: Watcher | None = None) -> Accepted:
    """Make the takes at a proposal's paces and keep everything as one undoable step: just what was proposed,
    whatever has been learnt of the voices since.

    Raises:
        ClashError: the project has changed since the proposal was made.
        InputError: there is no proposal to accept; says why.
    """
    made = preview(workspace, fitted, watcher)
    revision = fitted.revision
    if made.project != fitted.project:
        revision = workspace.projects.commit(fitted.project_id, revision, made.project, "Fit accepted")
    return Accepted(revision, made.proposal, made.lines, made.failed, made.rounds)

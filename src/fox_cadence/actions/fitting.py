"""Fitting: make a proposal, look at it, accept it."""

from dataclasses import dataclass

from fox_cadence.actions.voicing import paced_take
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.fit.proposal import LinePlan, Proposal, apply_proposal, propose
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.project import Line, Project
from fox_cadence.core.takes import Take
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.timeline import LineSpan, Timeline
from fox_cadence.errors import ClashError, EngineError, InputError
from fox_cadence.jobs.runner import Unwatched, Watcher

MOST_MISS_TICKS = seconds_to_ticks(0.005)


@dataclass(frozen=True, slots=True)
class Fitted:
    """A proposal with the revision and the timeline it was made for."""

    revision: int
    timeline: Timeline
    proposal: Proposal


@dataclass(frozen=True, slots=True)
class Accepted:
    """What became of a proposal: its new revision, takes made or found at its paces, and the worst miss in ticks."""

    revision: int
    proposal: Proposal
    paced: int
    worst_miss_ticks: int
    failed: tuple[tuple[str, str], ...]


def fit(workspace: Workspace, project_id: str) -> Fitted:
    """Compute a proposal. Changes nothing."""
    head = workspace.head(project_id)
    timeline = workspace.timeline(head.project)
    return Fitted(head.revision, timeline, propose(timeline))


def accept(workspace: Workspace, project_id: str, based_on: int, watcher: Watcher | None = None) -> Accepted:
    """Make the takes at the proposal's paces and keep everything as one undoable step.

    Raises:
        ClashError: the project has changed since revision `based_on`.
        InputError: there is no proposal to accept; says why.
    """
    watch = watcher or Unwatched()
    fitted = fit(workspace, project_id)
    if fitted.revision != based_on:
        raise ClashError(based_on, fitted.revision)
    if fitted.proposal.status is not Status.SOLVED:
        raise InputError(fitted.proposal.reason)
    project = fitted.timeline.project
    paced: dict[str, Take] = {}
    failed: list[tuple[str, str]] = []
    todo = [
        (span, plan)
        for span, plan in zip(fitted.timeline.lines, fitted.proposal.lines, strict=True)
        if _needs_take(span, plan)
    ]
    for number, (span, plan) in enumerate(todo):
        watch.report(number, len(todo), f"Line at pace {plan.pace:.2f}")
        try:
            paced[span.line.id] = paced_take(workspace, project, span.line, plan)
        except EngineError as error:
            failed.append((span.line.id, str(error)))
    watch.report(len(todo), len(todo))
    made = apply_proposal(project, fitted.proposal, paced)
    revision = based_on
    if made != project:
        revision = workspace.projects.commit(project_id, based_on, made, "Fit accepted")
    return Accepted(revision, fitted.proposal, len(paced), _worst_miss(fitted.proposal, made, paced), tuple(failed))


def _needs_take(span: LineSpan, plan: LinePlan) -> bool:
    """A line needs a take of its own when the plan is not just what its natural take lasts."""
    if span.take is None or span.stale or span.line.locked:
        return False
    return plan.voiced_ticks != span.natural_voiced_ticks or plan.pause_ticks != span.natural_pause_ticks


def _worst_miss(proposal: Proposal, project: Project, paced: dict[str, Take]) -> int:
    """How far the length of a paced take is from its plan at most."""
    lines: dict[str, Line] = {line.id: line for line in project.lines}
    misses = [
        abs(paced[plan.line_id].length_ticks - plan.voiced_ticks - plan.pause_ticks)
        for plan in proposal.lines
        if plan.line_id in paced and plan.line_id in lines
    ]
    return max(misses, default=0)

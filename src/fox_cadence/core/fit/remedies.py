"""What would cure a line that does not fit: every remedy is listed only after a fit with it has shown that it
does."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from fox_cadence.core.edits import Applied, EditError, apply_all
from fox_cadence.core.fit.candidates import Candidate, Cause, candidates
from fox_cadence.core.fit.harm import COST_SHARE, HARM, UNLOCK, WORSE_LINE, Kind
from fox_cadence.core.fit.plan import LinePlan, Proposal
from fox_cadence.core.fit.proposal import propose
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.length_model import Estimator
from fox_cadence.core.project import NotInProjectError, Project
from fox_cadence.core.states import LineState
from fox_cadence.core.ticks import seconds_to_ticks, ticks_to_seconds
from fox_cadence.core.timeline import LineSpan, Timeline

Rebuild = Callable[[Project, Estimator], Timeline]
"""Resolves a changed project with the same takes and an estimator."""

LEANS_HARD = 0.07
"""A pace changed by more than this is offered a remedy, though the line fits."""

_CURED_TICKS = seconds_to_ticks(0.0005)
_WORSE = {LineState.SITS: 0, LineState.FLOATS: 0, LineState.LEANS: 1, LineState.SPILLS: 2}


@dataclass(frozen=True, slots=True)
class Remedy:
    """A change that cures a line, with what it does.

    `gain_ticks` is the time it gives the line (or takes off its words); `text` the new words where they
    change; `estimated` says that it rests on an estimate of words not yet voiced; `effects` is what happens
    to other lines.
    """

    kind: Kind
    label: str
    gain_ticks: int
    edits: tuple[Applied, ...]
    text: str | None
    estimated: bool
    effects: tuple[str, ...]
    harm: float
    state: LineState
    pace: float


def needs_remedy(plan: LinePlan | LineSpan) -> bool:
    """Whether a line, as it is or as a fit would have it, spills or is spoken at a pace that asks for a
    cure."""
    return plan.spill_ticks > _CURED_TICKS or abs(plan.pace - 1) > LEANS_HARD


def remedies(
    timeline: Timeline, proposal: Proposal, position: int, rebuild: Rebuild, estimator: Estimator
) -> tuple[Remedy, ...]:
    """The remedies of a line, least harm first.

    Args:
        timeline: what there is now.
        proposal: its fit.
        position: of the line in the script.
        rebuild: resolves a changed project.
        estimator: for words that have no take.
    """
    plan = proposal.lines[position]
    if not needs_remedy(plan):
        return ()
    cause = Cause(timeline, proposal, position, estimator)
    found = [remedy for candidate in candidates(cause) for remedy in _verified(cause, candidate, rebuild)]
    return tuple(sorted(found, key=lambda remedy: remedy.harm))


def _verified(cause: Cause, candidate: Candidate, rebuild: Rebuild) -> Iterator[Remedy]:
    """The first strength of a candidate that cures the line."""
    for strength in candidate.strengths:
        try:
            project, _ = apply_all(cause.timeline.project, strength.edits)
        except (EditError, NotInProjectError):
            continue
        changed = rebuild(project, strength.estimator or cause.estimator)
        after = propose(changed, near=cause.proposal.basis)
        if after.status is not Status.SOLVED:
            continue
        plan = next((each for each in after.lines if each.line_id == cause.plan.line_id), None)
        if plan is None or not _cured(cause.plan, plan, after, strength.also):
            continue
        effects, worse = _effects(cause.proposal, after, {cause.plan.line_id, *strength.also})
        harm = HARM[candidate.kind] + (UNLOCK if strength.unlocks else 0) + strength.extra_harm
        harm += WORSE_LINE * worse + COST_SHARE * max(0.0, after.cost - cause.cost_without_spill)
        yield Remedy(
            candidate.kind, strength.label, strength.gain_ticks, tuple(strength.edits), strength.text,
            strength.text is not None or strength.estimated, effects, harm, plan.state, plan.pace,
        )  # fmt: skip
        return


def _cured(before: LinePlan, plan: LinePlan, after: Proposal, also: Sequence[str]) -> bool:
    """Nothing of the line spills any more, or what leaned hard leans half as much; nor do the parts it was
    cut into."""
    own = [plan, *(each for each in after.lines if each.line_id in also)]
    if any(each.spill_ticks > _CURED_TICKS for each in own):
        return False
    return before.spill_ticks > _CURED_TICKS or abs(plan.pace - 1) <= abs(before.pace - 1) / 2


def _effects(before: Proposal, after: Proposal, own: set[str]) -> tuple[tuple[str, ...], int]:
    """What changes for the other lines, in words, and how many of them are worse off."""
    old = {plan.line_id: (number, plan) for number, plan in enumerate(before.lines, 1)}
    found: list[str] = []
    worse = 0
    for plan in after.lines:
        if plan.line_id in own or plan.line_id not in old:
            continue
        number, was = old[plan.line_id]
        moved = ticks_to_seconds(plan.start_ticks - was.start_ticks)
        if (
            _WORSE.get(plan.state, 0) > _WORSE.get(was.state, 0)
            or plan.spill_ticks > was.spill_ticks + _CURED_TICKS
        ):
            worse += 1
            found.insert(0, f"line {number} {plan.state.value}, ×{plan.pace:.2f}")
        elif plan.state is not was.state:
            found.append(f"line {number} {plan.state.value}")
        elif abs(moved) >= 0.02:
            found.append(f"line {number} {abs(moved):.2f} s {'later' if moved > 0 else 'earlier'}")
    rest = len(found) - 3
    return (*found[:3], *((f"{rest} more lines move",) if rest > 0 else ())), worse

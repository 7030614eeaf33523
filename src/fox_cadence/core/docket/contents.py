"""What of a mix is in a file of a docket."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from fox_cadence.core.mix import MixPlan
from fox_cadence.core.timeline import Timeline

_NAMES = {"mix": "mix", "speech": "narration", "bed": "beds", "own": "shots own", "effects": "effects"}


@dataclass(frozen=True, slots=True)
class Stem:
    """A part of a mix with a name; `of` is what `plan_of` is asked for."""

    of: str
    name: str


def plan_of(plan: MixPlan, of: str, roles: Mapping[str, str]) -> MixPlan:
    """The sounds of a mix that are asked for: "mix", a column, "role:ID" or "line:ID".

    Args:
        roles: the role of each line.
    """
    if of == "mix":
        return plan
    empty = replace(plan, speech=(), shots=(), beds=(), effects=())
    kind, _, which = of.partition(":")
    if kind == "role":
        return replace(empty, speech=tuple(each for each in plan.speech if roles[each.line_id] == which))
    if kind == "line":
        return replace(empty, speech=tuple(each for each in plan.speech if each.line_id == which))
    field = {"speech": "speech", "bed": "beds", "own": "shots", "effects": "effects"}[of]
    return replace(empty, **{field: getattr(plan, field)})


def is_silent(plan: MixPlan) -> bool:
    return not (plan.speech or plan.shots or plan.beds or plan.effects)


def name_of(of: str, timeline: Timeline) -> str:
    """What a content is called in the name of a file.

    Raises:
        KeyError: there is no such role or line.
    """
    kind, _, which = of.partition(":")
    if kind == "role":
        return {role.id: role.name for role in timeline.project.roles}[which]
    if kind == "line":
        numbers = {line.id: number for number, line in enumerate(timeline.project.lines, 1)}
        return f"line {numbers[which]:02d}"
    return _NAMES[of]


def stems_of(plan: MixPlan, timeline: Timeline) -> tuple[Stem, ...]:
    """The stems of a mix: speech by role, then what else sounds in it."""
    roles = {line.id: line.role_id for line in timeline.project.lines}
    speaking = {roles[each.line_id] for each in plan.speech}
    stems = [
        Stem(f"role:{role.id}", f"speech {role.name}")
        for role in timeline.project.roles
        if role.id in speaking
    ]
    there = {"bed": plan.beds, "own": plan.shots, "effects": plan.effects}
    return (*stems, *(Stem(of, _NAMES[of]) for of, parts in there.items() if parts))

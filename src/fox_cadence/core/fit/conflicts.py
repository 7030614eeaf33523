"""Wishes that contradict each other: a smallest set of them, and the best fit without one.

Feasibility of a set of wishes is a linear program (the costs do not matter), solved by HiGHS. A set none of
whose wishes can be left out is found by divide and conquer (Junker, QUICKXPLAIN, AAAI 2004); leaving each of
its wishes out in turn and looking again finds a smaller one where there is one.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from fox_cadence.core.fit.plan import Proposal
from fox_cadence.core.fit.program import build_program
from fox_cadence.core.fit.proposal import propose
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.fit.statement import state_problem
from fox_cadence.core.fit.wishes import Wish, wishes_of
from fox_cadence.core.project import Project
from fox_cadence.core.scientific import part
from fox_cadence.core.timeline import Timeline

Rebuild = Callable[[Project], Timeline]
"""Resolves a changed project with the same takes."""

_MOST_LET_GO = 6
_OTHER_TRIES = 6


@dataclass(frozen=True)
class Conflict:
    """`wishes` contradict each other; without those `let_go` the best there is is `best`, None where none was
    found.

    `outside` names words that they leave past the end of the piece, where that is what they contradict.
    """

    wishes: tuple[Wish, ...]
    let_go: tuple[Wish, ...]
    best: Proposal | None
    outside: tuple[str, ...] = ()

    @property
    def reason(self) -> str:
        if self.outside:
            return _outside_text(self.outside, [wish.label for wish in self.wishes])
        if not self.wishes:
            return "No times satisfy the house limits, the clips and the dissolves at once."
        if len(self.wishes) == 1:
            return f"This can't be had within the house limits: {self.wishes[0].label}."
        return f"These contradict each other: {', '.join(wish.label for wish in self.wishes)}."


_MOST_NAMED = 4


def _outside_text(outside: Sequence[str], wishes: Sequence[str]) -> str:
    named = ", ".join(outside[:_MOST_NAMED])
    more = f" and {len(outside) - _MOST_NAMED} more" if len(outside) > _MOST_NAMED else ""
    why = (
        f" The piece can't last longer: {', '.join(wishes)}."
        if wishes
        else " Unlock it or move it into the piece."
    )
    return f"This would not be heard or seen: {named}{more}.{why}"


def feasible(timeline: Timeline) -> bool:
    """Whether any times satisfy all rules of a timeline."""
    program = build_program(state_problem(timeline))
    # slow to load, and few pieces contradict themselves
    Bounds = part("scipy.optimize").Bounds
    LinearConstraint = part("scipy.optimize").LinearConstraint
    milp = part("scipy.optimize").milp

    answer = milp(
        np.zeros(program.A.shape[1]),
        constraints=LinearConstraint(program.A, program.lower, program.upper),
        bounds=Bounds(-np.inf, np.inf),
    )
    return bool(answer.status == 0)


class _Oracle:
    """Answers whether a set of wishes can be had together; keeps its answers."""

    def __init__(self, project: Project, rebuild: Rebuild, wishes: Sequence[Wish]) -> None:
        self._project, self._rebuild, self._wishes = project, rebuild, wishes
        self._known: dict[frozenset[int], bool] = {}

    def project_with(self, kept: frozenset[int]) -> Project:
        project = self._project
        for number, wish in enumerate(self._wishes):
            if number not in kept:
                project = wish.let_go(project)
        return project

    def holds(self, kept: frozenset[int]) -> bool:
        if kept not in self._known:
            self._known[kept] = feasible(self._rebuild(self.project_with(kept)))
        return self._known[kept]


def find_conflict(project: Project, rebuild: Rebuild) -> Conflict:
    """Say why a project can't be fitted, and what could be had instead."""
    wishes = wishes_of(project)
    oracle = _Oracle(project, rebuild, wishes)
    every = frozenset(range(len(wishes)))
    if oracle.holds(every) or not oracle.holds(frozenset()):
        return Conflict((), (), None)
    smallest = _smallest(oracle, every)
    gone, best = _best_without(oracle, rebuild, every, smallest, wishes)
    return Conflict(tuple(wishes[i] for i in sorted(smallest)), tuple(wishes[i] for i in sorted(gone)), best)


def _smallest(oracle: _Oracle, universe: frozenset[int]) -> frozenset[int]:
    smallest = _irreducible(oracle, universe)
    for left_out in sorted(smallest)[:_OTHER_TRIES]:
        rest = universe - {left_out}
        if len(smallest) > 1 and not oracle.holds(rest):
            other = _irreducible(oracle, rest)
            if len(other) < len(smallest):
                smallest = other
    return smallest


def _irreducible(oracle: _Oracle, universe: frozenset[int]) -> frozenset[int]:
    """A set that contradicts itself and none of whose subsets does."""

    def explain(background: frozenset[int], added: bool, open_: list[int]) -> frozenset[int]:
        if added and not oracle.holds(background):
            return frozenset()
        if len(open_) == 1:
            return frozenset(open_)
        half = len(open_) // 2
        first, second = open_[:half], open_[half:]
        in_second = explain(background | set(first), bool(first), second)
        in_first = explain(background | in_second, bool(in_second), first)
        return in_first | in_second

    return explain(frozenset(), False, sorted(universe))


def _best_without(
    oracle: _Oracle,
    rebuild: Rebuild,
    universe: frozenset[int],
    conflict: frozenset[int],
    wishes: Sequence[Wish],
) -> tuple[frozenset[int], Proposal | None]:
    """Let go one wish of each contradiction: the readiest, and of those the one that leaves the least
    cost."""
    gone: frozenset[int] = frozenset()
    for _ in range(_MOST_LET_GO):
        choices: list[tuple[bool, int, float, int, Proposal | None]] = []
        for number in sorted(conflict):
            kept = universe - gone - {number}
            found = propose(rebuild(oracle.project_with(kept))) if oracle.holds(kept) else None
            solved = found is not None and found.status is Status.SOLVED
            cost = found.cost if found is not None and solved else float("inf")
            choices.append((not solved, -wishes[number].readiness, cost, number, found if solved else None))
        _, _, _, number, best = min(choices, key=lambda choice: choice[:4])
        gone |= {number}
        if best is not None:
            return gone, best
        conflict = _irreducible(oracle, universe - gone)
    return gone, None

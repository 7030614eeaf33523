"""Nothing of a fit lies outside the piece: its last shot is held as long as the words need, or it is said why
not.

A line that has no room spills, and at the end of the piece there is nothing to spill into: what is past it
would be neither heard nor seen. So where the house's limits leave words there, the last shot lasts longer
than they allow. Where it may not, what stands against it is named.
"""

from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from fox_cadence.core.edits import SetLock, SetSettings, SetShotGivesWay, SetShotLimits
from fox_cadence.core.fit.plan import Proposal
from fox_cadence.core.fit.problem import FitProblem
from fox_cadence.core.fit.program import Program
from fox_cadence.core.fit.solver import Solution
from fox_cadence.core.fit.wishes import Wish
from fox_cadence.core.outside import past
from fox_cadence.core.project import Project
from fox_cadence.core.shot_limits import gives_way, overlap_frames
from fox_cadence.core.ticks import TICKS_PER_SECOND, ticks_to_seconds
from fox_cadence.core.timeline import Timeline

_ON_FRAME = 1e-6


def outside_the_piece(timeline: Timeline, proposal: Proposal) -> tuple[str, ...]:
    """The lines and captions that a proposal leaves past the end of the piece, in words; none in a good
    one."""
    rate = timeline.project.rate
    found = past(
        _end_ticks(timeline, proposal),
        ((n, plan.line_id, plan.start_ticks, plan.end_ticks) for n, plan in enumerate(proposal.lines, 1)),
        (
            (n, caption_id, rate.ticks(shown), rate.ticks(gone))
            for n, (caption_id, shown, gone) in enumerate(proposal.captions, 1)
        ),
    )
    return tuple(each.text for each in found)


def with_longer_end(timeline: Timeline, problem: FitProblem, proposal: Proposal) -> FitProblem | None:
    """The problem with its last shot held until all words have been heard and shown; None where it may not.

    Args:
        proposal: the fit of `problem`, which leaves something outside the piece.
    """
    project = timeline.project
    if any(_against(project)):
        return None
    frame, total = problem.frame_s, sum(proposal.shot_frames) - sum(overlap_frames(project))
    given = {caption.id for caption in project.captions if caption.leads}
    shown = max((out for caption_id, _, out in proposal.captions if caption_id in given), default=0)
    # of the solver's own answer, not of what was read back to samples: fitting again must find the same frame
    spoken = proposal.spoken_until_s + project.house.tail_ticks / TICKS_PER_SECOND
    missing = max(shown, int(np.ceil(spoken / frame - _ON_FRAME))) - total
    if missing <= 0:
        return None
    needed = (total + missing) * frame
    if project.longest_ticks is not None and project.longest_ticks / TICKS_PER_SECOND < needed - _ON_FRAME:
        return None
    shots = problem.shots
    wanted, most = shots.wanted.copy(), shots.longest.copy()
    wanted[-1] = (proposal.shot_frames[-1] + missing) * frame
    # whatever the other shots give up again, the last one can take
    most[-1] = wanted[-1] + float(np.sum(shots.longest[:-1] - shots.shortest[:-1]))
    return replace(
        problem,
        shots=replace(shots, wanted=wanted, longest=most),
        limits=replace(problem.limits, shortest_total=needed, longest_total=needed),
    )


def last_word_s(problem: FitProblem, program: Program, solution: Solution) -> float:
    """When the last line ends in a solver's answer, seconds from the start of the piece."""
    columns, x = program.columns, solution.x
    starts = np.concatenate([[0.0], np.cumsum(x[columns.shot] - problem.shots.overlap)])
    lengths = x[columns.voiced] + problem.spans.written
    paused = columns.pauses >= 0
    lengths[paused] += x[columns.pauses[paused]]
    spoken = np.bincount(problem.spans.line, lengths, minlength=len(problem.lines))
    return float(np.max(starts[problem.lines.first] + x[columns.offset] + spoken, initial=0.0))


def wishes_against(project: Project, proposal: Proposal) -> tuple[Wish, ...]:
    """What keeps a piece from lasting as long as the words of a proposal, each as a wish that can be let
    go."""
    wishes = list(_against(project))
    spoken = max((plan.end_ticks + project.house.tail_ticks for plan in proposal.lines), default=0)
    shown = max((project.rate.ticks(out) for _, _, out in proposal.captions), default=0)
    if project.longest_ticks is not None and project.longest_ticks < max(spoken, shown):
        seconds = ticks_to_seconds(project.longest_ticks)
        verb = "must last" if project.length_fixed else "may last no longer than"
        wishes.append(Wish(f"the piece {verb} {seconds:.2f} s", 1, (SetSettings(longest_s=0),)))
    return tuple(wishes)


def _against(project: Project) -> Iterator[Wish]:
    """The wishes that hold the last shot."""
    last, number = project.shots[-1], len(project.shots)
    if last.locked:
        yield Wish(
            f"shot {number}, the last one, is locked", 2, (SetLock(what="shot", id=last.id, locked=False),)
        )
    if last.give_way == "picture":
        edit = SetShotGivesWay(shot_id=last.id, give_way="halfway")
        yield Wish(f"shot {number}, the last one, does not give way", 3, (edit,))
    elif gives_way(project, last) == "picture":
        yield Wish("picture leads, so no shot gives way", 3, (SetSettings(give_way="halfway"),))
    if last.longest_frames is not None:
        yield Wish(
            f"shot {number}, the last one, has limits of its own", 3, (SetShotLimits(shot_id=last.id),)
        )


def _end_ticks(timeline: Timeline, proposal: Proposal) -> int:
    project = timeline.project
    return project.rate.ticks(sum(proposal.shot_frames) - sum(overlap_frames(project)))

"""Which column of the program stands for which unknown."""

from dataclasses import dataclass

import numpy as np

from fox_cadence.core.fit.problem import FitProblem, Flags, Ints


@dataclass(frozen=True)
class Columns:
    """Columns of each block. Blocks that most problems do not need are short or empty; `-1` marks no column.

    shot: length of each shot. anchor: its time in the piece. offset: start of each line from its first shot.
    early, late: J-cut and L-cut, by line. spill: by line. voiced: by span. pauses: by span. unread: by how
    much a caption is shown too short. uncovered: by how much the words of a caption lie outside it.
    slip_later, slip_earlier: by how much a sync point is missed (elastic programs only).

    Caption times are no unknowns: they follow from the words (captions.py), and the rules on them are rules
    on words.
    """

    shot: Ints
    anchor: Ints
    offset: Ints
    early: Ints
    late: Ints
    spill: Ints
    voiced: Ints
    pauses: Ints
    unread: Ints
    uncovered: Ints
    slip_later: Ints
    slip_earlier: Ints
    count: int


def lay_columns(problem: FitProblem, elastic: bool) -> Columns:
    """Give each unknown its column."""
    at = 0

    def block(wanted: Flags | int) -> Ints:
        nonlocal at
        if isinstance(wanted, int):
            made = np.arange(at, at + wanted)
            at += wanted
            return made
        made = np.full(len(wanted), -1, dtype=np.int64)
        count = int(np.count_nonzero(wanted))
        made[wanted] = np.arange(at, at + count)
        at += count
        return made

    lines, captions = len(problem.lines), problem.captions
    syncs = len(problem.syncs) if elastic else 0
    return Columns(
        shot=block(len(problem.shots)),
        anchor=block(len(problem.shots.anchors)),
        offset=block(lines),
        early=block(problem.lines.early_limit > 0),
        late=block(problem.lines.late_limit > 0),
        spill=block(lines),
        voiced=block(len(problem.spans)),
        pauses=block(problem.spans.pauses > 0),
        unread=block(np.isnan(captions.in_held)),
        uncovered=block(_beside_held(problem)),
        slip_later=block(syncs),
        slip_earlier=block(syncs),
        count=at,
    )


def _beside_held(problem: FitProblem) -> Flags:
    """Spoken captions whose times are given, or that come just before or after such a one."""
    captions = problem.captions
    held = ~np.isnan(captions.in_held)
    beside = held.copy()
    a, b = captions.pairs[:, 0], captions.pairs[:, 1]
    beside[a[held[b]]] = True
    beside[b[held[a]]] = True
    return np.asarray(beside & (captions.line >= 0), dtype=np.bool_)

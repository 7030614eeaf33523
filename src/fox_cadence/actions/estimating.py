"""What words would last before anything is made of them."""

from dataclasses import dataclass

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import Applied, SetCaptionText, SetSaid
from fox_cadence.core.fit.proposal import propose
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.project import Line
from fox_cadence.core.states import LineState
from fox_cadence.core.takes import natural_request
from fox_cadence.core.ticks import TICKS_PER_SECOND
from fox_cadence.core.words import words_of

_USUAL_WORD_TICKS = TICKS_PER_SECOND * 35 // 100
"""A word of a voice nothing is known of: 0.35 s."""


@dataclass(frozen=True, slots=True)
class LineEstimate:
    """Expected length (ticks) with its usual relative error, the room there is, how many more words of this
    length fit (below 0: too many), and the state the line would have after a fit (None while no fit is
    possible)."""

    length_ticks: int
    error: float
    room_ticks: int
    words_left: int
    state: LineState | None


def estimate_line(workspace: Workspace, project_id: str, line_id: str, text: str) -> LineEstimate:
    """How a line would stand with other words. Nothing is changed."""
    project = workspace.head(project_id).project
    line = project.line(line_id)
    request = natural_request(project, line)
    guess = workspace.lengths.estimate(text, request.voice_id, request.pace)
    changed, _ = _edit(line, text).apply(project)
    timeline = workspace.timeline(changed)
    position = next(n for n, each in enumerate(changed.lines) if each.id == line_id)
    span = timeline.lines[position]
    length = span.natural_ticks if span.take is None or span.stale else span.end_ticks - span.start_ticks
    room = span.window.end_ticks - max(span.window.start_ticks, span.start_ticks) + span.window.late_ticks
    following = next(
        (each for each in timeline.lines[position + 1 :] if each.line.lane == span.line.lane), None
    )
    if following is not None:
        room = min(room, max(0, following.start_ticks - span.start_ticks))
    count = len(words_of(text))
    per_word = length // count if count else _USUAL_WORD_TICKS
    left = room - length
    words = left // per_word if left >= 0 else -(-left // per_word)
    proposal = propose(timeline)
    state = proposal.lines[position].state if proposal.status is Status.SOLVED else None
    return LineEstimate(length, guess.error, room, words, state)


def _edit(line: Line, text: str) -> Applied:
    if line.said is None and len(line.caption_ids) == 1:
        return SetCaptionText(caption_id=line.caption_ids[0], text=text)
    return SetSaid(line_id=line.id, text=text)

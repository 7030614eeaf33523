"""What words would last before anything is made of them."""

from dataclasses import dataclass

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import Applied, SetCaptionText, SetSaid
from fox_cadence.core.fit.proposal import propose
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.length_model import estimate_request
from fox_cadence.core.project import Line
from fox_cadence.core.room import likely_state, room_ticks, starts_after
from fox_cadence.core.states import LineState
from fox_cadence.core.takes import natural_request
from fox_cadence.core.ticks import TICKS_PER_SECOND
from fox_cadence.core.words import words_of
from fox_cadence.voices.catalogue import voice_for_language
from fox_cadence.voices.lengths import plain_request

USUAL_WORD_TICKS = TICKS_PER_SECOND * 35 // 100
"""A word of a voice nothing is known of: 0.35 s."""


PATIENCE_S = 0.2
"""How long who types waits for a length that is known; after it an expected one must do."""


@dataclass(frozen=True, slots=True)
class LineEstimate:
    """Expected length (ticks) with its usual relative error (0 where it is known), the room there is, how
    many more words of this length fit (below 0: too many), and the state the line would have: after a fit
    (None while no fit is possible), or, without one, in its own room alone."""

    length_ticks: int
    error: float
    room_ticks: int
    words_left: int
    state: LineState | None


def estimate_line(
    workspace: Workspace, project_id: str, line_id: str, text: str, fitted: bool = True
) -> LineEstimate:
    """How a line would stand with other words, after a fit of the whole piece where that is wanted. Nothing
    is changed."""
    project = workspace.head(project_id).project
    line = project.line(line_id)
    changed, _ = _edit(line, text).apply(project)
    asked = natural_request(changed, changed.line(line_id))
    workspace.foreseen.settle([asked], workspace.makers, PATIENCE_S)
    guess = estimate_request(workspace.lengths, asked)
    timeline = workspace.timeline(changed)
    position = next(n for n, each in enumerate(changed.lines) if each.id == line_id)
    span = timeline.lines[position]
    length = span.natural_ticks if span.take is None or span.stale else span.end_ticks - span.start_ticks
    room = room_ticks(span, starts_after(timeline.lines)[position])
    count = len(words_of(text))
    per_word = length // count if count else USUAL_WORD_TICKS
    left = room - length
    words = left // per_word if left >= 0 else -(-left // per_word)
    state: LineState | None = likely_state(length, room, project.house)
    if fitted:
        proposal = propose(timeline)
        state = proposal.lines[position].state if proposal.status is Status.SOLVED else None
    return LineEstimate(length, guess.error, room, words, state)


def estimate_words(
    workspace: Workspace, project_id: str, after_line_id: str | None, text: str
) -> LineEstimate:
    """How long words of a new line would last in the voice of the line it would follow; the room is what is
    left of the longest length of the piece."""
    project = workspace.head(project_id).project
    line = next((each for each in project.lines if each.id == after_line_id), None)
    role = project.role(line.role_id) if line else (project.roles[0] if project.roles else None)
    voice = role.voice_id if role else voice_for_language(project.language).id
    asked = plain_request(text, voice, role.pace if role else 1.0)
    workspace.foreseen.settle([asked], workspace.makers, PATIENCE_S)
    guess = estimate_request(workspace.lengths, asked)
    timeline = workspace.timeline(project)
    room = 0 if project.longest_ticks is None else max(0, project.longest_ticks - timeline.total_ticks)
    count = len(words_of(text))
    per_word = guess.ticks // count if count else USUAL_WORD_TICKS
    return LineEstimate(guess.ticks, guess.error, room, (room - guess.ticks) // max(1, per_word), None)


def _edit(line: Line, text: str) -> Applied:
    if line.said is None and len(line.caption_ids) == 1:
        return SetCaptionText(caption_id=line.caption_ids[0], text=text)
    return SetSaid(line_id=line.id, text=text)

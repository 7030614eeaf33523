"""Hearing a piece before its voices have made its lines: quick voices of the same kind stand in, at the
lengths the lines will have."""

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

from fox_cadence.actions.voicing import paced_takes
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.languages import primary
from fox_cadence.core.project import Index, SpanLength, voice_of
from fox_cadence.core.timeline import LineSpan, Timeline
from fox_cadence.errors import EngineError
from fox_cadence.jobs.runner import Unwatched
from fox_cadence.voices.catalogue import VOICES, voice_by_id
from fox_cadence.voices.measured import semitones_apart
from fox_cadence.voices.voice import Voice

QUICK_ENGINES = frozenset({"hibari", "espeak-ng"})
"""They make a line in a hundredth to a twentieth of its length (docs/benchmarks.md)."""

_SETTLED_S = 2.0
"""So long is waited for the lengths a draft would have by itself; a guess does where they take longer."""


@lru_cache(maxsize=256)
def stand_in(voice: Voice) -> Voice | None:
    """The quick voice that speaks for a slow one in draft: of its language, of the same gender, natural where
    there is one, then near in pitch; None where the voice is quick itself or nobody can stand in."""
    if voice.engine in QUICK_ENGINES:
        return None
    offered = [
        each
        for each in VOICES
        if each.engine in QUICK_ENGINES and primary(each.language) == primary(voice.language)
    ]

    def far(each: Voice) -> tuple[bool, bool, float]:
        other = voice.gender is not None and each.gender != voice.gender
        return other, not each.natural, semitones_apart(voice.measured, each.measured)

    return min(offered, key=far, default=None)


def drafted_by(span: LineSpan, voice_id: str) -> Voice | None:
    """Who says a line in draft: nobody where it has the sound of its words, a person spoke it, or its own
    voice is as quick."""
    if span.take is not None and (not span.stale or span.take.recorded):
        return None
    voice = voice_by_id(voice_id)
    return stand_in(voice) if voice is not None else None


def in_draft(workspace: Workspace, timeline: Timeline) -> Timeline:
    """A timeline whose open lines have sounds of quick voices, as long as the lines will be. Nothing of the
    project is changed; a line that can't be said in draft stays silent."""
    project = timeline.project
    index = Index(project)
    voices = {
        span.line.id: voice.id
        for span in timeline.lines
        if span.words and (voice := drafted_by(span, voice_of(span.line, index))) is not None
    }
    if not voices:
        return timeline
    lines = tuple(
        line.changed(voice_id=voices[line.id], take_id=None, placement=None) if line.id in voices else line
        for line in project.lines
    )
    drafted = project.changed(lines=lines)
    workspace.settle_lengths(drafted, _SETTLED_S)
    spans = {span.line.id: span for span in timeline.lines}
    asked = [
        (own, _brought_to(own.speech.natural, sum(length.ticks for length in spans[own.line.id].lengths)))
        for own in workspace.timeline(drafted).lines
        if own.line.id in voices
    ]
    made: dict[str, LineSpan] = {}
    for line_id, found in paced_takes(workspace, drafted, asked, Unwatched()):
        if not isinstance(found, EngineError):
            made[line_id] = replace(spans[line_id], take=found, stale=False)
    return replace(timeline, lines=tuple(made.get(span.line.id, span) for span in timeline.lines))


def _brought_to(lengths: Sequence[SpanLength], ticks: int) -> tuple[SpanLength, ...]:
    """Lengths that come to a sum, speech and natural pauses in one proportion; what is written stays."""
    written = sum(length.written_ticks for length in lengths)
    scale = max(1, ticks - written) / max(1, sum(length.ticks for length in lengths) - written)
    return tuple(
        length.changed(
            voiced_ticks=max(1, round(length.voiced_ticks * scale)),
            pause_ticks=round(length.pause_ticks * scale),
        )
        for length in lengths
    )

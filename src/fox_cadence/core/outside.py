"""What lies outside the piece: it has been said or shown by the project, and nobody would hear or see it."""

from collections.abc import Iterable
from dataclasses import dataclass

from fox_cadence.core.ticks import TICKS_PER_SECOND, ticks_to_seconds
from fox_cadence.core.timeline import Timeline

HEARD_TICKS = TICKS_PER_SECOND // 50
"""A fiftieth of a second. What rounding to frames leaves past the end is shorter, and nobody misses it."""


_Span = tuple[int, str, int, int]


@dataclass(frozen=True, slots=True)
class Outside:
    """A line or a caption that goes past the end of the piece.

    `number` is its place from 1; `over_ticks` by how much it does, `wholly` whether nothing of it is left
    inside.
    """

    kind: str
    object_id: str
    number: int
    over_ticks: int
    wholly: bool

    @property
    def text(self) -> str:
        """In words, such as 'line 10 ends 1.40 s after the piece'."""
        if self.wholly:
            return f"{self.kind} {self.number} lies wholly after the end of the piece"
        seconds = ticks_to_seconds(self.over_ticks)
        verb = "ends" if self.kind == "line" else "goes on"
        return f"{self.kind} {self.number} {verb} {seconds:.2f} s after the piece"


def outside_of(timeline: Timeline) -> tuple[Outside, ...]:
    """Lines whose speech and captions whose time goes past the end of the piece: lines first, in order."""
    rate, end, frames = timeline.project.rate, timeline.total_ticks, timeline.total_frames
    lines = [(n, span) for n, span in enumerate(timeline.lines, 1) if span.end_ticks > end]
    captions = [(n, span) for n, span in enumerate(timeline.captions, 1) if span.out_frame > frames]
    return past(
        end,
        ((n, span.line.id, span.start_ticks, span.end_ticks) for n, span in lines),
        ((n, span.caption.id, rate.ticks(span.in_frame), rate.ticks(span.out_frame)) for n, span in captions),
    )


def past(end: int, lines: Iterable[_Span], captions: Iterable[_Span]) -> tuple[Outside, ...]:
    """What goes past `end` of lines and captions, each given as its number, id, start and end; times in
    ticks."""
    found: list[Outside] = []
    for kind, spans, unnoticed in (("line", lines, HEARD_TICKS), ("caption", captions, 0)):
        for number, object_id, start, until in spans:
            if until - end > unnoticed:
                found.append(Outside(kind, object_id, number, until - end, start >= end))
    return tuple(found)

"""What lies outside the piece: it has been said or shown by the project, and nobody would hear or see it."""

from dataclasses import dataclass

from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.core.timeline import Timeline

HEARD_TICKS = 705_600_000 // 50
"""A fiftieth of a second. What rounding to frames leaves past the end is shorter, and nobody misses it."""


@dataclass(frozen=True, slots=True)
class Outside:
    """A line or a caption that goes past the end of the piece.

    `number` is its place from 1; `over_ticks` by how much it does, `wholly` whether nothing of it is left inside.
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
    end = timeline.total_ticks
    found = [
        Outside("line", span.line.id, number, span.end_ticks - end, span.start_ticks >= end)
        for number, span in enumerate(timeline.lines, 1)
        if span.end_ticks - end > HEARD_TICKS
    ]
    rate = timeline.project.rate
    found += [
        Outside(
            "caption",
            span.caption.id,
            number,
            rate.ticks(span.out_frame) - end,
            span.in_frame >= timeline.total_frames,
        )
        for number, span in enumerate(timeline.captions, 1)
        if span.out_frame > timeline.total_frames
    ]
    return tuple(found)

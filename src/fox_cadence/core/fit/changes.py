"""What a proposal would change, as a list an editor can read: the largest change first."""

from dataclasses import dataclass
from typing import Literal

from fox_cadence.core.fit.plan import LinePlan, Proposal
from fox_cadence.core.numbers import counted
from fox_cadence.core.ticks import seconds_to_ticks, ticks_to_seconds
from fox_cadence.core.timeline import LineSpan, Timeline

_HEARD_TICKS = seconds_to_ticks(0.005)
"""A line that moves or changes by less is not listed: it would read 0.00 s, and nobody hears it."""


@dataclass(frozen=True, slots=True)
class Change:
    """One change in words; `size_ticks` is how much it moves, for the order of the list."""

    kind: Literal["shot", "line", "caption"]
    object_id: str
    text: str
    size_ticks: int


def changes(timeline: Timeline, proposal: Proposal) -> tuple[Change, ...]:
    """Everything that differs from what there is now."""
    found = [*_shots(timeline, proposal), *_lines(timeline, proposal), *_captions(timeline, proposal)]
    return tuple(sorted(found, key=lambda change: -change.size_ticks))


def _shots(timeline: Timeline, proposal: Proposal) -> list[Change]:
    rate = timeline.project.rate
    found: list[Change] = []
    for number, (span, frames) in enumerate(zip(timeline.shots, proposal.shot_frames, strict=True), 1):
        more = frames - (span.end_frame - span.start_frame)
        if more:
            text = f"Shot {number}, {counted(abs(more), 'frame')} {'longer' if more > 0 else 'shorter'}"
            found.append(Change("shot", span.shot.id, text, rate.ticks(abs(more))))
    return found


def _lines(timeline: Timeline, proposal: Proposal) -> list[Change]:
    found: list[Change] = []
    for number, (span, plan) in enumerate(zip(timeline.lines, proposal.lines, strict=True), 1):
        length = (plan.end_ticks - plan.start_ticks) - (span.end_ticks - span.start_ticks)
        if abs(length) > _HEARD_TICKS:
            text = f"Line {number}, {_pace(span, plan)}: {_seconds(length, 'longer', 'shorter')}"
            found.append(Change("line", plan.line_id, text, abs(length)))
            continue
        moved = plan.start_ticks - span.start_ticks
        if abs(moved) > _HEARD_TICKS:
            text = f"Line {number} starts {_seconds(moved, 'later', 'earlier')}"
            found.append(Change("line", plan.line_id, text, abs(moved)))
    return found


def _pace(span: LineSpan, plan: LinePlan) -> str:
    if abs(plan.pace - span.pace) < 0.001:
        then, now = ticks_to_seconds(plan.pause_ticks), ticks_to_seconds(span.pause_ticks)
        return f"pauses {then:.2f} s (now {now:.2f})"
    digits = 2 if f"{plan.pace:.2f}" != f"{span.pace:.2f}" else 3
    return f"×{plan.pace:.{digits}f} (now ×{span.pace:.{digits}f})"


def _captions(timeline: Timeline, proposal: Proposal) -> list[Change]:
    rate = timeline.project.rate
    found: list[Change] = []
    for number, (span, (_, start, end)) in enumerate(
        zip(timeline.captions, proposal.captions, strict=True), 1
    ):
        parts = [
            f"{edge} {counted(abs(by), 'frame')} {'later' if by > 0 else 'earlier'}"
            for edge, by in (("in", start - span.in_frame), ("out", end - span.out_frame))
            if by
        ]
        if parts:
            most = max(abs(start - span.in_frame), abs(end - span.out_frame))
            found.append(
                Change("caption", span.caption.id, f"Caption {number} {', '.join(parts)}", rate.ticks(most))
            )
    return found


def _seconds(ticks: int, more: str, less: str) -> str:
    return f"{abs(ticks_to_seconds(ticks)):.2f} s {more if ticks > 0 else less}"

"""Which lines have a sound, and which still want one: for the whole piece, by section and by role."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass

from fox_cadence.core.edits.cast import sections
from fox_cadence.core.states import LineState
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.core.timeline import LineSpan, Timeline


@dataclass(frozen=True, slots=True)
class Coverage:
    """Lines of a part of the piece by what they want: `open_ids` are those unvoiced or stale, in order.

    `failed` are open lines whose last try failed; `recorded` are lines that play a recorded take;
    `spoken_before` are recorded ones whose words have changed since, which a voice takes over only where it
    is asked to.
    """

    name: str
    lines: int
    unvoiced: int
    stale: int
    failed: int
    recorded: int
    seconds_open: float
    open_ids: tuple[str, ...]
    missing_ids: tuple[str, ...]
    stale_ids: tuple[str, ...]
    spoken_before: tuple[str, ...]


def coverage(
    timeline: Timeline, failed: Collection[str] = ()
) -> tuple[Coverage, list[Coverage], list[Coverage]]:
    """Of everything, of each section (none if there is only one without a name), of each role that has
    lines."""
    spans = {span.line.id: span for span in timeline.lines}
    project = timeline.project
    parts = [
        (name or "Before the first heading", [spans[line.id] for line in lines])
        for name, lines in sections(project)
    ]
    by_section = [_of(name, found, failed) for name, found in parts] if len(parts) > 1 else []
    by_role = [
        _of(role.name, found, failed)
        for role in project.roles
        if (found := [span for span in timeline.lines if span.line.role_id == role.id])
    ]
    return _of("The whole piece", timeline.lines, failed), by_section, by_role


def _of(name: str, spans: Sequence[LineSpan], failed: Collection[str]) -> Coverage:
    missing: list[str] = []
    stale: list[str] = []
    spoken_before: list[str] = []
    still_open: list[LineSpan] = []
    recorded = 0
    for span in spans:
        spoken = span.take is not None and span.take.recorded
        recorded += spoken
        if span.state is LineState.UNVOICED:
            missing.append(span.line.id)
            still_open.append(span)
        elif span.state is LineState.STALE and not span.line.locked:
            (spoken_before if spoken else stale).append(span.line.id)
            if not spoken:
                still_open.append(span)
    return Coverage(
        name,
        len(spans),
        len(missing),
        len(stale),
        sum(span.line.id in failed for span in still_open),
        recorded,
        round(ticks_to_seconds(sum(span.natural_ticks for span in still_open)), 2),
        tuple(span.line.id for span in still_open),
        tuple(missing),
        tuple(stale),
        tuple(spoken_before),
    )

"""Timelines whose lines are spoken."""

from collections.abc import Sequence

from fox_cadence.core.project import Project
from fox_cadence.core.takes import PhonemeTime, Take
from fox_cadence.core.timeline import Timeline
from fox_cadence.core.timeline_builder import build_timeline


def spoken(project: Project, takes: Sequence[Take]) -> Timeline:
    """Its lines, in order, said by these takes."""
    lines = tuple(
        line.changed(take_id=take.id) for line, take in zip(project.lines, takes, strict=False)
    ) + project.lines[len(takes) :]  # fmt: skip
    return build_timeline(project.changed(lines=lines), {take.id: take for take in takes})


def sounding(take: Take, sounds: str) -> Take:
    """A take whose sounds share its time evenly."""
    length = take.end_sample - take.onset_sample
    begins = [take.onset_sample + length * n // len(sounds) for n in range(len(sounds))]
    return take.changed(
        phonemes=tuple(PhonemeTime(ipa=s, start_sample=at) for s, at in zip(sounds, begins, strict=True))
    )

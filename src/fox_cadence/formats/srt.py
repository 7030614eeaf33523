"""SRT (SubRip text), as it is found in the wild."""

import re

from fox_cadence.formats.caption_words import without_markup
from fox_cadence.formats.cues import Cue, Problem, ReadResult, blocks, checked_times, clock, lenient_ticks

_TIMING = re.compile(r"^\s*([\d:.,]+)\s*-->\s*([\d:.,]+)")


def read(text: str) -> ReadResult:
    """Read cues; numbers are not needed, a cue that can't be used is reported with its line."""
    cues: list[Cue] = []
    problems: list[Problem] = []
    for first, lines in blocks(text):
        for number, (at, end_exclusive) in enumerate(_cue_ranges(lines)):
            if number == 0 and at > 0 and not all(line.strip().isdigit() for line in lines[:at]):
                problems.append(Problem(f"line {first}", "words before the time line were left out"))
            _read_cue(first, lines[at:end_exclusive], at, cues, problems)
        if not any("-->" in line for line in lines):
            problems.append(
                Problem(f"line {first}", "no time line (00:00:01,000 --> 00:00:02,000); left out")
            )
    return checked_times(cues, problems)


def _cue_ranges(lines: list[str]) -> list[tuple[int, int]]:
    """Where cues begin and end inside a block: some files have no blank line between cues."""
    starts = [index for index, line in enumerate(lines) if "-->" in line]
    ranges: list[tuple[int, int]] = []
    for position, start in enumerate(starts):
        end = len(lines)
        if position + 1 < len(starts):
            end = starts[position + 1]
            if end - 1 > start and lines[end - 1].strip().isdigit():
                end -= 1
        ranges.append((start, end))
    return ranges


def _read_cue(first: int, lines: list[str], offset: int, cues: list[Cue], problems: list[Problem]) -> None:
    place = f"line {first + offset}"
    match = _TIMING.match(lines[0])
    start, end = (
        (lenient_ticks(stamp, place, problems) for stamp in match.groups()) if match else (None, None)
    )
    if start is None or end is None:
        problems.append(
            Problem(place, f"the times {lines[0].strip()!r} can't be read; the caption was left out")
        )
        return
    text = without_markup("\n".join(lines[1:]))
    if not text:
        problems.append(Problem(place, "the caption has no words; left out"))
        return
    cues.append(Cue(text, start, end, first + offset))


def write(cues: list[Cue]) -> str:
    """Cues as SRT, numbered from 1, times to the nearest millisecond."""
    parts: list[str] = []
    for number, cue in enumerate(cues, 1):
        times = f"{clock(cue.start_ticks or 0, ',')} --> {clock(cue.end_ticks or 0, ',')}"
        lines = "\n".join(line for line in cue.text.splitlines() if line.strip())
        parts.append(f"{number}\n{times}\n{lines}\n")
    return "\n".join(parts)

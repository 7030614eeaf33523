"""What subtitle formats have in common: timed words, and what could not be read."""

import re
from dataclasses import dataclass, replace
from itertools import pairwise

from fox_cadence.core.marks import Mark
from fox_cadence.core.ticks import TICKS_PER_SECOND

TICKS_PER_MS = TICKS_PER_SECOND // 1000


@dataclass(frozen=True, slots=True)
class Cue:
    """Words with their times; without times for a script. `line` is where they stand in the file, from 1.

    `marks` are what the file says of how they are said. `role` is who says them where the script names
    somebody; a heading is for the eye of the editor and not spoken.
    """

    text: str
    start_ticks: int | None = None
    end_ticks: int | None = None
    line: int = 0
    role: str = ""
    heading: bool = False
    marks: tuple[Mark, ...] = ()


@dataclass(frozen=True, slots=True)
class Problem:
    """Something in a file that was left out or mended; `place` names where."""

    place: str
    message: str


@dataclass(frozen=True, slots=True)
class ReadResult:
    cues: tuple[Cue, ...]
    problems: tuple[Problem, ...]


def checked_times(cues: list[Cue], problems: list[Problem]) -> ReadResult:
    """Timed cues in the order of their times. What had to be mended is reported, and what overlaps is
    kept."""
    found = list(problems)
    made: list[Cue] = []
    latest = -1
    for cue in cues:
        start, end = cue.start_ticks or 0, cue.end_ticks or 0
        if end <= start:
            end = start + 1000 * TICKS_PER_MS
            found.append(
                Problem(f"line {cue.line}", "the caption ends before it begins; it was given one second")
            )
        if start < latest:
            found.append(
                Problem(f"line {cue.line}", "it stands after a later caption; it was put in its place")
            )
        latest = max(latest, start)
        made.append(replace(cue, end_ticks=end))
    made.sort(key=lambda cue: cue.start_ticks or 0)
    for before, cue in pairwise(made):
        over_ms = milliseconds((before.end_ticks or 0) - (cue.start_ticks or 0))
        if over_ms > 0:
            found.append(
                Problem(f"line {cue.line}", f"it begins {over_ms / 1000:.2f} s before the one before it ends")
            )
    found.sort(key=lambda problem: int(problem.place.removeprefix("line ")))
    return ReadResult(tuple(made), tuple(found))


def milliseconds(ticks: int) -> int:
    """The nearest millisecond."""
    return (2 * ticks + TICKS_PER_MS) // (2 * TICKS_PER_MS)


def clock(ticks: int, separator: str) -> str:
    """hours:minutes:seconds and milliseconds behind the separator."""
    whole, ms = divmod(milliseconds(ticks), 1000)
    return f"{whole // 3600:02d}:{whole // 60 % 60:02d}:{whole % 60:02d}{separator}{ms:03d}"


_LENIENT = re.compile(r"(?:(\d{1,3}):)?(?:(\d{1,3}):)?(\d{1,3})(?:[.,](\d{1,6}))?")


def lenient_ticks(stamp: str, place: str, problems: list[Problem]) -> int | None:
    """A time as people write it, such as 0:1.5 for 0:01.500, with a remark where it is not as it should be.

    None where it is no time.
    """
    found = _LENIENT.fullmatch(stamp.strip())
    if found is None:
        return None
    first, second, seconds, fraction = found.groups()
    hours, minutes = (first, second) if second is not None else ("0", first or "0")
    if int(minutes) > 59 or int(seconds) > 59:
        return None
    ms = int((fraction or "0").ljust(3, "0")[:3])
    ticks = ((int(hours) * 3600 + int(minutes) * 60 + int(seconds)) * 1000 + ms) * TICKS_PER_MS
    short = len(seconds) != 2 or (second is not None and len(minutes) != 2)
    if short or (fraction is not None and len(fraction) != 3):
        problems.append(Problem(place, f"the time {stamp.strip()} was taken for {clock(ticks, '.')}"))
    return ticks


def blocks(text: str) -> list[tuple[int, list[str]]]:
    """Runs of lines that are not blank, each with the number of its first line."""
    found: list[tuple[int, list[str]]] = []
    current: list[str] = []
    first = 1
    for number, line in enumerate(text.split("\n"), 1):
        if line.strip():
            if not current:
                first = number
            current.append(line)
        elif current:
            found.append((first, current))
            current = []
    if current:
        found.append((first, current))
    return found

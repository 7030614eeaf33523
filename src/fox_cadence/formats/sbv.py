"""SBV: times on a line, `0:00:01.000,0:00:03.000`, the words under it, a blank line after them."""

import re

from fox_cadence.formats.caption_words import without_markup
from fox_cadence.formats.cues import Cue, Problem, ReadResult, blocks, checked_times, lenient_ticks

_TIMING = re.compile(r"^\s*([\d:.]+)\s*,\s*([\d:.]+)\s*$")


def read(text: str) -> ReadResult:
    """Cues in the order of time; what can't be used is reported with its line."""
    cues: list[Cue] = []
    problems: list[Problem] = []
    for first, lines in blocks(text):
        place = f"line {first}"
        found = _TIMING.match(lines[0])
        times = [lenient_ticks(stamp, place, problems) for stamp in found.groups()] if found else []
        if len(times) != 2 or times[0] is None or times[1] is None:
            problems.append(Problem(place, "no times such as 0:00:01.000,0:00:03.000; left out"))
            continue
        words = without_markup("\n".join(lines[1:]).replace("[br]", "\n"))
        if not words:
            problems.append(Problem(place, "the caption has no words; left out"))
            continue
        cues.append(Cue(words, times[0], times[1], first))
    return checked_times(cues, problems)

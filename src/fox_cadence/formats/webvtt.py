"""WebVTT (W3C): cue times and words; what we have no place for is reported."""

import html
import re

from fox_cadence.formats.cues import TICKS_PER_MS, Cue, Problem, ReadResult, blocks, clock, without_markup

_TIME = r"(?:(\d{2,}):)?([0-5]\d):([0-5]\d)\.(\d{3})"
_TIMING = re.compile(rf"^\s*{_TIME}[ \t]+-->[ \t]+{_TIME}(.*)$")


def read(text: str) -> ReadResult:
    """Read cues. Styles, regions and cue settings are reported, notes are left out as the standard has it."""
    cues: list[Cue] = []
    problems: list[Problem] = []
    found = blocks(text)
    if not found or not re.match(r"^WEBVTT(?:[ \t].*)?$", found[0][1][0]):
        problems.append(Problem("line 1", "the file does not begin with WEBVTT; it was read all the same"))
    for first, lines in found:
        head = lines[0].split()[0] if lines[0].split() else ""
        timing = next((index for index, line in enumerate(lines[:2]) if "-->" in line), None)
        if timing is None:
            if head in {"STYLE", "REGION"}:
                problems.append(Problem(f"line {first}", f"{head} block left out: looks are chosen in Lettering"))
            elif head != "NOTE" and not head.startswith("WEBVTT"):
                problems.append(Problem(f"line {first}", "no time line; left out"))
            continue
        _read_cue(first + timing, lines[timing:], cues, problems)
    return ReadResult(tuple(cues), tuple(problems))


def _read_cue(line: int, lines: list[str], cues: list[Cue], problems: list[Problem]) -> None:
    place = f"line {line}"
    match = _TIMING.match(lines[0])
    if match is None:
        problems.append(Problem(place, f"the times {lines[0].strip()!r} can't be read; the caption was left out"))
        return
    parts = match.groups()
    start, end = _ticks(parts[:4]), _ticks(parts[4:8])
    if parts[8].strip():
        problems.append(Problem(place, f"settings {parts[8].strip()!r} left out: places are set in Lettering"))
    text = html.unescape(without_markup("\n".join(lines[1:])))
    if not text:
        problems.append(Problem(place, "the caption has no words; left out"))
        return
    if end <= start:
        problems.append(Problem(place, "the caption ends before it begins; it was given one second"))
        end = start + 1000 * TICKS_PER_MS
    cues.append(Cue(text, start, end, line))


def _ticks(parts: tuple[str | None, ...]) -> int:
    hours, minutes, seconds, fraction = (int(part or 0) for part in parts)
    return ((hours * 3600 + minutes * 60 + seconds) * 1000 + fraction) * TICKS_PER_MS


def write(cues: list[Cue]) -> str:
    """Cues as WebVTT; &, < and > in the words are escaped, so that they can't become markup."""
    parts = ["WEBVTT\n"]
    for cue in cues:
        times = f"{clock(cue.start_ticks or 0, '.')} --> {clock(cue.end_ticks or 0, '.')}"
        words = cue.text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")
        lines = "\n".join(line for line in words.splitlines() if line.strip())
        parts.append(f"{times}\n{lines}\n")
    return "\n".join(parts)

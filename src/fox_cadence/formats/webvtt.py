"""WebVTT, read as the parser of the standard reads it (W3C WebVTT: The Web Video Text Tracks Format, section
6).

What we have no place for is reported: regions, styles, the settings of cues. `<v Name>` says who speaks.
"""

import html
import re
from collections.abc import Iterator
from dataclasses import dataclass

from fox_cadence.formats.cues import (
    TICKS_PER_MS,
    Cue,
    Problem,
    ReadResult,
    checked_times,
    clock,
    lenient_ticks,
)

_TIMESTAMP = re.compile(r"(?:(\d+):)?(\d+):(\d\d)\.(\d{3})(?!\d)")
_ARROW = "-->"
_TAGS = frozenset({"c", "i", "b", "u", "ruby", "rt", "v", "lang"})
_TAG = re.compile(r"<([^>]*)>?")
_BLANK = " \t\f"


def read(text: str) -> ReadResult:
    """Cues in the order of time. What the standard has a parser leave out is left out, and reported."""
    cues: list[Cue] = []
    problems: list[Problem] = []
    lines = text.removeprefix("\ufeff").split("\n")
    if not re.match(r"WEBVTT(?:[ \t]|$)", lines[0]):
        problems.append(Problem("line 1", "the file does not begin with WEBVTT; it was read all the same"))
        blocks = _blocks(lines, 0, False)
    else:
        at_once = len(lines) > 1 and lines[1] != ""
        blocks = _blocks(lines, 1, at_once)
    for block in blocks:
        _read_block(block, cues, problems)
    return checked_times(cues, problems)


_NOTE = re.compile(r"NOTE(?:[ \t]|$)")
_METADATA = re.compile(r"[A-Za-z][A-Za-z-]*[ \t]*[:=]")
"""What files carry in their header, such as Kind: captions."""


@dataclass(frozen=True, slots=True)
class _Block:
    """`before` are the lines before the times, `after` those behind them; `timing` is None where there are
    none."""

    first: int
    before: list[str]
    timing: str | None
    after: list[str]


def _blocks(lines: list[str], at: int, header: bool) -> Iterator[_Block]:
    """The blocks of a file from a line on ("collect a WebVTT block"); the first may be the header.

    A line with an arrow begins a cue where it is the first of a block, or the second with an id before it;
    anywhere else it ends the block, and another begins with it.
    """
    while at < len(lines):
        if lines[at] == "":
            at += 1
            continue
        first, timing = at, None
        before: list[str] = []
        after: list[str] = []
        while at < len(lines) and lines[at] != "":
            line = lines[at]
            if _ARROW in line:
                may_begin = not header and timing is None and at - first < 2
                if not may_begin:
                    break
                timing = line
            elif timing is None:
                before.append(line)
            else:
                after.append(line)
            at += 1
        yield _Block(first + 1, before, timing, after)
        header = False


def _read_block(block: _Block, cues: list[Cue], problems: list[Problem]) -> None:
    place = f"line {block.first}"
    if block.timing is None:
        head = block.before[0] if block.before else ""
        if head.rstrip(_BLANK) in ("STYLE", "REGION"):
            problems.append(Problem(place, f"{head.strip()} block left out: looks are chosen in Lettering"))
        elif head and block.first > 2 and not _NOTE.match(head):
            problems.append(Problem(place, "no time line; left out"))
        elif block.first <= 2 and not _NOTE.match(head) and not all(map(_METADATA.match, block.before)):
            problems.append(Problem(place, "what stands in the header is no caption; left out"))
        return
    place = f"line {block.first + len(block.before)}"
    times = _times(block.timing) or _lenient_times(block.timing, place, problems)
    if times is None:
        problems.append(
            Problem(place, f"the times {block.timing.strip()!r} can't be read; the caption was left out")
        )
        return
    start, end, settings = times
    if settings:
        problems.append(Problem(place, f"settings {settings!r} left out: places are set in Lettering"))
    text, role = _plain("\n".join(block.after), place, problems)
    if not text:
        problems.append(Problem(place, "the caption has no words; left out"))
        return
    cues.append(Cue(text, start, end, block.first + len(block.before), role))


def _times(line: str) -> tuple[int, int, str] | None:
    """Start and end in ticks and the settings after them ("collect WebVTT cue timings and settings")."""
    start, _, rest = line.partition(_ARROW)
    first = _ticks(start.strip(_BLANK))
    rest = rest.lstrip(_BLANK)
    end = _TIMESTAMP.match(rest)
    if first is None or end is None:
        return None
    last = _ticks(end[0])
    return (first, last, rest[end.end() :].strip()) if last is not None else None


def _lenient_times(line: str, place: str, problems: list[Problem]) -> tuple[int, int, str] | None:
    """Times that the standard has a parser leave out, but that people write: with a remark."""
    found = re.match(r"\s*([\d:.,]+)\s*-->\s*([\d:.,]+)(.*)", line)
    if found is None:
        return None
    told: list[Problem] = []
    first, last = (lenient_ticks(stamp, place, told) for stamp in found.groups()[:2])
    if first is None or last is None:
        return None
    problems += told or [
        Problem(place, f"the times {line.strip()!r} are not as WebVTT has them; they were taken")
    ]
    return first, last, found[3].strip()


def _ticks(stamp: str) -> int | None:
    """A time ("collect a WebVTT timestamp"): a first number of other than two digits, or over 59, is
    hours."""
    found = _TIMESTAMP.fullmatch(stamp)
    if found is None:
        return None
    hours, minutes, seconds, ms = found.groups()
    if hours is None and (len(minutes) != 2 or int(minutes) > 59):
        return None  # hours, but nothing behind the seconds
    if len(minutes) != 2 or int(minutes) > 59 or int(seconds) > 59 or len(hours or "") > 9:
        return None
    return ((int(hours or 0) * 3600 + int(minutes) * 60 + int(seconds)) * 1000 + int(ms)) * TICKS_PER_MS


def _plain(text: str, place: str, problems: list[Problem]) -> tuple[str, str]:
    """The words of a cue without its tags, and who says them ("WebVTT cue text tokenizer")."""
    roles: list[str] = []

    def tag(found: re.Match[str]) -> str:
        inside = found[1]
        name = re.split(r"[.\s/]", inside.lstrip("/"), maxsplit=1)[0]
        if name == "v" and not inside.startswith("/"):
            roles.append(" ".join(html.unescape(re.sub(r"^v[^\s]*", "", inside)).split()))
        elif name not in _TAGS and not _TIMESTAMP.fullmatch(inside) and inside:
            problems.append(
                Problem(place, f"{found[0]!r} is no tag of WebVTT and was left out, as the standard has it")
            )
        return ""

    words = html.unescape(_TAG.sub(tag, text))
    lines = [" ".join(line.split()) for line in words.split("\n")]
    named = [role for role in roles if role]
    if len(set(named)) > 1:
        problems.append(
            Problem(place, f"{len(set(named))} people speak in one caption; it was given to {named[0]}")
        )
    return "\n".join(line for line in lines if line), named[0] if named else ""


def write(cues: list[Cue]) -> str:
    """Cues as WebVTT; &, < and > in the words are escaped, so that they can't become markup."""
    parts = ["WEBVTT\n"]
    for cue in cues:
        times = f"{clock(cue.start_ticks or 0, '.')} --> {clock(cue.end_ticks or 0, '.')}"
        words = cue.text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")
        lines = "\n".join(line for line in words.splitlines() if line.strip())
        parts.append(f"{times}\n{lines}\n")
    return "\n".join(parts)

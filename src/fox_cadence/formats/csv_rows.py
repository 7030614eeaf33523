"""CSV (RFC 4180, and its cousins with semicolons and tabs): one row a line, columns as the editor chose
them."""

import csv
import io
import re
from dataclasses import dataclass

from fox_cadence.errors import InputError
from fox_cadence.formats.cues import TICKS_PER_MS, Cue, Problem, ReadResult
from fox_cadence.formats.script import ScriptCues

MOST_ROWS = 20_000
_SHOWN_ROWS = 6
_GUESSES = {
    "text": ("text", "words", "line", "said", "spoken", "script", "caption", "narration"),
    "role": ("role", "who", "speaker", "voice", "character"),
    "start": ("start", "in", "begin", "from", "time"),
    "end": ("end", "out", "to", "until"),
    "heading": ("heading", "section", "scene", "chapter", "title"),
}
_TIME = re.compile(r"(?:(\d+):)?(?:(\d+):)?(\d+(?:[.,]\d+)?)")


@dataclass(frozen=True, slots=True)
class Columns:
    """Numbers of the columns that are used, from 0; None for those that are not."""

    text: int
    role: int | None = None
    start: int | None = None
    end: int | None = None
    heading: int | None = None
    first_row_names: bool = True


@dataclass(frozen=True, slots=True)
class Table:
    """The beginning of a table for choosing columns by, and what they seem to be."""

    names: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    count: int
    guess: Columns


def look(text: str) -> Table:
    """What columns a table has. Raises InputError when it has none."""
    rows = rows_of(text)
    names = rows[0]
    lowered = [name.strip().lower() for name in names]
    found = {
        field: next((n for n, name in enumerate(lowered) if name in words), None)
        for field, words in _GUESSES.items()
    }
    named = any(place is not None for place in found.values())
    text_column = found["text"]
    if text_column is None:
        width = max(len(row) for row in rows[:50])
        lengths = [sum(len(row[n]) for row in rows[1:50] or rows if n < len(row)) for n in range(width)]
        text_column = max(range(width), key=lambda n: lengths[n])
    guess = Columns(text_column, found["role"], found["start"], found["end"], found["heading"], named)
    shown = names if named else tuple(f"Column {n + 1}" for n in range(len(names)))
    body = rows[1:] if named else rows
    return Table(shown, tuple(body[:_SHOWN_ROWS]), len(body), guess)


def read(text: str, columns: Columns | None = None) -> ReadResult:
    """Rows as cues; without `columns`, those the table seems to have."""
    rows = rows_of(text)
    chosen = columns or look(text).guess
    found = ScriptCues()
    heading = ""
    problems: list[Problem] = []
    for number, row in enumerate(rows, 1):
        if number == 1 and chosen.first_row_names:
            continue

        def cell(column: int | None, row: tuple[str, ...] = row) -> str:
            return " ".join(row[column].split()) if column is not None and column < len(row) else ""

        if cell(chosen.heading) and cell(chosen.heading) != heading:
            heading = cell(chosen.heading)
            found.heading(heading, number)
        words, role = cell(chosen.text), cell(chosen.role).lower()
        start, end = _ticks(cell(chosen.start)), _ticks(cell(chosen.end))
        if not words:
            if any(row):
                problems.append(Problem(f"row {number}", "there are no words in the chosen column; left out"))
            continue
        if chosen.start is not None and (start is None or end is None or end <= start):
            problems.append(Problem(f"row {number}", "its times can't be read; the row was left out"))
            continue
        if chosen.start is not None:
            found.cues.append(Cue(words, start, end, number, role))
        else:
            found.paragraph(f"{role.upper()}: {words}" if role else words, number, f"row {number}")
    result = found.result()
    return ReadResult(result.cues, (*problems, *result.problems))


def rows_of(text: str) -> list[tuple[str, ...]]:
    """The rows of a table that are not empty. Raises InputError: there are none, or too many."""
    lines = text.lstrip("\n")
    if not lines.strip():
        raise InputError("the table is empty")
    try:
        delimiter = csv.Sniffer().sniff(lines[:8000], delimiters=",;\t|").delimiter
    except csv.Error:
        delimiter = ","
    found: list[tuple[str, ...]] = []
    try:
        for row in csv.reader(io.StringIO(lines), delimiter=delimiter):
            if len(found) >= MOST_ROWS:
                raise InputError(f"it has more than {MOST_ROWS:,} rows")
            if row:
                found.append(tuple(row))
    except csv.Error as error:
        raise InputError(f"row {len(found) + 1} can't be read ({error})") from error
    if not found:
        raise InputError("the table is empty")
    return found


def _ticks(text: str) -> int | None:
    """hours:minutes:seconds, minutes:seconds or seconds."""
    match = _TIME.fullmatch(text)
    if match is None:
        return None
    first, second, seconds = match.groups()
    parts = [int(part) for part in (first, second) if part]
    whole = 0
    for part in parts:
        whole = whole * 60 + part
    total = whole * 60 + float(seconds.replace(",", "."))
    return round(total * 1000) * TICKS_PER_MS if total < 100 * 3600 else None

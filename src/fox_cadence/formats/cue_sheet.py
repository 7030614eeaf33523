"""A table of what is said and shown when (CSV)."""

import csv
import io
from collections.abc import Iterable
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Entry:
    """A line, a caption or a shot from one second to another; `there` says whether a line has a voice."""

    kind: str
    start_s: float
    end_s: float
    role: str
    text: str
    there: bool


def write(entries: Iterable[Entry]) -> bytes:
    """Entries in the order of time; a mark at its beginning tells programs that it is UTF-8."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["kind", "start", "end", "seconds", "role", "text", "voiced"])
    for each in sorted(entries, key=lambda entry: (entry.start_s, entry.end_s)):
        writer.writerow(
            [
                each.kind,
                f"{each.start_s:.3f}",
                f"{each.end_s:.3f}",
                f"{each.end_s - each.start_s:.3f}",
                each.role,
                " ".join(each.text.split()),
                "" if each.kind != "line" else "yes" if each.there else "no",
            ]
        )
    return out.getvalue().encode("utf-8-sig")

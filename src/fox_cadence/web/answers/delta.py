"""What has changed from one state of a project to the next.

States are made of values that never change, and what two states have in common are mostly the very same
objects; so looking for what differs costs little however long the piece is.
"""

from collections.abc import Mapping
from typing import Any

from fox_cadence.web.answers.shapes import ChangesJson, ProjectJson, Row, TableChange

TABLES = ("shots", "captions", "titles", "figures", "lines", "roles", "lexicon")
"""Lists of rows that have ids. All other values are told whole where they have changed."""


def changes(old: ProjectJson, new: ProjectJson) -> ChangesJson:
    """How `new` differs from `old`; `applied` in static/scripts/timeline.js makes the one of the other."""
    before: Mapping[str, Any] = old
    after: Mapping[str, Any] = new
    tables = {
        name: change for name in TABLES if (change := _table_change(before[name], after[name])) is not None
    }
    values = {
        name: value
        for name, value in after.items()
        if name not in TABLES and name != "version" and not _same(before[name], value)
    }
    return {"version": new["version"], "since": old["version"], "values": values, "tables": tables}


def is_empty(found: ChangesJson) -> bool:
    """Whether two states are the same but for their names."""
    return not found["values"] and not found["tables"]


def _table_change(old: list[Row], new: list[Row]) -> TableChange | None:
    if len(old) == len(new):
        others = [(a, b) for a, b in zip(old, new, strict=True) if a is not b]
        if all(a["id"] == b["id"] for a, b in others):
            rows = [b for a, b in others if a != b]
            return {"rows": rows, "order": None} if rows else None
    known = {row["id"]: row for row in old}
    rows = [row for row in new if not _same(known.get(row["id"]), row)]
    order = [row["id"] for row in new]
    return {"rows": rows, "order": order}


def _same(old: object, new: object) -> bool:
    return old is new or old == new

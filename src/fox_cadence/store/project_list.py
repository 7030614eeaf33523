"""The list of projects, read from their documents as JSON: no object of a project is made for it, so that a
command and the first page don't wait for what describes them."""

import json
import sqlite3
import zlib
from dataclasses import dataclass
from typing import Any

from fox_cadence.store.database import Database

_PLAIN = "#20302c"
"""Colour of a shot in documents that were written before shots had one (`Shot.colour`)."""


@dataclass(frozen=True, slots=True)
class ListedProject:
    """A project on the list. `series` is the group it was put into, '' for none; `picture` the clip of its
    first shot and where in it that begins (ticks), `colour` what is shown without one. `deleted_at` is None
    for one that is there, `version_of` for one that is no version of another."""

    project_id: str
    revision: int
    name: str
    series: str
    language: str
    picture: tuple[str, int] | None
    colour: str
    made_at: str
    changed_at: str
    seconds: float
    lines: int
    deleted_at: str | None = None
    version_of: str | None = None


def list_projects(database: Database, deleted: bool = False) -> list[ListedProject]:
    """All projects that are there, the last changed first; or those that are deleted."""
    with database.read() as db:
        rows = db.execute(
            f"""SELECT p.id, p.series, p.made_at AS born, p.deleted_at, r.made_at, r.number, r.document
            FROM project p
            JOIN revision r ON r.project_id = p.id AND r.number = p.head
            WHERE p.deleted_at IS {"NOT" if deleted else ""} NULL ORDER BY r.made_at DESC"""
        ).fetchall()
    return [_listed(row, json.loads(zlib.decompress(row["document"]))) for row in rows]


def _listed(row: sqlite3.Row, project: dict[str, Any]) -> ListedProject:
    shots = project.get("shots", [])
    frames = sum(shot["length_frames"] for shot in shots)
    rate = project.get("rate", {"numerator": 30})
    first = shots[0] if shots else None
    clip = first.get("clip_hash") if first else None
    version_of = project.get("version_of")
    return ListedProject(
        row["id"],
        row["number"],
        project["name"],
        row["series"],
        project.get("language", "en"),
        (clip, first.get("source_in_ticks", 0)) if first and clip else None,
        first.get("colour", _PLAIN) if first else "",
        row["born"],
        row["made_at"],
        frames * rate.get("denominator", 1) / rate["numerator"],
        len(project.get("lines", [])),
        row["deleted_at"],
        version_of["project_id"] if version_of else None,
    )

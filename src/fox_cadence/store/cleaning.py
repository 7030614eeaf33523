"""What nothing points to any more: found, put aside for a day, brought back, or gone.

A take or a clip is used when its id stands anywhere in any state of any project, deleted ones included: undo
must always find what it goes back to. Files of work that was broken off have no row and are removed by
themselves.
"""

import json
import os
import re
import shutil
import time
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Literal

from fox_cadence.store.database import Database, now
from fox_cadence.store.library import Library
from fox_cadence.store.projects import ProjectStore

DAY_S = 24 * 3600
HOUR_S = 3600
COVERS_S = 30 * DAY_S
"""A cover nothing was made with yet may stand in a docket that was written down."""
_ID = re.compile(rb'"([0-9a-f]{64}|[0-9a-f]{20})"')

Kind = Literal["take", "clip"]


@dataclass(frozen=True, slots=True)
class Unused:
    """A take or clip nothing points to. `name` is its words or the name of its file."""

    kind: Kind
    id: str
    name: str
    path: str
    bytes: int
    made_at: str


@dataclass(frozen=True, slots=True)
class Discarded:
    """A take or clip that was put aside; it can be brought back until `gone_at`."""

    kind: Kind
    id: str
    bytes: int
    discarded_at: str
    gone_at: str


@dataclass(frozen=True, slots=True)
class Kept:
    """Bytes on the disk by what they are."""

    clips: int
    takes: int
    exports: int
    reviews: int
    discarded: int
    database: int


class Cleaning:
    def __init__(self, database: Database, projects: ProjectStore, library: Library, folder: Path) -> None:
        self._database, self._projects, self._library, self._folder = database, projects, library, folder
        self._aside = folder / "discarded"

    def kept(self) -> Kept:
        """How much of the disk each kind of thing takes."""
        sizes = {
            name: _bytes_of(self._folder / name)
            for name in ("clips", "takes", "exports", "reviews", "discarded")
        }
        files = self._folder.glob("fox-cadence.sqlite*")
        return Kept(**sizes, database=sum(file.stat().st_size for file in files))

    def unused(self, older_than_s: float = DAY_S) -> list[Unused]:
        """Takes and clips nothing points to, made at least so long ago: what is being made now is pointed to
        later."""
        used = self._used()
        before = (datetime.now(UTC) - timedelta(seconds=older_than_s)).isoformat(timespec="milliseconds")
        found: list[Unused] = []
        with self._database.read() as db:
            takes = db.execute("SELECT id, sound_hash, made_at, document FROM take").fetchall()
            clips = db.execute("SELECT hash, made_at, document FROM clip").fetchall()
        sounds = {row["sound_hash"] for row in takes if row["id"] in used}
        for row in takes:
            if row["id"] in used or row["sound_hash"] in sounds or row["made_at"] > before:
                continue
            path = self._library.sound_path(row["sound_hash"])
            found.append(
                self._unused("take", row["id"], json.loads(row["document"])["text"], path, row["made_at"])
            )
        for row in clips:
            if row["hash"] not in used and row["made_at"] <= before:
                path = self._library.clip_folder(row["hash"])
                found.append(
                    self._unused(
                        "clip", row["hash"], json.loads(row["document"])["name"], path, row["made_at"]
                    )
                )
        return found

    def discard(self, items: Iterable[Unused]) -> int:
        """Put unused things aside; how many bytes that will free after a day."""
        chosen = list(items)
        with self._database.write() as db:
            for item in chosen:
                table, key = ("take", "id") if item.kind == "take" else ("clip", "hash")
                row = db.execute(f"SELECT * FROM {table} WHERE {key} = ?", (item.id,)).fetchone()
                if row is None:
                    continue
                db.execute(
                    "INSERT OR REPLACE INTO discarded VALUES (?, ?, ?, ?, ?, ?)",
                    (item.kind, item.id, item.path, item.bytes, json.dumps(dict(row)), now()),
                )
                db.execute(f"DELETE FROM {table} WHERE {key} = ?", (item.id,))
        self._library.forget()
        for item in chosen:
            _move(self._folder / item.path, self._aside / item.path)
        return sum(item.bytes for item in chosen)

    def discarded(self) -> list[Discarded]:
        """What was put aside and can still be brought back."""
        with self._database.read() as db:
            rows = db.execute("SELECT * FROM discarded ORDER BY discarded_at").fetchall()
        return [
            Discarded(
                row["kind"], row["id"], row["bytes"], row["discarded_at"],
                (datetime.fromisoformat(row["discarded_at"]) + timedelta(seconds=DAY_S)).isoformat(),
            )
            for row in rows
        ]  # fmt: skip

    def bring_back(self) -> int:
        """Put everything that was put aside where it was; how many things."""
        with self._database.read() as db:
            rows = db.execute("SELECT * FROM discarded").fetchall()
        for row in rows:  # files first: a row never points to a file that is not there
            _move(self._aside / row["path"], self._folder / row["path"])
        with self._database.write() as db:
            for row in rows:
                values = json.loads(row["line"])
                marks = ", ".join("?" * len(values))
                db.execute(
                    f"INSERT OR IGNORE INTO {row['kind']} ({', '.join(values)}) VALUES ({marks})",
                    tuple(values.values()),
                )
                db.execute("DELETE FROM discarded WHERE kind = ? AND id = ?", (row["kind"], row["id"]))
        self._library.forget()
        return len(rows)

    def purge(self, older_than_s: float = DAY_S) -> int:
        """Remove for good what was put aside so long ago; how many things."""
        before = (datetime.now(UTC) - timedelta(seconds=older_than_s)).isoformat(timespec="milliseconds")
        with self._database.write() as db:
            rows = db.execute(
                "SELECT kind, id, path FROM discarded WHERE discarded_at <= ?", (before,)
            ).fetchall()
            db.execute("DELETE FROM discarded WHERE discarded_at <= ?", (before,))
        for row in rows:
            _remove(self._aside / row["path"])
        return len(rows)

    def sweep(self, older_than_s: float = HOUR_S) -> int:
        """Remove what work that was broken off has left, untouched for so long; how many files and
        folders."""
        swept = 0
        for path in self._leftovers():
            try:
                if time.time() - path.stat().st_mtime >= older_than_s:
                    _remove(path)
                    swept += 1
            except OSError:
                continue  # another process has just removed it
        return swept

    def _leftovers(self) -> Iterator[Path]:
        yield from (self._folder / "scratch").glob("*")
        yield from (self._folder / "clips").glob(".new-*")
        yield from (self._folder / "takes").glob("*/.*.part")
        yield from (self._folder / "exports").glob("*/.*.part")
        with self._database.read() as db:
            sounds = {row["sound_hash"] for row in db.execute("SELECT sound_hash FROM take")}
            clips = {row["hash"] for row in db.execute("SELECT hash FROM clip")}
            links = {row["id"] for row in db.execute("SELECT id FROM review_link WHERE revoked_at = ''")}
            made = [
                *db.execute("SELECT document FROM docket WHERE document LIKE '%cover_hash%'"),
                *db.execute("SELECT request FROM job WHERE request LIKE '%cover_hash%'"),
            ]
        covers = {found.decode() for row in made for found in _ID.findall(row[0].encode())}
        for path in (self._folder / "covers").glob("*.jpg"):
            if path.stem not in covers and time.time() - path.stat().st_mtime > COVERS_S:
                yield path
        yield from (path for path in (self._folder / "reviews").glob("*") if path.name not in links)
        yield from (path for path in (self._folder / "takes").glob("*/*.wav") if path.stem not in sounds)
        yield from (path for path in (self._folder / "clips").glob("[!.]*") if path.name not in clips)

    def _used(self) -> set[str]:
        """Everything in any state of any project that looks like the id of a take or a clip, and what is on
        the user's shelf."""
        with self._database.read() as db:
            shelf = {row["hash"] for row in db.execute("SELECT hash FROM shelf_clip")}
        return shelf | {
            found.decode() for document in self._projects.documents() for found in _ID.findall(document)
        }

    def _unused(self, kind: Kind, id: str, name: str, path: Path, made_at: str) -> Unused:
        return Unused(kind, id, name, str(path.relative_to(self._folder)), _bytes_of(path), made_at)


def _bytes_of(path: Path) -> int:
    if path.is_file():
        return path.stat().st_size
    return sum(
        os.path.getsize(os.path.join(folder, name)) for folder, _, names in os.walk(path) for name in names
        if os.path.exists(os.path.join(folder, name))
    )  # fmt: skip


def _move(source: Path, target: Path) -> None:
    """Move where there is something to move; one that is already there stays."""
    if source.exists() and not target.exists():
        target.parent.mkdir(parents=True, exist_ok=True)
        source.rename(target)


def _remove(path: Path) -> None:
    if path.is_dir():
        shutil.rmtree(path, ignore_errors=True)
    else:
        path.unlink(missing_ok=True)

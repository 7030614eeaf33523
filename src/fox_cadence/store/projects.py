"""Projects and their revisions."""

import secrets
import threading
import zlib
from collections.abc import Iterator
from dataclasses import dataclass
from typing import TypeVar

from cachetools import LRUCache
from pydantic import ValidationError

from fox_cadence.core.figures.figure import Figure
from fox_cadence.core.kept import Kept
from fox_cadence.core.project import TABLES, Caption, Line, Project, Role, SceneText, Title
from fox_cadence.core.shot import Shot
from fox_cadence.core.value import Value
from fox_cadence.errors import ClashError, InputError, NotFoundError
from fox_cadence.store.database import Database, now
from fox_cadence.store.project_list import ListedProject, list_projects

T = TypeVar("T", Shot, Caption, Title, SceneText, Role, Line, Figure)
V = TypeVar("V")
_KEPT = 32


@dataclass(frozen=True, slots=True)
class Head:
    """A project as it stands: its newest revision in force and what undo and redo would do."""

    project_id: str
    revision: int
    project: Project
    made_at: str
    undo_label: str | None
    redo_label: str | None


@dataclass(frozen=True, slots=True)
class Revision:
    """A state a project has had. `in_force` ones lead to the state it has now; the others were undone."""

    number: int
    label: str
    made_at: str
    in_force: bool


_written: Kept[Value, str] = Kept()
_written_tables: Kept[tuple[Value, ...], str] = Kept(most=256)


def _pack(project: Project) -> bytes:
    """A project as a document: JSON, compressed. What was written before is not written out anew."""
    rest = project.model_dump_json(exclude=set(TABLES))
    tables = ",".join(f'"{name}":[{_table(getattr(project, name))}]' for name in TABLES)
    return zlib.compress(f"{rest[:-1]},{tables}}}".encode(), 1)


def _table(items: tuple[Value, ...]) -> str:
    known = _written_tables.get(items)
    if known is not None:
        return known
    texts = [_written.get(each) or _written.keep(each, (), each.model_dump_json()) for each in items]
    return _written_tables.keep(items, (), ",".join(texts))


def _unpack(document: bytes) -> Project:
    return Project.model_validate_json(zlib.decompress(document))


def _checked(project: Project, before: Project) -> Project:
    """A changed project as it will be read again: what is new in it is checked, the rest are the objects
    before.

    Raises:
        InputError: it could not be read again.
    """

    def checked(items: tuple[T, ...], others: tuple[T, ...]) -> tuple[T, ...]:
        known = {id(each) for each in others}
        return tuple(
            each if id(each) in known else type(each).model_validate_json(each.model_dump_json())
            for each in items
        )

    try:
        rest = Project.model_validate_json(project.changed(**dict.fromkeys(TABLES, ())).model_dump_json())
        new = {name: checked(getattr(project, name), getattr(before, name)) for name in TABLES}
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        place = " ".join(str(part) for part in first["loc"])
        raise InputError(f"this change can't be kept ({place}: {first['msg']})") from error
    return sharing(rest.changed(**new), before)


def sharing(project: Project, other: Project) -> Project:
    """The same project, with every object it has in common with another one taken from there."""

    def shared(items: tuple[T, ...], others: tuple[T, ...]) -> tuple[T, ...]:
        if len(items) == len(others) and all(a is b for a, b in zip(items, others, strict=True)):
            return others
        known = {each.id: each for each in others}
        made = tuple(same(each, known.get(each.id)) for each in items)
        return others if made == others else made

    def same(value: V, of_other: V | None) -> V:
        return of_other if of_other is not None and (of_other is value or of_other == value) else value

    return project.changed(
        **{name: shared(getattr(project, name), getattr(other, name)) for name in TABLES},
        clips=same(
            {key: same(clip, other.clips.get(key)) for key, clip in project.clips.items()}, other.clips
        ),
        house=same(project.house, other.house),
        rate=same(project.rate, other.rate),
        lexicon=same(project.lexicon, other.lexicon),
    )


class ProjectStore:
    def __init__(self, database: Database) -> None:
        self._database = database
        self._lock = threading.Lock()
        self._unpacked: LRUCache[tuple[str, int], Project] = LRUCache(_KEPT)
        self._newest: LRUCache[str, Project] = LRUCache(_KEPT)

    def create(self, project: Project, label: str, project_id: str | None = None) -> str:
        """Keep a new project; its id."""
        made = project_id or secrets.token_hex(4)
        with self._database.write() as db:
            db.execute("INSERT INTO project (id, made_at, head) VALUES (?, ?, 1)", (made, now()))
            db.execute(
                "INSERT INTO revision VALUES (?, 1, NULL, ?, ?, ?)", (made, label, now(), _pack(project))
            )
        return made

    def exists(self, project_id: str, deleted: bool = True) -> bool:
        """Whether there is such a project, `deleted` ones included."""
        which = "" if deleted else " AND deleted_at IS NULL"
        with self._database.read() as db:
            found = db.execute(f"SELECT 1 FROM project WHERE id = ?{which}", (project_id,)).fetchone()
        return found is not None

    def head(self, project_id: str) -> Head:
        """Raises NotFoundError when there is no such project, or it is deleted."""
        with self._database.read() as db:
            row = db.execute(
                """SELECT r.*, p.deleted_at FROM project p
                JOIN revision r ON r.project_id = p.id AND r.number = p.head WHERE p.id = ?""",
                (project_id,),
            ).fetchone()
            if row is None:
                raise NotFoundError(f"There is no project {project_id}.")
            if row["deleted_at"] is not None:
                raise NotFoundError("This project is deleted. Bring it back under Projects to open it.")
            child = db.execute(
                "SELECT label FROM revision WHERE project_id = ? AND parent = ? ORDER BY number DESC LIMIT 1",
                (project_id, row["number"]),
            ).fetchone()
        return Head(
            project_id,
            row["number"],
            self._project(project_id, row["number"], row["document"]),
            row["made_at"],
            row["label"] if row["parent"] is not None else None,
            child["label"] if child else None,
        )

    def commit(self, project_id: str, based_on: int, project: Project, label: str) -> int:
        """Keep a new revision after `based_on`; its number.

        Raises:
            ClashError: `based_on` is not the newest revision in force.
            InputError: something in the project is not as it may be; nothing was changed.
        """
        with self._lock:
            before = self._unpacked.get((project_id, based_on))
        checked = _checked(project, before) if before is not None else None
        with self._database.write() as db:
            head = self._head_number(
                db.execute("SELECT head FROM project WHERE id = ?", (project_id,)).fetchone()
            )
            if head != based_on:
                raise ClashError(based_on, head)
            newest = db.execute(
                "SELECT MAX(number) AS n FROM revision WHERE project_id = ?", (project_id,)
            ).fetchone()
            number = int(newest["n"]) + 1
            db.execute(
                "INSERT INTO revision VALUES (?, ?, ?, ?, ?, ?)",
                (project_id, number, based_on, label, now(), _pack(project)),
            )
            db.execute("UPDATE project SET head = ? WHERE id = ?", (number, project_id))
        if checked is not None:
            self._keep((project_id, number), checked)
        return number

    def undo(self, project_id: str, based_on: int | None = None) -> None:
        """Go back one revision; nothing happens at the first.

        Raises:
            ClashError: `based_on` is given and is not the newest revision in force.
        """
        self._step(
            project_id,
            based_on,
            "SELECT parent FROM revision WHERE project_id = project.id AND number = project.head",
        )

    def redo(self, project_id: str, based_on: int | None = None) -> None:
        """Go to the newest revision made after this one; nothing happens at the last. Raises ClashError as
        `undo`."""
        self._step(
            project_id,
            based_on,
            "SELECT MAX(number) FROM revision WHERE project_id = project.id AND parent = project.head",
        )

    def _step(self, project_id: str, based_on: int | None, where: str) -> None:
        with self._database.write() as db:
            head = self._head_number(
                db.execute("SELECT head FROM project WHERE id = ?", (project_id,)).fetchone()
            )
            if based_on is not None and head != based_on:
                raise ClashError(based_on, head)
            db.execute(f"UPDATE project SET head = COALESCE(({where}), head) WHERE id = ?", (project_id,))

    def revisions(self, project_id: str, most: int = 200, before: int | None = None) -> list[Revision]:
        """The states of a project, the newest first, at most so many; with `before` only those with a lower
        number."""
        with self._database.read() as db:
            parents = {
                row["number"]: row["parent"]
                for row in db.execute(
                    "SELECT number, parent FROM revision WHERE project_id = ?", (project_id,)
                )
            }
            head = self._head_number(
                db.execute("SELECT head FROM project WHERE id = ?", (project_id,)).fetchone()
            )
            rows = db.execute(
                """SELECT number, label, made_at FROM revision WHERE project_id = ? AND number < ?
                ORDER BY number DESC LIMIT ?""",
                (project_id, before or 1 << 60, most),
            ).fetchall()
        led: set[int] = set()
        at: int | None = head
        while at is not None:
            led.add(at)
            at = parents[at]
        return [Revision(row["number"], row["label"], row["made_at"], row["number"] in led) for row in rows]

    def at(self, project_id: str, number: int) -> Project:
        """The project as it was at a revision. Raises NotFoundError when there is none of that number."""
        with self._database.read() as db:
            row = db.execute(
                "SELECT number, document FROM revision WHERE project_id = ? AND number = ?",
                (project_id, number),
            ).fetchone()
        if row is None:
            raise NotFoundError(f"This project has no state {number}.")
        return self._project(project_id, row["number"], row["document"])

    def labels_since(self, project_id: str, number: int) -> list[str]:
        """What was done after a revision, the oldest first; empty where that revision was undone."""
        found = [each for each in self.revisions(project_id) if each.in_force]
        if all(each.number != number for each in found):
            return []
        return [each.label for each in reversed(found) if each.number > number]

    def list(self, deleted: bool = False) -> list[ListedProject]:
        """All projects that are there, the last changed first; or those that are deleted."""
        return list_projects(self._database, deleted)

    def put_into(self, project_id: str, series: str) -> None:
        """Put a project into a group by its name; '' takes it out of the one it is in. Raises
        NotFoundError."""
        self.head(project_id)
        with self._database.write() as db:
            db.execute("UPDATE project SET series = ? WHERE id = ?", (series, project_id))

    def delete(self, project_id: str) -> None:
        """Take a project off the list; it can be brought back. Raises NotFoundError."""
        self.head(project_id)
        with self._database.write() as db:
            db.execute("UPDATE project SET deleted_at = ? WHERE id = ?", (now(), project_id))

    def bring_back(self, project_id: str) -> None:
        """Put a deleted project on the list again."""
        with self._database.write() as db:
            db.execute("UPDATE project SET deleted_at = NULL WHERE id = ?", (project_id,))

    def delete_for_good(self, project_id: str) -> None:
        """Forget a deleted project with all its states. Raises NotFoundError when it is not among the
        deleted."""
        with self._database.write() as db:
            row = db.execute("SELECT deleted_at FROM project WHERE id = ?", (project_id,)).fetchone()
            if row is None or row["deleted_at"] is None:
                raise NotFoundError("This project is not among the deleted ones.")
            db.execute("DELETE FROM revision WHERE project_id = ?", (project_id,))
            for table in ("job", "line_failure", "docket", "review_link"):
                db.execute(f"DELETE FROM {table} WHERE project_id = ?", (project_id,))
            db.execute("DELETE FROM project WHERE id = ?", (project_id,))

    def documents(self) -> Iterator[bytes]:
        """The JSON of every state of every project, deleted ones included."""
        with self._database.read() as db:
            ids = [
                (row["project_id"], row["number"])
                for row in db.execute("SELECT project_id, number FROM revision")
            ]
        for project_id, number in ids:
            with self._database.read() as db:
                row = db.execute(
                    "SELECT document FROM revision WHERE project_id = ? AND number = ?", (project_id, number)
                ).fetchone()
            if row is not None:
                yield zlib.decompress(row["document"])

    def _project(self, project_id: str, number: int, document: bytes) -> Project:
        """A revision unpacked, and kept: it never changes. What it has in common with the one before are the
        same objects, so that what was made of them is known again."""
        key = (project_id, number)
        with self._lock:
            known = self._unpacked.get(key)
            if known is not None:
                return known
            newest = self._newest.get(project_id)
        made = _unpack(document)
        if newest is not None:
            made = sharing(made, newest)
        self._keep(key, made)
        return made

    def _keep(self, key: tuple[str, int], project: Project) -> None:
        with self._lock:
            self._unpacked[key] = project
            self._newest[key[0]] = project

    @staticmethod
    def _head_number(row: object) -> int:
        if row is None:
            raise NotFoundError("This project is no longer there.")
        return int(row["head"])  # type: ignore[index]

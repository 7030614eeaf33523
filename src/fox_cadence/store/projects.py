"""Projects and their revisions."""

import secrets
import zlib
from dataclasses import dataclass
from functools import lru_cache

from fox_cadence.core.project import Project
from fox_cadence.errors import ClashError, NotFoundError
from fox_cadence.store.database import Database, now


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
class ListedProject:
    project_id: str
    name: str
    made_at: str
    changed_at: str
    seconds: float
    lines: int


def _pack(project: Project) -> bytes:
    return zlib.compress(project.model_dump_json().encode(), 6)


def _unpack(document: bytes) -> Project:
    return Project.model_validate_json(zlib.decompress(document))


class ProjectStore:
    def __init__(self, database: Database) -> None:
        self._database = database
        self._unpack = lru_cache(maxsize=32)(_unpack)  # a revision never changes; unpacking one takes milliseconds

    def create(self, project: Project, label: str, project_id: str | None = None) -> str:
        """Keep a new project; its id."""
        made = project_id or secrets.token_hex(4)
        with self._database.write() as db:
            db.execute("INSERT INTO project VALUES (?, ?, 1)", (made, now()))
            db.execute("INSERT INTO revision VALUES (?, 1, NULL, ?, ?, ?)", (made, label, now(), _pack(project)))
        return made

    def exists(self, project_id: str) -> bool:
        with self._database.read() as db:
            return db.execute("SELECT 1 FROM project WHERE id = ?", (project_id,)).fetchone() is not None

    def head(self, project_id: str) -> Head:
        """Raises NotFoundError when there is no such project."""
        with self._database.read() as db:
            row = db.execute(
                "SELECT r.* FROM project p JOIN revision r ON r.project_id = p.id AND r.number = p.head WHERE p.id = ?",
                (project_id,),
            ).fetchone()
            if row is None:
                raise NotFoundError(f"There is no project {project_id}.")
            child = db.execute(
                "SELECT label FROM revision WHERE project_id = ? AND parent = ? ORDER BY number DESC LIMIT 1",
                (project_id, row["number"]),
            ).fetchone()
        return Head(
            project_id,
            row["number"],
            self._unpack(row["document"]),
            row["made_at"],
            row["label"] if row["parent"] is not None else None,
            child["label"] if child else None,
        )

    def commit(self, project_id: str, based_on: int, project: Project, label: str) -> int:
        """Keep a new revision after `based_on`; its number.

        Raises:
            ClashError: `based_on` is not the newest revision in force.
        """
        with self._database.write() as db:
            head = self._head_number(db.execute("SELECT head FROM project WHERE id = ?", (project_id,)).fetchone())
            if head != based_on:
                raise ClashError(based_on, head)
            newest = db.execute("SELECT MAX(number) AS n FROM revision WHERE project_id = ?", (project_id,)).fetchone()
            number = int(newest["n"]) + 1
            db.execute(
                "INSERT INTO revision VALUES (?, ?, ?, ?, ?, ?)",
                (project_id, number, based_on, label, now(), _pack(project)),
            )
            db.execute("UPDATE project SET head = ? WHERE id = ?", (number, project_id))
        return number

    def undo(self, project_id: str) -> None:
        """Go back one revision; nothing happens at the first."""
        with self._database.write() as db:
            db.execute(
                """UPDATE project SET head = COALESCE(
                    (SELECT parent FROM revision WHERE project_id = project.id AND number = project.head), head)
                WHERE id = ?""",
                (project_id,),
            )

    def redo(self, project_id: str) -> None:
        """Go to the newest revision made after this one; nothing happens at the last."""
        with self._database.write() as db:
            db.execute(
                """UPDATE project SET head = COALESCE(
                    (SELECT MAX(number) FROM revision WHERE project_id = project.id AND parent = project.head), head)
                WHERE id = ?""",
                (project_id,),
            )

    def list(self) -> list[ListedProject]:
        """All projects, the last changed first."""
        with self._database.read() as db:
            rows = db.execute(
                """SELECT p.id, p.made_at AS born, r.made_at, r.document FROM project p
                JOIN revision r ON r.project_id = p.id AND r.number = p.head ORDER BY r.made_at DESC"""
            ).fetchall()
        listed: list[ListedProject] = []
        for row in rows:
            project = _unpack(row["document"])
            frames = sum(shot.length_frames for shot in project.shots)
            seconds = float(frames / project.rate.fraction)
            listed.append(
                ListedProject(row["id"], project.name, row["born"], row["made_at"], seconds, len(project.lines))
            )
        return listed

    @staticmethod
    def _head_number(row: object) -> int:
        if row is None:
            raise NotFoundError("This project is no longer there.")
        return int(row["head"])  # type: ignore[index]

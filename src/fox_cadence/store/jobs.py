"""Long work as rows, so that any window can ask how far it is and a restart can say what became of it."""

import json
import secrets
import sqlite3
from dataclasses import dataclass
from typing import Any, Literal

from fox_cadence.errors import NotFoundError
from fox_cadence.store.database import Database, now

JobState = Literal["waiting", "running", "done", "failed", "cancelled"]


@dataclass(frozen=True, slots=True)
class JobRow:
    id: str
    project_id: str
    kind: str
    state: JobState
    done: int
    total: int
    note: str
    result: dict[str, Any]
    request: dict[str, Any] | None = None


def _row(row: sqlite3.Row) -> JobRow:
    return JobRow(
        row["id"], row["project_id"], row["kind"], row["state"], row["done"], row["total"], row["note"],
        json.loads(row["result"]), json.loads(row["request"]) if row["request"] else None,
    )  # fmt: skip


class JobStore:
    def __init__(self, database: Database) -> None:
        self._database = database

    def create(self, project_id: str, kind: str, request: dict[str, Any] | None = None) -> str:
        """A job that waits; its id. With a request it can be taken up again after a restart."""
        job_id = secrets.token_hex(8)
        asked = json.dumps(request) if request is not None else ""
        with self._database.write() as db:
            db.execute(
                "INSERT INTO job (id, project_id, kind, state, made_at, request) VALUES (?, ?, ?, "
                "'waiting', ?, ?)",
                (job_id, project_id, kind, now(), asked),
            )
        return job_id

    def get(self, job_id: str) -> JobRow:
        """Raises NotFoundError."""
        with self._database.read() as db:
            row = db.execute("SELECT * FROM job WHERE id = ?", (job_id,)).fetchone()
        if row is None:
            raise NotFoundError("There is no such job.")
        return _row(row)

    def report(self, job_id: str, done: int, total: int, note: str) -> None:
        """Keep how far a job is: `done` of `total`, and what it does now."""
        with self._database.write() as db:
            db.execute(
                "UPDATE job SET state = 'running', done = ?, total = ?, note = ? WHERE id = ?",
                (done, total, note, job_id),
            )

    def finish(
        self,
        job_id: str,
        state: JobState,
        note: str,
        result: dict[str, Any],
        progress: tuple[int, int] | None = None,
    ) -> None:
        """Keep how a job ended; `progress` is how far it came, done and total."""
        done, total = progress or (None, None)
        with self._database.write() as db:
            db.execute(
                """UPDATE job SET state = ?, note = ?, result = ?, done = COALESCE(?, done),
                    total = COALESCE(?, total) WHERE id = ?""",
                (state, note, json.dumps(result), done, total, job_id),
            )

    def newest(self, project_id: str, kind: str = "") -> JobRow | None:
        """The job of a project that was asked for last, of a kind or of any."""
        with self._database.read() as db:
            row = db.execute(
                "SELECT * FROM job WHERE project_id = ? AND ? IN ('', kind) ORDER BY made_at DESC LIMIT 1",
                (project_id, kind),
            ).fetchone()
        return _row(row) if row else None

    def end_interrupted(self) -> list[JobRow]:
        """At the start: jobs of an application that is gone can't be going on. Those that are to be taken up
        again.

        A job that was broken off twice is not taken up a third time: it may be what ended the application.
        """
        with self._database.write() as db:
            rows = db.execute(
                "SELECT * FROM job WHERE state IN ('waiting', 'running') AND request != '' AND attempt < 2"
            ).fetchall()
            db.execute(
                """UPDATE job SET state = 'failed', note = CASE
                    WHEN total > 0 THEN 'Broken off at ' || done || ' of ' || total
                        || ' because the application ended. What was finished by then is kept; '
                        || 'start it again for the rest.'
                    ELSE 'Broken off because the application ended. Nothing is lost; start it again.' END
                WHERE state IN ('waiting', 'running')"""
            )
            for row in rows:
                db.execute(
                    "UPDATE job SET state = 'waiting', note = '', attempt = attempt + 1 WHERE id = ?",
                    (row["id"],),
                )
        return [_row(row) for row in rows]

    def forget_old(self, most_per_project: int = 50) -> None:
        """Let go of jobs nobody looks at any more: all but the newest of a project or a kind."""
        with self._database.write() as db:
            db.execute(
                """WITH ended AS (
                    SELECT id, state,
                        ROW_NUMBER() OVER (PARTITION BY project_id ORDER BY made_at DESC) AS place,
                        ROW_NUMBER() OVER (PARTITION BY project_id, kind, state ORDER BY made_at DESC)
                            AS of_kind
                    FROM job
                )
                DELETE FROM job WHERE id IN (
                    SELECT id FROM ended
                    WHERE state NOT IN ('waiting', 'running') AND place > ?
                        AND NOT (state = 'done' AND of_kind = 1)
                )""",
                (most_per_project,),
            )

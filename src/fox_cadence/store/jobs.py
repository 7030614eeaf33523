"""Long work as rows, so that any window can ask how far it is and a restart can say what became of it."""

import json
import secrets
from dataclasses import dataclass
from typing import Any

from fox_cadence.errors import NotFoundError
from fox_cadence.store.database import Database, now


@dataclass(frozen=True, slots=True)
class JobRow:
    id: str
    project_id: str
    kind: str
    state: str
    done: int
    total: int
    note: str
    result: dict[str, Any]


class JobStore:
    def __init__(self, database: Database) -> None:
        self._database = database

    def create(self, project_id: str, kind: str) -> str:
        job_id = secrets.token_hex(8)
        with self._database.write() as db:
            db.execute(
                "INSERT INTO job (id, project_id, kind, state, made_at) VALUES (?, ?, ?, 'waiting', ?)",
                (job_id, project_id, kind, now()),
            )
        return job_id

    def get(self, job_id: str) -> JobRow:
        with self._database.read() as db:
            row = db.execute("SELECT * FROM job WHERE id = ?", (job_id,)).fetchone()
        if row is None:
            raise NotFoundError("There is no such job.")
        return JobRow(
            row["id"], row["project_id"], row["kind"], row["state"], row["done"], row["total"], row["note"],
            json.loads(row["result"]),
        )  # fmt: skip

    def report(self, job_id: str, done: int, total: int, note: str) -> None:
        with self._database.write() as db:
            db.execute(
                "UPDATE job SET state = 'running', done = ?, total = ?, note = ? WHERE id = ?",
                (done, total, note, job_id),
            )

    def finish(self, job_id: str, state: str, note: str, result: dict[str, Any]) -> None:
        with self._database.write() as db:
            db.execute(
                "UPDATE job SET state = ?, note = ?, result = ? WHERE id = ?",
                (state, note, json.dumps(result), job_id),
            )

    def newest_done(self, project_id: str, kind: str) -> JobRow | None:
        with self._database.read() as db:
            row = db.execute(
                "SELECT id FROM job WHERE project_id = ? AND kind = ? AND state = 'done' ORDER BY made_at DESC LIMIT 1",
                (project_id, kind),
            ).fetchone()
        return self.get(row["id"]) if row else None

    def end_interrupted(self) -> None:
        """At the start: jobs of an application that is gone can't be going on."""
        with self._database.write() as db:
            db.execute(
                """UPDATE job SET state = 'failed', note = 'Stopped: the application was closed. Start it again.'
                WHERE state IN ('waiting', 'running')"""
            )

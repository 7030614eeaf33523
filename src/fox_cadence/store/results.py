"""What became of work on a project: lines that could not be voiced, and what was made of it as files."""

import json
from collections.abc import Collection, Mapping
from typing import Any

from fox_cadence.store.database import Database, now


class Results:
    def __init__(self, database: Database) -> None:
        self._database = database

    def failures(self, project_id: str) -> dict[str, str]:
        """Lines whose last try to be voiced failed, and why."""
        with self._database.read() as db:
            rows = db.execute(
                "SELECT line_id, reason FROM line_failure WHERE project_id = ?", (project_id,)
            ).fetchall()
        return {row["line_id"]: row["reason"] for row in rows}

    def keep_failures(self, project_id: str, tried: Collection[str], failed: Mapping[str, str]) -> None:
        """Keep how a try went: lines that were tried and did not fail are no longer failures."""
        gone = set(self.failures(project_id)) & set(tried) - failed.keys()
        if not gone and not failed:
            return
        with self._database.write() as db:
            db.executemany(
                "DELETE FROM line_failure WHERE project_id = ? AND line_id = ?",
                [(project_id, each) for each in gone],
            )
            db.executemany(
                "INSERT OR REPLACE INTO line_failure VALUES (?, ?, ?)",
                [(project_id, line_id, reason) for line_id, reason in failed.items()],
            )

    def docket(self, project_id: str, kind: str) -> dict[str, Any]:
        """What work of a kind made last; empty when there was none."""
        with self._database.read() as db:
            row = db.execute(
                "SELECT document FROM docket WHERE project_id = ? AND kind = ?", (project_id, kind)
            ).fetchone()
        found: dict[str, Any] = json.loads(row["document"]) if row else {}
        return found

    def keep_docket(self, project_id: str, kind: str, document: Mapping[str, Any]) -> None:
        """Keep the docket of a project's newest work of a kind; the one before it goes."""
        with self._database.write() as db:
            db.execute(
                "INSERT OR REPLACE INTO docket VALUES (?, ?, ?, ?)",
                (project_id, kind, json.dumps(document), now()),
            )

"""The SQLite file: one connection that writes, behind a lock; migrations in order, each recorded with its change."""

import sqlite3
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path

MIGRATIONS = Path(__file__).resolve().parent / "migrations"


def now() -> str:
    """The time of the clock as ISO 8601 in UTC."""
    return datetime.now(UTC).isoformat(timespec="milliseconds")


class Database:
    """Access to the database of a data folder. Safe to use from several threads."""

    def __init__(self, path: Path) -> None:
        path.parent.mkdir(parents=True, exist_ok=True)
        self._lock = threading.RLock()
        self._connection = sqlite3.connect(path, check_same_thread=False, isolation_level=None, timeout=10)
        self._connection.row_factory = sqlite3.Row
        self._connection.execute("PRAGMA journal_mode = WAL")
        self._connection.execute("PRAGMA synchronous = FULL")
        self._connection.execute("PRAGMA foreign_keys = ON")
        self._migrate()

    @contextmanager
    def write(self) -> Iterator[sqlite3.Connection]:
        """One transaction: committed at the end, rolled back when anything is raised."""
        with self._lock:
            self._connection.execute("BEGIN IMMEDIATE")
            try:
                yield self._connection
            except BaseException:
                self._connection.execute("ROLLBACK")
                raise
            self._connection.execute("COMMIT")

    @contextmanager
    def read(self) -> Iterator[sqlite3.Connection]:
        with self._lock:
            yield self._connection

    def close(self) -> None:
        with self._lock:
            self._connection.close()

    def _migrate(self) -> None:
        with self.write() as connection:
            connection.execute("CREATE TABLE IF NOT EXISTS migration (name TEXT PRIMARY KEY, made_at TEXT) STRICT")
            done = {row["name"] for row in connection.execute("SELECT name FROM migration")}
            for file in sorted(MIGRATIONS.glob("*.sql")):
                if file.name in done:
                    continue
                for statement in _statements(file.read_text()):
                    connection.execute(statement)
                connection.execute("INSERT INTO migration VALUES (?, ?)", (file.name, now()))


def _statements(script: str) -> Iterator[str]:
    """Single statements of a script: executescript would commit the transaction we are in."""
    gathered = ""
    for line in script.splitlines(keepends=True):
        gathered += line
        if sqlite3.complete_statement(gathered):
            yield gathered
            gathered = ""
    if gathered.strip():
        yield gathered

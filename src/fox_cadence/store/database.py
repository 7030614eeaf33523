"""The SQLite file: one connection that writes, behind a lock; migrations in order, each recorded with its
change."""

import os
import sqlite3
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from pathlib import Path

from fox_cadence.errors import NotFoundError, StorageError
from fox_cadence.store.storage_errors import describe

DATABASE = "fox-cadence.sqlite"
"""Name of the database in a data folder."""
MIGRATIONS = Path(__file__).resolve().parent / "migrations"


_NO_SUCH_NUMBER = "There is nothing of that number."
PATIENCE_S = 5
"""How long a write waits for another program that holds the database."""


def now() -> str:
    """The time of the clock as ISO 8601 in UTC."""
    return datetime.now(UTC).isoformat(timespec="milliseconds")


def default_data_folder() -> Path:
    """The user's data folder (XDG Base Directory Specification)."""
    base = os.environ.get("XDG_DATA_HOME") or str(Path.home() / ".local" / "share")
    return Path(base) / "fox-cadence"


class Database:
    """Access to the database of a data folder. Safe to use from several threads.

    Raises:
        StorageError: it can't be opened, or a newer version of Fox Cadence has changed it.
    """

    def __init__(self, path: Path) -> None:
        self._lock = threading.RLock()
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            self._connection = sqlite3.connect(
                path, check_same_thread=False, isolation_level=None, timeout=PATIENCE_S
            )
            self._connection.row_factory = sqlite3.Row
            self._connection.execute("PRAGMA journal_mode = WAL")
            self._connection.execute("PRAGMA synchronous = FULL")
            self._connection.execute("PRAGMA foreign_keys = ON")
        except (sqlite3.Error, OSError) as error:
            raise StorageError(describe(error, path)) from error
        self._migrate()

    @contextmanager
    def write(self) -> Iterator[sqlite3.Connection]:
        """One transaction: committed at the end, rolled back when anything is raised.

        Raises:
            StorageError: the disk is full or read-only, or another program holds the database; nothing was
                changed.
            NotFoundError: something was asked for by a number that no row can have.
        """
        with self._lock:
            try:
                self._connection.execute("BEGIN IMMEDIATE")
                yield self._connection
                self._connection.execute("COMMIT")
            except BaseException as error:
                if self._connection.in_transaction:  # after some errors SQLite has rolled back by itself
                    self._connection.execute("ROLLBACK")
                if isinstance(error, (sqlite3.OperationalError, OSError)):
                    raise StorageError(describe(error)) from error
                if isinstance(error, OverflowError):
                    raise NotFoundError(_NO_SUCH_NUMBER) from error
                raise

    @contextmanager
    def read(self) -> Iterator[sqlite3.Connection]:
        with self._lock:
            try:
                yield self._connection
            except sqlite3.OperationalError as error:
                raise StorageError(describe(error)) from error
            except OverflowError as error:
                raise NotFoundError(_NO_SUCH_NUMBER) from error

    def close(self) -> None:
        with self._lock:
            self._connection.close()

    def _migrate(self) -> None:
        with self.write() as connection:
            connection.execute(
                "CREATE TABLE IF NOT EXISTS migration (name TEXT PRIMARY KEY, made_at TEXT) STRICT"
            )
            done = {row["name"] for row in connection.execute("SELECT name FROM migration")}
            files = sorted(MIGRATIONS.glob("*.sql"))
            newer = sorted(done - {file.name for file in files})
            if newer:
                raise StorageError(
                    f"A newer version of Fox Cadence has changed this data folder ({newer[0]}). Open it "
                    "with that "
                    "version, or bring its projects over as bundles; nothing was touched."
                )
            for file in files:
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

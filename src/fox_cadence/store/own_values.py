"""Values with a name that the user keeps for all projects: styles of captions, treatments of voices."""

from typing import Generic, TypeVar

from fox_cadence.core.value import Value
from fox_cadence.store.database import Database

N = TypeVar("N", bound=Value)


class OwnValues(Generic[N]):
    """Those of one kind, in a table of their own (`name`, `document`)."""

    def __init__(self, database: Database, table: str, kind: type[N]) -> None:
        self._database = database
        self._table = table  # one of ours, never from outside
        self._kind = kind

    def all(self) -> list[N]:
        """By their names."""
        with self._database.read() as db:
            rows = db.execute(f"SELECT document FROM {self._table} ORDER BY name").fetchall()
        return [self._kind.model_validate_json(row["document"]) for row in rows]

    def keep(self, value: N) -> None:
        """Keep one under its name; one of the same name is replaced."""
        values = (getattr(value, "name"), value.model_dump_json())  # noqa: B009 # every kind has one
        with self._database.write() as db:
            db.execute(f"INSERT OR REPLACE INTO {self._table} VALUES (?, ?)", values)

    def forget(self, name: str) -> None:
        with self._database.write() as db:
            db.execute(f"DELETE FROM {self._table} WHERE name = ?", (name,))

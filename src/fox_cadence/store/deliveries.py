"""The user's own deliveries, for all projects."""

from fox_cadence.core.delivery import Delivery
from fox_cadence.store.database import Database


class Deliveries:
    def __init__(self, database: Database) -> None:
        self._database = database

    def all(self) -> list[tuple[str, Delivery]]:
        """By their names."""
        with self._database.read() as db:
            rows = db.execute("SELECT * FROM delivery ORDER BY name").fetchall()
        return [(row["name"], Delivery.model_validate_json(row["document"])) for row in rows]

    def keep(self, name: str, delivery: Delivery) -> None:
        """Keep one under a name; one of the same name is replaced."""
        with self._database.write() as db:
            db.execute("INSERT OR REPLACE INTO delivery VALUES (?, ?)", (name, delivery.model_dump_json()))

    def forget(self, name: str) -> None:
        with self._database.write() as db:
            db.execute("DELETE FROM delivery WHERE name = ?", (name,))

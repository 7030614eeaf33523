"""Blends of voices the user keeps."""

from fox_cadence.store.database import Database


class Blends:
    def __init__(self, database: Database) -> None:
        self._database = database

    def all(self) -> list[tuple[str, str]]:
        """The ids and the names, by name."""
        with self._database.read() as db:
            rows = db.execute("SELECT voice_id, name FROM blend ORDER BY name").fetchall()
        return [(row["voice_id"], row["name"]) for row in rows]

    def keep(self, voice_id: str, name: str) -> None:
        """Keep one under a name; one of the same name, or the same one, is replaced."""
        with self._database.write() as db:
            db.execute("DELETE FROM blend WHERE name = ?", (name,))
            db.execute("INSERT OR REPLACE INTO blend VALUES (?, ?)", (voice_id, name))

    def forget(self, voice_id: str) -> None:
        with self._database.write() as db:
            db.execute("DELETE FROM blend WHERE voice_id = ?", (voice_id,))

"""The user's own styles of captions and titles, for all projects."""

from fox_cadence.core.lettering.style import CaptionStyle
from fox_cadence.store.database import Database


class CaptionStyles:
    def __init__(self, database: Database) -> None:
        self._database = database

    def all(self) -> list[CaptionStyle]:
        """By their names."""
        with self._database.read() as db:
            rows = db.execute("SELECT document FROM caption_style ORDER BY name").fetchall()
        return [CaptionStyle.model_validate_json(row["document"]) for row in rows]

    def keep(self, style: CaptionStyle) -> None:
        """Keep one under its name; one of the same name is replaced."""
        with self._database.write() as db:
            values = (style.name, style.model_dump_json())
            db.execute("INSERT OR REPLACE INTO caption_style VALUES (?, ?)", values)

    def forget(self, name: str) -> None:
        with self._database.write() as db:
            db.execute("DELETE FROM caption_style WHERE name = ?", (name,))

"""The user's own typefaces: what is known of them, and their files in the data folder."""

import hashlib
from pathlib import Path

from fox_cadence.media.font_files import FontFile
from fox_cadence.store.database import Database, now
from fox_cadence.store.library import write_safely


class OwnFonts:
    """Args:
    folder: where the files lie, by the hash of their bytes (hexadecimal SHA-256).
    """

    def __init__(self, database: Database, folder: Path) -> None:
        self._database = database
        self.folder = folder

    def kept(self) -> dict[str, FontFile]:
        """Those there are by their hash, in the order of their names."""
        with self._database.read() as db:
            rows = db.execute("SELECT * FROM own_font ORDER BY name, weight, hash").fetchall()
        return {row["hash"]: FontFile(row["name"], row["weight"], row["signs"]) for row in rows}

    def keep(self, data: bytes, font: FontFile) -> str:
        """Keep a file; its hash. The row is written when the file is safely there."""
        content_hash = hashlib.sha256(data).hexdigest()
        self.folder.mkdir(exist_ok=True)
        write_safely(self.folder / content_hash, data)
        with self._database.write() as db:
            values = (content_hash, font.name, font.weight, font.signs, now())
            db.execute("INSERT OR REPLACE INTO own_font VALUES (?, ?, ?, ?, ?)", values)
        return content_hash

    def forget(self, content_hash: str) -> None:
        """No longer offer a font; its file stays for the projects that are set in it."""
        with self._database.write() as db:
            db.execute("DELETE FROM own_font WHERE hash = ?", (content_hash,))

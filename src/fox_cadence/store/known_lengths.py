"""How lines will be said, as it was foreseen."""

import json

from fox_cadence.core.length_model import KnownSpeech
from fox_cadence.store.database import Database


class KnownLengthStore:
    def __init__(self, database: Database) -> None:
        self._database = database

    def find(self, key: str) -> KnownSpeech | None:
        """What was kept of a request, None where nothing was."""
        with self._database.read() as db:
            row = db.execute("SELECT document FROM known_length WHERE key = ?", (key,)).fetchone()
        if row is None:
            return None
        found = json.loads(row["document"])
        return KnownSpeech(
            tuple((int(a), int(b)) for a, b in found["words"]),
            tuple((int(a), int(b)) for a, b in found["rests"]),
            int(found["end"]),
        )

    def keep(self, found: dict[str, KnownSpeech]) -> None:
        """Keep what is known of requests, in one transaction."""
        rows = [
            (key, json.dumps({"words": each.words, "rests": each.rests, "end": each.end}))
            for key, each in found.items()
        ]
        with self._database.write() as db:
            db.executemany("INSERT OR REPLACE INTO known_length VALUES (?, ?)", rows)

"""The user's own shelf, what has been drawn before, and finding by words."""

import re
import sqlite3
import threading
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Protocol

from fox_cadence.store.database import Database, now

_WORD = re.compile(r"[^\W_]+", re.UNICODE)


@dataclass(frozen=True, slots=True)
class KeptClip:
    """A clip the user keeps for all projects, with what they say of it."""

    hash: str
    title: str
    words: str
    licence: str
    commercial: bool


class ShelfStore:
    def __init__(self, database: Database) -> None:
        self._database = database

    def kept(self) -> list[KeptClip]:
        """Those the user keeps, the newest first."""
        with self._database.read() as db:
            rows = db.execute("SELECT * FROM shelf_clip ORDER BY added_at DESC, hash").fetchall()
        return [
            KeptClip(row["hash"], row["title"], row["words"], row["licence"], bool(row["commercial"]))
            for row in rows
        ]

    def keep(self, clip: KeptClip) -> None:
        """Keep a clip, or say something else of one that is kept."""
        values = (clip.hash, clip.title, clip.words, clip.licence, int(clip.commercial), now())
        with self._database.write() as db:
            db.execute("INSERT OR REPLACE INTO shelf_clip VALUES (?, ?, ?, ?, ?, ?)", values)

    def forget(self, content_hash: str) -> None:
        """Take a clip off the shelf; where a project shows it, it stays."""
        with self._database.write() as db:
            db.execute("DELETE FROM shelf_clip WHERE hash = ?", (content_hash,))

    def drawn(self, key: str) -> str | None:
        """The clip that was drawn for a key, None where none was."""
        with self._database.read() as db:
            row = db.execute("SELECT hash FROM drawn_clip WHERE key = ?", (key,)).fetchone()
        return str(row["hash"]) if row else None

    def drawn_as(self) -> dict[str, str]:
        """Which picture of the catalogue each drawn clip is, by the hash of the clip."""
        with self._database.read() as db:
            rows = db.execute("SELECT key, hash FROM drawn_clip").fetchall()
        return {row["hash"]: row["key"].split(" ")[0] for row in rows}

    def keep_drawn(self, key: str, content_hash: str) -> None:
        with self._database.write() as db:
            db.execute("INSERT OR REPLACE INTO drawn_clip VALUES (?, ?)", (key, content_hash))


class Worded(Protocol):
    """Something that is found by words."""

    @property
    def id(self) -> str: ...
    @property
    def title(self) -> str: ...
    @property
    def words(self) -> str: ...
    @property
    def subject(self) -> str: ...


class WordIndex:
    """Items by their words, whatever their endings: SQLite's full-text search with its Porter stemmer."""

    def __init__(self, items: Iterable[Worded]) -> None:
        self._lock = threading.Lock()
        self._db = sqlite3.connect(":memory:", check_same_thread=False)
        self._db.execute(
            "CREATE VIRTUAL TABLE item USING fts5(id UNINDEXED, title, words, subject, "
            "tokenize = 'porter unicode61 remove_diacritics 2')"
        )
        rows = [(item.id, item.title, item.words, item.subject) for item in items]
        self._db.executemany("INSERT INTO item VALUES (?, ?, ?, ?)", rows)

    def find(self, text: str, begun: bool = False) -> dict[str, float]:
        """How well items answer to any of some words, by id, the best first; 1 is the best of them.

        Args:
            begun: the last word is still being typed.
        """
        words = _WORD.findall(text)
        if not words:
            return {}
        terms = [f'"{word}"' for word in words]
        if begun:
            terms[-1] += "*"
        with self._lock:
            rows = self._db.execute(
                "SELECT id, bm25(item, 0, 4.0, 2.0, 1.0) FROM item WHERE item MATCH ? ORDER BY 2, rowid",
                (" OR ".join(terms),),
            ).fetchall()
        best = min((score for _, score in rows), default=-1.0)
        return {item_id: score / best for item_id, score in rows}

    def close(self) -> None:
        self._db.close()

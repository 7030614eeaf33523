"""Tokens with which scripts on a network say who they are."""

import secrets
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from fox_cadence.errors import InputError, NotFoundError
from fox_cadence.store.database import Database, now
from fox_cadence.store.token_hash import digest

PREFIX = "fox_"
_USED_EVERY = timedelta(minutes=5)


@dataclass(frozen=True, slots=True)
class ScriptToken:
    """A token by its name; times as ISO 8601, '' for none. What it is, only its script knows."""

    name: str
    made_at: str
    until: str
    used_at: str


class Tokens:
    def __init__(self, database: Database) -> None:
        self._database = database

    def make(self, name: str, days: int | None = None) -> str:
        """A new token; it is told this once.

        Raises:
            InputError: there is one of this name.
        """
        token = PREFIX + secrets.token_urlsafe(32)
        until = datetime.now(UTC) + timedelta(days=days) if days is not None else None
        ends = until.isoformat(timespec="milliseconds") if until else ""
        with self._database.write() as db:
            if db.execute("SELECT 1 FROM script_token WHERE name = ?", (name,)).fetchone():
                raise InputError("there is a token of this name; revoke it first", name)
            db.execute("INSERT INTO script_token VALUES (?, ?, ?, ?, '')", (name, digest(token), now(), ends))
        return token

    def all(self) -> list[ScriptToken]:
        with self._database.read() as db:
            rows = db.execute("SELECT * FROM script_token ORDER BY name").fetchall()
        return [ScriptToken(row["name"], row["made_at"], row["until"], row["used_at"]) for row in rows]

    def revoke(self, name: str) -> None:
        """Raises NotFoundError."""
        with self._database.write() as db:
            gone = db.execute("DELETE FROM script_token WHERE name = ?", (name,))
            if gone.rowcount == 0:
                raise NotFoundError(f"There is no token called {name}.")

    def knows(self, token: str) -> bool:
        """Whether a token is one that still holds; when it was used last is kept, to a few minutes."""
        with self._database.read() as db:
            row = db.execute("SELECT * FROM script_token WHERE token_hash = ?", (digest(token),)).fetchone()
        if row is None or (row["until"] and now() >= row["until"]):
            return False
        since = (datetime.now(UTC) - _USED_EVERY).isoformat(timespec="milliseconds")
        if row["used_at"] < since:
            with self._database.write() as db:
                db.execute("UPDATE script_token SET used_at = ? WHERE name = ?", (now(), row["name"]))
        return True

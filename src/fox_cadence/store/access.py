"""The password of a data folder and the sessions of those who gave it."""

import secrets
from datetime import UTC, datetime, timedelta
from functools import lru_cache
from typing import TYPE_CHECKING

from fox_cadence.errors import InputError
from fox_cadence.store.database import Database, now
from fox_cadence.store.token_hash import digest

if TYPE_CHECKING:
    from argon2 import PasswordHasher

SHORTEST = 10
SESSION_DAYS = 30


@lru_cache(maxsize=1)
def _hasher() -> "PasswordHasher":
    from argon2 import PasswordHasher  # few passwords are asked for

    return PasswordHasher()


class Access:
    """There is one user and at most one password. Setting another ends all sessions."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def is_set(self) -> bool:
        return self._hash() is not None

    def set_password(self, password: str) -> None:
        """Keep a password, hashed by argon2id. Raises InputError for one that is too short."""
        if len(password) < SHORTEST:
            raise InputError(f"it must have at least {SHORTEST} characters", "password")
        hashed = _hasher().hash(password)
        with self._database.write() as db:
            db.execute("INSERT OR REPLACE INTO password VALUES (1, ?, ?)", (hashed, now()))
            db.execute("DELETE FROM session")

    def sign_in(self, password: str) -> str | None:
        """The token of a new session; None when it is not the password."""
        from argon2.exceptions import InvalidHashError, VerificationError

        hashed = self._hash()
        if hashed is None:
            return None
        try:
            _hasher().verify(hashed, password)
        except (VerificationError, InvalidHashError):
            return None
        token = secrets.token_urlsafe(32)
        with self._database.write() as db:
            db.execute("DELETE FROM session WHERE made_at < ?", (_oldest(),))
            db.execute("INSERT INTO session VALUES (?, ?)", (digest(token), now()))
        return token

    def knows(self, token: str) -> bool:
        """Whether a token is that of a session that still holds."""
        with self._database.read() as db:
            row = db.execute("SELECT made_at FROM session WHERE token_hash = ?", (digest(token),)).fetchone()
        return row is not None and row["made_at"] >= _oldest()

    def sign_out(self, token: str) -> None:
        with self._database.write() as db:
            db.execute("DELETE FROM session WHERE token_hash = ?", (digest(token),))

    def _hash(self) -> str | None:
        with self._database.read() as db:
            row = db.execute("SELECT hash FROM password").fetchone()
        return str(row["hash"]) if row else None


def _oldest() -> str:
    return (datetime.now(UTC) - timedelta(days=SESSION_DAYS)).isoformat(timespec="milliseconds")

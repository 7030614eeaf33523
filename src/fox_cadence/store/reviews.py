"""Review links: who may open them, the notes left there, and a log of what happened to each."""

import secrets
import sqlite3
from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING

from fox_cadence.core.review import Link, Moment, Shown
from fox_cadence.errors import InputError, NotFoundError
from fox_cadence.store.database import Database, now
from fox_cadence.store.token_hash import digest

if TYPE_CHECKING:
    from argon2 import PasswordHasher

MOST_NOTES = 500
"""Notes a link can take."""
MOST_LOGGED = 1000
"""Of each link the newest so many entries are kept."""


@dataclass(frozen=True, slots=True)
class Note:
    """What somebody said of a moment; `at_s` counts in the file. Times as ISO 8601, '' for not yet."""

    id: str
    link_id: str
    at_s: float
    moment: Moment | None
    author: str
    text: str
    made_at: str
    answer: str
    answered_at: str
    done_at: str


@dataclass(frozen=True, slots=True)
class Entry:
    """An entry of the log: what happened, and from which address."""

    at: str
    what: str
    address: str


@lru_cache(maxsize=1)
def _hasher() -> "PasswordHasher":
    from argon2 import PasswordHasher  # few passwords are asked for

    return PasswordHasher()


class Reviews:
    def __init__(self, database: Database) -> None:
        self._database = database

    # links

    def add(
        self,
        link_id: str,
        project_id: str,
        revision: int,
        file: str,
        shown: Shown,
        until: str,
        once: bool,
        password: str,
    ) -> Link:
        """A new link."""
        secret = secrets.token_urlsafe(24)
        hashed = _hasher().hash(password) if password else ""
        with self._database.write() as db:
            db.execute(
                "INSERT INTO review_link (id, secret, project_id, revision, file, shown, password_hash, "
                "until, once, made_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
                (
                    link_id,
                    secret,
                    project_id,
                    revision,
                    file,
                    shown.model_dump_json(),
                    hashed,
                    until,
                    int(once),
                    now(),
                ),
            )
        self.log(link_id, "made")
        return self.link(link_id)

    def link(self, link_id: str) -> Link:
        """Raises NotFoundError."""
        return self._link("id", link_id)[0]

    def by_secret(self, secret: str) -> tuple[Link, Shown]:
        """The link of an address and what it shows. Raises NotFoundError."""
        return self._link("secret", secret)

    def of_project(self, project_id: str) -> list[Link]:
        """The links of a project, the newest first."""
        with self._database.read() as db:
            rows = db.execute(
                "SELECT * FROM review_link WHERE project_id = ? ORDER BY made_at DESC", (project_id,)
            ).fetchall()
        return [_link(row) for row in rows]

    def all(self) -> list[Link]:
        with self._database.read() as db:
            return [_link(row) for row in db.execute("SELECT * FROM review_link").fetchall()]

    def revoke(self, link_id: str) -> Link:
        """The link opens nothing any more; who looks at its page now sees no more of it."""
        with self._database.write() as db:
            db.execute(
                "UPDATE review_link SET revoked_at = ? WHERE id = ? AND revoked_at = ''", (now(), link_id)
            )
            db.execute("DELETE FROM review_visit WHERE link_id = ?", (link_id,))
        self.log(link_id, "revoked")
        return self.link(link_id)

    def _link(self, field: str, value: str) -> tuple[Link, Shown]:
        with self._database.read() as db:
            row = db.execute(f"SELECT * FROM review_link WHERE {field} = ?", (value,)).fetchone()
        if row is None:
            raise NotFoundError("There is no such review link.")
        return _link(row), Shown.model_validate_json(row["shown"])

    # who is let in

    def is_password(self, link_id: str, password: str) -> bool:
        from argon2.exceptions import InvalidHashError, VerificationError

        with self._database.read() as db:
            row = db.execute("SELECT password_hash FROM review_link WHERE id = ?", (link_id,)).fetchone()
        try:
            return bool(row and _hasher().verify(row["password_hash"], password))
        except (VerificationError, InvalidHashError):
            return False

    def let_in(self, link: Link) -> str | None:
        """What a browser keeps that is let in; None where a link that opens once was taken before."""
        token = secrets.token_urlsafe(24)
        with self._database.write() as db:
            taken = db.execute(
                "UPDATE review_link SET taken_at = ? WHERE id = ? AND taken_at = ''", (now(), link.id)
            )
            if link.once and taken.rowcount == 0:
                return None
            db.execute("INSERT INTO review_visit VALUES (?, ?, ?)", (digest(token), link.id, now()))
        return token

    def knows(self, link_id: str, token: str) -> bool:
        """Whether a browser that keeps this was let in."""
        with self._database.read() as db:
            row = db.execute(
                "SELECT 1 FROM review_visit WHERE token_hash = ? AND link_id = ?", (digest(token), link_id)
            ).fetchone()
        return row is not None

    # notes

    def add_note(self, link: Link, at_s: float, moment: Moment | None, author: str, text: str) -> Note:
        """Raises InputError when the link has taken as many notes as it can."""
        note_id = secrets.token_hex(8)
        described = moment.model_dump_json() if moment else "null"
        with self._database.write() as db:
            count = db.execute("SELECT COUNT(*) FROM review_note WHERE link_id = ?", (link.id,)).fetchone()[0]
            if count >= MOST_NOTES:
                raise InputError(f"There are {MOST_NOTES} notes on this page already, the most it can take.")
            db.execute(
                "INSERT INTO review_note (id, link_id, project_id, at_s, moment, author, text, made_at) "
                "VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
                (note_id, link.id, link.project_id, at_s, described, author, text, now()),
            )
        return self.note(note_id)

    def note(self, note_id: str) -> Note:
        """Raises NotFoundError."""
        with self._database.read() as db:
            row = db.execute("SELECT * FROM review_note WHERE id = ?", (note_id,)).fetchone()
        if row is None:
            raise NotFoundError("There is no such note.")
        return _note(row)

    def notes(self, link_id: str) -> list[Note]:
        """The notes of a link in the order of the film."""
        return self._notes("link_id", link_id)

    def notes_on(self, project_id: str) -> list[Note]:
        """The notes of all links of a project."""
        return self._notes("project_id", project_id)

    def answer(self, note_id: str, answer: str) -> Note:
        """Keep what is answered to a note; '' takes an answer back."""
        with self._database.write() as db:
            db.execute(
                "UPDATE review_note SET answer = ?, answered_at = ? WHERE id = ?",
                (answer, now() if answer else "", note_id),
            )
        return self.note(note_id)

    def mark(self, note_id: str, done: bool) -> Note:
        with self._database.write() as db:
            db.execute("UPDATE review_note SET done_at = ? WHERE id = ?", (now() if done else "", note_id))
        return self.note(note_id)

    def _notes(self, field: str, value: str) -> list[Note]:
        with self._database.read() as db:
            rows = db.execute(
                f"SELECT * FROM review_note WHERE {field} = ? ORDER BY at_s, made_at", (value,)
            ).fetchall()
        return [_note(row) for row in rows]

    # the log

    def log(self, link_id: str, what: str, address: str = "") -> None:
        with self._database.write() as db:
            db.execute("INSERT INTO review_log VALUES (?, ?, ?, ?)", (link_id, now(), what, address))
            db.execute(
                "DELETE FROM review_log WHERE link_id = ? AND rowid NOT IN "
                "(SELECT rowid FROM review_log WHERE link_id = ? ORDER BY rowid DESC LIMIT ?)",
                (link_id, link_id, MOST_LOGGED),
            )

    def logged(self, link_id: str) -> list[Entry]:
        """What happened to a link, the newest first."""
        with self._database.read() as db:
            rows = db.execute(
                "SELECT at, what, address FROM review_log WHERE link_id = ? ORDER BY rowid DESC", (link_id,)
            ).fetchall()
        return [Entry(row["at"], row["what"], row["address"]) for row in rows]


def _link(row: sqlite3.Row) -> Link:
    return Link(
        row["id"],
        row["secret"],
        row["project_id"],
        row["revision"],
        row["file"],
        row["made_at"],
        row["until"],
        bool(row["once"]),
        bool(row["password_hash"]),
        row["taken_at"],
        row["revoked_at"],
    )


def _note(row: sqlite3.Row) -> Note:
    moment = None if row["moment"] == "null" else Moment.model_validate_json(row["moment"])
    return Note(
        row["id"],
        row["link_id"],
        row["at_s"],
        moment,
        row["author"],
        row["text"],
        row["made_at"],
        row["answer"],
        row["answered_at"],
        row["done_at"],
    )

"""What a disk or a database that refuses means for the editor, and what cures it."""

import errno
import sqlite3
from pathlib import Path

_NOT_OURS = (
    "The data folder may not be written to: it is read-only, or belongs to somebody else. Give yourself the "
    "right to, "
    "then do this again."
)
_BY_NUMBER = {
    errno.ENOSPC: "The disk is full. What was kept before is safe; make room, then do this again.",
    errno.EDQUOT: "Your share of the disk is used up. What was kept before is safe; make room, then do this "
    "again.",
    errno.EROFS: "The disk is read-only, so nothing can be kept there. Make it writable, then do this again.",
    errno.EACCES: _NOT_OURS,
    errno.EPERM: _NOT_OURS,
    errno.EMFILE: "Too many files are open on this machine. Close other programs, then do this again.",
    errno.EIO: "The disk reports an error. Copy your data folder to another disk before you go on.",
}

_BY_WORDS = (
    ("full", errno.ENOSPC),
    ("readonly", errno.EACCES),
    ("read-only", errno.EACCES),
    ("unable to open", errno.EACCES),
    ("disk i/o", errno.EIO),
)

LOCKED = (
    "Another program holds the database of Fox Cadence. Nothing was changed and nothing is lost; close that "
    "program "
    "(a backup, a viewer of databases), then do this again."
)


def describe(error: Exception, path: Path | None = None) -> str:
    """Words for an OSError or an error of sqlite3: what happened, and what to do."""
    text = str(error).lower()
    place = f" ({path})" if path is not None else ""
    if isinstance(error, OSError):
        return _BY_NUMBER.get(error.errno or 0, f"The disk refused: {error.strerror or error}.") + place
    if "locked" in text or "busy" in text:
        return LOCKED + place
    number = next((number for words, number in _BY_WORDS if words in text), None)
    if number is not None:
        return _BY_NUMBER[number] + place
    if isinstance(error, sqlite3.DatabaseError) and ("malformed" in text or "not a database" in text):
        return (
            "The database of Fox Cadence is damaged. Keep a copy of the data folder as it is, then put a "
            "backup in its "
            "place" + place + "."
        )
    return f"The database refused: {error}.{place}"

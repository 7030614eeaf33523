"""Names people give: of projects, of files."""

import unicodedata

_REORDER = frozenset(range(0x202A, 0x202F)) | frozenset(range(0x2066, 0x206A))
"""Signs that turn the order of what comes after them about (UAX #9): they let a name look like another."""


def tidy_name(name: str) -> str:
    """A name in any script on one line: control characters and runs of white space become single spaces.

    Joiners stay: Persian, Hindi and many signs of several parts can't be written without them.
    """
    kept = (
        " " if unicodedata.category(sign) in ("Cc", "Cs") or ord(sign) in _REORDER else sign for sign in name
    )
    return " ".join("".join(kept).split())

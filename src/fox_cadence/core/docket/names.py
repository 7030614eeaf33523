"""The names of finished files, from a pattern."""

import re
from collections.abc import Mapping

from fox_cadence.core.docket.rows import Row, VideoRow

TOKENS = ("piece", "row", "size", "revision", "language")
_PLAIN = {
    "video", "webm", "gif", "sound", "mp3", "m4a", "captions", "ttml", "bundle", "interchange",
}  # fmt: skip
"""Rows whose files are told from the others by their endings."""
_LONGEST_BYTES = 180


def pattern_fault(pattern: str) -> str:
    """What is wrong with a pattern; '' where nothing is."""
    unknown = [each for each in re.findall(r"\{([^{}]*)\}", pattern) if each not in TOKENS]
    if unknown:
        known = ", ".join(f"{{{each}}}" for each in TOKENS)
        return f"{{{unknown[0]}}} is nothing that can stand in a name; {known} can"
    if "{piece}" not in pattern and "{row}" not in pattern:
        return "the names need {piece} or {row}, or all files would be called alike"
    return ""


def stem(name: str) -> str:
    """A project's name as a file name: letters and figures of any script, the rest as single hyphens.

    At most 120 bytes: file systems take 255, and endings and numbers come after it.
    """
    plain = re.sub(r"[^\w]+", "-", name.lower(), flags=re.UNICODE).strip("-_")
    return plain.encode()[:120].decode(errors="ignore").strip("-_") or "project"


def file_stem(pattern: str, row: Row, said: Mapping[str, str], extra: str = "") -> str:
    """The name of a file of a row, without its ending.

    Args:
        said: what stands for each of the `TOKENS` but the row.
        extra: tells the files of one row apart.
    """
    word = "" if row.name in _PLAIN and "{piece}" in pattern else row.name
    if isinstance(row, VideoRow) and row.look:
        word = "look"
    name = pattern.replace("{row}", "-".join(part for part in (word, extra) if part))
    for token, value in said.items():
        name = name.replace(f"{{{token}}}", value)
    name = re.sub(r"[^\w.×-]+", "-", name, flags=re.UNICODE)
    name = re.sub(r"-{2,}", "-", name).strip("-_.")
    return name.encode()[:_LONGEST_BYTES].decode(errors="ignore") or "file"

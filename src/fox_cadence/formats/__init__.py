"""Formats of words, in and out: one module a format, listed in the tables below."""

from collections.abc import Callable
from pathlib import PurePath

from fox_cadence.errors import InputError
from fox_cadence.formats import plain_text, srt, webvtt
from fox_cadence.formats.cues import Cue, Problem, ReadResult
from fox_cadence.formats.decoding import decode

READERS: dict[str, Callable[[str], ReadResult]] = {
    ".srt": srt.read,
    ".vtt": webvtt.read,
    ".txt": plain_text.read,
    ".text": plain_text.read,
    "": plain_text.read,
}

WRITERS: dict[str, Callable[[list[Cue]], str]] = {".srt": srt.write, ".vtt": webvtt.write}

LARGEST_BYTES = 10_000_000


def read_words(name: str, data: bytes) -> ReadResult:
    """Read a file of words by its name.

    Raises:
        InputError: the kind is unknown, the file is empty or too large, or nothing in it can be used.
    """
    suffix = PurePath(name).suffix.lower()
    reader = READERS.get(suffix)
    if reader is None:
        known = ", ".join(sorted(key for key in READERS if key))
        raise InputError(f"{suffix} files of words can't be read yet; use one of {known}", name)
    if len(data) > LARGEST_BYTES:
        raise InputError(f"the file has {len(data):,} bytes; words may have {LARGEST_BYTES:,}", name)
    if not data.strip():
        raise InputError("the file is empty", name)
    text, remark = decode(data)
    if suffix != ".vtt" and text.lstrip().startswith("WEBVTT"):
        reader = webvtt.read
    result = reader(text)
    if not result.cues:
        why = f": {result.problems[0].place}: {result.problems[0].message}" if result.problems else ""
        raise InputError(f"no words were found in it{why}", name)
    problems = (*((Problem("whole file", remark),) if remark else ()), *result.problems)
    return ReadResult(result.cues, problems)


__all__ = ["READERS", "WRITERS", "Cue", "Problem", "ReadResult", "read_words"]

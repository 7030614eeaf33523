"""Formats of words, in and out: one module a format, listed in the tables below."""

from collections.abc import Callable
from pathlib import PurePath

from fox_cadence.errors import InputError
from fox_cadence.formats import csv_rows, docx, markdown, plain_text, sbv, srt, ssml, webvtt
from fox_cadence.formats.cues import Cue, Problem, ReadResult
from fox_cadence.formats.decoding import decode

READERS: dict[str, Callable[[str], ReadResult]] = {
    ".srt": srt.read,
    ".vtt": webvtt.read,
    ".sbv": sbv.read,
    ".txt": plain_text.read,
    ".text": plain_text.read,
    ".md": markdown.read,
    ".markdown": markdown.read,
    ".csv": csv_rows.read,
    ".tsv": csv_rows.read,
    ".ssml": ssml.read,
    "": plain_text.read,
}

PACKED_READERS: dict[str, Callable[[bytes], ReadResult]] = {".docx": docx.read}
"""Formats that are no text by themselves. They open archives of others, so they are read in a process of
their own."""

WRITERS: dict[str, Callable[[list[Cue]], str]] = {".srt": srt.write, ".vtt": webvtt.write}

LARGEST_BYTES = 10_000_000
MOST_PROBLEMS = 100


def read_words(name: str, data: bytes, encoding: str = "", language: str = "") -> ReadResult:
    """Read a file of words by its name.

    Args:
        encoding: of a text file, where the editor has named it; '' guesses.
        language: what the words probably are in, for the guess.

    Raises:
        InputError: the kind is unknown, the file is empty or too large, or nothing in it can be used.
    """
    suffix = PurePath(name).suffix.lower()
    if suffix not in READERS and suffix not in PACKED_READERS:
        known = ", ".join(sorted(key for key in (*READERS, *PACKED_READERS) if key))
        raise InputError(f"{suffix} files of words can't be read yet; use one of {known}", name)
    if len(data) > LARGEST_BYTES:
        raise InputError(f"the file has {len(data):,} bytes; words may have {LARGEST_BYTES:,}", name)
    if not data.strip():
        raise InputError("the file is empty", name)
    remark = ""
    try:
        if suffix in PACKED_READERS:
            result = PACKED_READERS[suffix](data)
        else:
            text, remark = decode(data, encoding, language)
            timed = suffix != ".vtt" and text.lstrip().startswith("WEBVTT")
            result = (webvtt.read if timed else READERS[suffix])(text)
    except InputError as error:
        raise InputError(str(error), name) from error
    if all(cue.heading for cue in result.cues):
        why = f": {result.problems[0].place}: {result.problems[0].message}" if result.problems else ""
        raise InputError(f"no words were found in it{why}", name)
    problems = (*((Problem("whole file", remark),) if remark else ()), *result.problems)
    return ReadResult(result.cues, _few(problems))


def _few(problems: tuple[Problem, ...]) -> tuple[Problem, ...]:
    """At most a hundred problems, with how many more there are: a list of thousands tells nobody anything."""
    if len(problems) <= MOST_PROBLEMS:
        return problems
    more = Problem("whole file", f"and {len(problems) - MOST_PROBLEMS:,} more like these")
    return (*problems[:MOST_PROBLEMS], more)


def is_words(name: str) -> bool:
    """Whether a file is one of words, by its name."""
    suffix = PurePath(name).suffix.lower()
    return bool(suffix) and (suffix in READERS or suffix in PACKED_READERS)


__all__ = ["PACKED_READERS", "READERS", "WRITERS", "Cue", "Problem", "ReadResult", "is_words", "read_words"]

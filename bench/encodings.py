"""Encodings of old files found out: with the language known, with English given, and by statistics alone."""

from charset_normalizer import from_bytes

from fox_cadence.formats.decoding import decode
from tests.formats.test_captions_as_found import SAID, srt

COUNTS = (1, 4)


def rows() -> list[str]:
    written = [(srt(text, count), encoding, tag) for encoding, tag, text in SAID for count in COUNTS]
    known = sum(decode(text.encode(encoding), "", tag)[0] == text for text, encoding, tag in written)
    english = sum(decode(text.encode(encoding), "", "en")[0] == text for text, encoding, _ in written)
    alone = sum(_by_statistics(text.encode(encoding)) == text for text, encoding, _ in written)
    languages = len({tag for _, tag, _ in SAID})
    return [
        f"{len(SAID)} lines in {languages} languages, once and four times in a file of captions:",
        "",
        f"| of {len(written)} files | read right |",
        "| --- | --- |",
        f"| with their language known | {known} |",
        f"| with English given for all of them | {english} |",
        f"| by charset-normalizer alone | {alone} |",
    ]


def _by_statistics(data: bytes) -> str:
    best = from_bytes(data).best()
    return "" if best is None else str(best)

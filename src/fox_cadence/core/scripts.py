"""Writing systems: which ones a text has letters of."""

from fox_cadence.core.words import words_of

_RANGES = (
    ("Arabic", "\u0600", "\u06ff"), ("Hebrew", "\u0590", "\u05ff"), ("Devanagari", "\u0900", "\u097f"),
    ("Bengali", "\u0980", "\u09ff"), ("Tamil", "\u0b80", "\u0bff"), ("Cyrillic", "\u0400", "\u04ff"),
    ("Greek", "\u0370", "\u03ff"), ("Han", "\u4e00", "\u9fff"), ("Kana", "\u3040", "\u30ff"),
    ("Hangul", "\uac00", "\ud7af"), ("Thai", "\u0e00", "\u0e7f"),
)  # fmt: skip


def scripts_in(text: str) -> set[str]:
    """The scripts other than Latin that a text has letters of."""
    return {name for name, low, high in _RANGES if any(low <= sign <= high for sign in text)}


def words_in(text: str, scripts: set[str]) -> str:
    """The words of a text that have letters of some scripts, in order, apart where they are so there."""
    found, end = "", 0
    for word in words_of(text):
        if scripts_in(word.text) & scripts:
            found += f"{' ' if found and word.start > end else ''}{word.text}"
            end = word.end_exclusive
    return found

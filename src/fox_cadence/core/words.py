"""Text as the spoken words it is made of."""

import itertools
import re
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    import budoux

_TOKEN = re.compile(r"\S+")
_SPOKEN = re.compile(r"\w", re.UNICODE)
_UNSPACED = re.compile(r"[\u3040-\u30ff\u3400-\u9fff\uf900-\ufaff\u0e00-\u0e7f]")
_KANA, _THAI = re.compile(r"[\u3040-\u30ff]"), re.compile(r"[\u0e00-\u0e7f]")


@dataclass(frozen=True, slots=True)
class Word:
    """A run of text that holds something to say: between spaces, or as a library divides what is written
    without them. `start` and `end_exclusive` count characters."""

    text: str
    start: int
    end_exclusive: int


@lru_cache(maxsize=20_000)
def words_of(text: str) -> tuple[Word, ...]:
    """The words of a text in order; punctuation that stands alone is no word."""
    return tuple(
        Word(text[start:end], start, end) for start, end in _runs(text) if _SPOKEN.search(text, start, end)
    )


def _runs(text: str) -> Iterator[tuple[int, int]]:
    for match in _TOKEN.finditer(text):
        if not _UNSPACED.search(match.group()):
            yield match.span()
            continue
        at = match.start()
        for part in _divided(match.group()):
            yield at, at + len(part)
            at += len(part)


@lru_cache(maxsize=20_000)
def _divided(token: str) -> tuple[str, ...]:
    """A run of Japanese, Chinese or Thai as its words, each with the signs after it."""
    which = "ja" if _KANA.search(token) else "th" if _THAI.search(token) else "zh-hans"
    parts: list[str] = []
    for part in _parser(which).parse(token):
        if (parts and not _SPOKEN.search(part)) or (parts and not _SPOKEN.search(parts[-1])):
            parts[-1] += part
        else:
            parts.append(part)
    return tuple(parts)


@lru_cache(maxsize=3)
def _parser(language: str) -> "budoux.Parser":
    import budoux

    load = {
        "ja": budoux.load_default_japanese_parser,
        "th": budoux.load_default_thai_parser,
        "zh-hans": budoux.load_default_simplified_chinese_parser,
    }
    return load[language]()


def pieces_of(text: str) -> list[str]:
    """A text in pieces between which it may be divided, each with the space after it; together they are the
    text."""
    starts = [0, *(word.start for word in words_of(text)[1:]), len(text)]
    return [text[a:b] for a, b in itertools.pairwise(starts) if b > a]


SIGNS = ".,;:!?…–—\"'“”‘’()[]«»¿¡。、，！？؟،।"
"""Punctuation that is no part of a word."""


def plain(word: str) -> str:
    """A word without case and without the punctuation around it."""
    return word.casefold().strip(SIGNS)


@lru_cache(maxsize=20_000)
def plain_words(text: str) -> tuple[str, ...]:
    """The words of a text as they are compared."""
    return tuple(plain(word.text) for word in words_of(text))


def same_words(one: str, other: str) -> bool:
    """Whether two texts have the same words in the same order, whatever their case and punctuation."""
    return plain_words(one) == plain_words(other)


def share_words(weights: list[int], count: int) -> list[tuple[int, int]]:
    """Divide `count` spoken words among captions in proportion to their own word counts.

    Returns half-open ranges that cover all words in order. When the numbers agree every caption gets just its
    own words; when a line says other words than its captions show, the share is proportional.
    """
    total = sum(weights)
    if total == 0:
        return [(0, count)] + [(count, count)] * (len(weights) - 1) if weights else []
    edges = [0]
    seen = 0
    for weight in weights:
        seen += weight
        edges.append((2 * seen * count + total) // (2 * total))
    return list(itertools.pairwise(edges))

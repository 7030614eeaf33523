"""Text as the spoken words it is made of."""

import itertools
import re
from dataclasses import dataclass
from functools import lru_cache

_TOKEN = re.compile(r"\S+")
_SPOKEN = re.compile(r"\w", re.UNICODE)


@dataclass(frozen=True, slots=True)
class Word:
    """A run of text without spaces that holds something to say; `start` and `end_exclusive` count
    characters."""

    text: str
    start: int
    end_exclusive: int


@lru_cache(maxsize=20_000)
def words_of(text: str) -> tuple[Word, ...]:
    """The words of a text in order; punctuation that stands alone is no word."""
    return tuple(
        Word(match.group(), match.start(), match.end())
        for match in _TOKEN.finditer(text)
        if _SPOKEN.search(match.group())
    )


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

"""Punctuation for the ear: where a speaker would draw breath and a text gives no sign for it.

Rules of our own for four languages; each suggestion says why. Words are never touched: `prove` of
core/word_changes.py shows that.
"""

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fox_cadence.core.languages import primary
from fox_cadence.core.words import Word, plain_words, words_of

LONGEST_BREATH_WORDS = 14
"""A run of more words than this without a sign is hard to say in one breath: about five seconds at 2.8 words
a second, the usual pace of narration."""

_LEAST_PART = 4
_STOPS = ".,;:!?…–—"


@dataclass(frozen=True)
class _Signs:
    """Words of a language that begin a clause, that join, and that open a sentence and stand apart."""

    clause: frozenset[str]
    joins: frozenset[str]
    openers: frozenset[str]
    ands: frozenset[str]


def _set(words: str) -> frozenset[str]:
    return frozenset(words.split())


_SIGNS: Mapping[str, _Signs] = {
    "en": _Signs(
        _set("but because although though while whereas which who unless until so yet when where"),
        _set("and or then before"),
        _set("however meanwhile finally slowly suddenly still first second third instead indeed therefore"),
        _set("and or"),
    ),
    "es": _Signs(
        _set("pero porque aunque mientras cuando donde sino pues"), _set("y o luego"),
        _set("entonces finalmente mientras además primero segundo"), _set("y e o u"),
    ),
    "fr": _Signs(
        _set("mais parce car tandis lorsque quand où donc"), _set("et ou puis"),
        _set("enfin pourtant soudain ensuite d'abord alors"), _set("et ou"),
    ),
    "de": _Signs(
        _set("aber weil obwohl während denn sondern dass wenn als wo damit"), _set("und oder dann bevor"),
        frozenset(), _set("und oder"),
    ),
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Suggestion:
    """A comma after word `after_word` (counted from 0), and why."""

    after_word: int
    word: str
    why: str


def suggestions(text: str, language: str) -> list[Suggestion]:
    """Where signs are missing for the ear, in order; none for a language there are no rules for."""
    signs = _SIGNS.get(primary(language))
    words = words_of(text)
    if signs is None or len(words) < 3:
        return []
    found: dict[int, str] = {}
    for first, end in _runs(text, words):
        names = plain_words(text)[first:end]
        found |= {
            first + place: why
            for place, why in _in_run(names, signs, first == 0 or _ends(words[first - 1])).items()
        }
    return [Suggestion(place, words[place].text, why) for place, why in sorted(found.items())]


def _ends(word: Word) -> bool:
    return word.text.rstrip("\"'”’)")[-1:] in (".", "!", "?", "…")


def _runs(text: str, words: Sequence[Word]) -> list[tuple[int, int]]:
    """Words [first, end) in a row without a sign among them."""
    runs: list[tuple[int, int]] = []
    first = 0
    for place, word in enumerate(words):
        until = words[place + 1].start if place + 1 < len(words) else len(text)
        after = word.text.rstrip("\"'”’)")[-1:] + text[word.end_exclusive : until].strip()
        if any(sign in _STOPS for sign in after) or place + 1 == len(words):
            runs.append((first, place + 1))
            first = place + 1
    return runs


def _in_run(names: Sequence[str], signs: _Signs, opens: bool) -> dict[int, str]:
    """Places in a run after which a comma should stand."""
    found: dict[int, str] = {}
    if opens and len(names) > 2 and names[0] in signs.openers:
        found[0] = f"“{names[0]}” opens the sentence and stands apart"
    for place in range(_LEAST_PART - 1, len(names) - 2):
        if names[place + 1] in signs.clause and place + 1 <= len(names) - 3:
            found[place] = f"a clause begins with “{names[place + 1]}”"
    found |= _list(names, signs)
    edges = [-1, *sorted(found), len(names) - 1]
    for before, after in itertools.pairwise(edges):
        while after - before > LONGEST_BREATH_WORDS:
            middle = (before + after) // 2
            places = [
                place
                for place in range(before + _LEAST_PART, after - _LEAST_PART + 1)
                if names[place + 1] in signs.joins | signs.clause
            ]
            if not places:
                break
            best = min(places, key=lambda place: abs(place - middle))
            found[best] = f"{after - before} words would be said in one breath"
            before = best
    return found


def _list(names: Sequence[str], signs: _Signs) -> dict[int, str]:
    """`a and b and c`: joins that come twice within four words make a list."""
    places = [place for place, name in enumerate(names) if name in signs.ands and 0 < place < len(names) - 1]
    found: dict[int, str] = {}
    for one, other in itertools.pairwise(places):
        if other - one <= 4:
            found |= {
                one - 1: "a list wants a breath between its parts",
                other - 1: "a list wants a breath between its parts",
            }
    return found


def with_commas(text: str, after_words: Sequence[int]) -> str:
    """The text with a comma after each of those words."""
    made = text
    for place in sorted(set(after_words), reverse=True):
        word = words_of(text)[place]
        end = word.end_exclusive
        while end > word.start and text[end - 1] in "\"'”’)":
            end -= 1
        made = made[:end] + "," + made[end:]
    return made

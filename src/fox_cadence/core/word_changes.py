"""What differs between two texts, word by word; and the proof that nothing but punctuation does."""

from dataclasses import dataclass
from difflib import SequenceMatcher
from typing import Literal

from fox_cadence.core.words import plain_words, words_of

Kind = Literal["same", "added", "lost", "punctuation"]


@dataclass(frozen=True, slots=True)
class Run:
    """Words in a row that fared alike. `punctuation`: the same words, written with other signs or
    capitals."""

    kind: Kind
    before: str
    after: str


def word_changes(before: str, after: str) -> list[Run]:
    """The runs that lead from one text to the other, in order."""
    old, new = [word.text for word in words_of(before)], [word.text for word in words_of(after)]
    matcher = SequenceMatcher(None, plain_words(before), plain_words(after), autojunk=False)
    runs: list[Run] = []
    for tag, a, b, c, d in matcher.get_opcodes():
        if tag == "equal":
            for was, now in zip(_spelt(before, a, b), _spelt(after, c, d), strict=True):
                _add(runs, "same" if was == now else "punctuation", was, now)
            continue
        for was in old[a:b]:
            _add(runs, "lost", was, "")
        for now in new[c:d]:
            _add(runs, "added", "", now)
    return runs


def _spelt(text: str, first: int, end: int) -> list[str]:
    """Words with the signs that stand free after them."""
    words = words_of(text)
    return [
        text[word.start : words[place + 1].start if place + 1 < len(words) else len(text)].strip()
        for place, word in list(enumerate(words))[first:end]
    ]


def _add(runs: list[Run], kind: Kind, before: str, after: str) -> None:
    if runs and runs[-1].kind == kind:
        last = runs.pop()
        before, after = f"{last.before} {before}".strip(), f"{last.after} {after}".strip()
    runs.append(Run(kind, before, after))


@dataclass(frozen=True, slots=True)
class Proof:
    """Whether two texts have the same words in the same order; how many words, and which came or went."""

    holds: bool
    words: int
    added: tuple[str, ...]
    lost: tuple[str, ...]
    changes: tuple[Run, ...]


def prove(before: str, after: str) -> Proof:
    """Compare a repunctuated text with what it came from, word by word."""
    runs = word_changes(before, after)
    added = tuple(word for run in runs if run.kind == "added" for word in run.after.split())
    lost = tuple(word for run in runs if run.kind == "lost" for word in run.before.split())
    return Proof(not added and not lost, len(words_of(before)), added, lost, tuple(runs))

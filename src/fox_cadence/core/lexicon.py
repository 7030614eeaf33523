"""The lexicon of a project: words and how they are said, by language, used in every line."""

from collections.abc import Iterable, Sequence

from pydantic import Field, model_validator

from fox_cadence.core.languages import primary
from fox_cadence.core.marks import Pronunciation
from fox_cadence.core.value import Value
from fox_cadence.core.words import plain_words


class LexiconEntry(Value):
    """How a word, or several in a row, are said: in IPA, or spelled as they sound (an alias)."""

    id: str
    language: str
    written: str = Field(min_length=1, max_length=200)
    ipa: str | None = None
    spelled: str | None = None

    @model_validator(mode="after")
    def _one_way(self) -> "LexiconEntry":
        if (self.ipa is None) == (self.spelled is None):
            raise ValueError("a pronunciation is given in IPA or spelled as it sounds")
        return self

    @property
    def key(self) -> tuple[str, ...]:
        """The words it stands for, as they are compared."""
        return plain_words(self.written)


class Lexicon:
    """Entries of one language made ready to be looked up; longer entries go before shorter ones."""

    def __init__(self, entries: Iterable[LexiconEntry], language: str) -> None:
        self._by_first: dict[str, list[LexiconEntry]] = {}
        for entry in entries:
            if entry.key and primary(entry.language) == primary(language):
                self._by_first.setdefault(entry.key[0], []).append(entry)
        for found in self._by_first.values():
            found.sort(key=lambda entry: -len(entry.key))

    def __bool__(self) -> bool:
        return bool(self._by_first)

    def matches(self, text: str) -> list[tuple[LexiconEntry, int, int]]:
        """Entries with the words [first, end) of a text they apply to, in order, none over another."""
        if not self._by_first:
            return []
        words = plain_words(text)
        found: list[tuple[LexiconEntry, int, int]] = []
        at = 0
        while at < len(words):
            for entry in self._by_first.get(words[at], ()):
                if words[at : at + len(entry.key)] == entry.key:
                    found.append((entry, at, at + len(entry.key)))
                    at += len(entry.key)
                    break
            else:
                at += 1
        return found

    def pronunciations(self, text: str, own: Sequence[Pronunciation]) -> list[Pronunciation]:
        """What the lexicon says of a text where the line has no pronunciation of its own."""
        return [
            Pronunciation(first_word=first, end_word=end, ipa=entry.ipa, spelled=entry.spelled)
            for entry, first, end in self.matches(text)
            if not any(mark.first_word < end and first < mark.end_word for mark in own)
        ]


def fits(written_words: int, said: str) -> bool:
    """Whether a pronunciation can stand for so many words: one as any number, several one for one."""
    return written_words == 1 or len(said.split()) == written_words

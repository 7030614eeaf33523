"""Marks inside a line, tied to words (counted from 0), and how they follow when the words change.

A mark stands after a word (pauses, breaths), at a word (sync points), or over the words [first_word,
end_word).
"""

from collections.abc import Sequence
from difflib import SequenceMatcher
from typing import Annotated, Literal, TypeVar

from pydantic import Field, model_validator

from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.value import Value
from fox_cadence.core.words import plain

BREATH_TICKS = seconds_to_ticks(0.42)
"""The pause a breath is heard in, where no pause of another length is written at its place."""


class PauseMark(Value):
    """A pause of just this length after a word, instead of what the voice would do there."""

    kind: Literal["pause"] = "pause"
    after_word: int = Field(ge=0)
    ticks: int = Field(ge=0)


class Breath(Value):
    """The speaker breathes in after a word; heard in the pause written there, or in one of `BREATH_TICKS`."""

    kind: Literal["breath"] = "breath"
    after_word: int = Field(ge=0)


class SyncPoint(Value):
    """The word begins at a frame of a shot, counted from the cut the shot begins with (0 is the cut
    itself)."""

    kind: Literal["sync"] = "sync"
    word: int = Field(ge=0)
    shot_id: str
    frames: int = Field(0, ge=0)


class _Over(Value):
    """Over the words [first_word, end_word)."""

    first_word: int = Field(ge=0)
    end_word: int = Field(ge=1)

    @model_validator(mode="after")
    def _some_words(self) -> "_Over":
        if self.end_word <= self.first_word:
            raise ValueError("a mark stands over at least one word")
        return self


EmphasisLevel = Literal["strong", "moderate", "reduced"]


class Emphasis(_Over):
    """Words that weigh more, or less, than those around them."""

    kind: Literal["emphasis"] = "emphasis"
    level: EmphasisLevel = "moderate"


class SpanMark(_Over):
    """Words with a pace, pitch and loudness of their own, against the rest of the line."""

    kind: Literal["span"] = "span"
    pace: float = Field(1.0, ge=0.5, le=2)
    pitch_semitones: float = Field(0.0, ge=-12, le=12)
    gain_db: float = Field(0.0, ge=-24, le=12)


class Pronunciation(_Over):
    """How words are said: in IPA, or spelled as they sound. Just one of the two is set.

    One word may be said as any number of words; several words are said one for one, so that each keeps its
    time. `language` tells that the IPA is how another language says them.
    """

    kind: Literal["pronunciation"] = "pronunciation"
    ipa: str | None = None
    spelled: str | None = None
    language: str | None = None

    @model_validator(mode="after")
    def _one_way(self) -> "Pronunciation":
        if (self.ipa is None) == (self.spelled is None):
            raise ValueError("a pronunciation is given in IPA or spelled as it sounds")
        return self


Mark = Annotated[
    PauseMark | Breath | SyncPoint | Emphasis | SpanMark | Pronunciation, Field(discriminator="kind")
]
AfterWord = PauseMark | Breath
OverWords = Emphasis | SpanMark | Pronunciation


def written_pauses(marks: Sequence[Mark]) -> dict[int, int]:
    """Ticks of each written pause by the word it follows; a breath makes one where none is written."""
    breaths = {mark.after_word: BREATH_TICKS for mark in marks if isinstance(mark, Breath)}
    return breaths | {mark.after_word: mark.ticks for mark in marks if isinstance(mark, PauseMark)}


def breaths(marks: Sequence[Mark]) -> tuple[int, ...]:
    """The words after which the speaker breathes in."""
    return tuple(sorted(mark.after_word for mark in marks if isinstance(mark, Breath)))


def sync_points(marks: Sequence[Mark]) -> tuple[SyncPoint, ...]:
    """The sync points in the order of their words."""
    return tuple(sorted((mark for mark in marks if isinstance(mark, SyncPoint)), key=lambda mark: mark.word))


M = TypeVar("M", bound=OverWords)


def over_words(marks: Sequence[Mark], kind: type[M]) -> tuple[M, ...]:
    """The marks of a kind that stand over words, in the order of their words."""
    return tuple(sorted((mark for mark in marks if isinstance(mark, kind)), key=lambda mark: mark.first_word))


def words_under(mark: Mark) -> tuple[int, int]:
    """The words [first, end) a mark is tied to."""
    match mark:
        case PauseMark() | Breath():
            return mark.after_word, mark.after_word + 1
        case SyncPoint():
            return mark.word, mark.word + 1
        case _:
            return mark.first_word, mark.end_word


def moved_to(mark: Mark, first: int, end: int) -> Mark:
    """A mark tied to other words."""
    match mark:
        case PauseMark() | Breath():
            return mark.changed(after_word=first)
        case SyncPoint():
            return mark.changed(word=first)
        case _:
            return mark.changed(first_word=first, end_word=end)


def shifted(marks: Sequence[Mark], by: int) -> tuple[Mark, ...]:
    """Marks moved along by a number of words."""
    return tuple(moved_to(mark, words_under(mark)[0] + by, words_under(mark)[1] + by) for mark in marks)


def cut_out(marks: Sequence[Mark], first: int, end: int) -> tuple[Mark, ...]:
    """The marks of the words [first, end) when these become a line of their own, counted from its first word.

    A mark over words is cut at the borders; a pronunciation that would be cut is left out, and so is a pause
    after what is now the last word.
    """
    kept: list[Mark] = []
    for mark in marks:
        start, stop = words_under(mark)
        low, high = max(start, first), min(stop, end)
        if high <= low or (isinstance(mark, Pronunciation) and (low, high) != (start, stop)):
            continue
        if isinstance(mark, AfterWord) and start >= end - 1:
            continue
        kept.append(moved_to(mark, low - first, high - first))
    return tuple(kept)


def carried(marks: Sequence[Mark], before: Sequence[str], after: Sequence[str]) -> tuple[Mark, ...]:
    """Marks moved along with their words when a text is changed; those whose words are gone are dropped.

    Words are compared without case and without the punctuation around them. A mark over several words stays
    on those of them that are left, from the first to the last; a pronunciation only where all of them are.
    """
    place: dict[int, int] = {}
    matcher = SequenceMatcher(
        None, [plain(word) for word in before], [plain(word) for word in after], autojunk=False
    )
    for start, moved, count in matcher.get_matching_blocks():
        place.update({start + step: moved + step for step in range(count)})
    kept: list[Mark] = []
    for mark in marks:
        first, end = words_under(mark)
        found = [place[word] for word in range(first, end) if word in place]
        if not found:
            continue
        low, high = found[0], found[-1] + 1
        if isinstance(mark, Pronunciation) and (len(found) < end - first or high - low != end - first):
            continue
        if isinstance(mark, AfterWord) and low >= len(after) - 1:
            continue  # a pause after the last word is no pause inside the line
        kept.append(moved_to(mark, low, high))
    return tuple(kept)

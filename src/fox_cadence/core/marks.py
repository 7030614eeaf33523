"""Marks inside a line: written pauses and sync points, tied to words, and how they follow when the words change."""

from collections.abc import Sequence
from difflib import SequenceMatcher
from typing import Annotated, Literal

from pydantic import Field

from fox_cadence.core.value import Value


class PauseMark(Value):
    """A pause of just this length after a word (counted from 0), instead of what the voice would do there."""

    kind: Literal["pause"] = "pause"
    after_word: int = Field(ge=0)
    ticks: int = Field(ge=0)


class SyncPoint(Value):
    """The word begins at a frame of a shot, counted from the cut the shot begins with (0 is the cut itself)."""

    kind: Literal["sync"] = "sync"
    word: int = Field(ge=0)
    shot_id: str
    frames: int = Field(0, ge=0)


Mark = Annotated[PauseMark | SyncPoint, Field(discriminator="kind")]


def written_pauses(marks: Sequence[Mark]) -> dict[int, int]:
    """Ticks of each written pause by the word it follows."""
    return {mark.after_word: mark.ticks for mark in marks if isinstance(mark, PauseMark)}


def sync_points(marks: Sequence[Mark]) -> tuple[SyncPoint, ...]:
    """The sync points in the order of their words."""
    return tuple(sorted((mark for mark in marks if isinstance(mark, SyncPoint)), key=lambda mark: mark.word))


def carried(marks: Sequence[Mark], before: Sequence[str], after: Sequence[str]) -> tuple[Mark, ...]:
    """Marks moved along with their words when a text is changed; those whose word is gone are dropped.

    Words are compared without case and without the punctuation around them.
    """
    place: dict[int, int] = {}
    matcher = SequenceMatcher(None, [_plain(word) for word in before], [_plain(word) for word in after], autojunk=False)
    for start, moved, count in matcher.get_matching_blocks():
        place.update({start + step: moved + step for step in range(count)})
    kept: list[Mark] = []
    for mark in marks:
        word = mark.after_word if isinstance(mark, PauseMark) else mark.word
        if word not in place:
            continue
        field = "after_word" if isinstance(mark, PauseMark) else "word"
        if isinstance(mark, PauseMark) and place[word] >= len(after) - 1:
            continue  # a pause after the last word is no pause inside the line
        kept.append(mark.model_copy(update={field: place[word]}))
    return tuple(kept)


def _plain(word: str) -> str:
    return word.casefold().strip(".,;:!?…–—\"'“”‘’()[]")

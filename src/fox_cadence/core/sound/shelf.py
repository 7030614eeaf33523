"""The shelf of sound: music and effects at hand, each with the words it is found by."""

from typing import Literal, TypeAlias

from pydantic import Field

from fox_cadence.core.value import Value

SoundKind: TypeAlias = Literal["bed", "effect"]
LONGEST_EFFECT_S = 8.0
"""A sound that is not ours and no longer than this is taken for an effect."""


class SoundItem(Value):
    """A sound of the shelf. `clip_hash` is None for what is still to be played; `kept` says that the user
    keeps it for all projects."""

    id: str
    title: str
    words: str = ""
    subject: str = ""
    kind: SoundKind
    seconds: float = 0.0
    bpm: float = 0.0
    source: Literal["piece", "own", "shipped"]
    licence: str = ""
    commercial: bool = True
    clip_hash: str | None = None
    kept: bool = False


class SoundWish(Value):
    """What is looked for. `words` are looked up in another way; the rest has to hold."""

    words: str = Field("", max_length=500)
    kind: SoundKind | None = None
    source: Literal["piece", "own", "shipped"] | None = None

    def holds(self, item: SoundItem) -> bool:
        """Whether an item is what is looked for, its words left aside."""
        return (self.kind is None or item.kind == self.kind) and (
            self.source is None or item.source == self.source
        )

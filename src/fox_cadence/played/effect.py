"""A spot effect that our own code makes."""

from collections.abc import Callable
from dataclasses import dataclass

from fox_cadence.played.parts import Mono


@dataclass(frozen=True, slots=True)
class Effect:
    """How it is called, the words it is found by, and what makes it."""

    id: str
    title: str
    words: str
    make: Callable[[], Mono]

"""What every voice engine offers."""

from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from fox_cadence.errors import EngineError

LONGEST_TEXT = 20_000


@dataclass(frozen=True, slots=True)
class Abilities:
    """What an engine can be asked for. Without `pitch` of its own, its sound is transposed (reading.py); one
    that is `directed` gives words their own pace and pitch by itself, else the sound is changed
    (prosody.py).

    `unit_s` is the least by which it can make a line longer or shorter: nearer than that it is not asked to
    come, the rest is stretched.
    """

    pitch: bool
    pace_min: float
    pace_max: float
    unit_s: float = 0.0
    directed: bool = False


@dataclass(frozen=True, slots=True)
class Touch:
    """Characters [start, end) that are said at a pace and so many semitones of their own."""

    start: int
    end: int
    pace: float
    semitones: float


@dataclass(frozen=True, slots=True)
class Utterance:
    """Text to say. `voice` is the engine's own identifier; pace 1 is natural; pitch and liveliness run from 0
    to 99.

    `sounds` are parts of the text, each from a character to one, that are said as the IPA given with them.
    `semitones`, `spread` (a factor on how far the pitch moves) and `touches` are for engines that are
    directed.
    """

    text: str
    voice: str
    pace: float
    pitch: int
    liveliness: int
    sounds: tuple[tuple[int, int, str], ...] = ()
    semitones: float = 0.0
    spread: float = 1.0
    touches: tuple[Touch, ...] = ()


@dataclass(frozen=True, slots=True)
class Speech:
    """Sound of an utterance: mono float32 in -1..1, and the sample at which each word begins.

    `onsets` holds pairs (character in the text, sample), in order; an engine may leave words out. `phonemes`
    holds pairs (IPA, sample at which it begins).
    """

    samples: NDArray[np.float32]
    rate_hz: int
    onsets: tuple[tuple[int, int], ...]
    phonemes: tuple[tuple[str, int], ...]


@dataclass(frozen=True, slots=True)
class Outline:
    """An utterance before there is sound of it: runs of samples in which it will sound, words and phonemes
    as in `Speech`."""

    rate_hz: int
    runs: tuple[tuple[int, int], ...]
    onsets: tuple[tuple[int, int], ...]
    phonemes: tuple[tuple[str, int], ...]


class Engine(Protocol):
    """Makes speech. Implementations may be called from several threads."""

    def abilities(self) -> Abilities:
        """What it can do beside speaking."""
        ...

    def say(self, utterance: Utterance) -> Speech:
        """Speak.

        Raises:
            EngineError: the engine died, hung, or does not have the voice.
        """
        ...

    def foresee(self, utterance: Utterance) -> Outline | None:
        """What it would say, known before the sound; None where only the sound tells.

        Raises:
            EngineError: as `say`.
        """
        ...

    def close(self) -> None:
        """End its processes; it can't be used afterwards."""
        ...


def checked_text(text: str) -> str:
    """Text as an engine may have it: no control characters (NUL cuts the text), every character in its place.

    Raises:
        EngineError: it is too long.
    """
    if len(text) > LONGEST_TEXT:
        raise EngineError(f"A line of {len(text)} characters is too long to say; {LONGEST_TEXT} is the most.")
    return "".join(" " if ord(sign) < 32 or 127 <= ord(sign) < 160 else sign for sign in text)

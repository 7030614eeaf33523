"""What every voice engine offers."""

from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import NDArray


@dataclass(frozen=True, slots=True)
class Abilities:
    """What an engine can be asked for; a control that it lacks is shown as such."""

    name: str
    pitch: bool
    pitch_range: bool
    word_times: bool
    pace_min: float
    pace_max: float


@dataclass(frozen=True, slots=True)
class Utterance:
    """Text to say. `voice` is the engine's own identifier; pace 1 is natural; pitch and liveliness run from 0 to 99."""

    text: str
    voice: str
    pace: float
    pitch: int
    liveliness: int


@dataclass(frozen=True, slots=True)
class Speech:
    """Sound of an utterance: mono float32 in -1..1, and the sample at which each word begins.

    `onsets` holds pairs (character in the text, sample), in order; an engine may leave words out. `phonemes` holds
    the samples at which phonemes begin.
    """

    samples: NDArray[np.float32]
    rate_hz: int
    onsets: tuple[tuple[int, int], ...]
    phonemes: tuple[int, ...]


class Engine(Protocol):
    """Makes speech. Implementations may be called from several threads."""

    def abilities(self) -> Abilities: ...

    def say(self, utterance: Utterance) -> Speech:
        """Speak.

        Raises:
            EngineError: the engine died, hung, or does not have the voice.
        """
        ...

    def close(self) -> None: ...

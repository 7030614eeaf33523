"""How long a text will last before it has a take.

An estimator answers for a text and a voice. The one here needs nothing but the letters and is used where no
phonemes are at hand; `core/phoneme_model.py` learns each voice from its takes.
"""

import itertools
import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Protocol

from fox_cadence.core.takes import VoicingRequest
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.words import words_of


@dataclass(frozen=True, slots=True)
class Estimate:
    """Expected voiced length, expected natural pauses by the word they follow (ticks), and the usual relative
    error."""

    voiced_ticks: int
    pauses: Mapping[int, int]
    error: float

    @property
    def ticks(self) -> int:
        """Voice and natural pauses together."""
        return self.voiced_ticks + sum(self.pauses.values())


@dataclass(frozen=True, slots=True)
class KnownSpeech:
    """How a request will be said, known before its sound, without written pauses: begin and end of each word
    and of each rest, and the end of the last sound, in ticks from the first sound."""

    words: tuple[tuple[int, int], ...]
    rests: tuple[tuple[int, int], ...]
    end: int

    def estimate(self) -> Estimate:
        """The same as sums."""
        pauses = {self._word_before(start): end - start for start, end in self.rests}
        return Estimate(self.end - sum(pauses.values()), pauses, 0.0)

    def _word_before(self, ticks: int) -> int:
        return max(0, sum(begin < ticks for begin, _ in self.words) - 1)


class Estimator(Protocol):
    """Estimates how a voice will say a text."""

    def estimate(self, text: str, voice_id: str, pace: float) -> Estimate:
        """Expected lengths at a pace of the voice (1 is natural)."""
        ...

    def known(self, request: VoicingRequest) -> KnownSpeech | None:
        """How a request will be said, where that is known: the same object each time."""
        ...

    def version(self, voice_id: str) -> object:
        """What its estimates for a voice rest on: as long as this is the same, so are they."""
        ...


_LETTER = re.compile(r"[^\W\d_]")
_DIGIT = re.compile(r"\d")
_CLOSING = "\"'”’)»"


def rests_of(text: str) -> dict[int, str]:
    """Words after which a voice pauses, with the sign that makes it: every sentence or clause end inside the
    text."""
    words = words_of(text)
    found: dict[int, str] = {}
    for index, (word, following) in enumerate(itertools.pairwise(words)):
        between = word.text.rstrip(_CLOSING)[-1:] + text[word.end_exclusive : following.start].strip()
        sign = next((sign for sign in between if sign in ".!?…,;:–—"), "")
        if sign:
            found[index] = sign
    return found


class LetterEstimator:
    """Seconds by letters, digits and words. Coarse: median 11 %, p95 26 % (docs/benchmarks.md)."""

    LINE_S, LETTER_S, DIGIT_S, WORD_S = 0.06, 0.058, 0.30, 0.055
    SENTENCE_S, CLAUSE_S = 0.40, 0.20
    ERROR = 0.15

    def estimate(self, text: str, voice_id: str, pace: float) -> Estimate:
        words = words_of(text)
        if not words:
            return Estimate(0, {}, self.ERROR)
        letters, digits = len(_LETTER.findall(text)), len(_DIGIT.findall(text))
        voiced = self.LINE_S + self.LETTER_S * letters + self.DIGIT_S * digits + self.WORD_S * len(words)
        pauses = {
            word: seconds_to_ticks((self.SENTENCE_S if sign in ".!?…" else self.CLAUSE_S) / pace)
            for word, sign in rests_of(text).items()
        }
        return Estimate(max(seconds_to_ticks(voiced / pace), seconds_to_ticks(0.1)), pauses, self.ERROR)

    def known(self, request: VoicingRequest) -> KnownSpeech | None:
        return None

    def version(self, voice_id: str) -> object:
        return self


LETTERS = LetterEstimator()


def estimate_request(estimator: Estimator, request: VoicingRequest) -> Estimate:
    """What is known of a request; else the estimate of the voice's plain reading, with what is directed in
    it: local paces, scaled pauses."""
    known = estimator.known(request)
    if known is not None:
        return known.estimate()
    guess = estimator.estimate(request.text, request.voice_id, request.pace)
    if not request.touches and request.pauses == 1:
        return guess
    letters = [len(word.text) for word in words_of(request.text)]
    whole = sum(letters) or 1
    longer = sum(
        sum(letters[touch.first_word : touch.end_word]) / whole * (1 / touch.pace - 1)
        for touch in request.touches
    )
    pauses = {word: round(ticks * request.pauses) for word, ticks in guess.pauses.items()}
    return Estimate(round(guess.voiced_ticks * (1 + longer)), pauses, guess.error)

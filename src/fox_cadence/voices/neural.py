"""Neural voices: text to phonemes, lengths brought to the pace, sound, and the time of every word.

All families work sentence by sentence. Runs in the worker process (neural_worker.py); nothing here fetches
anything.
"""

import hashlib
from abc import ABC, abstractmethod
from collections.abc import Container, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.words import words_of
from fox_cadence.voices.duration_graph import brought_to
from fox_cadence.voices.ipa_signs import PLAIN_IPA
from fox_cadence.voices.word_borders import is_sound, word_begins

LONGEST_SPEECH_S = 300
_LOUDEST = 0.99
_MOST_KEPT = 20_000
_SENTENCE_LEAD_S = 0.075
"""How long a sentence after the first waits before its first sound, besides what the one before it leaves."""
_SENTENCE_TAIL_S = 0.25
"""How much of the silence after a sentence stays before the next one, where silence is cut off."""

_SHORT_GAP_S = 0.08
"""Shorter gaps between sounds are no rests: a space, a stress."""

Run = tuple[int, int]
"""Samples [start, end) in which a voice sounds."""


class UnknownSoundError(ValueError):
    """A pronunciation asks for a sound the voice was not taught."""


class TooLongError(ValueError):
    """The text would last longer than `LONGEST_SPEECH_S`."""


@dataclass(frozen=True)
class Sentence:
    """Symbols of a sentence, the model's numbers for it, and for each symbol the place of its first
    number."""

    symbols: tuple[str, ...]
    ids: tuple[int, ...]
    places: tuple[int, ...]


@dataclass(frozen=True)
class Manner:
    """How a sentence is said: pace, semitones and spread of its pitch, and where they differ, pace and
    semitones of each of its numbers."""

    pace: float = 1.0
    semitones: float = 0.0
    spread: float = 1.0
    own: tuple[NDArray[np.float64], NDArray[np.float64]] | None = None


class Family(ABC):
    """What differs between kinds of neural voices.

    `hop` is the length of a step in samples; a word is heard `onset_lag_s` before the phoneme it begins with,
    or before the point `space_share` of the way through the space before it. A voice that `crops_silence`
    waits long at both ends of a sentence: what of it stands between two sentences is cut off. One that is
    `directed` follows the pitch and the paces of a manner by itself.
    """

    rate_hz: int
    hop: int
    onset_lag_s = 0.0
    space_share = 0.0
    crops_silence = False
    directed = False

    def __init__(self) -> None:
        self._alone: dict[str, tuple[str, ...]] = {}

    @abstractmethod
    def symbols(self, text: str) -> list[tuple[str, ...]]:
        """The symbols of each sentence of a text, all of them known to the model."""

    @abstractmethod
    def numbered(self, symbols: tuple[str, ...]) -> Sentence:
        """Symbols as the numbers the model reads, with what it puts between and around them."""
        ...

    @abstractmethod
    def from_ipa(self, ipa: str) -> tuple[str, ...]:
        """IPA as symbols of the model.

        Raises:
            UnknownSoundError: there is none for a sign.
        """

    @abstractmethod
    def lengths(self, sentence: Sentence) -> NDArray[np.int64]:
        """Steps of each of the sentence's numbers at natural pace."""

    def paced(self, sentence: Sentence, manner: Manner) -> NDArray[np.int64]:
        """Steps of each of the sentence's numbers in a manner."""
        return brought_to(self.lengths(sentence), 1 / manner.pace)

    @abstractmethod
    def sound(
        self, sentence: Sentence, steps: NDArray[np.int64], manner: Manner, seed: int
    ) -> NDArray[np.float32]:
        """The sound of a sentence with these steps of each number, mono; same seed, same sound."""
        ...

    def sounding(self, sentence: Sentence, steps: NDArray[np.int64]) -> list[Run]:
        """Where the sound of a sentence will be heard, in order: from its first sound to its last, without
        the waits at punctuation."""
        edges = np.concatenate([[0], np.cumsum(steps.reshape(-1))]) * self.hop
        ends = [*sentence.places[1:], len(sentence.ids) - 1]
        lag = round(self.onset_lag_s * self.rate_hz)
        runs: list[Run] = []
        for symbol, place, end in zip(sentence.symbols, sentence.places, ends, strict=True):
            if not is_sound(symbol):
                continue
            begin, until = max(0, int(edges[place]) - lag), int(edges[end]) - lag
            if runs and begin - runs[-1][1] < _SHORT_GAP_S * self.rate_hz:
                runs[-1] = (runs[-1][0], until)
            else:
                runs.append((begin, until))
        return runs

    def alone(self, word: str) -> tuple[str, ...]:
        """The symbols of a word spoken by itself, kept: the same words come again and again."""
        if word not in self._alone:
            if len(self._alone) >= _MOST_KEPT:
                self._alone.clear()
            self._alone[word] = tuple(symbol for part in self.symbols(word) for symbol in part)
        return self._alone[word]


@dataclass(frozen=True)
class Spoken:
    """Sound in -1..1, begins of words (character, sample), begins of phonemes."""

    samples: NDArray[np.float32]
    words: list[tuple[int, int]]
    phonemes: list[tuple[str, int]]


@dataclass(frozen=True)
class Foreseen:
    """What is known before the sound: its runs of samples (between them it is silent), begins of words and of
    phonemes."""

    runs: list[Run]
    words: list[tuple[int, int]]
    phonemes: list[tuple[str, int]]


@dataclass(frozen=True)
class Wanted:
    """How a text is to be said: pace (1 is natural), semitones and spread of its pitch, characters [start,
    end) said as the IPA given, and characters with a pace and semitones of their own."""

    pace: float = 1.0
    semitones: float = 0.0
    spread: float = 1.0
    sounds: Sequence[tuple[int, int, str]] = ()
    touches: Sequence[tuple[int, int, float, float]] = ()


def speak(family: Family, text: str, wanted: Wanted) -> Spoken:
    """Say a text; the same text said the same way gives the same samples.

    Raises:
        TooLongError: it would last too long.
        UnknownSoundError: a pronunciation has a sound the voice was not taught.
    """
    planned = _Planned(family, text, wanted)
    parts = [
        family.sound(each.sentence, each.steps, each.manner, _seed(text, number))[each.low : each.high]
        for number, each in enumerate(planned.parts)
    ]
    sound = np.concatenate([np.zeros(0, np.float32), *parts])
    peak = float(np.max(np.abs(sound), initial=0.0))
    if peak > _LOUDEST:
        sound *= np.float32(_LOUDEST / peak)
    return Spoken(sound, planned.words(), planned.phonemes())


def foresee(family: Family, text: str, wanted: Wanted) -> Foreseen:
    """What `speak` would say, without the sound.

    Raises:
        TooLongError, UnknownSoundError: as `speak`.
    """
    planned = _Planned(family, text, wanted)
    runs = [
        (each.at + max(low, each.low) - each.low, each.at + min(high, each.high) - each.low)
        for each in planned.parts
        for low, high in family.sounding(each.sentence, each.steps)
    ]
    return Foreseen([run for run in runs if run[1] > run[0]], planned.words(), planned.phonemes())


@dataclass(frozen=True)
class _Part:
    """A sentence with its steps; the samples [low, high) of its sound stand at `at`."""

    sentence: Sentence
    steps: NDArray[np.int64]
    manner: Manner
    low: int
    high: int
    at: int


class _Planned:
    """All that is settled of a text before there is any sound."""

    def __init__(self, family: Family, text: str, wanted: Wanted) -> None:
        self._family, self._text = family, text
        self._said = _said(family, text, wanted.sounds)
        sentences = [family.numbered(part) for part in _pronounced(family, text, self._said)]
        self._symbols = [symbol for each in sentences for symbol in (*each.symbols, " ")]
        self._places = _words(family, text, self._symbols, self._said)
        own = self._own(wanted.touches)
        self._begins: list[int] = []
        self.parts: list[_Part] = []
        at = first = 0
        for number, sentence in enumerate(sentences):
            manner = Manner(
                wanted.pace, wanted.semitones, wanted.spread,
                _by_number(sentence, own[first : first + len(sentence.symbols)]),
            )  # fmt: skip
            first += len(sentence.symbols) + 1
            steps = family.paced(sentence, manner)
            flat = steps.reshape(-1)
            if number and not family.crops_silence:
                flat[0] = min(int(flat[0]), max(1, round(_SENTENCE_LEAD_S * family.rate_hz / family.hop)))
            if at + int(flat.sum()) * family.hop > LONGEST_SPEECH_S * family.rate_hz:
                raise TooLongError(f"the line would last longer than {LONGEST_SPEECH_S} s")
            edges = np.concatenate([[0], np.cumsum(flat)]) * family.hop
            low, high = 0, int(edges[-1])
            if family.crops_silence:
                runs = family.sounding(sentence, steps)
                low, high = _heard_part(runs, high, family.rate_hz, number > 0, number + 1 < len(sentences))
            self._begins += [
                at + min(max(int(edges[place]) - low, 0), high - low) for place in sentence.places
            ]
            self.parts.append(_Part(sentence, steps, manner, low, high, at))
            at += high - low
            self._begins.append(at)

    def _own(self, touches: Sequence[tuple[int, int, float, float]]) -> list[tuple[float, float]]:
        """Pace and semitones of each symbol."""
        own = [(1.0, 0.0)] * len(self._symbols)
        until = [place for _, place in self._places[1:]] + [len(self._symbols)]
        for start, end, pace, semitones in touches:
            for (character, place), stop in zip(self._places, until, strict=True):
                if start <= character < end:
                    own[place:stop] = [(pace, semitones)] * (stop - place)
        return own

    def words(self) -> list[tuple[int, int]]:
        """Begin of each word: its character and the sample it is heard from."""
        lag = round(self._family.onset_lag_s * self._family.rate_hz)
        share = self._family.space_share
        return [
            (character, max(0, _within(self._begins, self._symbols, place, share) - lag))
            for character, place in self._places
        ]

    def phonemes(self) -> list[tuple[str, int]]:
        """IPA of each sound and the sample it is heard from."""
        lag = round(self._family.onset_lag_s * self._family.rate_hz)
        return [
            (PLAIN_IPA.get(symbol, symbol), max(0, begin - lag))
            for symbol, begin in zip(self._symbols, self._begins, strict=True)
            if is_sound(symbol)
        ]


def _by_number(
    sentence: Sentence, own: Sequence[tuple[float, float]]
) -> tuple[NDArray[np.float64], NDArray[np.float64]] | None:
    """Pace and semitones of each of a sentence's numbers from those of its symbols; None where all are
    plain."""
    if all(each == (1.0, 0.0) for each in own):
        return None
    pace, semitones = np.ones(len(sentence.ids)), np.zeros(len(sentence.ids))
    until = [*sentence.places[1:], len(sentence.ids) - 1]
    for (own_pace, own_semitones), place, stop in zip(own, sentence.places, until, strict=True):
        pace[place:stop], semitones[place:stop] = own_pace, own_semitones
    return pace, semitones


def _within(begins: Sequence[int], symbols: Sequence[str], place: int, share: float) -> int:
    """Where a word begins: at its symbol, or part of the way through the space it begins with."""
    if symbols[place] != " " or place + 1 >= len(begins):
        return begins[place]
    return begins[place] + round(share * (begins[place + 1] - begins[place]))


def _heard_part(runs: Sequence[Run], whole: int, rate_hz: int, joined: bool, followed: bool) -> Run:
    """The samples [low, high) of a sentence that stay where it is joined to the one before, and followed by
    another: silence beyond a short wait is left out."""
    if not runs:
        return 0, whole
    low = max(0, runs[0][0] - round(_SENTENCE_LEAD_S * rate_hz)) if joined else 0
    high = min(whole, runs[-1][1] + round(_SENTENCE_TAIL_S * rate_hz)) if followed else whole
    return low, high


def _said(family: Family, text: str, sounds: Sequence[tuple[int, int, str]]) -> dict[int, tuple[str, ...]]:
    """The symbols of words that have a pronunciation, by the number of the word."""
    found: dict[int, tuple[str, ...]] = {}
    for start, end, ipa in sounds:
        for number, word in enumerate(words_of(text)):
            if start <= word.start < end:
                found[number] = family.from_ipa(ipa)
                break
    return found


def _pronounced(family: Family, text: str, said: Mapping[int, tuple[str, ...]]) -> list[tuple[str, ...]]:
    """The sentences of a text with the sounds of some words put in the place of the model's own guess."""
    sentences = family.symbols(text)
    if not said:
        return sentences
    flat = [symbol for part in sentences for symbol in (*part, " ")]
    begins = word_begins(flat, [family.alone(word.text) for word in words_of(text)])
    edges = np.cumsum([0, *(len(part) + 1 for part in sentences)])
    made = [list(part) for part in sentences]
    for number in sorted(said, reverse=True):  # from the end, so that places before stay true
        begin = begins[number]
        if begin is None:
            continue
        sentence = int(np.searchsorted(edges, begin, side="right")) - 1
        until = next((place for place in begins[number + 1 :] if place is not None), int(edges[-1]))
        part, low = made[sentence], begin - int(edges[sentence])
        high = min(until - int(edges[sentence]), len(sentences[sentence]))
        while high > low + 1 and not is_sound(part[high - 1]):  # spaces and punctuation after it stay
            high -= 1
        part[low:high] = said[number]
    return [tuple(part) for part in made]


def _words(
    family: Family, text: str, symbols: list[str], said: Mapping[int, tuple[str, ...]]
) -> list[tuple[int, int]]:
    """For each word its character and the symbol it begins with: the space before it, in running speech."""
    words = words_of(text)
    alone = [said.get(number) or family.alone(word.text) for number, word in enumerate(words)]
    found: list[tuple[int, int]] = []
    for word, place in zip(words, word_begins(symbols, alone), strict=True):
        if place is None:
            continue
        running = place > 1 and symbols[place - 1] == " " and is_sound(symbols[place - 2])
        found.append((word.start, place - 1 if running else place))
    return found


def known_signs(ipa: str, known: Container[str]) -> tuple[str, ...]:
    """The signs of a pronunciation. Raises UnknownSoundError for one the voice was not taught."""
    for sign in ipa:
        if sign not in known:
            raise UnknownSoundError(
                f"this voice has no sound for “{sign}” in /{ipa}/; spell the word as it sounds"
            )
    return tuple(ipa)


def _seed(text: str, sentence: int) -> int:
    return int.from_bytes(hashlib.sha256(f"{sentence} {text}".encode()).digest()[:4], "big")

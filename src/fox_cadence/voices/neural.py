"""Neural voices: text to phonemes, lengths brought to the pace, sound, and the time of every word.

Both families work sentence by sentence. Runs in the worker process (neural_worker.py); nothing here fetches
anything.
"""

import hashlib
import json
from abc import ABC, abstractmethod
from collections.abc import Container, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path

import hibari
import numpy as np
from hibari import Hibari, dsp
from numpy.typing import NDArray
from piper.config import PhonemeType, PiperConfig
from piper.const import BOS, EOS, PAD
from piper.phonemize_espeak import EspeakPhonemizer

from fox_cadence.core.words import words_of
from fox_cadence.voices.duration_graph import DurationGraph, brought_to
from fox_cadence.voices.ipa_signs import HIBARI_SIGNS, rewritten
from fox_cadence.voices.word_borders import is_sound, word_begins

LONGEST_SPEECH_S = 300
_LOUDEST = 0.99
_MOST_KEPT = 20_000
_SENTENCE_LEAD_S = 0.075
"""How long a sentence after the first waits before its first sound, besides what the one before it leaves."""
_SENTENCE_TAIL_S = 0.25
"""How much of the silence after a sentence stays before the next one, where silence is cut off."""
_SILENT = 0.003
"""Below this a voice is silent: -50 dB."""


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


class Family(ABC):
    """What differs between kinds of neural voices.

    `hop` is the length of a step in samples; a word is heard `onset_lag_s` before the phoneme it begins with,
    or before the point `space_share` of the way through the space before it. A voice that `crops_silence`
    waits long at both ends of a sentence: what of it stands between two sentences is cut off.
    """

    rate_hz: int
    hop: int
    onset_lag_s = 0.0
    space_share = 0.0
    crops_silence = False

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

    def paced(self, sentence: Sentence, pace: float) -> NDArray[np.int64]:
        """Steps of each of the sentence's numbers at a pace."""
        return brought_to(self.lengths(sentence), 1 / pace)

    @abstractmethod
    def sound(self, sentence: Sentence, steps: NDArray[np.int64], seed: int) -> NDArray[np.float32]:
        """The sound of a sentence with these steps of each number, mono; same seed, same sound."""
        ...

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
    phonemes: list[int]


def speak(family: Family, text: str, pace: float, sounds: Sequence[tuple[int, int, str]] = ()) -> Spoken:
    """Say a text at a pace; the same text, pace and pronunciations give the same samples.

    Args:
        sounds: characters [start, end) of the text that are said as the IPA given.

    Raises:
        TooLongError: it would last too long.
        UnknownSoundError: a pronunciation has a sound the voice was not taught.
    """
    said = _said(family, text, sounds)
    symbols: list[str] = []
    begins: list[int] = []
    parts: list[NDArray[np.float32]] = []
    at = 0
    sentences = [family.numbered(part) for part in _pronounced(family, text, said)]
    for number, sentence in enumerate(sentences):
        steps = family.paced(sentence, pace)
        flat = steps.reshape(-1)
        if number and not family.crops_silence:
            flat[0] = min(int(flat[0]), max(1, round(_SENTENCE_LEAD_S * family.rate_hz / family.hop)))
        if at + int(flat.sum()) * family.hop > LONGEST_SPEECH_S * family.rate_hz:
            raise TooLongError(f"the line would last longer than {LONGEST_SPEECH_S} s")
        edges = np.concatenate([[0], np.cumsum(flat)]) * family.hop
        sound = family.sound(sentence, steps, _seed(text, number))
        low, high = 0, len(sound)
        if family.crops_silence:
            low, high = _heard_part(sound, family.rate_hz, number > 0, number + 1 < len(sentences))
        symbols += sentence.symbols
        begins += [at + min(max(int(edges[place]) - low, 0), high - low) for place in sentence.places]
        parts.append(sound[low:high])
        at += high - low
        symbols.append(" ")
        begins.append(at)
    sound = np.concatenate([np.zeros(0, np.float32), *parts])
    peak = float(np.max(np.abs(sound), initial=0.0))
    if peak > _LOUDEST:
        sound *= np.float32(_LOUDEST / peak)
    lag = round(family.onset_lag_s * family.rate_hz)
    return Spoken(
        sound,
        [
            (character, max(0, _within(begins, symbols, place, family.space_share) - lag))
            for character, place in _words(family, text, symbols, said)
        ],
        [begin for symbol, begin in zip(symbols, begins, strict=True) if is_sound(symbol)],
    )


def _within(begins: Sequence[int], symbols: Sequence[str], place: int, share: float) -> int:
    """Where a word begins: at its symbol, or part of the way through the space it begins with."""
    if symbols[place] != " " or place + 1 >= len(begins):
        return begins[place]
    return begins[place] + round(share * (begins[place + 1] - begins[place]))


def _heard_part(sound: NDArray[np.float32], rate_hz: int, joined: bool, followed: bool) -> tuple[int, int]:
    """The samples [low, high) of a sentence that stay where it is joined to the one before, and followed by
    another: silence beyond a short wait is left out."""
    loud = np.flatnonzero(np.abs(sound) > _SILENT)
    if not len(loud):
        return 0, len(sound)
    low = max(0, int(loud[0]) - round(_SENTENCE_LEAD_S * rate_hz)) if joined else 0
    high = min(len(sound), int(loud[-1]) + round(_SENTENCE_TAIL_S * rate_hz)) if followed else len(sound)
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


class HibariVoice(Family):
    """The American woman that comes with hibari."""

    rate_hz, hop = 24_000, 600
    onset_lag_s = 0.040

    def __init__(self) -> None:
        super().__init__()
        assets = Path(hibari.__file__).parent / "assets"
        self._text = Hibari.__new__(Hibari)  # its phonemes only: the sound is made by the graph cut in two
        self._text.voice, self._text._g2p = "heart", None
        self._text.vocab = json.loads((assets / "vocab.json").read_text("utf-8"))
        self._graph = DurationGraph(str(assets / "hibari.onnx"), "/Cast_32_output_0", {})

    def symbols(self, text: str) -> list[tuple[str, ...]]:
        sentences = (tuple(s for s in part if s in self._text.vocab) for part in self._text.phonemize(text))
        return [known for known in sentences if known]

    def numbered(self, symbols: tuple[str, ...]) -> Sentence:
        return Sentence(symbols, tuple(self._text.ids("".join(symbols))), tuple(range(1, len(symbols) + 1)))

    def from_ipa(self, ipa: str) -> tuple[str, ...]:
        return known_signs(rewritten(ipa, HIBARI_SIGNS), self._text.vocab)

    def lengths(self, sentence: Sentence) -> NDArray[np.int64]:
        return self._graph.lengths(self._inputs(sentence))

    def sound(self, sentence: Sentence, steps: NDArray[np.int64], seed: int) -> NDArray[np.float32]:
        parts = (part[0] for part in self._graph.sound(self._inputs(sentence), steps))
        return np.asarray(dsp.synth(*parts, np.random.default_rng(seed)), dtype=np.float32)

    def _inputs(self, sentence: Sentence) -> dict[str, NDArray[np.generic]]:
        return {"ids": np.array([sentence.ids], dtype=np.int64), "speed": np.ones(1, dtype=np.float32)}


class PiperVoice(Family):
    """A voice of Piper's kind: a model and its JSON beside it."""

    _CHANNELS = 192

    def __init__(self, model: Path, config: Path, speaker: int | None = None) -> None:
        super().__init__()
        self._config = PiperConfig.from_dict(json.loads(config.read_text("utf-8")))
        if self._config.phoneme_type is not PhonemeType.ESPEAK:
            raise ValueError(f"{model.name} needs phonemes of another kind than we have")
        self.rate_hz, self.hop = self._config.sample_rate, self._config.hop_length
        self._speaker = self._config.default_speaker_id if speaker is None else speaker
        self._phonemes = EspeakPhonemizer()
        self._graph = DurationGraph(str(model), None, {"/RandomNormalLike_output_0": "noise"})

    def symbols(self, text: str) -> list[tuple[str, ...]]:
        known = self._config.phoneme_id_map
        sentences = self._phonemes.phonemize(self._config.espeak_voice, text, self._config.vowel_clusters)
        found = (tuple(symbol for symbol in part if symbol in known) for part in sentences)
        return [symbols for symbols in found if symbols]

    def numbered(self, symbols: tuple[str, ...]) -> Sentence:
        known = self._config.phoneme_id_map
        ids, places = [*known[BOS], *known[PAD]], []
        for symbol in symbols:
            places.append(len(ids))
            ids += [*known[symbol], *known[PAD]]
        return Sentence(symbols, (*ids, *known[EOS]), tuple(places))

    def from_ipa(self, ipa: str) -> tuple[str, ...]:
        return known_signs(ipa, self._config.phoneme_id_map)

    def lengths(self, sentence: Sentence) -> NDArray[np.int64]:
        return self._graph.lengths(self._inputs(sentence))

    def sound(self, sentence: Sentence, steps: NDArray[np.int64], seed: int) -> NDArray[np.float32]:
        shape = (1, self._CHANNELS, int(steps.sum()))
        noise = np.random.default_rng(seed).standard_normal(shape, dtype=np.float32)
        return self._graph.sound({**self._inputs(sentence), "noise": noise}, steps)[0].reshape(-1)

    def _inputs(self, sentence: Sentence) -> dict[str, NDArray[np.generic]]:
        inputs: dict[str, NDArray[np.generic]] = {
            "input": np.array([sentence.ids], dtype=np.int64),
            "input_lengths": np.array([len(sentence.ids)], dtype=np.int64),
            # the noise of the lengths is left out: they must come out the same each time
            "scales": np.array([self._config.noise_scale, 1.0, 0.0], dtype=np.float32),
        }
        if self._config.num_speakers > 1:
            inputs["sid"] = np.array([self._speaker], dtype=np.int64)
        return inputs

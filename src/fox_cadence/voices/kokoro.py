"""Voices of the model Kokoro: women and men in eight languages, all of one model, each a table of styles.

The model settles the length of every symbol before its sound, in units of 25 ms, so that a line lands on a
wanted length without stretching. The first symbol of a sentence carries a part of its first sound and keeps
its length; so do the last three, which let the voice die away.
"""

import json
import re
from dataclasses import replace
from functools import lru_cache
from pathlib import Path

import hibari
import numpy as np
from cachetools import LRUCache
from hibari import Hibari
from hibari.g2p import G2P
from numpy.typing import NDArray

from fox_cadence.voices.east_asian import japanese_symbols, mandarin_symbols, sentences_in
from fox_cadence.voices.espeak_phonemes import tied_phonemes
from fox_cadence.voices.ipa_signs import HIBARI_SIGNS, TIED_SIGNS, rewritten
from fox_cadence.voices.kokoro_model import Melody, model
from fox_cadence.voices.melody import crossings, moved_pitch
from fox_cadence.voices.neural import Family, Manner, Run, Sentence, known_signs

_VOICES = Path(__file__).parent / "data" / "natural_voices.npz"
_MOST_SYMBOLS = 480
"""The model reads 510 at most."""

_ESPEAK = {"e": "roa/es", "f": "roa/fr", "h": "inc/hi", "i": "roa/it", "p": "roa/pt-BR"}
"""The voice of espeak-ng that has the phonemes, by the first letter of a voice of the model; English (a, b),
Japanese (j) and Mandarin (z) have front ends of their own."""

_EAST_ASIAN = {"j": japanese_symbols, "z": mandarin_symbols}

_SENTENCE_END = re.compile(r"(?<=[.!?…।])[\"”»)]*\s+")
_CLAUSE_END = re.compile(r"(?<=[,;:—])\s+")
_KEPT_AT_END = 3
_KEPT_MELODIES = 32

_FRAMES = 2
"""Values of a melody in a step."""

_SILENT_ENERGY = -1.25
_ONSET_LATE_S, _END_EARLY_S = 0.012, 0.013
"""It is heard where its energy is above this, from a little after to a little before: measured over 21 lines
in each of three voices against their sound (40 dB under its peak), docs/benchmarks.md."""


@lru_cache(maxsize=1)
def _vocabulary() -> dict[str, int]:
    text = (Path(hibari.__file__).parent / "assets" / "vocab.json").read_text("utf-8")
    return {str(sign): int(number) for sign, number in json.loads(text).items()}


@lru_cache(maxsize=2)
def _english(british: bool) -> Hibari:
    """The front end for English alone: text to symbols of the model."""
    made = Hibari.__new__(Hibari)
    made.vocab, made._g2p = _vocabulary(), G2P(british=british)
    return made


def _english_words(text: str) -> str:
    return " ".join(_english(british=False).phonemize(text))


@lru_cache(maxsize=64)
def _styles(name: str) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Rows of a voice's table, and the lengths in symbols, less one, that they are for. Raises KeyError."""
    with np.load(_VOICES) as table:
        return table["rows"].astype(np.float64), table[name].astype(np.float64)


def style(name: str, symbols: int) -> NDArray[np.float32]:
    """How a voice says a sentence of so many symbols: [1, 256], interpolated from its table.

    Args:
        name: of one voice (`bf_emma`), or of several with their shares (`bf_emma*60+bf_lily*40`).

    Raises:
        KeyError: the table has no such voice.
    """
    if "*" in name:
        shares = [part.split("*") for part in name.split("+")]
        whole = sum(float(percent) for _, percent in shares)
        mixed: NDArray[np.float32] = np.zeros((1, 256), np.float32)
        for part, percent in shares:
            mixed += style(part, symbols) * np.float32(float(percent) / whole)
        return mixed
    rows, kept = _styles(name)
    at = min(max(symbols - 1, 0), int(rows[-1]))
    high = int(np.searchsorted(rows, at))
    low = max(0, high - 1)
    span = rows[high] - rows[low]
    share = (at - rows[low]) / span if span else 0.0
    row: NDArray[np.float32] = ((1 - share) * kept[low] + share * kept[high]).astype(np.float32)
    return row[None]


class KokoroVoice(Family):
    """One voice, by its name in the model (`bf_emma`), or a mix of several, which speaks as the first does.
    Raises KeyError where there is none."""

    rate_hz, hop = 24_000, 600
    onset_lag_s = 0.060
    space_share = 0.5
    crops_silence = True
    directed = True

    def __init__(self, name: str) -> None:
        super().__init__()
        self._name = name
        self._melodies: LRUCache[tuple[tuple[int, ...], bytes], Melody] = LRUCache(_KEPT_MELODIES)
        style(name, 1)

    def symbols(self, text: str) -> list[tuple[str, ...]]:
        known = _vocabulary()
        found = (tuple(sign for sign in part if sign in known) for part in self._sentences(text))
        return [symbols for symbols in found if symbols]

    def _sentences(self, text: str) -> list[str]:
        kind = self._name[0]
        if kind in "ab":
            found = list(_english(kind == "b").phonemize(text))
        elif read := _EAST_ASIAN.get(kind):
            found = [read(sentence, _english_words) for sentence in sentences_in(text)]
        else:
            sentences = _SENTENCE_END.split(text)
            found = [rewritten(tied_phonemes(each, _ESPEAK[kind]), TIED_SIGNS) for each in sentences]
        made: list[str] = []
        for signs in found:
            made += _pieces(signs) if len(signs) > _MOST_SYMBOLS else [signs]
        return made

    def numbered(self, symbols: tuple[str, ...]) -> Sentence:
        known = _vocabulary()
        ids = (0, *(known[sign] for sign in symbols), 0)
        return Sentence(symbols, ids, tuple(range(1, len(symbols) + 1)))

    def from_ipa(self, ipa: str) -> tuple[str, ...]:
        signs = HIBARI_SIGNS if self._name[0] in "ab" else TIED_SIGNS
        return known_signs(rewritten(ipa, signs), _vocabulary())

    def lengths(self, sentence: Sentence) -> NDArray[np.int64]:
        return model().lengths(self._inputs(sentence))[0]

    def paced(self, sentence: Sentence, manner: Manner) -> NDArray[np.int64]:
        natural, exact = model().lengths(self._inputs(sentence))
        return _at_pace(natural, exact, manner.pace, None if manner.own is None else manner.own[0])

    def sound(
        self, sentence: Sentence, steps: NDArray[np.int64], manner: Manner, seed: int
    ) -> NDArray[np.float32]:
        own = None
        if manner.own is not None:
            own = np.repeat(manner.own[1], _FRAMES * steps.reshape(-1))
        melody = self.melody(sentence, steps)
        pitch = moved_pitch(melody.pitch, manner.semitones, manner.spread, own)
        return model().sound(self._inputs(sentence), steps, replace(melody, pitch=pitch))

    def sounding(self, sentence: Sentence, steps: NDArray[np.int64]) -> list[Run]:
        energy = self.melody(sentence, steps).energy
        edges = crossings(energy, _SILENT_ENERGY)
        each = self.hop / _FRAMES
        late, early = _ONSET_LATE_S * self.rate_hz, _END_EARLY_S * self.rate_hz
        return [
            (round(start * each + late), round(end * each - early))
            for start, end in edges
            if end * each - early > start * each + late
        ]

    def melody(self, sentence: Sentence, steps: NDArray[np.int64]) -> Melody:
        """The melody of a sentence as the voice would have it; the last ones are kept."""
        key = (sentence.ids, steps.tobytes())
        if key not in self._melodies:
            self._melodies[key] = model().melody(self._inputs(sentence), steps)
        return self._melodies[key]

    def _inputs(self, sentence: Sentence) -> dict[str, NDArray[np.generic]]:
        return {
            "tokens": np.array([sentence.ids], dtype=np.int64),
            "style": style(self._name, len(sentence.symbols)),
            "speed": np.ones(1, dtype=np.float32),
        }


def _at_pace(
    natural: NDArray[np.int64],
    exact: NDArray[np.float64],
    pace: float,
    own: NDArray[np.float64] | None = None,
) -> NDArray[np.int64]:
    """Steps at a pace, and where `own` is given each at its own besides: the unrounded lengths scaled, none
    below one, each running total rounded, so that the whole lands within half a step. The first and the last
    three keep their lengths."""
    flat, fine = natural.reshape(-1), exact.reshape(-1)
    if (pace == 1 and own is None) or len(flat) <= 1 + _KEPT_AT_END:
        return natural
    inner = slice(1, len(flat) - _KEPT_AT_END)
    longer = 1.0 / own[inner] if own is not None else np.ones(len(flat[inner]))
    wanted = max(float((flat[inner] * longer).sum()) / pace, float(len(flat[inner])))
    low, high = 0.0, 8.0 / pace
    scaled = fine[inner] * longer
    for _ in range(40):
        middle = (low + high) / 2
        low, high = (middle, high) if np.maximum(scaled * middle, 1).sum() < wanted else (low, middle)
    edges = np.floor(np.cumsum(np.maximum(scaled * high, 1)) + 0.5).astype(np.int64)
    made = flat.copy()
    made[inner] = np.diff(edges, prepend=0)
    return made.reshape(natural.shape)


def _pieces(signs: str) -> list[str]:
    """A sentence that is too long for the model, divided at clauses; at spaces where it has none."""
    made: list[str] = []
    now = ""
    for clause in _CLAUSE_END.split(signs):
        for part in _by_words(clause) if len(clause) > _MOST_SYMBOLS else [clause]:
            if now and len(now) + 1 + len(part) > _MOST_SYMBOLS:
                made.append(now)
                now = part
            else:
                now = f"{now} {part}" if now else part
    return [*made, now] if now else made


def _by_words(clause: str) -> list[str]:
    made = [""]
    for word in clause.split(" "):
        if made[-1] and len(made[-1]) + 1 + len(word) > _MOST_SYMBOLS:
            made.append("")
        made[-1] = f"{made[-1]} {word}".strip()
    return made

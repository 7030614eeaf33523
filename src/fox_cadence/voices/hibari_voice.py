"""The American woman that comes with the package hibari, quick enough to be heard at once."""

import json
from pathlib import Path

import hibari
import numpy as np
from hibari import Hibari, dsp
from numpy.typing import NDArray

from fox_cadence.voices.duration_graph import DurationGraph
from fox_cadence.voices.ipa_signs import HIBARI_SIGNS, rewritten
from fox_cadence.voices.neural import Family, Manner, Sentence, known_signs


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

    def sound(
        self, sentence: Sentence, steps: NDArray[np.int64], manner: Manner, seed: int
    ) -> NDArray[np.float32]:
        parts = (part[0] for part in self._graph.sound(self._inputs(sentence), steps))
        return np.asarray(dsp.synth(*parts, np.random.default_rng(seed)), dtype=np.float32)

    def _inputs(self, sentence: Sentence) -> dict[str, NDArray[np.generic]]:
        return {"ids": np.array([sentence.ids], dtype=np.int64), "speed": np.ones(1, dtype=np.float32)}

"""Voices of Piper's kind, each a model of its own: the one that comes along, and the user's own."""

import json
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from piper.config import PhonemeType, PiperConfig
from piper.const import BOS, EOS, PAD
from piper.phonemize_espeak import EspeakPhonemizer

from fox_cadence.voices.duration_graph import DurationGraph
from fox_cadence.voices.neural import Family, Manner, Sentence, known_signs


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

    def sound(
        self, sentence: Sentence, steps: NDArray[np.int64], manner: Manner, seed: int
    ) -> NDArray[np.float32]:
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

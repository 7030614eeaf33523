"""Measures our voices and writes core/length_priors.py: seconds for each feature of the length model, by
language.

Run it as `python -m bench.length_priors`; it needs about seven minutes and gives the same file again.
"""

from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from bench.corpus import NARRATED, built
from fox_cadence.core.phoneme_model import FEATURES, features
from fox_cadence.core.takes import VoicingRequest
from fox_cadence.voices.catalogue import VOICES
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.takes import make_take
from fox_cadence.voices.voice import Voice

TARGET = Path(__file__).resolve().parent.parent / "src/fox_cadence/core/length_priors.py"
LINES = 240
_NATURAL_BUILT = 80
_BUILT_WEIGHT, _PULL = 0.3, 10.0
"""For natural voices; tried on parts of `NARRATED` left out in turn, where three times as much did as well.
"""
_RIDGE = 1e-3

Table = NDArray[np.float64]


def measured(engines: Engines, voice: Voice, texts: list[str]) -> tuple[Table, Table]:
    """Features of texts, and how long a voice takes for them in seconds."""
    phonemes = engines.espeak.phonemes(texts, voice.phonemes_by)
    counted = [features(clauses, text) for clauses, text in zip(phonemes, texts, strict=True)]
    lengths = []
    for text in texts:
        request = VoicingRequest(text=text, voice_id=voice.id, pace=1.0, pitch_semitones=0)
        take, _ = make_take(engines.of(voice), voice, request)
        lengths.append((take.end_sample - take.onset_sample) / 48_000)
    return np.array(counted), np.array(lengths)


@dataclass(frozen=True)
class Prior:
    """Seconds for each feature, and the mean square of each over the length."""

    shares: Table
    spread: Table

    def row(self, name: str) -> str:
        return f'    "{name}": (\n        {_tuple(self.shares)},\n        {_tuple(self.spread)},\n    ),\n'


def of_language(engines: Engines, language: str) -> tuple[Prior, dict[str, float]]:
    """What the voices of a language have in common, and the speed of each."""
    voices = [voice for voice in VOICES if voice.language.startswith(language) and not voice.natural]
    tables = [measured(engines, voice, built(language, LINES)) for voice in voices]
    usual = np.mean([table[1] for table in tables], axis=0)
    speed = [float(np.median(table[1] / usual)) for table in tables]
    counted = np.concatenate([table[0] for table in tables])
    lengths = np.concatenate([table[1] / share for table, share in zip(tables, speed, strict=True)])
    relative = counted / lengths[:, np.newaxis]
    gram = relative.T @ relative + _RIDGE * np.eye(len(FEATURES))
    prior = _prior(language, counted, lengths, np.linalg.solve(gram, relative.sum(axis=0)))
    return prior, {voice.id: share for voice, share in zip(voices, speed, strict=True)}


def of_voice(engines: Engines, voice: Voice, language: Prior) -> Prior:
    """What a voice that times its phonemes by itself has: few lines, so what they do not tell is as in its
    language."""
    texts = [*built("en", _NATURAL_BUILT), *NARRATED]
    weights = np.where(np.arange(len(texts)) < _NATURAL_BUILT, _BUILT_WEIGHT, 1.0)
    counted, lengths = measured(engines, voice, texts)
    relative = counted / lengths[:, np.newaxis]
    speed = float(np.median(lengths / (counted @ language.shares)))
    gram = relative.T @ (weights[:, np.newaxis] * relative) + _PULL * np.diag(language.spread)
    right = relative.T @ weights + _PULL * language.spread * language.shares * speed
    return _prior(voice.id, counted, lengths, np.asarray(np.linalg.solve(gram, right), np.float64))


def _prior(name: str, counted: Table, lengths: Table, shares: Table) -> Prior:
    error = np.abs(counted @ shares / lengths - 1)
    print(
        f"{name}: {len(lengths)} takes, median {np.median(error):.3f}, p95 {np.quantile(error, 0.95):.3f}",
        flush=True,
    )
    return Prior(shares, np.mean((counted / lengths[:, np.newaxis]) ** 2, axis=0) + _RIDGE)


HEAD = """\"\"\"Written by `python -m bench.length_priors`: what the length model begins with.

PRIORS: by language, seconds for each feature of core/phoneme_model.py, and the mean square of each over the
length; by voice, where a voice times its phonemes by itself.
SPEEDS: how long each voice takes against the mean of its language.
\"\"\"

# fmt: off
"""


def main() -> None:
    engines = Engines()
    priors: dict[str, Prior] = {}
    speeds: dict[str, float] = {}
    for language in ("en", "es", "fr", "de"):
        priors[language], of_each = of_language(engines, language)
        speeds |= of_each
    for voice in VOICES:
        if voice.natural:
            priors[voice.id] = of_voice(engines, voice, priors["en"])
    engines.close()
    rows = "".join(prior.row(name) for name, prior in priors.items())
    table = "PRIORS: dict[str, tuple[tuple[float, ...], tuple[float, ...]]] = {\n" + rows + "}\n\n"
    pace = "".join(f'    "{voice}": {share:.4f},\n' for voice, share in speeds.items())
    TARGET.write_text(HEAD + table + "SPEEDS: dict[str, float] = {\n" + pace + "}\n")


def _tuple(values: Table) -> str:
    numbers = [f"{value:.5f}" for value in values]
    lines = [", ".join(numbers[i : i + 8]) for i in range(0, len(numbers), 8)]
    return "(\n            " + ",\n            ".join(lines) + ",\n        )"


if __name__ == "__main__":
    main()

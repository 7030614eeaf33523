"""Measures our voices and writes core/length_priors.py: seconds for each feature of the length model, by language.

Run it as `python -m bench.length_priors`; it needs about seven minutes and gives the same file again.
"""

from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from bench.corpus import NARRATED, built
from fox_cadence.core.length_priors import PRIORS
from fox_cadence.core.phoneme_model import FEATURES, features
from fox_cadence.core.takes import VoicingRequest
from fox_cadence.voices.catalogue import VOICES, Voice
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.takes import make_take

TARGET = Path(__file__).resolve().parent.parent / "src/fox_cadence/core/length_priors.py"
LINES = 240
_LANGUAGES = ("en", "es", "fr", "de")
_NATURAL_BUILT = 80
_BUILT_WEIGHT, _PULL = 0.3, 10.0
"""For natural voices; what foresees lines best that were left out of `NARRATED` (five parts in turn)."""
_RIDGE = 1e-3

Table = NDArray[np.float64]


def measured(engines: Engines, voice: Voice, texts: list[str]) -> tuple[Table, Table]:
    """Features of texts, and how long a voice takes for them in seconds."""
    phonemes = engines.espeak.phonemes(texts, voice.phonemes_by)
    counted = [features(clauses, text) for clauses, text in zip(phonemes, texts, strict=True)]
    known: dict[str, float] = {}
    for text in dict.fromkeys(texts):
        request = VoicingRequest(text=text, voice_id=voice.id, pace=1.0, pitch_semitones=0)
        take, _ = make_take(engines.of(voice), voice, request)
        known[text] = (take.end_sample - take.onset_sample) / 48_000
    return np.array(counted), np.array([known[text] for text in texts])


HEAD = """\"\"\"Written by `python -m bench.length_priors`: what the length model begins with.

PRIORS: by language, seconds for each feature of core/phoneme_model.py, and the mean square of each over the length;
by voice, where a voice times its phonemes by itself.
SPEEDS: how long each voice takes against the mean of its language.
\"\"\"

# fmt: off
"""


def main() -> None:
    engines = Engines()
    rows: list[str] = []
    speeds: dict[str, float] = {}
    groups = {
        language: [v for v in VOICES if v.language.startswith(language) and not v.natural] for language in _LANGUAGES
    }
    groups |= {voice.id: [voice] for voice in VOICES if voice.natural}
    for name, voices in groups.items():
        texts = built(voices[0].language.split("-")[0], LINES)
        weights = np.ones(len(texts) * len(voices))
        if name not in _LANGUAGES:
            texts = [*texts[:_NATURAL_BUILT], *NARRATED]
            weights = np.where(np.arange(len(texts)) < _NATURAL_BUILT, _BUILT_WEIGHT, 1.0)
        tables = [measured(engines, voice, texts) for voice in voices]
        usual = np.mean([table[1] for table in tables], axis=0)
        speed = [float(np.median(table[1] / usual)) for table in tables]
        speeds.update({voice.id: share for voice, share in zip(voices, speed, strict=True)})
        counted = np.concatenate([table[0] for table in tables])
        lengths = np.concatenate([table[1] / share for table, share in zip(tables, speed, strict=True)])
        relative = counted / lengths[:, np.newaxis]
        gram, right = relative.T @ (weights[:, np.newaxis] * relative), relative.T @ weights
        if name in _LANGUAGES:
            gram = gram + _RIDGE * np.eye(len(FEATURES))
        else:  # few lines: what they do not tell is as in the language, at the speed of the voice
            usual_shares, spread = (np.array(table) for table in PRIORS[voices[0].language.split("-")[0]])
            speed_of = float(np.median(lengths / (counted @ usual_shares)))
            gram = gram + _PULL * np.diag(spread)
            right = right + _PULL * spread * usual_shares * speed_of
        shares = np.linalg.solve(gram, right)
        error = np.abs(counted @ shares / lengths - 1)
        print(f"{name}: {len(lengths)} takes, median {np.median(error):.3f}, p95 {np.quantile(error, 0.95):.3f}")
        scale = np.mean(relative**2, axis=0) + _RIDGE
        rows.append(f'    "{name}": (\n        {_tuple(shares)},\n        {_tuple(scale)},\n    ),\n')
    engines.close()
    table = "PRIORS: dict[str, tuple[tuple[float, ...], tuple[float, ...]]] = {\n" + "".join(rows) + "}\n\n"
    pace = "".join(f'    "{voice}": {share:.4f},\n' for voice, share in speeds.items())
    TARGET.write_text(HEAD + table + "SPEEDS: dict[str, float] = {\n" + pace + "}\n")


def _tuple(values: Table) -> str:
    numbers = [f"{value:.5f}" for value in values]
    lines = [", ".join(numbers[i : i + 8]) for i in range(0, len(numbers), 8)]
    return "(\n            " + ",\n            ".join(lines) + ",\n        )"


if __name__ == "__main__":
    main()

"""Measures our voices and writes core/length_priors.py: seconds for each feature of the length model, by language.

Run it as `python -m bench.length_priors`; it needs about a minute and gives the same file again.
"""

from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from bench.corpus import built
from fox_cadence.core.phoneme_model import FEATURES, features
from fox_cadence.core.takes import VoicingRequest
from fox_cadence.voices.catalogue import VOICES, Voice
from fox_cadence.voices.espeak import EspeakEngine
from fox_cadence.voices.takes import make_take

TARGET = Path(__file__).resolve().parent.parent / "src/fox_cadence/core/length_priors.py"
LINES = 240
_RIDGE = 1e-3

Table = NDArray[np.float64]


def measured(engine: EspeakEngine, voice: Voice, texts: list[str]) -> tuple[Table, Table]:
    """Features of texts, and how long a voice takes for them in seconds."""
    counted = [
        features(clauses, text) for clauses, text in zip(engine.phonemes(texts, voice.engine_voice), texts, strict=True)
    ]
    lengths = []
    for text in texts:
        take, _ = make_take(engine, voice, VoicingRequest(text=text, voice_id=voice.id, pace=1.0, pitch_semitones=0))
        lengths.append((take.end_sample - take.onset_sample) / 48_000)
    return np.array(counted), np.array(lengths)


HEAD = """\"\"\"Written by `python -m bench.length_priors`: what the length model begins with.

PRIORS: by language, seconds for each feature of core/phoneme_model.py, and the mean square of each over the length.
SPEEDS: how long each voice takes against the mean of its language.
\"\"\"

# fmt: off
"""


def main() -> None:
    engine = EspeakEngine()
    rows: list[str] = []
    speeds: dict[str, float] = {}
    for language in ("en", "es", "fr", "de"):
        voices = [v for v in VOICES if v.language.startswith(language) and v.engine == "espeak-ng"]
        tables = [measured(engine, voice, built(language, LINES)) for voice in voices]
        usual = np.mean([table[1] for table in tables], axis=0)
        speed = [float(np.median(table[1] / usual)) for table in tables]
        speeds.update({voice.id: share for voice, share in zip(voices, speed, strict=True)})
        counted = np.concatenate([table[0] for table in tables])
        lengths = np.concatenate([table[1] / share for table, share in zip(tables, speed, strict=True)])
        relative = counted / lengths[:, np.newaxis]
        gram = relative.T @ relative + _RIDGE * np.eye(len(FEATURES))
        shares = np.linalg.solve(gram, relative.sum(axis=0))
        error = np.abs(counted @ shares / lengths - 1)
        print(f"{language}: {len(lengths)} takes, median {np.median(error):.3f}, p95 {np.quantile(error, 0.95):.3f}")
        scale = np.mean(relative**2, axis=0) + _RIDGE
        rows.append(f'    "{language}": (\n        {_tuple(shares)},\n        {_tuple(scale)},\n    ),\n')
    engine.close()
    table = "PRIORS: dict[str, tuple[tuple[float, ...], tuple[float, ...]]] = {\n" + "".join(rows) + "}\n\n"
    pace = "".join(f'    "{voice}": {share:.4f},\n' for voice, share in speeds.items())
    TARGET.write_text(HEAD + table + "SPEEDS: dict[str, float] = {\n" + pace + "}\n")


def _tuple(values: Table) -> str:
    numbers = [f"{value:.5f}" for value in values]
    lines = [", ".join(numbers[i : i + 8]) for i in range(0, len(numbers), 8)]
    return "(\n            " + ",\n            ".join(lines) + ",\n        )"


if __name__ == "__main__":
    main()

"""How long a text will last before it has a take: letters, clause ends and sentence ends, each with its cost.

The coefficients are least-squares fits over takes of our own voices; `bench/length_model.py` measures them and prints
the error on lines it has not seen (docs/benchmarks.md).
"""

import re
from dataclasses import dataclass

from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.words import words_of

_CLAUSE = re.compile(r"[,;:–—](?=\s)")
_SENTENCE = re.compile(r"[.!?…]+(?=\s+\S)")
_LETTER = re.compile(r"[^\W\d_]")
_DIGIT = re.compile(r"\d")


@dataclass(frozen=True, slots=True)
class LengthModel:
    """Seconds for a line as such, and for each letter, digit, word and inner clause or sentence end."""

    line_s: float
    letter_s: float
    digit_s: float
    word_s: float
    clause_s: float
    sentence_s: float


MODELS: dict[str, LengthModel] = {
    "en": LengthModel(0.10, 0.055, 0.30, 0.06, 0.25, 0.45),
}


def features(text: str) -> tuple[int, int, int, int, int, int]:
    """What the model counts: 1, letters, digits, words, inner clause ends, inner sentence ends."""
    return (
        1,
        len(_LETTER.findall(text)),
        len(_DIGIT.findall(text)),
        len(words_of(text)),
        len(_CLAUSE.findall(text)),
        len(_SENTENCE.findall(text)),
    )


def pause_count(text: str) -> int:
    """How many inner pauses a voice is expected to make."""
    counts = features(text)
    return counts[4] + counts[5]


def estimate_ticks(text: str, language: str, pace: float) -> tuple[int, int]:
    """Expected voiced length and expected inner pauses of a text, in ticks.

    Raises:
        ValueError: the pace is not above 0.
    """
    if pace <= 0:
        raise ValueError(f"pace is {pace}, expected more than 0")
    model = MODELS.get(language.split("-")[0], MODELS["en"])
    one, letters, digits, words, clauses, sentences = features(text)
    if words == 0:
        return 0, 0
    voiced = model.line_s * one + model.letter_s * letters + model.digit_s * digits + model.word_s * words
    pauses = model.clause_s * clauses + model.sentence_s * sentences
    return seconds_to_ticks(voiced / pace), seconds_to_ticks(pauses / pace)

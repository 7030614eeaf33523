"""How long a voice takes for a text, from its phonemes and its punctuation, learnt from every take.

The length is a sum of small costs: a share for each kind of sound, for stresses, words, clusters, clause
ends, and for the pauses at punctuation. The shares are least squares on relative errors with a prior: those
of the language at first, the voice's own as its takes come in (ridge regression; Hastie, Tibshirani and
Friedman, The Elements of Statistical Learning, 3.4.1). What a take lasts against what was expected before it
is kept, so the error is known.
"""

import itertools
import re
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.length_model import rests_of
from fox_cadence.core.length_priors import PRIORS, SPEEDS
from fox_cadence.core.value import Value

FEATURES = (
    "line", "word", "unstressed word", "inner clause", "affricate", "voiceless stop", "voiced stop",
    "voiceless fricative", "voiced fricative", "nasal", "liquid", "glide", "long vowel", "diphthong",
    "schwa", "vowel",
    "stress", "second stress", "long final vowel", "final consonant", "further syllable", "cluster",
    "sentence pause", "clause pause",
)  # fmt: skip
_PLACE = {name: index for index, name in enumerate(FEATURES)}
_SOUNDS = {
    "voiceless stop": "p t k ʔ c q", "voiced stop": "b d ɡ g ɟ", "voiceless fricative": "f θ s ʃ ç x h ɕ χ",
    "voiced fricative": "v ð z ʒ ɣ β ʝ ʁ", "nasal": "m n ŋ ɲ ɱ", "liquid": "l ɹ r ɾ ɫ ʎ ʀ", "glide": "j w ɥ",
}  # fmt: skip
_KIND = {sound: kind for kind, sounds in _SOUNDS.items() for sound in sounds.split()}
_AFFRICATES = {"tʃ", "dʒ", "ts", "pf"}
_VOWELS = {"long vowel", "diphthong", "schwa", "vowel"}

Table = NDArray[np.float64]

PRIOR_LINES = 20.0
"""The language's shares weigh as much as this many takes of the voice."""

_KEPT_ERRORS = 200
_SENTENCE, _CLAUSE = "sentence pause", "clause pause"
USUAL_ERROR = 0.04


def features(clauses: Sequence[str], text: str) -> tuple[float, ...]:
    """What the model counts in a text, in the order of `FEATURES`.

    Args:
        clauses: the phonemes of each clause in IPA, words apart by spaces, sounds by `_`.
        text: the text itself, for its punctuation.
    """
    counts = [0.0] * len(FEATURES)

    def add(name: str, count: float = 1.0) -> None:
        counts[_PLACE[name]] += count

    add("line")
    spoken = [clause for clause in clauses if clause.strip()]
    add("inner clause", max(0, len(spoken) - 1))
    for clause in spoken:
        sounds: list[str] = []
        for word in clause.split():
            add("word")
            if "ˈ" not in word:
                add("unstressed word")
            own = [kind for sound in word.split("_") if (kind := _kind(sound))]
            for kind in own:
                add(kind)
            add("stress", word.count("ˈ"))
            add("second stress", word.count("ˌ"))
            add("further syllable", max(0, sum(kind in _VOWELS for kind in own) - 1))
            add("cluster", sum(a not in _VOWELS and b not in _VOWELS for a, b in itertools.pairwise(own)))
            sounds += own
        tail = 0
        while tail < len(sounds) and sounds[-1 - tail] not in _VOWELS:
            tail += 1
        add("final consonant", tail)
        if tail < len(sounds) and sounds[-1 - tail] in {"long vowel", "diphthong"}:
            add("long final vowel")
    for sign in rests_of(text).values():
        add(_SENTENCE if sign in ".!?…" else _CLAUSE)
    return tuple(counts)


def _kind(sound: str) -> str:
    """The kind of a sound in IPA, '' for what is none."""
    bare = re.sub(r"[ˈˌ̃]", "", sound)
    core = bare.replace("ː", "")
    if not core:
        return ""
    if core in _AFFRICATES:
        return "affricate"
    if core[0] in _KIND:
        return _KIND[core[0]]
    if "ː" in bare:
        return "long vowel"
    if len(core) > 1:
        return "diphthong"
    return "schwa" if core in "əɐɜɚ" else "vowel"


class VoiceModel(Value):
    """What is known of one voice: sums of its takes (relative least squares), and how wrong each was
    foreseen.

    `gram` and `right` are sums of xx' and x with x the features over the length; `errors` the relative errors
    of the newest takes, each foreseen before it was learnt.
    """

    voice_id: str
    language: str
    lines: int = 0
    gram: tuple[tuple[float, ...], ...] = ()
    right: tuple[float, ...] = ()
    errors: tuple[float, ...] = ()

    def shares(self) -> Table:
        """Seconds for each feature."""
        prior, scale = _prior(self.voice_id, self.language)
        weight = PRIOR_LINES * scale
        gram = np.diag(weight)
        right = weight * prior
        if self.lines:
            gram = gram + np.array(self.gram)
            right = right + np.array(self.right)
        return np.asarray(np.linalg.solve(gram, right))

    def seconds(self, counted: Sequence[float]) -> float:
        """Expected length at the voice's natural pace, from first to last sound."""
        return max(0.1, float(self.shares() @ np.array(counted)))

    def pause_s(self, sign: str) -> float:
        """Expected length of the pause that a sign makes."""
        return max(0.0, float(self.shares()[_PLACE[_SENTENCE if sign in ".!?…" else _CLAUSE]]))

    @property
    def error(self) -> float:
        """The usual relative error: the median of the newest takes, of the language's while there are few."""
        if len(self.errors) < 5:
            return USUAL_ERROR
        return float(np.median(np.abs(np.array(self.errors))))

    def learnt(self, counted: Sequence[float], seconds: float) -> "VoiceModel":
        """The model after one more take of the voice at its natural pace."""
        x = np.array(counted) / seconds
        size = len(FEATURES)
        gram = np.array(self.gram) if self.lines else np.zeros((size, size))
        right = np.array(self.right) if self.lines else np.zeros(size)
        error = self.seconds(counted) / seconds - 1
        return VoiceModel(
            voice_id=self.voice_id,
            language=self.language,
            lines=self.lines + 1,
            gram=tuple(map(tuple, (gram + np.outer(x, x)).tolist())),
            right=tuple((right + x).tolist()),
            errors=(*self.errors, round(error, 5))[-_KEPT_ERRORS:],
        )


def _prior(voice_id: str, language: str) -> tuple[Table, Table]:
    """Shares of a language at the speed of a voice, and the mean square of each feature over the length.

    Voices that time their phonemes by themselves have shares of their own. English and the usual speed stand
    in where we know none.
    """
    shares, scale = PRIORS.get(voice_id) or PRIORS.get(language.split("-")[0], PRIORS["en"])
    return np.array(shares) * SPEEDS.get(voice_id, 1.0), np.array(scale)

"""The mouth while somebody speaks: each sound pulls it towards its own shape, the more the nearer it is.

Coarticulation by dominance (Cohen and Massaro, Modeling coarticulation in synthetic visual speech, in Models
and Techniques in Computer Animation, 1993): the shape at a moment is the mean of those of all sounds,
weighted by how far off their middles are. Lips move a little before they are heard.
"""

import itertools
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.figures.visemes import SHAPES, visemes_of
from fox_cadence.core.takes import PhonemeTime, Take
from fox_cadence.core.ticks import SAMPLE_RATE_HZ

_DECAY_PER_S = 28.0
LEAD_S = 0.040
"""How much sooner lips move than they are heard."""

_REST_WEIGHT = 1.0
_LONGEST_S = 0.4
"""A sound at the end of what is known lasts no longer than this."""


class Pull(NamedTuple):
    """A shape that pulls with full weight from one moment to another (seconds; the same moment for a sound:
    its middle), and less around them."""

    viseme: int
    from_s: float
    until_s: float
    weight: float


def pulls_of(take: Take, phonemes: Sequence[PhonemeTime]) -> list[Pull]:
    """What pulls at the mouth while a take sounds, in seconds from the begin of its sound.

    Args:
        phonemes: of the take, in order.
    """
    rests = [(0, take.onset_sample), *((p.start_sample, p.end_sample) for p in take.pauses)]
    rests.append((take.end_sample, take.sample_count + SAMPLE_RATE_HZ))
    found = [Pull(0, low / SAMPLE_RATE_HZ, high / SAMPLE_RATE_HZ, _REST_WEIGHT) for low, high in rests]
    shown = [(each.start_sample, shapes) for each in phonemes if (shapes := visemes_of(each.ipa))]
    for (start, shapes), (following, _) in itertools.pairwise([*shown, (take.end_sample, ())]):
        end = min([following, *(low for low, _ in rests if low > start)])
        end = min(max(end, start + 1), start + round(_LONGEST_S * SAMPLE_RATE_HZ))
        part = (end - start) / len(shapes)
        for number, (viseme, weight) in enumerate(shapes):
            middle = (start + part * (number + 0.5)) / SAMPLE_RATE_HZ
            found.append(Pull(viseme, middle, middle, weight))
    return found


def mouths(pulls: Sequence[Pull], moments_s: NDArray[np.float64]) -> NDArray[np.float64]:
    """The mouth at some moments (seconds on the clock of the pulls): shape (moments, 5), in the order of
    `MouthShape`."""
    shapes = np.array(SHAPES)
    if not pulls:
        return np.zeros((len(moments_s), shapes.shape[1]))
    numbers, begins, ends, weights = (np.array(column) for column in zip(*pulls, strict=True))
    at = (moments_s + LEAD_S)[:, None]
    off = np.maximum(0, np.maximum(begins - at, at - ends))
    near = off.min(axis=1, keepdims=True)
    share = weights * np.exp(-_DECAY_PER_S * (off - near))
    return np.asarray(share @ shapes[numbers] / share.sum(axis=1, keepdims=True))


def spread(words: Sequence[tuple[int, int]], ipa: Sequence[Sequence[str]]) -> tuple[PhonemeTime, ...]:
    """Phonemes of words laid evenly over the time of each, for a take that has none of its own.

    Args:
        words: begin and end of each in samples.
        ipa: the sounds of each, one after the other.
    """
    found: list[PhonemeTime] = []
    for (begin, end), sounds in zip(words, ipa, strict=False):
        signs = [sign for sign in sounds if visemes_of(sign)]
        for number, sign in enumerate(signs):
            at = begin + (end - begin) * number // len(signs)
            found.append(PhonemeTime(ipa=sign, start_sample=at))
    return tuple(found)

"""What a figure does beside speaking: it blinks, nods at what is stressed, looks about when it is silent.

Pure functions of time: the same figure does the same at the same moment of every showing.
"""

import itertools
import zlib
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.marks import Emphasis, over_words
from fox_cadence.core.timeline import LineSpan

_BLINK_GAP_S, _BLINK_SHAPE = 3.6, 3.0
"""Gaps between blinks follow a gamma distribution of this mean and shape: seldom two at once, never a
metronome."""
_CLOSING_S, _OPENING_S = 0.07, 0.13
_LOOK_GAP_S, _LOOK_S, _TURN_S = 3.2, 1.4, 0.1
_NOD_DOWN_S, _NOD_UP_S, _NOD_LEAD_S = 0.12, 0.22, 0.05
_LIGHT_NOD, _LEAST_LETTERS = 0.45, 4

Moments = NDArray[np.float64]


def blinks(figure_id: str, moments_s: Moments, until_s: float) -> Moments:
    """How far the eyes are closed at some moments, 0 to 1."""
    closed = np.zeros(len(moments_s))
    for at in _gaps(f"blink {figure_id}", _BLINK_GAP_S, until_s):
        closed = np.maximum(closed, _swell(moments_s, at, _CLOSING_S, _OPENING_S))
    return closed


def looks(
    figure_id: str, moments_s: Moments, until_s: float, speaking_s: Sequence[tuple[float, float]]
) -> Moments:
    """How far the eyes look aside at some moments, -1 to 1: never while it speaks."""
    aside = np.zeros(len(moments_s))
    sides = np.random.default_rng(_seed(f"side {figure_id}"))
    for at in _gaps(f"look {figure_id}", _LOOK_GAP_S, until_s):
        side = 1.0 if sides.random() < 0.5 else -1.0
        if any(begin - 0.3 < at + _LOOK_S and at < end + 0.3 for begin, end in speaking_s):
            continue
        into = np.clip(np.minimum(moments_s - at, at + _LOOK_S - moments_s) / _TURN_S, 0, 1)
        aside = np.where(np.abs(aside) > into, aside, side * into)
    return aside


def nods(spans: Sequence[LineSpan], tick_s: float, moments_s: Moments) -> Moments:
    """How far the head is bowed at some moments, 0 to 1.

    It bows deepest at words the editor has stressed, lightly at the last long word of each phrase that has
    none: where a phrase of running speech has its weight (the nuclear accent falls on the last lexical item,
    Cruttenden, Intonation, 1997).
    """
    bowed = np.zeros(len(moments_s))
    for span in spans:
        times = span.word_times_ticks()
        for word, depth in stressed_words(span).items():
            if word < len(times):
                at = times[word][0] * tick_s + _NOD_LEAD_S
                bowed = np.maximum(bowed, depth * _swell(moments_s, at, _NOD_DOWN_S, _NOD_UP_S))
    return bowed


def stressed_words(span: LineSpan) -> dict[int, float]:
    """The words of a line a head nods at, with how deep."""
    words = [word.text for word in span.words]
    found = {
        mark.first_word: 1.0 if mark.level == "strong" else 0.75
        for mark in over_words(span.line.marks, Emphasis)
        if mark.level != "reduced"
    }
    edges = sorted({0, *(word + 1 for word, _, _ in span.rests_ticks()), len(words)})
    for first, end in itertools.pairwise(edges):
        if any(first <= word < end for word in found):
            continue
        long = [n for n in range(first, end) if sum(map(str.isalnum, words[n])) >= _LEAST_LETTERS]
        if long:
            found[long[-1]] = _LIGHT_NOD
    return found


def _gaps(name: str, mean_s: float, until_s: float) -> list[float]:
    """Moments that come again and again until a time, always the same for a name."""
    chance = np.random.default_rng(_seed(name))
    found: list[float] = []
    at = 0.0
    while True:
        at += float(chance.gamma(_BLINK_SHAPE, mean_s / _BLINK_SHAPE))
        if at > until_s:
            return found
        found.append(at)


def _seed(name: str) -> int:
    return zlib.crc32(name.encode())


def _swell(moments_s: Moments, at: float, up_s: float, down_s: float) -> Moments:
    """A rise to 1 at a moment and back, its ends smooth."""
    off = moments_s - at
    near = np.where(off < 0, 1 + off / up_s, 1 - off / down_s)
    return np.asarray(0.5 - 0.5 * np.cos(np.pi * np.clip(near, 0, 1)))

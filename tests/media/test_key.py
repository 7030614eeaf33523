"""The key of music: the tone its others are counted from."""

import numpy as np
import pytest

from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.key import key_of
from tests.media.test_music import music, piece


@pytest.mark.parametrize("tonic", range(12))
@pytest.mark.parametrize(
    "steps", [(0, 4, 7, 0, 5, 9, 7, 11, 0), (0, 3, 7, 0, 5, 8, 7, 10, 0)], ids=["major", "minor"]
)
def test_the_tonic_of_a_few_notes_is_found(tonic: int, steps: tuple[int, ...]) -> None:
    time = np.arange(round(0.5 * SAMPLE_RATE_HZ)) / SAMPLE_RATE_HZ
    fades = np.exp(-time * 3)
    parts = []
    for step in (*steps, 0, 7, 0):
        hertz = 261.626 * 2 ** ((tonic + step) / 12)
        parts.append(sum(np.sin(2 * np.pi * hertz * k * time) / k**2 for k in (1, 2, 3)) * fades * 0.2)
    assert key_of(np.concatenate(parts).astype(np.float32)) == tonic


def test_the_keys_of_shipped_beds_are_found() -> None:
    for name in ("low-water", "small-wheels"):
        assert key_of(music(piece(name))[0]) == piece(name).key % 12


def test_silence_is_counted_from_c() -> None:
    assert key_of(np.zeros(SAMPLE_RATE_HZ, np.float32)) == 0

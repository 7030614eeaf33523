"""Peaks that were cut off, and loud sounds whose peaks were not."""

import numpy as np
import pytest

from fox_cadence.media.audio import Sound
from fox_cadence.media.clipping import is_clipped
from fox_cadence.media.sound_reader import InMemory
from tests.media.test_audio import sine


def told(sound: Sound) -> bool:
    return is_clipped(InMemory(sound))


@pytest.mark.parametrize("hertz", [50.0, 220.0, 1_000.0, 5_000.0])
def test_tones_of_full_height_are_not_clipped_and_cut_ones_are(hertz: float) -> None:
    tone = sine(2, hertz, 1.0)
    assert not told(tone)
    cut = np.clip(tone * 3, -1, 1).astype(np.float32)
    assert told(cut) == (hertz < 4_000)  # of a tone that high no six samples are at the top
    assert told(cut * np.float32(0.5)) == (hertz < 4_000)


def test_what_is_soft_silent_or_empty_is_not() -> None:
    assert not told(np.zeros(0, np.float32))
    assert not told(np.zeros(48_000, np.float32))
    assert not told(np.clip(sine(1, 220, 3.0), -1, 1).astype(np.float32) * np.float32(0.1))
    assert not told(np.random.default_rng(1).normal(0, 0.2, 48_000).astype(np.float32))

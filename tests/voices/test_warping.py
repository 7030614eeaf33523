"""A reading warped onto a recording: known stretches are found again."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fox_cadence.voices.speech_shape import Mono
from fox_cadence.voices.warping import HOP, LONGEST_FRAMES, cepstra, warped


def melody(lengths: list[int]) -> Mono:
    """Tones of different colour, each for a number of frames: as sounds of speech follow one another."""
    parts = []
    for number, frames in enumerate(lengths):
        at = np.arange(frames * HOP) / 48_000
        hertz = 180 * (1 + number % 5)
        tone = np.sum(
            [np.sin(2 * np.pi * hertz * each * at) / each for each in range(1, 4 + number % 3)], axis=0
        )
        parts.append((tone * 0.2).astype(np.float32))
    return np.concatenate(parts)


def test_a_sound_has_thirteen_coefficients_each_ten_milliseconds_whatever_its_loudness() -> None:
    sound = melody([20, 30])
    found = cepstra(sound)
    assert found.shape == (48, 13)
    assert np.allclose(found.mean(axis=0), 0, atol=1e-3)
    assert np.allclose(cepstra(sound * 0.25), found, atol=0.05)


@settings(max_examples=25, deadline=None)
@given(st.lists(st.integers(14, 40), min_size=3, max_size=6), st.data())
def test_borders_are_found_where_each_part_lasts_longer_or_shorter(
    lengths: list[int], data: st.DataObject
) -> None:
    other = [max(10, round(each * data.draw(st.sampled_from([0.8, 1.0, 1.25])))) for each in lengths]
    borders = np.cumsum(lengths)[:-1] * HOP
    wanted = np.cumsum(other)[:-1] * HOP
    found = warped(melody(lengths), melody(other), [int(each) for each in borders])
    assert np.abs(np.array(found) - wanted).max() <= 5 * HOP
    assert found == sorted(found)


def test_what_is_the_same_is_left_where_it_is() -> None:
    sound = melody([15, 25, 20])
    assert warped(sound, sound, [0, 15 * HOP, 40 * HOP]) == [0, 15 * HOP, 40 * HOP]


def test_more_than_two_minutes_are_refused() -> None:
    with pytest.raises(ValueError, match="too long"):
        warped(melody([10]), np.zeros((LONGEST_FRAMES + 10) * HOP, np.float32), [0])

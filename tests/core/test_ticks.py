from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.ticks import (
    FRAME_RATES,
    TICKS_PER_SECOND,
    FrameRate,
    frame_rate,
    samples_to_ticks,
    ticks_to_samples,
    to_sample_grid,
)

rates = st.sampled_from(list(FRAME_RATES.values()))


@pytest.mark.parametrize("rate", FRAME_RATES.values(), ids=list(FRAME_RATES))
def test_a_frame_of_every_rate_is_a_whole_number_of_ticks(rate: FrameRate) -> None:
    assert Fraction(rate.frame_ticks, TICKS_PER_SECOND) == 1 / rate.fraction


@pytest.mark.parametrize("hertz", [8000, 11025, 16000, 22050, 24000, 32000, 44100, 48000, 96000, 192000])
def test_a_sample_of_every_common_rate_is_a_whole_number_of_ticks(hertz: int) -> None:
    assert TICKS_PER_SECOND % hertz == 0


@given(rates, st.integers(0, 10**9))
def test_frames_survive_the_way_through_ticks(rate: FrameRate, frame: int) -> None:
    ticks = rate.ticks(frame)
    assert rate.frames_floor(ticks) == rate.frames_ceil(ticks) == rate.frames_nearest(ticks) == frame


@given(rates, st.integers(0, 10**15))
def test_the_nearest_frame_is_at_most_half_a_frame_away(rate: FrameRate, ticks: int) -> None:
    assert abs(2 * (rate.ticks(rate.frames_nearest(ticks)) - ticks)) <= rate.frame_ticks
    assert rate.ticks(rate.frames_floor(ticks)) <= ticks <= rate.ticks(rate.frames_ceil(ticks))


@given(st.integers(0, 10**10))
def test_samples_survive_the_way_through_ticks(sample: int) -> None:
    assert ticks_to_samples(samples_to_ticks(sample)) == sample
    assert to_sample_grid(samples_to_ticks(sample) + 7000) == samples_to_ticks(sample)


def test_timecode_counts_seconds_and_frames() -> None:
    assert frame_rate("30").timecode(22 * 30 + 27) == "0:22:27"
    assert frame_rate("29.97").timecode(30 * 61) == "1:01:00"


def test_an_unknown_rate_is_refused_with_the_known_ones() -> None:
    with pytest.raises(ValueError, match=r"29\.97"):
        frame_rate("31")

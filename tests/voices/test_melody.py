"""Pitch curves moved and widened, and where a level lies above a floor."""

import numpy as np
import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from fox_cadence.voices.melody import Curve, crossings, moved_pitch

CURVES = st.lists(st.floats(60, 400) | st.just(8.0), min_size=3, max_size=80).map(
    lambda values: np.array(values, np.float32)
)


@given(CURVES, st.floats(-6, 6), st.floats(0.2, 2.5))
def test_a_moved_pitch_keeps_what_is_not_voiced_and_its_middle_moves_by_what_was_asked(
    pitch: Curve, semitones: float, spread: float
) -> None:
    made = moved_pitch(pitch, semitones, spread)
    voiced = pitch > 40
    assert np.array_equal(made[~voiced], pitch[~voiced])
    if voiced.any():
        before, after = (np.log2(curve[voiced].astype(np.float64)) * 12 for curve in (pitch, made))
        assert np.median(after) - np.median(before) == pytest.approx(semitones, abs=1e-3)
        assert np.ptp(after) == pytest.approx(np.ptp(before) * spread, abs=1e-3)


@given(CURVES)
def test_a_pitch_that_nobody_moves_is_the_same(pitch: Curve) -> None:
    assert moved_pitch(pitch, 0, 1) is pitch


def test_words_of_their_own_pitch_are_reached_in_a_glide() -> None:
    pitch = np.full(60, 100, np.float32)
    own = np.zeros(60)
    own[20:40] = 12
    made = moved_pitch(pitch, 0, 1, own)
    assert made[30] == pytest.approx(200, rel=1e-5)
    assert made[5] == pytest.approx(100, rel=1e-5)
    assert np.abs(np.diff(np.log2(made))).max() < 0.5


@given(CURVES, st.floats(50, 300))
@example(np.array([65.0, 64.56763, 65.0], np.float32), 64.56762384714669)
def test_runs_lie_in_order_and_hold_just_the_values_above_the_floor(level: Curve, floor: float) -> None:
    runs = crossings(level, floor)
    edges = [edge for run in runs for edge in run]
    assert edges == sorted(edges)
    for place, value in enumerate(level):
        inside = any(start <= place + 0.5 <= end for start, end in runs)
        if abs(float(value) - floor) > 1e-3:
            assert inside == (value > floor)


def test_a_run_begins_where_the_line_between_two_values_crosses() -> None:
    ((start, end),) = crossings(np.array([0, 0, 2, 2, 0], np.float32), 1.0)
    assert (start, end) == (2.0, 4.0)

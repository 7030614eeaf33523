import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.mix import DUCK_IN_MS, DUCK_OUT_MS, duck_points, gain_curve, plan_mix
from fox_cadence.core.shot import Clip
from fox_cadence.core.sound.bed import Bed
from fox_cadence.core.ticks import ticks_to_samples
from tests.builders import simple_project, voiced

speaking = st.lists(
    st.tuples(st.integers(0, 900_000), st.integers(1000, 200_000)).map(lambda p: (p[0], p[0] + p[1])),
    max_size=6,
)


@given(speaking, st.floats(0, 24))
def test_the_bed_is_down_under_all_speech_and_never_louder_than_full(
    spans: list[tuple[int, int]], duck_db: float
) -> None:
    curve = gain_curve(duck_points(spans, duck_db), 1_200_000)
    low = 10 ** (-duck_db / 20)
    assert curve.max() <= 1 + 1e-6
    assert curve.min() >= low - 1e-6
    for start, end in spans:
        assert np.all(curve[start + 48 : end - 48] <= low + 1e-3)


def test_ramps_are_smooth() -> None:
    curve = gain_curve(duck_points([(200_000, 300_000)], 12), 500_000)
    decibels = 20 * np.log10(curve)
    assert np.max(np.abs(np.diff(decibels[::48]))) < 12 / DUCK_IN_MS * 2
    assert curve[200_000 - DUCK_IN_MS * 48 - 100] == 1
    assert curve[300_000 + DUCK_OUT_MS * 48 + 100] == 1


def test_the_bed_stays_down_over_a_short_gap() -> None:
    curve = gain_curve(duck_points([(100_000, 200_000), (230_000, 300_000)], 9), 400_000)
    assert np.allclose(curve[201_000:229_000], curve[150_000])


def test_speech_is_laid_to_the_sample_at_equal_loudness() -> None:
    music = Clip(
        hash="b" * 64, name="bed.wav", kind="sound", length_ticks=1, has_sound=True, loudness_lufs=-20
    )
    project = simple_project(
        ["one two", "three four"], clips={music.hash: music}, beds=(Bed(clip_hash=music.hash),)
    )
    timeline = voiced(project, [1.0, 1.5])
    plan = plan_mix(timeline)
    assert [part.at_sample for part in plan.speech] == [
        ticks_to_samples(s.start_ticks) for s in timeline.lines
    ]
    assert {part.gain_db for part in plan.speech} == {2.0}
    assert plan.total_samples == 8 * 48000
    assert plan.beds[0].gain_db == -10 - 18 + 20

"""Adjustments as tables of colours, and the edits that set them."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fox_cadence.core.adjustment import (
    LUMA,
    UNADJUSTED,
    Adjustment,
    colours_of,
    darkness,
    identity,
    table_of,
    through,
)
from fox_cadence.core.edits import EditError, SetAdjustment
from fox_cadence.core.integrity import integrity_errors
from fox_cadence.core.looks import LOOKS, shipped_look
from fox_cadence.core.shot import Clip
from tests.builders import simple_project

ADJUSTMENTS = st.builds(
    Adjustment,
    exposure=st.floats(-3, 3),
    contrast=st.floats(0.4, 2),
    warmth=st.floats(-100, 100),
    tint=st.floats(-100, 100),
    saturation=st.floats(0, 2),
    look=st.sampled_from(["", *(look.id for look in LOOKS)]),
    look_share=st.floats(0, 1),
)
COLOUR = st.tuples(*[st.floats(0, 1)] * 3)


def look_of(adjustment: Adjustment) -> np.ndarray | None:
    look = shipped_look(adjustment.look)
    return look.table() if look else None


def test_nothing_changed_is_nothing_changed() -> None:
    assert np.abs(table_of(UNADJUSTED, None) - identity()).max() < 1e-6


@given(ADJUSTMENTS)
@settings(max_examples=40, deadline=None)
def test_colours_stay_colours_and_more_light_is_never_darker(adjustment: Adjustment) -> None:
    made = table_of(adjustment, look_of(adjustment))
    assert np.isfinite(made).all()
    assert made.min() >= 0
    assert made.max() <= 1
    greys = made[range(33), range(33), range(33)]
    assert (np.diff(greys @ LUMA) >= -1e-6).all()


@given(COLOUR)
def test_a_table_is_exact_at_its_points_and_straight_between(colour: tuple[float, float, float]) -> None:
    asked = np.array([colour], np.float32)
    assert np.abs(through(identity(5), asked) - asked).max() < 1e-6


def test_each_number_does_what_it_says() -> None:
    grey = np.full((1, 3), 0.5, np.float32)

    def seen(**change: float) -> np.ndarray:
        return np.asarray(through(table_of(UNADJUSTED.changed(**change), None), grey)[0])

    assert seen(exposure=1).min() == pytest.approx(
        0.5 * 2 ** (1 / 2.2), abs=0.01
    )  # a stop is twice the light
    warm, green = seen(warmth=40), seen(tint=-40)
    assert warm[0] > warm[1] > warm[2]
    assert green[1] > green[0]
    for white in (warm, green):
        assert float(white**2.2 @ LUMA) == pytest.approx(0.5**2.2, rel=0.02)
    red = np.array([[0.8, 0.3, 0.2]], np.float32)
    plain = through(table_of(UNADJUSTED.changed(saturation=0), None), red)[0]
    assert np.ptp(plain) < 0.01
    assert darkness(0.2) == 0
    assert darkness(1) == 1


def test_looks_differ_from_one_another_and_from_none() -> None:
    tables = [identity(), *(look.table() for look in LOOKS)]
    for number, one in enumerate(tables):
        for other in tables[number + 1 :]:
            assert np.abs(one - other).mean() > 0.01
    assert len({look.id for look in LOOKS}) == len({look.name for look in LOOKS}) == len(LOOKS) >= 8


@given(ADJUSTMENTS)
def test_a_key_says_the_colours(adjustment: Adjustment) -> None:
    kept = adjustment.colours
    values = (kept.exposure, kept.contrast, kept.warmth, kept.tint, kept.saturation, kept.look_share)
    assert colours_of("_".join([*map(repr, values), kept.look or "-"])) == kept


@pytest.mark.parametrize("key", ["", "1_2_3", "0_1_0_0_1_x_-", "9_1_0_0_1_1_-", "nan_1_0_0_1_1_-"])
def test_what_is_no_key_is_refused(key: str) -> None:
    with pytest.raises(ValueError, match=r".*"):
        colours_of(key)


def test_one_shot_some_or_all_are_adjusted() -> None:
    project = simple_project(["One.", "Two.", "Three."])
    clip = Clip(hash="a" * 64, name="a.mp4", kind="still", width=100, height=100)
    shots = tuple(shot.changed(clip_hash=clip.hash) for shot in project.shots[:2]) + project.shots[2:]
    project = project.changed(clips={clip.hash: clip}, shots=shots)
    brighter = Adjustment(exposure=0.5, look="ink")
    one, label = SetAdjustment(shot_ids=(shots[1].id,), adjustment=brighter).apply(project)
    assert [shot.adjustment == brighter for shot in one.shots[:2]] == [False, True]
    assert label == "Adjustment of shot 2"
    all_, _ = SetAdjustment(adjustment=brighter).apply(project)
    assert [shot.adjustment == brighter for shot in all_.shots] == [bool(shot.clip_hash) for shot in shots]
    with pytest.raises(EditError, match="no look"):
        SetAdjustment(adjustment=Adjustment(look="no-such")).apply(project)
    with pytest.raises(EditError, match="Bring in its file"):
        SetAdjustment(adjustment=Adjustment(look="b" * 64)).apply(project)


def test_a_look_that_is_not_there_is_an_error_of_the_project() -> None:
    project = simple_project(["One.", "Two.", "Three."])
    lost = project.shots[0].changed(adjustment=Adjustment(look="b" * 64))
    broken = project.changed(shots=(lost, *project.shots[1:]))
    assert any("clip" in text for text in integrity_errors(broken))

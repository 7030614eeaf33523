"""Pictures laid over a shot: outlines for every frame, times that survive splitting and joining."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.edits import EditError, JoinShots, LayOver, SetLaid, SplitShot
from fox_cadence.core.overlay import MOST_LAID, OVERLAYS, Laid, Overlay, of_both, overlay_by_id, within_part
from tests.builders import simple_project


@pytest.mark.parametrize("overlay", OVERLAYS, ids=lambda each: each.id)
@pytest.mark.parametrize("ratio", [9 / 16, 1.0, 16 / 9])
def test_an_outline_is_one_wide_around_its_middle_in_every_frame(overlay: Overlay, ratio: float) -> None:
    commands = overlay.outline(ratio)
    assert commands[0][0] == "M"
    assert commands[-1][0] == "Z"
    xs = [value for _, values in commands for value in values[::2]]
    ys = [value for _, values in commands for value in values[1::2]]
    assert all(math.isfinite(value) for value in (*xs, *ys))
    assert max(map(abs, xs)) <= 0.56
    assert max(map(abs, ys)) <= 0.56 / min(1.0, ratio)
    assert max(xs) - min(xs) > 0.6


TIMES = st.tuples(st.floats(0, 0.9), st.floats(0.05, 1)).filter(lambda pair: pair[1] - pair[0] > 0.02)


@given(TIMES, st.floats(0.1, 0.9))
def test_a_part_and_the_rest_make_the_whole_again(times: tuple[float, float], at: float) -> None:
    laid = (Laid(id="o1", picture="ring", begins=times[0], ends=times[1]),)
    one, other = within_part(laid, 0, at), within_part(laid, at, 1)
    (whole,) = of_both(one, other, at)
    assert whole.begins == pytest.approx(times[0], abs=1e-9)
    assert whole.ends == pytest.approx(times[1], abs=1e-9)
    for share in (0.01, 0.3, 0.6, 0.99):
        moment = share * at
        here = any(each.begins - 1e-9 <= share <= each.ends + 1e-9 for each in one)
        edge = min(abs(moment - times[0]), abs(moment - times[1])) < 1e-6
        assert edge or here == laid[0].seen_at(moment)


def test_a_split_shot_keeps_what_is_laid_over_it_and_joining_makes_it_whole() -> None:
    project = simple_project(["One.", "Two."])
    shot = project.shots[0]
    laid = (Laid(id="o1", picture="arrow", begins=0.25, ends=0.75), Laid(id="o2", picture="border"))
    project, label = SetLaid(shot_id=shot.id, laid=laid).apply(project)
    assert label == "Laid over shot 1: 2 pictures"
    at = shot.length_frames // 2
    split, _ = SplitShot(shot_id=shot.id, at_frames=at).apply(project)
    assert [[each.picture for each in each_shot.laid] for each_shot in split.shots[:2]] == [
        ["arrow", "border"]
    ] * 2
    joined, _ = JoinShots(shot_id=shot.id).apply(split)
    for was, now in zip(laid, joined.shots[0].laid, strict=True):
        assert now.begins == pytest.approx(was.begins)
        assert now.ends == pytest.approx(was.ends)


def test_pictures_are_laid_one_over_the_other_up_to_the_most() -> None:
    project = simple_project(["One."])
    shot_id = project.shots[0].id
    for picture in ("ring", "border", "ring"):
        project, label = LayOver(shot_id=shot_id, picture=picture).apply(project)
    assert label == "Ring laid over shot 1"
    laid = project.shots[0].laid
    assert len({each.id for each in laid}) == 3
    assert [each.size for each in laid] == [0.4, 1.0, 0.4]
    for _ in range(MOST_LAID - 3):
        project, _ = LayOver(shot_id=shot_id, picture="dot").apply(project)
    with pytest.raises(EditError, match="the most"):
        LayOver(shot_id=shot_id, picture="dot").apply(project)
    with pytest.raises(EditError, match="hologram"):
        LayOver(shot_id=shot_id, picture="hologram").apply(project)


def test_what_can_t_be_laid_is_refused() -> None:
    project = simple_project(["One."])
    shot_id = project.shots[0].id
    for laid, word in (
        ((Laid(id="o1", picture="hologram"),), "hologram"),
        ((Laid(id="o1", picture="ring", begins=0.5, ends=0.5),), "seen for a while"),
        ((Laid(id="o1", picture="ring"), Laid(id="o1", picture="dot")), "same id"),
    ):
        with pytest.raises(EditError, match=word):
            SetLaid(shot_id=shot_id, laid=laid).apply(project)
    assert overlay_by_id("hologram") is None

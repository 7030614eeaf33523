"""Which part of a picture is seen: never past its edges where it fills the frame, and moving one way only."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.edits import EditError, SetFrame, SetFraming
from fox_cadence.core.frame_change import seen_share, worth_a_look
from fox_cadence.core.framing import PLAIN, Framing, view
from fox_cadence.core.shot import Clip
from tests.builders import simple_project

SIDES = st.integers(16, 4000)
SHARES = st.floats(0, 1)
FRAMINGS = st.builds(
    Framing,
    fit=st.sampled_from(["fill", "blur", "colour"]),
    x=SHARES,
    y=SHARES,
    zoom=st.floats(1, 4),
    turns=st.integers(0, 3),
    mirror=st.booleans(),
    movement=st.sampled_from(["none", "in", "out", "across", "back", "to"]),
    to_x=SHARES,
    to_y=SHARES,
    to_zoom=st.floats(1, 4),
    amount=st.floats(0.01, 0.5),
    soft=st.booleans(),
)
ABOUT = 1e-9


@given(FRAMINGS, st.tuples(SIDES, SIDES), st.tuples(SIDES, SIDES), SHARES)
def test_what_fills_the_frame_never_leaves_the_picture(
    framing: Framing, picture: tuple[int, int], frame: tuple[int, int], share: float
) -> None:
    seen = view(framing.changed(fit="fill"), picture, frame, share)
    assert seen.left >= -ABOUT
    assert seen.left + seen.width <= 1 + ABOUT
    assert seen.top >= -ABOUT
    assert seen.top + seen.height <= 1 + ABOUT
    wide, high = picture if framing.turns % 2 == 0 else picture[::-1]
    assert seen.width * wide / (seen.height * high) == pytest.approx(frame[0] / frame[1])


@given(FRAMINGS, st.tuples(SIDES, SIDES), st.tuples(SIDES, SIDES))
def test_a_picture_that_is_whole_is_whole(
    framing: Framing, picture: tuple[int, int], frame: tuple[int, int]
) -> None:
    still = framing.changed(fit="blur", movement="none", zoom=1.0)
    seen = view(still, picture, frame, 0)
    assert seen.left <= ABOUT
    assert seen.left + seen.width >= 1 - ABOUT
    assert seen.top <= ABOUT
    assert seen.top + seen.height >= 1 - ABOUT
    assert min(seen.width, seen.height) == pytest.approx(1)


@given(FRAMINGS, st.tuples(SIDES, SIDES), st.tuples(SIDES, SIDES), st.lists(SHARES, min_size=3, max_size=6))
def test_a_movement_goes_one_way(
    framing: Framing, picture: tuple[int, int], frame: tuple[int, int], shares: list[float]
) -> None:
    seen = [view(framing, picture, frame, share) for share in sorted(shares)]
    widths = [each.width for each in seen]
    lefts = [each.left for each in seen]
    match framing.movement:
        case "in":
            assert widths == sorted(widths, reverse=True)
        case "out":
            assert widths == sorted(widths)
        case "across":
            assert max(widths) - min(widths) < ABOUT
            assert lefts == sorted(lefts)
        case "back":
            assert lefts == sorted(lefts, reverse=True)
        case "to":
            for sides in (lefts, [each.top for each in seen], widths):
                steps = [later - before for before, later in pairwise(sides)]
                assert min(steps) >= -ABOUT or max(steps) <= ABOUT
        case _:
            assert len(set(seen)) == 1


@pytest.mark.parametrize(
    ("turns", "mirror", "x", "y"), [(1, False, 0.8, 0.1), (2, False, 0.9, 0.8), (0, True, 0.9, 0.2)]
)
def test_a_point_of_interest_goes_with_its_picture(turns: int, mirror: bool, x: float, y: float) -> None:
    """The point a tenth from the left and a fifth from the top, in a square seen four times as near."""
    seen = view(Framing(x=0.1, y=0.2, zoom=4.0, turns=turns, mirror=mirror), (100, 100), (50, 50), 0)
    middle = [seen.left + seen.width / 2, seen.top + seen.height / 2]
    assert middle == pytest.approx([min(0.875, max(0.125, x)), min(0.875, max(0.125, y))])


def test_one_shot_or_all_that_have_a_picture_are_framed() -> None:
    project = simple_project(["One.", "Two."])
    shown = project.shots[1].changed(clip_hash="a" * 64)
    project = project.changed(shots=(project.shots[0], shown))
    near = Framing(zoom=2.0)
    made, label = SetFraming(shot_id="s2", framing=near).apply(project)
    assert [shot.framing for shot in made.shots] == [PLAIN, near]
    assert label == "Framing of shot 2"
    assert SetFraming(framing=near).apply(project)[0].shots == made.shots
    with pytest.raises(EditError, match="nothing to frame"):
        SetFraming(shot_id="s1", framing=near).apply(project)


def test_another_shape_of_the_frame_names_the_shots_worth_a_look() -> None:
    """A wide clip in a tall frame shows little of itself; whole, it shows all."""
    clip = Clip(hash="a" * 64, name="wide.mp4", kind="video", width=1920, height=1080, length_ticks=10**9)
    project = simple_project(["One.", "Two.", "Three."]).changed(width=1920, height=1080)
    shots = [shot.changed(clip_hash=clip.hash) for shot in project.shots[:2]]
    shots[1] = shots[1].changed(framing=Framing(fit="blur", x=0.2))
    project = project.changed(clips={clip.hash: clip}, shots=(*shots, project.shots[2]))
    tall, label = SetFrame(width=1080, height=1920).apply(project)
    assert worth_a_look(project, tall) == (0,)
    assert label.endswith("worth a look, as little of the picture is seen: shot 1")
    assert tall.shots[1].framing.x == 0.2
    assert seen_share(tall, tall.shots[0]) == pytest.approx((1080 / 1920) ** 2)
    square, label = SetFrame(width=1080, height=1080).apply(project)
    assert worth_a_look(project, square) == ()

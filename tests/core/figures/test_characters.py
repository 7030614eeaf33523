"""The characters: six that differ, whole in every pose."""

from typing import get_args

import numpy as np
import pytest

from fox_cadence.core.figures.characters import CHARACTERS, drawn
from fox_cadence.core.figures.drawing import BOX, Pose, standing
from fox_cadence.core.figures.figure import CharacterId, Facing
from fox_cadence.core.figures.visemes import SHAPES

ALL: tuple[CharacterId, ...] = get_args(CharacterId)
SIDES: tuple[Facing, ...] = get_args(Facing)
POSES = [Pose(*(round(100 * share) for share in shape)) for shape in SHAPES]


def points(character: CharacterId, facing: Facing, pose: Pose) -> np.ndarray:
    found = [
        values for part in drawn(character, facing, {}).parts for _, values in part.posed(pose) if len(values)
    ]
    return np.concatenate([np.reshape(values, (-1, 2)) for values in found])


def test_there_are_six_and_each_says_what_it_is() -> None:
    assert set(CHARACTERS) == set(ALL)
    assert len({each.name for each in CHARACTERS.values()}) == len(ALL) == 6
    assert len({each.described for each in CHARACTERS.values()}) == 6


@pytest.mark.parametrize("character", ALL)
@pytest.mark.parametrize("facing", SIDES)
def test_every_pose_stays_in_the_box_and_moves_what_it_should(character: CharacterId, facing: Facing) -> None:
    rest = points(character, facing, Pose())
    for pose in (*POSES, Pose(blink=100), Pose(nod=100), Pose(look=-100), Pose(jaw=100, nod=100, blink=50)):
        moved = points(character, facing, pose)
        assert np.all(moved[:, 0] > -40)
        assert np.all(moved[:, 0] < BOX[0] + 40)
        assert np.all(moved[:, 1] > 0)  # heads are never cut off
        if pose not in (Pose(),):
            assert np.abs(moved - rest).max() > 5 or pose == POSES[1]
    wide = points(character, facing, POSES[10])
    assert np.abs(wide - rest).max() > 40  # an open mouth is seen from afar


@pytest.mark.parametrize("character", ALL)
def test_a_pose_halfway_is_halfway_for_every_point(character: CharacterId) -> None:
    rest, full = points(character, "ahead", Pose()), points(character, "ahead", Pose(jaw=100, blink=100))
    half = points(character, "ahead", Pose(jaw=50, blink=50))
    assert np.allclose(half, (rest + full) / 2)


@pytest.mark.parametrize("character", ALL)
def test_eyes_go_to_the_side_it_looks_and_colours_are_taken(character: CharacterId) -> None:
    slots = CHARACTERS[character].colours
    name = next(iter(slots))
    made = drawn(character, "right", {name: "#123456"})
    assert any(part.colour == "#123456" for part in made.parts)
    assert made is drawn(character, "right", {name: "#123456", "no such thing": "#ffffff"})
    eyes = [part for part in drawn(character, "right", {}).parts if part.colour == slots["iris"]]
    assert len(eyes) == 2
    for facing, side in (("left", -1), ("ahead", 0), ("right", 1)):
        irises = [p for p in drawn(character, facing, {}).parts if p.colour == slots["iris"]]  # type: ignore[arg-type]
        across = np.concatenate([np.reshape(each.base, (-1, 2))[:, 0] for each in irises])
        middle = (across.min() + across.max()) / 2
        assert np.sign(round(float(middle) - 400, 1)) == side


def test_a_figure_stands_where_it_is_told() -> None:
    left, top, scale = standing(0.5, 1.0, 0.5, (1080, 1920))
    assert scale * BOX[1] == pytest.approx(540)
    assert left == pytest.approx(540 - 216)
    assert top == pytest.approx(1920 - 270)

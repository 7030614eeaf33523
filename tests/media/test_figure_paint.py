"""Figures painted onto planes: where they stand, over what is there, through what is half seen."""

import numpy as np
import pytest

from fox_cadence.core.acting import Acted
from fox_cadence.core.figures.characters import CHARACTERS, drawn
from fox_cadence.core.figures.drawing import Pose, standing
from fox_cadence.core.figures.figure import CharacterId, Figure
from fox_cadence.media.figure_paint import FigurePainter
from fox_cadence.media.plates import Planes

SIZE = (240, 320)


def grey() -> Planes:
    width, height = SIZE
    chroma = np.full((height // 2, width // 2), 128, np.uint8)
    return np.full((height, width), 120, np.uint8), chroma, chroma.copy()


def painted(character: CharacterId, pose: Pose, x: float = 0.5, y: float = 0.5, size: float = 0.6) -> Planes:
    figure = Figure(id="g1", role_id="r1", character=character)
    acted = Acted(figure, drawn(character, "ahead", {}), standing(x, y, size, SIZE), 0, (pose,))
    planes = grey()
    FigurePainter([acted]).paint(planes, 0)
    return planes


@pytest.mark.parametrize("character", list(CHARACTERS))
def test_it_is_painted_where_it_stands_and_nowhere_else(character: CharacterId) -> None:
    luma, blue, _ = painted(character, Pose(), 0.3, 0.4)
    rows, columns = np.nonzero(luma != 120)
    left, top, scale = standing(0.3, 0.4, 0.6, SIZE)
    assert columns.min() >= left - 1
    assert columns.max() <= left + 800 * scale + 1
    assert rows.min() >= top - 1
    assert rows.max() <= top + 1000 * scale + 1
    assert len(rows) > 0.15 * 800 * 1000 * scale**2
    assert (blue != 128).any()


def test_another_pose_is_another_picture_and_the_same_pose_the_same() -> None:
    rest, open_ = painted("bell", Pose()), painted("bell", Pose(jaw=100))
    again = painted("bell", Pose())
    assert all(np.array_equal(a, b) for a, b in zip(rest, again, strict=True))
    assert (np.abs(rest[0].astype(int) - open_[0]) > 20).sum() > 30


def test_half_seen_is_halfway_to_what_is_behind_and_unseen_is_nothing() -> None:
    full, half = painted("tobit", Pose()), painted("tobit", Pose(seen=50))
    middle = (full[0].astype(int) + 120) / 2
    assert np.abs(half[0] - middle).max() <= 3  # not through what lies under other parts
    assert np.array_equal(painted("tobit", Pose(seen=0))[0], grey()[0])


def test_what_is_off_the_frame_is_left_out() -> None:
    luma, _, _ = painted("rusk", Pose(), x=1.4, y=-0.2)
    assert luma.shape == (320, 240)
    assert np.array_equal(painted("rusk", Pose(), x=-0.5, y=1.5, size=0.2)[0], grey()[0])

"""The proposal of what matters: faces out of the maps of the model, none in what is drawn."""

from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from fox_cadence.core.edits import AddShot
from fox_cadence.core.framing import PLAIN
from fox_cadence.core.shot import Clip
from fox_cadence.drawn.catalogue import catalogue
from fox_cadence.drawn.files import look_at
from fox_cadence.media.interest import decoded, faces_in, point_of_interest
from tests.builders import simple_project


def maps(high: int, wide: int) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    return (
        np.zeros((high, wide), np.float32),
        np.zeros((2, high, wide), np.float32),
        np.zeros((2, high, wide), np.float32),
    )


def test_a_face_is_where_the_maps_say() -> None:
    scores, scales, offsets = maps(20, 40)
    scores[5, 30], scores[5, 31], scores[16, 4] = 0.9, 0.7, 0.6
    scales[:, 5, 30] = np.log([6, 4])
    scales[:, 5, 31] = np.log([6, 4])
    scales[:, 16, 4] = np.log([2, 2])
    offsets[:, 5, 30] = (0.2, -0.3)
    large, small = decoded(scores, scales, offsets)  # the weaker one beside it is the same face
    assert (large.x, large.y) == pytest.approx(((30 - 0.3 + 0.5) / 40, (5 + 0.2 + 0.5) / 20))
    assert large.area == pytest.approx(6 / 20 * 4 / 40)
    assert small.score == pytest.approx(0.6)
    assert decoded(*maps(20, 40)) == []


def test_nothing_is_found_in_what_is_drawn(tmp_path: Path) -> None:
    for item_id in ("animal-cat", "people-walk", "in-clock", "idea-planet"):
        path = tmp_path / f"{item_id}.jpg"
        path.write_bytes(look_at(catalogue()[item_id], None, (270, 480), 5))
        assert faces_in(np.asarray(Image.open(path))) == []
        assert point_of_interest(path) is None


def test_a_new_shot_is_framed_around_what_matters() -> None:
    project = simple_project(["One."])
    clip = Clip(hash="a" * 64, name="a.png", kind="still", width=1920, height=1080, interest=(0.8, 0.3))
    project = project.changed(clips={clip.hash: clip})
    made, _ = AddShot(clip_hash=clip.hash).apply(project)
    assert made.shots[-1].framing == PLAIN.changed(x=0.8, y=0.3)
    plain, _ = AddShot().apply(project)
    assert plain.shots[-1].framing == PLAIN

"""Pictures laid into the frame: where the numbers say, in one piece, at their colours."""

import av
import numpy as np
import pytest

from fox_cadence.core.framing import Framing, view
from fox_cadence.media.framer import Framer
from fox_cadence.media.picture import Planes
from fox_cadence.media.render import plain_colour

CLIP = (320, 180)
FRAME = (180, 320)


def picture() -> av.VideoFrame:
    """Dark, with a light square around a third of the width and half the height, and a green right half."""
    made = np.zeros((CLIP[1], CLIP[0], 3), np.uint8)
    made[:, CLIP[0] // 2 :] = (20, 120, 40)
    made[80:100, 97:117] = 250
    return av.VideoFrame.from_ndarray(made, format="rgb24")


def laid(framing: Framing, share: float = 0.0) -> Planes:
    return Framer(*FRAME, framing, plain_colour(framing.colour, *FRAME)).planes(picture(), share)


def middle_of_light(luma: np.ndarray) -> tuple[float, float]:
    rows, columns = np.nonzero(luma > 190)
    return float(columns.mean()) + 0.5, float(rows.mean()) + 0.5


@pytest.mark.parametrize("turns", [0, 2])
@pytest.mark.parametrize("mirror", [False, True])
@pytest.mark.parametrize(("movement", "share"), [("none", 0.0), ("in", 0.37), ("across", 0.8)])
def test_a_thing_is_seen_where_the_numbers_put_it(
    turns: int, mirror: bool, movement: str, share: float
) -> None:
    framing = Framing.model_validate(
        {"x": 1 / 3, "zoom": 1.3, "turns": turns, "mirror": mirror, "movement": movement}
    )
    seen = view(framing, CLIP, FRAME, share)
    x, y = 107 / CLIP[0], 90 / CLIP[1]
    x = 1 - x if mirror else x
    x, y = (1 - x, 1 - y) if turns == 2 else (x, y)
    expected = ((x - seen.left) / seen.width * FRAME[0], (y - seen.top) / seen.height * FRAME[1])
    found = middle_of_light(laid(framing, share)[0])
    assert np.abs(np.subtract(found, expected)).max() < 0.6


def test_a_slow_movement_goes_by_parts_of_a_pixel() -> None:
    framing = Framing(x=1 / 3, movement="across", amount=0.05, soft=False)
    found = [middle_of_light(laid(framing, share)[0])[0] for share in np.linspace(0, 1, 41)]
    steps = np.diff(found)
    assert (steps < 0.1).all()  # the view goes right, the thing goes left, and never back or by a whole pixel
    assert np.abs(steps).max() < 1


def test_a_whole_picture_stands_on_its_colour_or_on_a_blurred_copy() -> None:
    y, u, v = laid(Framing(fit="colour", colour="#c02020"))
    ground = plain_colour("#c02020", 2, 2)
    assert [int(plane[0, 0]) for plane in (y, u, v)] == [int(plane[0, 0]) for plane in ground]
    high = FRAME[0] * CLIP[1] / CLIP[0]
    light = middle_of_light(y)
    assert abs(light[1] - FRAME[1] / 2) < 1
    assert int((y[:, 90] != ground[0][0, 0]).sum()) == pytest.approx(high, abs=3)
    blurred = laid(Framing(fit="blur"))
    assert int(blurred[0][:100].max()) - int(blurred[0][:100].min()) > 5  # something of the picture is there
    assert float(np.abs(np.diff(blurred[0][:100].astype(int), axis=1)).max()) < 6  # and no edge of it
    assert (blurred[0][140:180] == y[140:180]).all()


def test_plain_framing_is_what_it_always_was() -> None:
    y, u, v = laid(Framing())
    assert (y.shape, u.shape, v.shape) == ((320, 180), (160, 90), (160, 90))
    near = laid(Framing(zoom=1.0001))
    assert float(np.abs(y.astype(int) - near[0].astype(int)).mean()) < 1.5

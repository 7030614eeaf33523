"""Adjusted planes against the same done in plain numbers."""

import numpy as np
import pytest

from fox_cadence.core.adjustment import LUMA, Adjustment, darkness, table_of, through
from fox_cadence.core.framing import PLAIN, Framing
from fox_cadence.core.looks import shipped_look
from fox_cadence.media.adjuster import Adjuster
from fox_cadence.media.framer import Framer
from fox_cadence.media.picture import Planes
from fox_cadence.media.render import plain_colour
from tests.media.joins import smooth
from tests.media.test_framer import picture

ADJUSTMENTS = {
    "light": Adjustment(exposure=0.4, contrast=1.15),
    "warm": Adjustment(warmth=35, saturation=1.3),
    "look": Adjustment(look="slack-water"),
}


def planes() -> Planes:
    rng = np.random.default_rng(3)
    y = np.clip(smooth(rng, 96, 128, 12)[..., 0], 30, 220).astype(np.uint8)
    u, v = (np.clip(smooth(rng, 48, 64, 8)[..., 0] / 3 + 85, 90, 170).astype(np.uint8) for _ in range(2))
    return y, u, v


@pytest.mark.parametrize("name", list(ADJUSTMENTS))
def test_planes_are_adjusted_as_the_numbers_say(name: str) -> None:
    adjustment = ADJUSTMENTS[name]
    look = shipped_look(adjustment.look)
    table = table_of(adjustment, look.table() if look else None)
    y, u, v = planes()
    made = Adjuster(adjustment, table).colours((y, u, v), 128)
    luma = (y[::2, ::2].astype(float) - 16) / 219
    blue, red = luma + (u - 128.0) / 224 * 1.8556, luma + (v - 128.0) / 224 * 1.5748
    green = (luma - LUMA[0] * red - LUMA[2] * blue) / LUMA[1]
    exact = through(table, np.stack([red, green, blue], -1).astype(np.float32))
    grey = exact @ LUMA
    wanted = (
        16 + 219 * grey,
        128 + 224 * (exact[..., 2] - grey) / 1.8556,
        128 + 224 * (exact[..., 0] - grey) / 1.5748,
    )
    for found, right in zip((made[0][::2, ::2], made[1], made[2]), wanted, strict=True):
        off = np.abs(found - right)
        assert off.mean() < 0.8
        assert off.max() < 6


def test_corners_darken_and_the_middle_does_not() -> None:
    flat = (
        np.full((90, 160), 180, np.uint8),
        np.full((45, 80), 100, np.uint8),
        np.full((45, 80), 150, np.uint8),
    )
    y, u, v = Adjuster(Adjustment(vignette=0.5), None).shaded(flat)
    assert y[45, 80] == 180
    expected = 16 + (180 - 16) * (1 - 0.5 * darkness(1.0))
    assert int(y[0, 0]) == pytest.approx(expected, abs=2)
    assert abs(int(u[0, 0]) - 128) < abs(int(u[22, 40]) - 128)
    assert abs(int(v[0, 0]) - 128) < abs(int(v[22, 40]) - 128)
    assert (y == y[::-1, ::-1]).all()


def test_sharpness_adds_to_edges_only() -> None:
    step = np.full((60, 60), 60, np.uint8)
    step[:, 30:] = 160
    flat = np.full((30, 30), 128, np.uint8)
    y, *_ = Adjuster(Adjustment(sharpness=1.0), None).colours((step, flat, flat), 1000)
    assert y[30, 28] < 60
    assert y[30, 31] > 160
    assert (y[:, :20] == 60).all()
    assert (y[:, 40:] == 160).all()


def test_the_colour_around_a_whole_picture_is_not_adjusted() -> None:
    adjustment = Adjustment(exposure=-1.5)
    adjuster = Adjuster(adjustment, table_of(adjustment, None))
    framing = Framing(fit="colour", colour="#c0a080")
    ground = plain_colour("#c0a080", 180, 320)
    y, u, v = Framer(180, 320, framing, ground, adjuster).planes(picture(), 0)
    assert (y[0, 0], u[0, 0], v[0, 0]) == tuple(plane[0, 0] for plane in ground)
    plain = Framer(180, 320, framing, ground).planes(picture(), 0)[0]
    assert y[160].mean() < plain[160].mean() - 5
    filling = Framer(180, 320, PLAIN, ground, adjuster).planes(picture(), 0)[0]
    assert filling.max() < 200

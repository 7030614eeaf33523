"""Contrast on pictures whose answer is known (WCAG 2.2: white on #767676 is 4.54, on black 21)."""

import numpy as np
import pytest

from fox_cadence.core.lettering.drawing import letter
from fox_cadence.core.lettering.style import CaptionStyle, Edge, Ground
from fox_cadence.core.lettering.styles import STYLES
from fox_cadence.media.contrast import Picture, code_rgb, contrast, rgb_of
from fox_cadence.media.fonts import faces_for
from fox_cadence.media.render import plain_colour

BARE = STYLES[0].changed(ground=Ground())


def measured(
    style: CaptionStyle, *pictures: Picture, shift: tuple[float, float] = (0.0, 0.0)
) -> float | None:
    drawing = letter("Home is a groove.", style, faces_for(style, "en"), 1080, 1920)
    return contrast(drawing, style, shift, list(pictures))


def plain(code: str) -> Picture:
    return np.tile(code_rgb(code), (320, 180, 1)).astype(np.float32)


@pytest.mark.parametrize(
    ("ink", "behind", "ratio"),
    [
        ("#ffffff", "#767676", 4.54),
        ("#ffffff", "#000000", 21),
        ("#ff0000", "#ffffff", 4.0),
        ("#777777", "#777777", 1),
    ],
)
def test_words_on_a_plain_picture(ink: str, behind: str, ratio: float) -> None:
    found = measured(BARE.changed(ink=ink), plain(behind))
    assert found == pytest.approx(ratio, abs=0.01)


def test_a_ground_counts_as_far_as_it_covers_the_picture() -> None:
    black = Ground(kind="plate", colour="#000000", opacity=1)
    assert measured(BARE.changed(ground=black), plain("#ffffff")) == pytest.approx(21, abs=0.01)
    half = black.changed(opacity=0.5)
    assert measured(BARE.changed(ground=half), plain("#ffffff")) == pytest.approx(3.95, abs=0.05)
    beside = black.changed(kind="bar")
    assert measured(BARE.changed(ground=beside), plain("#ffffff")) == pytest.approx(1, abs=0.01)
    contour = BARE.changed(edge=Edge(kind="contour", colour="#000000"))
    assert measured(contour, plain("#ffffff")) == pytest.approx(21, abs=0.01)


def test_the_worst_picture_and_only_what_is_behind_the_words_counts() -> None:
    dark, light = plain("#000000"), plain("#ffffff")
    assert measured(BARE, dark, light) == pytest.approx(1, abs=0.01)
    elsewhere = plain("#000000")
    elsewhere[:200] = 1.0  # the words stand below
    assert measured(BARE, elsewhere) == pytest.approx(21, abs=0.01)
    assert measured(BARE, elsewhere, shift=(0.0, -800.0)) == pytest.approx(1, abs=0.01)
    assert measured(BARE) is None


def test_a_colour_survives_the_way_over_the_planes_of_a_frame() -> None:
    for code in ("#20302c", "#e8662a", "#ffffff", "#000000"):
        rgb = rgb_of(plain_colour(code, 8, 8))
        assert np.abs(rgb - code_rgb(code)).max() < 0.012

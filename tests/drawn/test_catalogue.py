"""The shipped pictures: enough of them, each with its words, moving where it says so, the same each time."""

from fractions import Fraction
from io import BytesIO
from pathlib import Path

import av
import numpy as np
import pytest
from PIL import Image

from fox_cadence.core.shelf import LOOKS
from fox_cadence.drawn.backgrounds import in_colours
from fox_cadence.drawn.brush import Brush
from fox_cadence.drawn.catalogue import BACKGROUND_S, Painter, catalogue
from fox_cadence.drawn.files import draw_item, look_at, size_for
from fox_cadence.media.isolated import no_progress

ITEMS = catalogue()
SMALL = (96, 160)


def painted(paint: Painter, size: tuple[int, int], moment: float) -> np.ndarray:
    import skia

    surface = skia.Surface(*size)
    with surface as canvas:
        paint(Brush(canvas, *size, moment))
    return np.asarray(surface.makeImageSnapshot().toarray(colorType=skia.kRGBA_8888_ColorType))[
        ..., :3
    ].astype(int)


def test_there_is_enough_of_everything() -> None:
    kinds = [item.kind for item in ITEMS.values()]
    assert kinds.count("clip") + kinds.count("still") >= 36
    assert kinds.count("background") >= 8
    assert len({item.subject for item in ITEMS.values()}) >= 12
    assert len({item.title for item in ITEMS.values()}) == len(ITEMS)
    assert all(len(item.words.split()) >= 4 for item in ITEMS.values())


@pytest.mark.parametrize("item_id", list(ITEMS))
def test_each_is_drawn_in_both_shapes_and_moves_where_it_says_so(item_id: str) -> None:
    item = ITEMS[item_id]
    for size in (SMALL, SMALL[::-1]):
        one, other = (painted(item.paint, size, moment) for moment in (1.3, 3.9))
        assert one.std() > 2  # something is there
        if (
            item.kind != "still" and item_id != "ground-paper"
        ):  # whose light wanders too slowly to be told at this size
            assert np.abs(one - other).max() > 5
        assert (painted(item.paint, size, 1.3) == one).all()


@pytest.mark.parametrize("item_id", [each.id for each in ITEMS.values() if each.kind == "background"])
def test_a_background_has_the_colours_that_are_asked_for_and_no_seam(item_id: str) -> None:
    paint = in_colours(item_id, ("#101010", "#d02020", "#e0e020"))
    first = painted(paint, SMALL, 0.0)
    assert (first[..., 0] + 6 >= first[..., 2]).all()  # no blue in any of the three
    if item_id != "ground-grain":  # every frame of which is another
        assert np.abs(first - painted(paint, SMALL, BACKGROUND_S)).mean() < 1.5


def test_files_are_of_the_frames_shape_length_and_rate(tmp_path: Path) -> None:
    assert size_for(1080, 1920) == (720, 1280)
    assert size_for(3840, 2160) == (1280, 720)
    assert size_for(641, 641) == (640, 640)
    told: list[int] = []
    draw_item(
        "idea-tick",
        None,
        (72, 128),
        Fraction(30000, 1001),
        tmp_path / "a.mp4",
        lambda done, _: told.append(done),
    )
    with av.open(str(tmp_path / "a.mp4")) as made:
        frames = list(made.decode(video=0))
    assert (frames[0].width, frames[0].height) == (72, 128)
    assert len(frames) == told[-1] == round(7 * 30000 / 1001)
    draw_item("idea-lock", None, (72, 128), Fraction(30), tmp_path / "b.png", no_progress)
    assert Image.open(tmp_path / "b.png").size == (72, 128)


def test_a_picture_can_be_looked_at_before_it_is_used() -> None:
    looks = [look_at(ITEMS["sea-boat"], None, (104, 66), place) for place in (0, LOOKS - 1)]
    assert Image.open(BytesIO(looks[0])).size == (104, 66)
    assert looks[0] != looks[1]
    plain = look_at(ITEMS["ground-dots"], None, (104, 66), 0)
    assert look_at(ITEMS["ground-dots"], ("#ffffff", "#ff0000", "#00ff00"), (104, 66), 0) != plain

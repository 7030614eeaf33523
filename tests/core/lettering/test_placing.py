from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.lettering.drawing import letter
from fox_cadence.core.lettering.placing import Standing, around, overlap, placed
from fox_cadence.core.lettering.style import Hold, Place
from fox_cadence.core.lettering.styles import STYLES
from fox_cadence.media.fonts import faces_for

PLATE = STYLES[0]
DRAWING = letter("Home is a groove.", PLATE, faces_for(PLATE, "en"), 1080, 1920)


def standing(place: Place | None, first: int = 0, last: int = 30, *interest: tuple[float, float]) -> Standing:
    return Standing(DRAWING, PLATE, place, first, last, interest)


places = st.builds(
    Place, x=st.floats(0.3, 0.7), y=st.floats(0.2, 0.9), hold=st.sampled_from(["top", "middle", "bottom"])
)


@given(st.lists(places, min_size=2, max_size=4))
def test_words_on_the_screen_at_once_never_cover_each_other(wanted: list[Place]) -> None:
    items = [standing(place) for place in wanted]
    boxes = [around(DRAWING, shift) for shift in placed(items)]
    for number, box in enumerate(boxes):
        assert not any(overlap(box, other) for other in boxes[:number])
        assert all(value % 2 == 0 for value in placed(items)[number])


def test_words_after_one_another_keep_their_places() -> None:
    assert placed([standing(None, 0, 30), standing(None, 30, 60)]) == [(0.0, 0.0), (0.0, 0.0)]


def test_a_place_is_held_by_the_part_of_the_block_that_is_named() -> None:
    high = DRAWING.block[3]
    for hold, share in (("top", 0.0), ("middle", 0.5), ("bottom", 1.0)):
        hold_of: Hold = hold  # type: ignore[assignment]
        ((_, dy),) = placed([standing(Place(y=0.5, hold=hold_of))])
        assert abs(DRAWING.block[1] + dy + share * high - 960) <= 1


def test_what_matters_is_kept_clear_of_only_where_that_is_asked() -> None:
    over = (0.5, 0.84)
    ((_, plain),) = placed([standing(Place(), 0, 30, over)])
    ((_, clear),) = placed([standing(Place(clear=True), 0, 30, over)])
    assert plain == 0
    moved = around(DRAWING, (0, clear))
    assert clear != 0
    reach = 0.13 * 1080
    assert not overlap(moved, (0.5 * 1080 - reach, 0.84 * 1920 - reach, 2 * reach, 2 * reach))

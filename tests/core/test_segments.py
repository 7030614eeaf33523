"""Where videos are divided."""

from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.docket.segments import segments_of


@given(
    st.lists(st.integers(0, 4000), max_size=40),
    st.integers(0, 500),
    st.integers(0, 4000),
    st.integers(2, 300),
)
def test_segments_are_all_of_it_in_order_and_neither_short_nor_long(
    cuts: list[int], first: int, frames: int, about: int
) -> None:
    found = segments_of(cuts, first, first + frames, about)
    joined = [frame for start, end in found for frame in range(start, end)]
    assert joined == list(range(first, first + frames))
    assert all(end - start <= about * 3 // 2 for start, end in found)
    if len(found) > 1:
        assert all(end - start >= about // 2 for start, end in found)


def test_a_cut_that_is_near_ends_a_segment() -> None:
    assert segments_of([0, 126, 246, 342, 468], 0, 468, 240) == [(0, 246), (246, 468)]
    assert segments_of([0, 600], 0, 620, 240) == [(0, 240), (240, 480), (480, 620)]

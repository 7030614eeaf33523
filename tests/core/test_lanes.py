"""Which lines must follow one another, and the sums that explain a line."""

from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.fit.explain import at_pace_limit, explain_line, shot_names
from fox_cadence.core.house import HouseLimits
from fox_cadence.core.lanes import gap_ticks, order_pairs, voice_neighbours
from fox_cadence.core.project import Line, SpanLength
from fox_cadence.core.timeline import Window


def line(number: int, lane: int = 0, may_overlap: bool = False, role: str = "r1") -> Line:
    return Line(
        id=f"l{number}", role_id=role, first_shot_id="s1", last_shot_id="s1", caption_ids=(f"c{number}",),
        lane=lane,
        may_overlap=may_overlap,
    )  # fmt: skip


@st.composite
def scripts(draw: st.DrawFn) -> list[Line]:
    made = []
    for number in range(draw(st.integers(0, 9))):
        lane = draw(st.integers(0, 1))
        made.append(
            line(number, lane, lane == 1 and draw(st.booleans()), draw(st.sampled_from(["r1", "r2", "r3"])))
        )
    return made


def test_lines_of_two_lanes_follow_one_another_unless_one_may_overlap() -> None:
    assert order_pairs([line(1), line(2), line(3)]) == [(0, 1), (1, 2)]
    assert set(order_pairs([line(1), line(2, lane=1), line(3)])) == {(0, 1), (0, 2), (1, 2)}
    assert order_pairs([line(1), line(2, 1, may_overlap=True), line(3)]) == [(0, 2)]
    assert (0, 2) in order_pairs([line(1, 1), line(2, 1, may_overlap=True), line(3)])


@given(scripts())
def test_pairs_keep_every_lane_and_all_that_may_not_overlap_in_order(lines: list[Line]) -> None:
    pairs = order_pairs(lines)
    assert all(a < b for a, b in pairs)
    follows = {a: {b for first, b in pairs if first == a} for a in range(len(lines))}

    def reached(start: int) -> set[int]:
        found: set[int] = set()
        todo = [start]
        while todo:
            for following in follows[todo.pop()] - found:
                found.add(following)
                todo.append(following)
        return found

    for a in range(len(lines)):
        after = reached(a)
        for b in range(a + 1, len(lines)):
            free = lines[a].may_overlap or lines[b].may_overlap
            if lines[a].lane == lines[b].lane or not free:
                assert b in after


@given(scripts())
def test_neighbours_of_a_voice_are_the_nearest_of_it(lines: list[Line]) -> None:
    for a, b in voice_neighbours(lines):
        assert lines[a].role_id == lines[b].role_id
        assert all(lines[between].role_id != lines[a].role_id for between in range(a + 1, b))
    voices = {each.role_id for each in lines}
    assert len(voice_neighbours(lines)) == len(lines) - len(voices)


def test_the_gap_is_that_of_the_house() -> None:
    house = HouseLimits()
    assert gap_ticks(house, line(1), line(2)) == house.gap_ticks
    assert gap_ticks(house, line(1), line(2, role="r2")) == house.voice_change_gap_ticks


lengths = st.builds(
    SpanLength,
    voiced_ticks=st.integers(1, 5000),
    pause_ticks=st.integers(0, 500),
    written_ticks=st.integers(0, 300),
)


@given(
    st.lists(st.tuples(lengths, lengths), min_size=1, max_size=3),
    st.integers(-300, 900),
    st.tuples(st.integers(0, 400), st.integers(500, 9000)),
    st.tuples(st.integers(0, 400), st.integers(500, 9000)),
    st.tuples(st.integers(0, 300), st.integers(0, 300)),
)
def test_a_sum_adds_up_whatever_became_of_the_line(
    spans: list[tuple[SpanLength, SpanLength]],
    start: int,
    before: tuple[int, int],
    after: tuple[int, int],
    room: tuple[int, int],
) -> None:
    natural = [span[0] for span in spans]
    made = [span[1].changed(written_ticks=span[0].written_ticks) for span in spans]
    end = start + sum(length.ticks for length in made)
    found = explain_line(
        natural=natural,
        lengths=made,
        start_ticks=start,
        end_ticks=end,
        window_before=Window(*before, 0, 0),
        window=Window(*after, *room),
        shot_names="shot 1",
        at_limit=False,
    )
    assert found.adds_up
    assert found.length_ticks == end - start
    kinds = [step.kind for step in (*found.speech, *found.room)]
    assert len(kinds) == len(set(kinds))
    assert not {"idle", "spill"} <= set(kinds)
    assert not {"before", "early"} <= set(kinds)
    assert ("spill" in kinds) is (end > after[1] + room[1])


def test_a_line_is_named_by_its_shots_and_its_limit() -> None:
    index = {"s1": 0, "s2": 1, "s3": 2}
    assert shot_names(index, line(1)) == "shot 1"
    assert shot_names(index, line(1).changed(last_shot_id="s3")) == "shots 1 to 3"
    assert at_pace_limit((0.9, 1.2), 1.2)
    assert at_pace_limit((0.9, 1.2), 0.9)
    assert not at_pace_limit((0.9, 1.2), 1.1)

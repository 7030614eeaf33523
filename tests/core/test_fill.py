"""Filling a stretch: what is promised is kept whatever the words and the clips are, and the best is found."""

from collections.abc import Mapping
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fox_cadence.core.adjustment import UNADJUSTED, Adjustment
from fox_cadence.core.edits import EditError, FillShots, SetLock
from fox_cadence.core.edits.fill import FilledShot
from fox_cadence.core.fill import (
    CUT_AT_LINE_END,
    CutPlace,
    FillWish,
    Material,
    cut_places,
    fill,
    words_within,
)
from fox_cadence.core.overlay import Laid
from fox_cadence.core.project import Project
from fox_cadence.core.shelf import ShelfItem, Wish, shape_of, telling_words
from fox_cadence.core.shot import Clip
from fox_cadence.core.timeline_builder import build_timeline
from tests.builders import simple_project

RATE = 30.0


def nothing(_: int, __: int) -> Mapping[str, float]:
    return {}


@st.composite
def stretches(draw: st.DrawFn) -> tuple[tuple[int, int], list[CutPlace], list[Material]]:
    start = draw(st.integers(0, 200))
    length = draw(st.integers(15, 900))
    frames = draw(st.lists(st.integers(start - 20, start + length + 20), max_size=25, unique=True))
    places = [CutPlace(frame, draw(st.sampled_from([0.0, 0.15, 0.6, 2.0]))) for frame in sorted(frames)]
    count = draw(st.integers(1, 6))
    materials = [Material(f"m{n}", draw(st.none() | st.integers(30, 400))) for n in range(count)]
    return (start, start + length), places, materials


@given(stretches(), st.data())
@settings(max_examples=120, deadline=None)
def test_every_frame_is_filled_once_and_no_clip_comes_twice_in_a_row(
    stretch: tuple[tuple[int, int], list[CutPlace], list[Material]], data: st.DataObject
) -> None:
    span, places, materials = stretch
    before = data.draw(st.none() | st.sampled_from([each.id for each in materials]))
    made = fill(span, places, materials, nothing, RATE, FillWish(), (before, None))
    assert made.parts[0].start == span[0]
    assert made.parts[-1].end == span[1]
    assert all(one.end == other.start and one.start < one.end for one, other in pairwise(made.parts))
    allowed = {place.frame for place in places}
    assert all(part.end in allowed for part in made.parts[:-1])
    if len(materials) > 1:
        assert all(one.shows != other.shows for one, other in pairwise(made.parts))
        assert made.parts[0].shows != before
    for part in made.parts:
        assert part.shows not in part.others
        assert len(part.others) == len(materials) - 1


def test_shots_last_as_asked_and_cuts_lie_where_they_cost_least() -> None:
    places = [CutPlace(frame, 0.6) for frame in range(10, 540, 10)]
    places[17] = CutPlace(180, 0.0)
    places[35] = CutPlace(360, 0.0)
    made = fill((0, 540), places, [Material(name, None) for name in "abcd"], nothing, RATE, FillWish())
    assert [(part.start, part.end) for part in made.parts] == [(0, 180), (180, 360), (360, 540)]
    short = FillWish(shortest_s=2, longest_s=3, fewest=1, most=9)
    free = [CutPlace(place.frame, 0.0) for place in places]
    many = fill((0, 540), free, [Material(name, None) for name in "abcdefgh"], nothing, RATE, short)
    assert [part for part in many.parts if not 2 * RATE <= part.end - part.start <= 3 * RATE] == []


def test_a_clip_stands_where_it_answers_and_is_not_used_again_without_need() -> None:
    places = [CutPlace(180, 0.0), CutPlace(360, 0.0)]

    def answers(start: int, _: int) -> Mapping[str, float]:
        return {"sea": 1.0, "boat": 0.8} if start < 360 else {"sea": 1.0}

    materials = [Material(name, None) for name in ("rock", "sea", "boat")]
    made = fill((0, 540), places, materials, answers, RATE, FillWish())
    assert made.parts[-1].shows == "sea"
    assert {part.shows for part in made.parts[:2]} <= {"sea", "boat"}
    assert made.parts[0].others[0] in ("sea", "boat")
    fresh = [*materials, Material("gull", None)]
    again = fill((0, 540), places, fresh, lambda *_: {"sea": 1.0, "boat": 0.9, "gull": 0.8}, RATE, FillWish())
    assert {part.shows for part in again.parts} == {"sea", "boat", "gull"}


def test_a_clip_that_is_too_short_gives_way_to_one_that_lasts() -> None:
    materials = [Material("short", 60), Material("long", None)]
    made = fill((0, 180), [], materials, lambda *_: {"short": 1.0}, RATE, FillWish())
    assert [part.shows for part in made.parts] == ["long"]
    with pytest.raises(ValueError, match="nothing"):
        fill((0, 180), [], [], nothing, RATE, FillWish())


def spoken() -> Project:
    return simple_project(["The sea comes in, then it goes out.", "A boat waits.", "Night falls."])


def test_cuts_may_lie_after_words_and_are_cheapest_after_a_line() -> None:
    project = spoken()
    timeline = build_timeline(project, {})
    end = timeline.shots[-1].end_frame
    places = cut_places(timeline, 0, end, on_beats=False)
    frames = [place.frame for place in places]
    assert frames == sorted(set(frames))
    assert all(0 < frame < end for frame in frames)
    for span in timeline.lines:
        last = project.rate.frames_floor(span.word_times_ticks()[-1][1]) + 1
        if 0 < last < end:
            assert next(place.cost for place in places if place.frame == last) == CUT_AT_LINE_END
    comma, after = timeline.lines[0].word_times_ticks()[3][1], timeline.lines[0].word_times_ticks()[4][0]
    between = [place for place in places if comma <= project.rate.ticks(place.frame) <= after + 30_000_000]
    assert min(place.cost for place in between) < 0.6
    assert words_within(timeline, 0, end).split() == [
        word.text for span in timeline.lines for word in span.words
    ]
    beats = project.changed(beats=tuple(project.rate.ticks(frame) for frame in (30, 60, 90)))
    assert [place.frame for place in cut_places(build_timeline(beats, {}), 0, 100, on_beats=True)] == [
        30,
        60,
        90,
    ]


def with_clips(project: Project) -> Project:
    clips = {
        name * 64: Clip(hash=name * 64, name=f"{name}.png", kind="still", width=100, height=100)
        for name in "abc"
    }
    return project.changed(clips=clips)


def test_filled_shots_take_the_place_of_others_and_nothing_else_moves() -> None:
    project = with_clips(spoken())
    darker = project.shots[0].changed(
        adjustment=Adjustment(exposure=-1), laid=(Laid(id="o1", picture="ring"),), clip_hash="c" * 64
    )
    project = project.changed(shots=(darker, *project.shots[1:]))
    before = build_timeline(project, {})
    total = before.shots[-1].end_frame
    lengths = [total // 2, total - total // 2]
    shots = tuple(
        FilledShot(frames=frames, clip_hash=name * 64, name=name)
        for frames, name in zip(lengths, "ab", strict=True)
    )
    edit = FillShots(first_shot_id=project.shots[0].id, last_shot_id=project.shots[-1].id, shots=shots)
    made, label = edit.apply(project)
    assert label == "Filled with 2 shots"
    assert [(shot.length_frames, shot.name) for shot in made.shots] == [(lengths[0], "a"), (lengths[1], "b")]
    assert all(shot.adjustment == UNADJUSTED and shot.laid == () for shot in made.shots)
    after = build_timeline(made, {})
    assert [span.start_ticks for span in after.lines] == [span.start_ticks for span in before.lines]
    assert [(c.in_frame, c.out_frame) for c in after.captions] == [
        (c.in_frame, c.out_frame) for c in before.captions
    ]


def test_what_is_locked_or_has_changed_is_not_filled() -> None:
    project = with_clips(spoken())
    first = project.shots[0]
    one = FillShots(
        first_shot_id=first.id,
        last_shot_id=first.id,
        shots=(FilledShot(frames=first.length_frames, clip_hash="a" * 64, name="a"),),
    )
    locked, _ = SetLock(kind="lock", what="shot", id=first.id, locked=True).apply(project)
    with pytest.raises(EditError, match="locked"):
        one.apply(locked)
    with pytest.raises(EditError, match="changed since"):
        one.changed(shots=(one.shots[0].changed(frames=first.length_frames + 1),)).apply(project)
    with pytest.raises(EditError, match="no picture"):
        one.changed(shots=(one.shots[0].changed(clip_hash="f" * 64),)).apply(project)


def test_words_that_tell_nothing_are_left_out() -> None:
    assert telling_words("Turn the starfish over, and it rights itself: slowly.", "en") == (
        "turn", "starfish", "rights", "itself", "slowly",
    )  # fmt: skip
    assert telling_words("La estrella está en la arena.", "es-ES") == ("estrella", "arena")
    assert shape_of(1080, 1920) == "upright"


def test_a_wish_holds_or_does_not() -> None:
    item = ShelfItem(
        id="a", title="A", kind="clip", seconds=7.0, source="own", shape="lying", commercial=False
    )
    assert Wish().holds(item)
    assert Wish(source="own", kind="clip", shape="lying", longest_s=7).holds(item)
    for wish in (Wish(source="piece"), Wish(kind="still"), Wish(shape="upright"), Wish(longest_s=5)):
        assert not wish.holds(item)
    assert Wish(shape="upright").holds(item.changed(shape="any"))

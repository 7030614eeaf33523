"""Shots moved, doubled, split, joined, frozen, at another speed: the words stay with their pictures."""

from collections.abc import Sequence

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from fox_cadence.core.edits import (
    AddShot,
    DeleteShot,
    DuplicateShot,
    EditError,
    FreezeFrame,
    JoinShots,
    MoveShot,
    SetFraming,
    SetLock,
    SetSpeed,
    SetTransition,
    SetWindow,
    SplitShot,
)
from fox_cadence.core.framing import Framing, View, view
from fox_cadence.core.integrity import integrity_errors
from fox_cadence.core.project import Line, Project
from fox_cadence.core.shot import Clip
from fox_cadence.core.shot_limits import least_frames
from fox_cadence.core.takes import Take
from fox_cadence.core.ticks import FrameRate
from fox_cadence.core.timeline import Timeline, shot_spans
from fox_cadence.core.timeline_builder import build_timeline
from tests.builders import simple_project, timelines

RATE = FrameRate(numerator=30)
HASH = "a" * 64


@pytest.fixture
def piece() -> Project:
    """Three shots of four seconds; the first shows a video of eight seconds from its second one on."""
    clip = Clip(hash=HASH, name="tide.mp4", kind="video", length_ticks=RATE.ticks(240))
    made = simple_project(["The tide goes out.", "A crab.", "It comes back."])
    first = made.shots[0].changed(clip_hash=HASH, source_in_ticks=RATE.ticks(30))
    return made.changed(clips={HASH: clip}, shots=(first, *made.shots[1:]))


def order(project: Project) -> str:
    return " ".join(shot.id for shot in project.shots)


def whole(project: Project) -> None:
    """Nothing is named that is not there, and all is in the order of time."""
    assert not list(integrity_errors(project))
    places = project.shot_index()
    for table in (project.captions, project.scene_texts):
        found = [places[each.shot_id] for each in table]
        assert found == sorted(found)
    firsts = [places[line.first_shot_id] for line in project.lines]
    assert firsts == sorted(firsts)
    for place, shot in enumerate(project.shots):
        assert shot.length_frames >= least_frames(project, place)


def test_a_shot_moves_with_its_words(piece: Project) -> None:
    made, label = MoveShot(shot_id="s1", to=1).apply(piece)
    assert order(made) == "s2 s1 s3"
    assert [line.id for line in made.lines] == ["l2", "l1", "l3"]
    assert [caption.id for caption in made.captions] == ["c2", "c1", "c3"]
    assert label == "Shot 1 moved to place 2"
    back, _ = MoveShot(shot_id="s1", to=0).apply(made)
    assert back == piece
    with pytest.raises(EditError, match="there already"):
        MoveShot(shot_id="s1", to=0).apply(piece)


def test_a_line_over_two_shots_stays_with_the_one_that_stays(piece: Project) -> None:
    longer = piece.lines[0].changed(last_shot_id="s2")
    over = piece.changed(lines=(longer, *piece.lines[1:]))
    made, _ = MoveShot(shot_id="s1", to=2).apply(over)
    assert order(made) == "s2 s3 s1"
    assert (made.line("l1").first_shot_id, made.line("l1").last_shot_id) == ("s2", "s2")
    assert made.caption("c1").shot_id == "s2"
    whole(made)


def test_a_double_has_the_picture_and_not_the_words(piece: Project) -> None:
    dissolved, _ = SetTransition(shot_id="s1", frames=6).apply(piece)
    made, _ = DuplicateShot(shot_id="s1").apply(dissolved)
    assert order(made) == "s1 s4 s2 s3"
    assert [shot.transition_frames for shot in made.shots] == [0, 6, 0, 0]
    assert made.shots[1].source_in_ticks == made.shots[0].source_in_ticks
    assert not [each for each in made.captions if each.shot_id == "s4"]
    whole(made)


def test_what_comes_after_a_split_belongs_to_the_second_shot(piece: Project) -> None:
    late = piece.captions[0].changed(in_frames=70, out_frames=110)
    placed = piece.lines[0].changed(wanted_offset_ticks=RATE.ticks(70))
    made, _ = SplitShot(shot_id="s1", at_frames=60).apply(
        piece.changed(captions=(late, *piece.captions[1:]), lines=(placed, *piece.lines[1:]))
    )
    assert order(made) == "s1 s4 s2 s3"
    assert [shot.length_frames for shot in made.shots] == [60, 60, 120, 120]
    assert made.shots[1].source_in_ticks == RATE.ticks(90)
    assert (made.caption("c1").shot_id, made.caption("c1").in_frames) == ("s4", 10)
    line = made.line("l1")
    assert (line.first_shot_id, line.last_shot_id, line.wanted_offset_ticks) == ("s4", "s4", RATE.ticks(10))


@pytest.mark.parametrize(
    ("edit", "words"),
    [
        (SplitShot(shot_id="s1", at_frames=120), "from frame 1 to 119"),
        (JoinShots(shot_id="s1"), "does not go on where shot 1 ends"),
        (JoinShots(shot_id="s3"), "the last shot"),
        (FreezeFrame(shot_id="s2", at_frames=10, frames=20), "has a frame to freeze"),
        (SetWindow(shot_id="s1", source_in_frames=200, length_frames=100), "frame 140 at the latest"),
        (SetWindow(shot_id="s2", source_in_frames=0, length_frames=100), "Only a shot with a video"),
        (SetSpeed(shot_id="s1", percent=200, keep_length=True), "frame 0 at the latest"),
    ],
)
def test_what_cannot_be_is_said_in_words(piece: Project, edit: SplitShot, words: str) -> None:
    with pytest.raises(EditError, match=words):
        edit.apply(piece)


def test_a_locked_shot_is_neither_split_nor_joined(piece: Project) -> None:
    locked, _ = SetLock(what="shot", id="s1", locked=True).apply(piece)
    for edit in (SplitShot(shot_id="s1", at_frames=60), JoinShots(shot_id="s1")):
        with pytest.raises(EditError, match="Shot 1 is locked"):
            edit.apply(locked)


def test_a_frozen_frame_stands_between_the_parts_of_its_shot(piece: Project) -> None:
    made, _ = FreezeFrame(shot_id="s1", at_frames=60, frames=45).apply(piece)
    assert [(shot.length_frames, shot.speed_percent) for shot in made.shots[:3]] == [
        (60, 100), (45, 0), (60, 100),
    ]  # fmt: skip
    assert made.shots[1].source_in_ticks == made.shots[2].source_in_ticks == RATE.ticks(90)
    whole(made)
    at_its_start, _ = FreezeFrame(shot_id="s1", at_frames=0, frames=45).apply(piece)
    assert [shot.speed_percent for shot in at_its_start.shots] == [0, 100, 100, 100]


def test_a_split_shot_goes_on_moving_and_a_frozen_frame_stands_where_it_was(piece: Project) -> None:
    moving = Framing(movement="in", amount=0.3, x=0.2)
    framed, _ = SetFraming(shot_id="s1", framing=moving).apply(piece)
    sizes = (1920, 1080), (1080, 1920)

    def views(project: Project, until: int) -> list[View]:
        return [
            view(shot.framing, *sizes, frame / max(1, shot.length_frames - 1))
            for shot in project.shots[:until]
            for frame in range(shot.length_frames)
        ]

    split, _ = SplitShot(shot_id="s1", at_frames=37).apply(framed)
    for found, meant in zip(views(split, 2), views(framed, 1), strict=True):
        assert [found.left, found.width] == pytest.approx([meant.left, meant.width])
    again, _ = SplitShot(shot_id="s4", at_frames=20).apply(split)
    for shot_id in ("s4", "s1"):
        again, _ = JoinShots(shot_id=shot_id).apply(again)
    assert again == framed
    frozen, _ = FreezeFrame(shot_id="s1", at_frames=37, frames=9).apply(framed)
    held = views(frozen, 2)[37:]
    assert len(set(held)) == 1
    assert held[0].width == pytest.approx(views(framed, 1)[37].width)
    other, _ = SetFraming(shot_id="s4", framing=moving).apply(split)
    with pytest.raises(EditError, match="does not go on"):
        JoinShots(shot_id="s1").apply(other)


def test_past_the_end_of_its_clip_a_shot_has_no_frame_to_split_or_to_freeze(piece: Project) -> None:
    """The voice led it past the 210 frames its clip has from where it begins."""
    longer = piece.shots[0].changed(length_frames=250, wanted_frames=250)
    held = piece.changed(shots=(longer, *piece.shots[1:]))
    made, _ = SplitShot(shot_id="s1", at_frames=200).apply(held)
    assert [shot.length_frames for shot in made.shots[:2]] == [200, 50]
    for edit in (SplitShot(shot_id="s1", at_frames=220), FreezeFrame(shot_id="s1", at_frames=220, frames=9)):
        with pytest.raises(EditError, match="ends at its frame 210"):
            edit.apply(held)
    with pytest.raises(EditError, match="more than once"):
        SplitShot(shot_id="s1", at_frames=200).apply(held.changed(past_clip_end="repeat"))


def test_another_part_of_a_clip_leaves_the_wanted_length_as_it_is(piece: Project) -> None:
    fitted = piece.shots[0].changed(length_frames=110)
    slipped, _ = SetWindow(shot_id="s1", source_in_frames=40, length_frames=110).apply(
        piece.changed(shots=(fitted, *piece.shots[1:]))
    )
    shot = slipped.shots[0]
    assert (shot.length_frames, shot.wanted_frames, shot.source_in_ticks) == (110, 120, RATE.ticks(40))


def test_at_half_speed_the_same_part_lasts_twice_as_long(piece: Project) -> None:
    slow, label = SetSpeed(shot_id="s1", percent=50).apply(piece)
    assert (slow.shots[0].length_frames, label) == (240, "Shot 1 at 50 % of its speed")
    back, _ = SetSpeed(shot_id="s1", percent=100).apply(slow)
    assert back == piece
    held, _ = SetSpeed(shot_id="s1", percent=50, keep_length=True).apply(piece)
    assert held.shots[0].length_frames == 120


def test_a_picture_goes_and_its_time_stays(piece: Project) -> None:
    made, _ = DeleteShot(shot_id="s1", keep_time=True).apply(piece)
    assert order(made) == "s1 s2 s3"
    assert (made.shots[0].clip_hash, made.shots[0].length_frames) == (None, 120)
    assert made.lines == piece.lines


def heard_and_seen(timeline: Timeline) -> tuple[Sequence[object], Sequence[object]]:
    captions = [(each.caption.id, each.in_frame, each.out_frame) for each in timeline.captions]
    return sorted(captions), [(span.line.id, span.start_ticks, span.lengths) for span in timeline.lines]


def takes_of(timeline: Timeline) -> dict[str, Take]:
    return {span.take.id: span.take for span in timeline.lines if span.take is not None}


@given(timelines(locks=False, wishes=False), st.data())
def test_a_split_is_neither_seen_nor_heard_and_joining_takes_it_back(
    timeline: Timeline, data: st.DataObject
) -> None:
    project = timeline.project
    place = data.draw(st.integers(0, len(project.shots) - 1))
    shot = project.shots[place]
    at = data.draw(st.integers(1, shot.length_frames - 1))
    made, _ = SplitShot(shot_id=shot.id, at_frames=at).apply(project)
    whole(made)
    after = [(span.start_frame, span.end_frame) for span in shot_spans(project)[place + 1 :]]
    assert [(span.start_frame, span.end_frame) for span in shot_spans(made)[place + 2 :]] == after
    joined, _ = JoinShots(shot_id=shot.id).apply(made)
    assert heard_and_seen(build_timeline(joined, takes_of(timeline))) == heard_and_seen(timeline)
    assert [each.length_frames for each in joined.shots] == [each.length_frames for each in project.shots]
    assert [unplaced(line) for line in joined.lines] == [unplaced(line) for line in project.lines]


def unplaced(line: Line) -> tuple[object, ...]:
    return line.id, line.first_shot_id, line.last_shot_id, line.wanted_offset_ticks, line.marks


@given(timelines(), st.data())
def test_wherever_a_shot_goes_everything_keeps_its_place(timeline: Timeline, data: st.DataObject) -> None:
    project = timeline.project
    shot = data.draw(st.sampled_from(project.shots))
    to = data.draw(st.integers(0, len(project.shots)))
    assume(min(to, len(project.shots) - 1) != project.shots.index(shot))
    made, _ = MoveShot(shot_id=shot.id, to=to).apply(project)
    whole(made)
    assert {line.id for line in made.lines} == {line.id for line in project.lines}
    assert sum(each.length_frames for each in made.shots) == sum(each.length_frames for each in project.shots)
    for line in made.lines:
        if project.line(line.id).first_shot_id == project.line(line.id).last_shot_id:
            assert line.first_shot_id == project.line(line.id).first_shot_id


@given(timelines(), st.data())
def test_a_double_moves_what_follows_by_its_length(timeline: Timeline, data: st.DataObject) -> None:
    shot = data.draw(st.sampled_from(timeline.project.shots))
    made, _ = DuplicateShot(shot_id=shot.id).apply(timeline.project)
    whole(made)
    again, _ = DeleteShot(shot_id=made.shots[made.shots.index(made.shot(shot.id)) + 1].id).apply(made)
    assert [each.id for each in again.shots] == [each.id for each in timeline.project.shots]


def test_a_new_shot_after_a_split_has_an_id_of_its_own(piece: Project) -> None:
    split, _ = SplitShot(shot_id="s1", at_frames=30).apply(piece)
    added, _ = AddShot(after_shot_id="s1", seconds=1).apply(split)
    whole(added)
    assert len({shot.id for shot in added.shots}) == 5

"""Edits of lines, marks, cast and shots beyond their words and lengths."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.edits import (
    AddRole,
    Applied,
    DeleteShot,
    EditError,
    MergeLines,
    SetBeats,
    SetHouse,
    SetLane,
    SetLineRole,
    SetLineRoom,
    SetLineStart,
    SetLock,
    SetOnBeat,
    SetPause,
    SetRole,
    SetSaid,
    SetSettings,
    SetShotGivesWay,
    SetShotLimits,
    SetShotSound,
    SetSync,
    SetTransition,
    SplitLine,
    apply_all,
)
from fox_cadence.core.marks import PauseMark, SyncPoint
from fox_cadence.core.project import Placement, Project, SceneText, said_text
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.words import words_of
from tests.builders import simple_project

SAID = "one two three four five six"


@pytest.fixture
def project() -> Project:
    return simple_project([SAID, "seven eight", "nine"])


def test_a_line_cut_in_two_keeps_every_word_and_its_marks(project: Project) -> None:
    marked, _ = apply_all(
        project,
        [
            SetPause(line_id="l1", after_word=0, seconds=0.3),
            SetPause(line_id="l1", after_word=4, seconds=0.5),
            SetSync(line_id="l1", word=3, shot_id="s1", frames=60),
        ],
    )
    cut, label = SplitLine(line_id="l1", before_word=3).apply(marked)
    assert label == "Line 1 cut in two"
    first, second = cut.lines[:2]
    assert [said_text(cut, line) for line in cut.lines] == [
        "one two three",
        "four five six",
        "seven eight",
        "nine",
    ]
    assert first.marks == (PauseMark(after_word=0, ticks=seconds_to_ticks(0.3)),)
    assert set(second.marks) == {
        PauseMark(after_word=1, ticks=seconds_to_ticks(0.5)),
        SyncPoint(word=0, shot_id="s1", frames=60),
    }
    shown = [cut.caption(line.caption_ids[0]) for line in (first, second)]
    assert shown[0].in_frames < shown[0].out_frames <= shown[1].in_frames < shown[1].out_frames


def test_a_pause_at_the_place_of_the_cut_goes_with_the_cut(project: Project) -> None:
    marked, _ = SetPause(line_id="l1", after_word=2, seconds=0.3).apply(project)
    cut, _ = SplitLine(line_id="l1", before_word=3).apply(marked)
    assert cut.lines[0].marks == cut.lines[1].marks == ()


def test_the_second_half_may_be_said_over_the_next_shot(project: Project) -> None:
    cut, _ = SplitLine(line_id="l1", before_word=2, second_shot_id="s2").apply(project)
    first, second = cut.lines[:2]
    assert (first.first_shot_id, first.last_shot_id) == ("s1", "s1")
    assert (second.first_shot_id, second.last_shot_id) == ("s2", "s2")
    assert cut.caption(second.caption_ids[0]).shot_id == "s2"


def test_a_scene_text_is_cut_with_its_line(project: Project) -> None:
    text = SceneText(id="t1", shot_id="s1", text="unseen but heard")
    line = project.lines[0].changed(id="l9", caption_ids=(), scene_text_id="t1")
    scene = project.changed(scene_texts=(text,), lines=(line, *project.lines))
    cut, _ = SplitLine(line_id="l9", before_word=1).apply(scene)
    assert [item.text for item in cut.scene_texts] == ["unseen", "but heard"]
    joined, _ = MergeLines(line_id="l9").apply(cut)
    assert [item.text for item in joined.scene_texts] == ["unseen but heard"]
    assert said_text(joined, joined.lines[0]) == "unseen but heard"


@given(st.integers(1, 5))
def test_cutting_and_joining_gives_the_words_back(before_word: int) -> None:
    marks = [SetPause(line_id="l1", after_word=n, seconds=0.2) for n in range(5) if n != before_word - 1]
    project, _ = apply_all(simple_project([SAID, "nine"]), marks)
    cut, _ = SplitLine(line_id="l1", before_word=before_word).apply(project)
    joined, label = MergeLines(line_id="l1").apply(cut)
    assert label == "Lines 1 and 2 joined"
    assert said_text(joined, joined.lines[0]) == SAID
    assert sorted(joined.lines[0].marks, key=lambda mark: getattr(mark, "after_word", 0)) == list(
        project.lines[0].marks
    )
    assert joined.lines[0].take_id is None


def test_joined_lines_span_the_shots_of_both(project: Project) -> None:
    joined, _ = MergeLines(line_id="l2").apply(project)
    assert [(line.first_shot_id, line.last_shot_id) for line in joined.lines] == [("s1", "s1"), ("s2", "s3")]
    assert joined.lines[1].caption_ids == ("c2", "c3")
    assert said_text(joined, joined.lines[1]) == "seven eight nine"


def test_own_wording_is_joined_with_what_the_other_shows(project: Project) -> None:
    own, _ = SetSaid(line_id="l2", text="7, 8").apply(project)
    joined, _ = MergeLines(line_id="l2").apply(own)
    assert said_text(joined, joined.lines[1]) == "7, 8 nine"
    assert [caption.text for caption in joined.captions[1:]] == ["seven eight", "nine"]


def test_a_line_goes_to_another_role_lane_and_start(project: Project) -> None:
    changed, label = apply_all(
        project,
        [
            AddRole(name=" limpet ", voice_id="pell"),
            SetLineRole(line_id="l2", role_id="r2"),
            SetLane(line_id="l3", lane=1, may_overlap=True),
            SetLineStart(line_id="l1", offset_s=0.75),
            SetLineRoom(line_id="l1", j_cut_s=0.2, give_way="voice"),
        ],
    )
    assert label.split("; ") == [
        "Role limpet",
        "Line 2 said by limpet",
        "Line 3 on the second lane, over the others",
        "Start of line 1",
        "Room of line 1",
    ]
    first, second, third = changed.lines
    assert second.role_id == changed.roles[1].id == "r2"
    assert changed.roles[1].colour == 1
    assert (third.lane, third.may_overlap) == (1, True)
    assert first.wanted_offset_ticks == seconds_to_ticks(0.75)
    assert (first.longest_j_cut_ticks, first.longest_l_cut_ticks, first.give_way) == (
        seconds_to_ticks(0.2), None, "voice",
    )  # fmt: skip
    back, _ = SetLane(line_id="l3", lane=0, may_overlap=True).apply(changed)
    assert not back.lines[2].may_overlap


def test_a_fitted_line_moves_with_its_wanted_start(project: Project) -> None:
    placed = project.lines[0].changed(placement=Placement(offset_ticks=5, spans=()))
    fitted = project.changed(lines=(placed, *project.lines[1:]))
    moved, _ = SetLineStart(line_id="l1", offset_s=1).apply(fitted)
    assert moved.lines[0].placement is not None
    assert moved.lines[0].placement.offset_ticks == seconds_to_ticks(1)


def test_delivery_changes_only_what_is_named(project: Project) -> None:
    changed, label = SetRole(role_id="r1", pace=1.1).apply(project)
    assert changed.roles[0] == project.roles[0].changed(pace=1.1)
    assert label == "Delivery of narrator"


def test_marks_are_set_replaced_and_taken_away(project: Project) -> None:
    made, label = SetPause(line_id="l1", after_word=1, seconds=0.4).apply(project)
    assert label == "Line 1: pause of 0.40 s after “two”"
    made, _ = SetPause(line_id="l1", after_word=1, seconds=0.6).apply(made)
    assert made.lines[0].marks == (PauseMark(after_word=1, ticks=seconds_to_ticks(0.6)),)
    made, label = SetPause(line_id="l1", after_word=1).apply(made)
    assert made.lines[0].marks == ()
    assert label == "Line 1: no written pause after “two”"
    held, label = SetSync(line_id="l1", word=2, shot_id="s1", frames=30).apply(made)
    assert label == "Line 1: “three” on frame 30 of shot 1"
    held, label = SetSync(line_id="l1", word=2, shot_id="s2").apply(held)
    assert held.lines[0].marks == (SyncPoint(word=2, shot_id="s2", frames=0),)
    assert label == "Line 1: “three” on the cut to shot 2"
    free, _ = SetSync(line_id="l1", word=2).apply(held)
    assert free.lines[0].marks == ()


def test_shots_get_limits_dissolves_beats_and_sound(project: Project) -> None:
    changed, label = apply_all(
        project,
        [
            SetShotLimits(shot_id="s2", shortest_frames=90, longest_frames=200),
            SetTransition(shot_id="s1", frames=12),
            SetBeats(times_s=[2.0, 1.0, 2.0]),
            SetOnBeat(shot_id="s2", on_beat=True),
            SetShotGivesWay(shot_id="s3", give_way="picture"),
            SetShotSound(shot_id="s3", gain_db=-12),
        ],
    )
    said = ["Shot 1 becomes the next in 12 frames, dissolve", "2 beats", "Cut to shot 2 on a beat"]
    assert label.split("; ")[1:4] == said
    assert (changed.shots[1].shortest_frames, changed.shots[1].longest_frames) == (90, 200)
    assert changed.shots[0].transition_frames == 12
    assert changed.shots[1].on_beat
    assert changed.shots[2].give_way == "picture"
    none, _ = SetBeats(times_s=[]).apply(changed)
    assert not none.shots[1].on_beat


def test_a_dissolve_that_no_longer_fits_becomes_a_plain_cut(project: Project) -> None:
    dissolved, _ = SetTransition(shot_id="s1", frames=60).apply(project)
    short = dissolved.shots[2].changed(length_frames=30, wanted_frames=30)
    dissolved = dissolved.changed(shots=(*dissolved.shots[:2], short))
    fewer, _ = DeleteShot(shot_id="s2").apply(dissolved)
    assert [shot.transition_frames for shot in fewer.shots] == [0, 0]
    roomy, _ = DeleteShot(shot_id="s3").apply(dissolved)
    assert roomy.shots[0].transition_frames == 60


LOCKED = SetLock(what="line", id="l1", locked=True)


@pytest.mark.parametrize(
    ("edits", "words"),
    [
        ([SplitLine(line_id="l1", before_word=6)], "has 6 words"),
        ([LOCKED, SplitLine(line_id="l1", before_word=2)], "locked"),
        ([SetSaid(line_id="l1", text="so"), SplitLine(line_id="l1", before_word=1)], "has 1 words"),
        (
            [SetSaid(line_id="l1", text="so it is"), SplitLine(line_id="l1", before_word=1)],
            "says other words than it shows",
        ),
        ([MergeLines(line_id="l3")], "last line"),
        ([LOCKED, MergeLines(line_id="l1")], "locked"),
        ([SetLane(line_id="l2", lane=1), MergeLines(line_id="l1")], "different lanes"),
        (
            [
                AddRole(name="x", voice_id="pell"),
                SetLineRole(line_id="l2", role_id="r2"),
                MergeLines(line_id="l1"),
            ],
            "different voices",
        ),
        ([LOCKED, SetLineStart(line_id="l1", offset_s=1)], "locked"),
        ([LOCKED, SetSync(line_id="l1", word=0, shot_id="s1")], "locked"),
        ([SetPause(line_id="l1", after_word=5, seconds=1)], "between two words"),
        ([SetPause(line_id="l1", after_word=9, seconds=1)], "no word 10"),
        ([SetSync(line_id="l1", word=0, shot_id="s1", frames=120)], "has 120 frames"),
        ([SetShotLimits(shot_id="s1", shortest_frames=9, longest_frames=8)], "above the longest"),
        ([SetTransition(shot_id="s3", frames=3)], "nothing for it to become"),
        ([SetTransition(shot_id="s1", frames=120)], "need 121"),
        ([SetOnBeat(shot_id="s1", on_beat=True)], "begins with the first shot"),
        ([SetOnBeat(shot_id="s2", on_beat=True)], "No beats are known"),
        ([SetBeats(times_s=[-1])], "between 0 and 7200"),
        ([SetSettings(length_fixed=True)], "Give the piece a length first"),
    ],
)
def test_what_cannot_be_is_refused_in_words(project: Project, edits: list[Applied], words: str) -> None:
    with pytest.raises(EditError, match=words):
        apply_all(project, edits)


def test_the_piece_is_held_to_its_length_until_the_limit_goes(project: Project) -> None:
    held, label = SetSettings(longest_s=12, length_fixed=True).apply(project)
    assert label == "Longest length, Held to its length"
    assert held.length_fixed
    free, _ = SetSettings(longest_s=0).apply(held)
    assert (free.longest_ticks, free.length_fixed) == (None, False)


@given(st.floats(0, 2), st.floats(5, 60))
def test_house_limits_come_in_seconds_and_are_kept_in_ticks(pause: float, rate: float) -> None:
    project = simple_project(["one"])
    changed, label = SetHouse(shortest_pause_s=pause, reading_rate_cps=rate).apply(project)
    assert label == "House limits"
    assert changed.house.shortest_pause_ticks == seconds_to_ticks(pause)
    assert changed.house.reading_rate_cps == rate
    same = changed.house.changed(
        shortest_pause_ticks=project.house.shortest_pause_ticks,
        reading_rate_cps=project.house.reading_rate_cps,
    )
    assert same == project.house
    assert words_of(said_text(changed, changed.lines[0]))

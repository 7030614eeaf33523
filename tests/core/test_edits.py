import pytest

from fox_cadence.core.edits import (
    AddCaption,
    AddSceneText,
    DeleteLine,
    DeleteShot,
    EditError,
    SetCaptionText,
    SetCaptionTimes,
    SetHouse,
    SetLock,
    SetSaid,
    SetSettings,
    SetShotLength,
    SetWindow,
    apply_all,
)
from fox_cadence.core.project import NotInProjectError, Project, said_text
from fox_cadence.core.shot import Clip
from fox_cadence.core.ticks import seconds_to_ticks
from tests.builders import simple_project


@pytest.fixture
def project() -> Project:
    made = simple_project(["one two", "three", "four five"])
    clip = Clip(hash="a" * 64, name="x.mp4", kind="video", length_ticks=seconds_to_ticks(5))
    shot = made.shots[0].changed(clip_hash=clip.hash)
    return made.changed(clips={clip.hash: clip}, shots=(shot, *made.shots[1:]))


def test_changing_the_caption_changes_what_is_said(project: Project) -> None:
    changed, label = SetCaptionText(caption_id="c2", text=" three and a half ").apply(project)
    assert said_text(changed, changed.lines[1]) == "three and a half"
    assert label == "Words of caption 2"


def test_own_wording_stays_when_the_caption_changes_and_can_be_given_up(project: Project) -> None:
    own, _ = SetSaid(line_id="l2", text="the third").apply(project)
    changed, _ = SetCaptionText(caption_id="c2", text="3").apply(own)
    assert said_text(changed, changed.lines[1]) == "the third"
    shown, _ = SetSaid(line_id="l2", text=None).apply(changed)
    assert said_text(shown, shown.lines[1]) == "3"


def test_a_longer_shot_moves_what_follows_or_takes_from_the_next(project: Project) -> None:
    moved, label = SetShotLength(shot_id="s1", length_frames=140).apply(project)
    assert [shot.length_frames for shot in moved.shots] == [140, 120, 120]
    assert label == "Shot 1, 20 frames longer"
    taken, _ = SetShotLength(shot_id="s1", length_frames=140, take_from_next=True).apply(project)
    assert [shot.length_frames for shot in taken.shots] == [140, 100, 120]
    assert [shot.wanted_frames for shot in taken.shots] == [140, 100, 120]


@pytest.mark.parametrize(
    ("edit", "words"),
    [
        (SetShotLength(shot_id="s1", length_frames=151), "150 frames"),
        (SetShotLength(shot_id="s2", length_frames=0), "at least one frame"),
        (SetShotLength(shot_id="s3", length_frames=130, take_from_next=True), "no next one"),
        (SetCaptionTimes(caption_id="c1", in_frame=10, out_frame=10), "go out after"),
        (SetCaptionTimes(caption_id="c1", in_frame=0, out_frame=999), "outside"),
        (SetWindow(shot_id="s1", source_in_frames=40, length_frames=120), "frame 30 at the latest"),
        (SetWindow(shot_id="s2", source_in_frames=4, length_frames=120), "with a video"),
    ],
)
def test_what_cannot_be_is_said_in_words(project: Project, edit: SetShotLength, words: str) -> None:
    with pytest.raises(EditError, match=words):
        edit.apply(project)


def test_a_locked_shot_keeps_its_length(project: Project) -> None:
    locked, label = SetLock(what="shot", id="s2", locked=True).apply(project)
    assert label == "Shot 2 locked"
    for edit in (
        SetShotLength(shot_id="s2", length_frames=90),
        SetShotLength(shot_id="s1", length_frames=90, take_from_next=True),
    ):
        with pytest.raises(EditError, match="locked"):
            edit.apply(locked)


def test_moving_a_caption_moves_the_wanted_start_of_its_line(project: Project) -> None:
    moved, _ = SetCaptionTimes(caption_id="c2", in_frame=150, out_frame=200).apply(project)
    assert moved.captions[1].in_frames == 30
    assert moved.lines[1].wanted_offset_ticks == project.rate.ticks(30) + project.house.caption_lead_ticks
    later, _ = SetCaptionTimes(caption_id="c2", in_frame=120, out_frame=200).apply(project)
    assert later.lines[1].wanted_offset_ticks is None


def test_words_added_get_a_line_in_their_place_and_are_taken_away_whole(project: Project) -> None:
    more, _ = AddCaption(shot_id="s2", text="three again").apply(project)
    assert [said_text(more, line) for line in more.lines] == ["one two", "three", "three again", "four five"]
    scene, _ = AddSceneText(shot_id="s1", text="unseen").apply(more)
    added = next(line for line in scene.lines if said_text(scene, line) == "unseen")
    assert added.first_shot_id == "s1"
    assert scene.lines[0].first_shot_id == "s1"
    without, _ = DeleteLine(line_id=added.id).apply(scene)
    assert without.scene_texts == ()
    assert len(without.captions) == 4


def test_no_word_is_lost_with_a_deleted_shot(project: Project) -> None:
    fewer, _ = DeleteShot(shot_id="s1").apply(project)
    assert [said_text(fewer, line) for line in fewer.lines] == ["one two", "three", "four five"]
    assert {line.first_shot_id for line in fewer.lines} == {"s2", "s3"}
    single = simple_project(["only"])
    with pytest.raises(EditError, match="at least one shot"):
        DeleteShot(shot_id="s1").apply(single)


def test_settings_change_only_what_is_named(project: Project) -> None:
    changed, label = apply_all(project, [SetSettings(longest_s=60), SetHouse(fastest_pace=1.2, lead_s=0.2)])
    assert changed.longest_ticks == seconds_to_ticks(60)
    assert changed.house.fastest_pace == 1.2
    assert changed.house.lead_ticks == seconds_to_ticks(0.2)
    assert changed.house.slowest_pace == project.house.slowest_pace
    assert "Longest length" in label
    unlimited, _ = SetSettings(longest_s=0).apply(changed)
    assert unlimited.longest_ticks is None


def test_an_edit_of_something_gone_is_refused(project: Project) -> None:
    with pytest.raises(NotInProjectError, match="c9"):
        SetCaptionText(caption_id="c9", text="x").apply(project)


def test_a_caption_may_last_to_the_end_of_the_piece_and_no_frame_longer() -> None:
    project = simple_project(["one", "two"], 2.0)
    made, _ = SetCaptionTimes(caption_id="c2", in_frame=100, out_frame=120).apply(project)
    assert made.captions[1].out_frames == 60
    with pytest.raises(EditError, match="from frame 0 to 120"):
        SetCaptionTimes(caption_id="c2", in_frame=100, out_frame=121).apply(project)

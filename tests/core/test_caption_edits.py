"""Edits of captions: to the frame, to the word, and what their lines do with them."""

import pytest

from fox_cadence.core.edits import (
    AddCaption,
    CutCaption,
    EditError,
    PinCaption,
    SetCaptionText,
    SetCaptionTimes,
    SetEmphasis,
)
from fox_cadence.core.project import Placement, Project, SpanLength
from fox_cadence.core.ticks import seconds_to_ticks
from tests.builders import simple_project

LEAD = seconds_to_ticks(0.1)


@pytest.fixture
def project() -> Project:
    """Three shots of 120 frames, each with a caption and a line."""
    return simple_project(["one two three", "four five", "six"], 4.0)


@pytest.mark.parametrize(("first", "last"), [(0, 1), (0, 120), (1, 2), (359, 360), (0, 360)])
def test_a_caption_may_stand_anywhere_in_the_piece_for_a_frame_or_more(
    project: Project, first: int, last: int
) -> None:
    made, label = SetCaptionTimes(caption_id="c2", in_frame=first, out_frame=last).apply(project)
    caption = made.caption("c2")
    assert (caption.in_frames, caption.out_frames) == (first - 120, last - 120)
    assert label == "Times of caption 2"


@pytest.mark.parametrize(
    ("first", "last", "words"),
    [(-1, 5, "frame 0 to 360"), (0, 361, "frame 0 to 360"), (5, 5, "after it comes in"), (6, 5, "after it")],
)
def test_a_caption_outside_the_piece_or_of_no_time_is_refused(
    project: Project, first: int, last: int, words: str
) -> None:
    with pytest.raises(EditError, match=words):
        SetCaptionTimes(caption_id="c1", in_frame=first, out_frame=last).apply(project)


def test_a_line_wants_to_start_with_its_first_caption_and_only_that_line(project: Project) -> None:
    lengths = (SpanLength(voiced_ticks=10, pause_ticks=0, written_ticks=0),)
    placed = tuple(
        line.changed(placement=Placement(offset_ticks=7, spans=lengths, take_id="t"))
        for line in project.lines
    )
    before = project.changed(lines=placed)
    made, _ = SetCaptionTimes(caption_id="c2", in_frame=150, out_frame=200).apply(before)
    wanted = project.rate.ticks(30) + project.house.caption_lead_ticks
    assert made.lines[1].wanted_offset_ticks == wanted
    placement = made.lines[1].placement
    assert placement is not None
    assert (placement.offset_ticks, placement.spans, placement.take_id) == (wanted, lengths, "t")
    assert (made.lines[0], made.lines[2]) == (before.lines[0], before.lines[2])
    out_only, _ = SetCaptionTimes(caption_id="c2", in_frame=120, out_frame=200).apply(before)
    assert out_only.lines == before.lines  # its line starts where it did


def test_a_locked_line_and_a_line_that_starts_with_another_caption_stay(project: Project) -> None:
    first, second, third = project.lines
    lines = (
        first.changed(caption_ids=("c1", "c2")),
        second.changed(caption_ids=()),
        third.changed(locked=True),
    )
    before = project.changed(lines=lines)
    for caption_id, start in (("c2", 130), ("c3", 250)):
        made, _ = SetCaptionTimes(caption_id=caption_id, in_frame=start, out_frame=start + 40).apply(before)
        assert made.lines == lines


def test_a_caption_at_the_very_start_leaves_its_line_the_lead_of_the_house(project: Project) -> None:
    made, _ = SetCaptionTimes(caption_id="c2", in_frame=100, out_frame=140).apply(project)
    assert made.lines[1].wanted_offset_ticks == project.house.lead_ticks


def test_pinning_is_named_and_taken_back(project: Project) -> None:
    pinned, label = PinCaption(caption_id="c3", pinned=True).apply(project)
    assert (label, [caption.pinned for caption in pinned.captions]) == (
        "Caption 3 pinned",
        [False, False, True],
    )
    free, label = PinCaption(caption_id="c3", pinned=False).apply(pinned)
    assert (label, free) == ("Caption 3 follows its words", project)


def test_a_new_caption_comes_after_those_of_its_shot_with_a_line_that_says_it(project: Project) -> None:
    shorter, _ = SetCaptionTimes(caption_id="c2", in_frame=125, out_frame=190).apply(project)
    made, label = AddCaption(shot_id="s2", text="  And more.  ").apply(shorter)
    assert label == f"Caption on {project.shots[1].name}"
    assert [caption.id for caption in made.captions] == ["c1", "c2", "c4", "c3"]
    caption = made.caption("c4")
    assert (caption.shot_id, caption.in_frames, caption.out_frames, caption.text) == (
        "s2",
        70,
        120,
        "And more.",
    )
    line = made.line("l4")
    assert [each.id for each in made.lines] == ["l1", "l2", "l4", "l3"]
    assert (line.role_id, line.first_shot_id, line.last_shot_id, line.caption_ids) == (
        "r1",
        "s2",
        "s2",
        ("c4",),
    )
    assert line.wanted_offset_ticks == project.rate.ticks(70) + project.house.lead_ticks


def test_where_a_shot_is_full_a_new_caption_has_its_last_two_frames(project: Project) -> None:
    made, _ = AddCaption(shot_id="s1", text="More.").apply(project)
    assert (made.caption("c4").in_frames, made.caption("c4").out_frames) == (118, 120)
    empty = project.changed(captions=(), lines=())
    first, _ = AddCaption(shot_id="s1", text="First.").apply(empty)
    assert (first.captions[0].id, first.captions[0].in_frames, first.captions[0].out_frames) == ("c1", 0, 120)
    with pytest.raises(EditError, match="The cast is empty"):
        AddCaption(shot_id="s1", text="x").apply(project.changed(roles=()))


def test_other_words_carry_the_marks_of_their_line_and_say_what_is_gone(project: Project) -> None:
    marked, _ = SetEmphasis(line_id="l1", first_word=2, end_word=3, level="strong").apply(project)
    kept, label = SetCaptionText(caption_id="c1", text="zero one two three").apply(marked)
    assert kept.lines[0].marks[0].first_word == 3  # type: ignore[union-attr]
    assert "gone" not in label
    lost, label = SetCaptionText(caption_id="c1", text="one two").apply(marked)
    assert (lost.lines[0].marks, label.endswith(", 1 mark gone with their words")) == ((), True)
    nobody = project.changed(lines=project.lines[1:])
    silent, label = SetCaptionText(caption_id="c1", text="Nobody says this.").apply(nobody)
    assert (silent.caption("c1").text, silent.lines) == ("Nobody says this.", nobody.lines)


def test_cutting_says_into_how_many_or_why_not() -> None:
    words = "the tide goes out and the crabs come down to the pools, where they wait until it turns"
    project = simple_project([f"{words}, and then they go", "short"], 4.0)
    made, label = CutCaption(caption_id="c1").apply(project)
    count = len(made.lines[0].caption_ids)
    assert count > 1
    assert label == f"Caption 1 cut into {count}"
    with pytest.raises(EditError, match="Caption 2 fits the house limits in one piece"):
        CutCaption(caption_id="c2").apply(project)

"""Lines laid elsewhere and doubled."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.edits import DuplicateLine, EditError, PlaceLine, SetEmphasis, SetLock
from fox_cadence.core.project import said_text
from tests.builders import simple_project

THREE = ["One tide.", "Two pools.", "Three crabs."]


def test_a_line_goes_to_another_shot_with_what_it_shows() -> None:
    made, label = PlaceLine(line_id="l1", first_shot_id="s3").apply(simple_project(THREE))
    assert label == "Line 1 moved to shot 3"
    assert [line.id for line in made.lines] == ["l2", "l3", "l1"]
    assert made.caption("c1").shot_id == "s3"
    wide, label = PlaceLine(line_id="l1", first_shot_id="s1", last_shot_id="s2").apply(simple_project(THREE))
    assert label == "Line 1 moved to shots 1 to 2"
    assert wide.captions == simple_project(THREE).captions
    with pytest.raises(EditError, match="before its first"):
        PlaceLine(line_id="l1", first_shot_id="s2", last_shot_id="s1").apply(simple_project(THREE))
    locked, _ = SetLock(what="line", id="l1", locked=True).apply(simple_project(THREE))
    with pytest.raises(EditError, match="is locked"):
        PlaceLine(line_id="l1", first_shot_id="s2").apply(locked)


@given(st.integers(1, 4), st.integers(1, 4))
def test_wherever_lines_are_laid_every_caption_lies_in_its_shot(line: int, shot: int) -> None:
    made, _ = PlaceLine(line_id=f"l{line}", first_shot_id=f"s{shot}").apply(simple_project([*THREE, "Four."]))
    assert {said_text(made, each) for each in made.lines} == {*THREE, "Four."}
    for caption in made.captions:
        assert 0 <= caption.in_frames < caption.out_frames <= made.shot(caption.shot_id).length_frames


def test_a_doubled_line_says_the_same_in_the_same_way() -> None:
    project, _ = SetEmphasis(line_id="l1", first_word=0, end_word=1, level="strong").apply(
        simple_project(THREE)
    )
    made, label = DuplicateLine(line_id="l1").apply(project)
    assert label == "Line 1 duplicated"
    assert [said_text(made, line) for line in made.lines] == [THREE[0], *THREE]
    assert made.lines[1].marks == project.line("l1").marks
    assert made.lines[1].caption_ids != made.lines[0].caption_ids

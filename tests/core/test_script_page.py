"""The script typed like a page: lines begun, cut, joined, moved and shown, and nothing is lost on the way."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from fox_cadence.core.edits import (
    Applied,
    EditError,
    InsertLines,
    JoinCaptions,
    JoinLines,
    MoveLines,
    SetHeading,
    SetLock,
    SetSaid,
    ShowLine,
    SplitLine,
    TypedLine,
)
from fox_cadence.core.integrity import integrity_errors
from fox_cadence.core.project import Project, Role, SceneText, said_text
from fox_cadence.core.timeline import Timeline, shot_spans
from fox_cadence.core.timeline_builder import build_timeline
from fox_cadence.core.words import words_of
from tests.builders import simple_project, timelines

FIVE = [f"Line {name} of five." for name in ("one", "two", "three", "four", "five")]


def said(project: Project) -> list[str]:
    return [said_text(project, line) for line in project.lines]


def shown(project: Project) -> list[list[str]]:
    return [[project.caption(each).text for each in line.caption_ids] for line in project.lines]


def sound(project: Project) -> bool:
    return not list(integrity_errors(project))


@given(timelines(), st.data())
def test_typed_lines_stand_where_they_were_typed_and_nothing_else_moves(
    timeline: Timeline, data: st.DataObject
) -> None:
    project = timeline.project
    assume(project.lines)
    place = data.draw(st.integers(0, len(project.lines) - 1))
    after = project.lines[place]
    typed = data.draw(
        st.lists(
            st.builds(TypedLine, text=st.sampled_from(FIVE), shown=st.booleans()), min_size=1, max_size=4
        )
    )
    made, _ = InsertLines(after_line_id=after.id, lines=tuple(typed)).apply(project)
    assert sound(made)
    assert [line for line in made.lines if line.id in {old.id for old in project.lines}] == list(
        project.lines
    )
    new = [line for line in made.lines if line.id not in {old.id for old in project.lines}]
    assert [said_text(made, line) for line in new] == [each.text for each in typed]
    assert made.lines.index(new[0]) > made.lines.index(after)
    assert [shot.id for shot in made.shots] == [shot.id for shot in project.shots]
    assert build_timeline(made, {}).lines


def test_a_script_is_typed_into_a_piece_that_has_nothing() -> None:
    bare = Project(name="Nothing", roles=(Role(id="r1", name="narrator", voice_id="orla"),))
    first, _ = InsertLines(lines=(TypedLine(text="The tide turns."),)).apply(bare)
    second, _ = InsertLines(after_line_id="l1", lines=(TypedLine(text="Nobody hears it."),)).apply(first)
    assert sound(second)
    assert said(second) == ["The tide turns.", "Nobody hears it."]
    assert len(second.shots) == 1
    spans = build_timeline(second, {}).lines
    assert spans[1].start_ticks >= spans[0].end_ticks


def test_a_shot_is_held_for_what_is_typed_over_it_where_it_gives_way() -> None:
    project = simple_project(["Short."], seconds=2)
    lines = tuple(TypedLine(text=text, seconds=2.0) for text in FIVE)
    held, _ = InsertLines(after_line_id="l1", lines=lines).apply(project)
    assert shot_spans(held)[-1].end_frame >= project.rate.frames_ceil(5 * 2 * 705_600_000)
    fixed, _ = InsertLines(after_line_id="l1", lines=lines).apply(project.changed(give_way="picture"))
    assert shot_spans(fixed)[-1].end_frame == shot_spans(project)[-1].end_frame
    assert sound(fixed)


def test_a_heading_among_what_is_typed_is_neither_shown_nor_said() -> None:
    project = simple_project(FIVE[:2])
    typed = (TypedLine(text="Rocks", heading=True), TypedLine(text="They wait."))
    made, _ = InsertLines(after_line_id="l1", lines=typed).apply(project)
    assert [text.text for text in made.scene_texts] == ["Rocks"]
    assert said(made) == [FIVE[0], "They wait.", FIVE[1]]


@given(timelines(), st.data())
def test_a_line_that_is_cut_and_joined_says_and_shows_what_it_did(
    timeline: Timeline, data: st.DataObject
) -> None:
    project = timeline.project
    assume(project.lines)
    line = data.draw(st.sampled_from(project.lines))
    words = words_of(said_text(project, line))
    assume(not line.locked and len(words) > 1)
    at = data.draw(st.integers(1, len(words) - 1))
    cut, _ = SplitLine(line_id=line.id, before_word=at).apply(project)
    assert sound(cut)
    known = {each.id for each in project.lines}
    second = next(each for each in cut.lines if each.id not in known)
    both = [said_text(cut, cut.line(line.id)), said_text(cut, second)]
    assert " ".join(both).split() == said_text(project, line).split()
    assume(cut.lines.index(second) == cut.lines.index(cut.line(line.id)) + 1)  # no other lane between
    joined, _ = JoinLines(line_id=second.id).apply(cut)
    assert sound(joined)
    assert said_text(joined, joined.line(line.id)).split() == said_text(project, line).split()
    assert len(joined.lines) == len(project.lines)


def test_a_line_of_two_captions_is_cut_between_them_or_in_one_of_them() -> None:
    project = simple_project(["A crab waits", "and watches us"])
    joined, _ = JoinLines(line_id="l2").apply(project)
    assert shown(joined) == [["A crab waits and watches us"]]
    project = simple_project(["A crab waits", "and watches us"])
    line = project.lines[0].changed(caption_ids=("c1", "c2"), last_shot_id="s2")
    project = project.changed(lines=(line,))
    between, _ = SplitLine(line_id="l1", before_word=3, second_shot_id="s2").apply(project)
    assert shown(between) == [["A crab waits"], ["and watches us"]]
    within, _ = SplitLine(line_id="l1", before_word=2).apply(project)
    assert shown(within) == [["A crab"], ["waits", "and watches us"]]
    one, _ = JoinCaptions(caption_id="c2").apply(project)
    assert shown(one) == [["A crab waits and watches us"]]


@given(timelines(locks=False), st.data())
def test_moved_lines_take_one_another_s_places_and_the_picture_stays(
    timeline: Timeline, data: st.DataObject
) -> None:
    project = timeline.project
    count = len(project.lines)
    assume(count)
    first = data.draw(st.integers(0, count - 1))
    end = data.draw(st.integers(first + 1, count))
    block = [line.id for line in project.lines[first:end]]
    rest = [line.id for line in project.lines if line.id not in block]
    before = data.draw(st.sampled_from([None, *rest]))
    made, _ = MoveLines(line_ids=tuple(block), before_line_id=before).apply(project)
    place = len(rest) if before is None else rest.index(before)
    assert [line.id for line in made.lines] == [*rest[:place], *block, *rest[place:]]
    assert made.shots == project.shots
    assert [(line.first_shot_id, line.last_shot_id) for line in made.lines] == [
        (line.first_shot_id, line.last_shot_id) for line in project.lines
    ]
    assert {caption.id: caption.text for caption in made.captions} == {
        caption.id: caption.text for caption in project.captions
    }
    assert sound(made)


def test_a_section_moves_with_its_heading() -> None:
    project = simple_project(FIVE).changed(scene_texts=(SceneText(id="t1", shot_id="s4", text="Rocks"),))
    made, _ = MoveLines(line_ids=("l4", "l5"), before_line_id="l2", heading_ids=("t1",)).apply(project)
    assert [line.id for line in made.lines] == ["l1", "l4", "l5", "l2", "l3"]
    assert made.scene_texts[0].shot_id == made.line("l4").first_shot_id == "s2"


def test_a_line_shown_and_taken_off_the_screen_says_the_same() -> None:
    project = simple_project(FIVE[:2])
    hidden, _ = ShowLine(line_id="l2", shown=False).apply(project)
    assert sound(hidden)
    assert (said(hidden), shown(hidden)) == (said(project), [[FIVE[0]], []])
    again, _ = ShowLine(line_id="l2", shown=True).apply(hidden)
    assert sound(again)
    assert (said(again), shown(again)) == (said(project), shown(project))
    other, _ = ShowLine(line_id="l2", shown=True, text="2 of 5").apply(hidden)
    assert (said(other), shown(other)[1]) == (said(project), ["2 of 5"])


def test_headings_are_written_and_changed() -> None:
    made, _ = SetHeading(shot_id="s2", text=" Rocks ").apply(simple_project(FIVE[:2]))
    again, _ = SetHeading(heading_id="t1", text="Pools").apply(made)
    assert [(text.shot_id, text.text) for text in again.scene_texts] == [("s2", "Pools")]


@pytest.mark.parametrize(
    ("edit", "words"),
    [
        (JoinLines(line_id="l1"), "first line"),
        (JoinCaptions(caption_id="c1"), "no caption before"),
        (MoveLines(line_ids=("l1",), before_line_id="l1"), "before itself"),
        (MoveLines(line_ids=("l1",), before_line_id=None), "Line 2 is locked"),
        (ShowLine(line_id="l3", shown=False), "A caption of line 3 is locked"),
    ],
)
def test_what_cannot_be_is_refused_in_words(edit: Applied, words: str) -> None:
    project = simple_project(FIVE[:3])
    for what, object_id in (("line", "l2"), ("caption", "c3")):
        project, _ = SetLock(what=what, id=object_id, locked=True).apply(project)
    with pytest.raises(EditError, match=words):
        edit.apply(project)


def test_own_words_stay_where_a_line_is_joined() -> None:
    project, _ = SetSaid(line_id="l1", text="Spoken otherwise").apply(simple_project(FIVE[:2]))
    joined, _ = JoinLines(line_id="l2").apply(project)
    assert said(joined) == [f"Spoken otherwise {FIVE[1]}"]

"""The same piece in another language: its words, what they stand for, and keeping up with the first."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.edits.base import EditError
from fox_cadence.core.integrity import integrity_errors
from fox_cadence.core.marks import PauseMark
from fox_cadence.core.project import Caption, Line, Project, Role, SceneText
from fox_cadence.core.shot import Shot
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.timeline import Timeline
from fox_cadence.core.version_words import UnmatchedError, by_order, by_pairs, by_times
from fox_cadence.core.versions import (
    UnitState,
    begin_version,
    caught_up,
    compare,
    confirmed,
    picture_differs,
    units,
    with_words,
)
from tests.builders import simple_project, timelines, voiced

TEXTS = ["The tide goes out.", "A crab waits, and waits.", "Nobody sees it."]


def piece() -> Project:
    """Three lines, the second over two captions and with a mark, and a heading."""
    made = simple_project(TEXTS)
    half = made.shots[1].length_frames // 2
    captions = (
        made.captions[0],
        made.captions[1].changed(text="A crab waits,", out_frames=half),
        Caption(id="c2b", shot_id="s2", in_frames=half, out_frames=2 * half, text="and waits."),
        made.captions[2],
    )
    second = made.lines[1].changed(
        caption_ids=("c2", "c2b"),
        marks=(PauseMark(after_word=2, ticks=seconds_to_ticks(0.5)),),
        voice_id="wren",
        locked=True,
    )
    return made.changed(
        captions=captions,
        lines=(made.lines[0], second, made.lines[2]),
        scene_texts=(SceneText(id="t1", shot_id="s1", text="LOW WATER", box=(0.1, 0.1, 0.5, 0.1)),),
    )


def spanish(first: Project) -> Project:
    return begin_version(first, "p1", "Marea", "es", {"r1": "es-alba"})


def test_units_are_headings_and_lines_in_the_order_of_the_piece() -> None:
    assert [(unit.id, unit.kind, unit.text) for unit in units(piece())] == [
        ("t1", "heading", "LOW WATER"),
        ("l1", "line", TEXTS[0]),
        ("l2", "line", TEXTS[1]),
        ("l3", "line", TEXTS[2]),
    ]


def test_a_version_keeps_the_picture_and_nothing_of_voices_or_marks() -> None:
    first = piece()
    version = spanish(first)
    assert version.shots == first.shots
    assert [role.voice_id for role in version.roles] == ["es-alba"]
    assert all(not line.marks and line.voice_id is None and not line.locked for line in version.lines)
    assert {each.state for each in compare(first, version)} == {UnitState.SAME}
    held = begin_version(first, "p1", "Marea", "es", {}, cuts="first")
    assert all(shot.locked for shot in held.shots)


def test_words_go_over_the_captions_of_their_line_and_stand_for_what_is_said_now() -> None:
    first = piece()
    version = with_words(
        spanish(first), {"l2": "Un cangrejo  espera,\ny espera.", "t1": "BAJAMAR", "l1": " "}, first
    )
    texts = {caption.id: caption.text for caption in version.captions}
    assert (texts["c2"], texts["c2b"]) == ("Un cangrejo espera,", "y espera.")
    assert version.scene_texts[0].text == "BAJAMAR"
    assert [each.state for each in compare(first, version)] == [
        UnitState.DONE, UnitState.SAME, UnitState.DONE, UnitState.SAME,
    ]  # fmt: skip
    assert not list(integrity_errors(version))


def test_one_word_for_a_line_of_two_captions_leaves_one() -> None:
    first = piece()
    version = with_words(spanish(first), {"l2": "Espera"}, first)
    assert [caption.id for caption in version.captions] == ["c1", "c2", "c3"]
    assert version.lines[1].caption_ids == ("c2",)


def test_words_of_the_first_that_change_later_mark_the_other_line() -> None:
    first = piece()
    version = with_words(spanish(first), {"l1": "La marea se va."}, first)
    later = first.changed(
        captions=(first.captions[0].changed(text="The tide comes in."), *first.captions[1:])
    )
    old = compare(later, version)[1]
    assert (old.state, old.before, old.words) == (UnitState.OUT_OF_DATE, TEXTS[0], "La marea se va.")
    assert compare(later, confirmed(version, ["l1"], later))[1].state is UnitState.DONE
    assert compare(later, with_words(version, {"l1": "La marea viene."}, later))[1].state is UnitState.DONE


def test_unknown_words_and_projects_that_are_no_version_are_refused() -> None:
    first = piece()
    with pytest.raises(EditError, match="no words 'l9'"):
        with_words(spanish(first), {"l9": "Nada"}, first)
    with pytest.raises(EditError, match="no version"):
        with_words(first, {"l1": "Nada"}, first)
    with pytest.raises(EditError, match="no version"):
        compare(first, first)


def test_a_version_catches_up_with_shots_and_lines_and_keeps_its_own_lengths() -> None:
    first = piece()
    version = with_words(spanish(first), {"l1": "La marea se va."}, first)
    version = version.changed(shots=(version.shots[0].changed(length_frames=150), *version.shots[1:]))
    assert not picture_differs(first, version)
    new = Shot(id="s4", name="Shot 4", length_frames=90, wanted_frames=90)
    later = first.changed(
        shots=(first.shots[0].changed(name="Ebb"), *first.shots[1:], new),
        roles=(*first.roles, Role(id="r2", name="crab", voice_id="wren")),
        captions=(*first.captions, Caption(id="c4", shot_id="s4", in_frames=0, out_frames=60, text="Gone.")),
        lines=(
            *first.lines,
            Line(id="l4", role_id="r2", first_shot_id="s4", last_shot_id="s4", caption_ids=("c4",)),
        ),
    )
    assert picture_differs(later, version)
    made = caught_up(version, later, {"r2": "es-dario"})
    assert [shot.name for shot in made.shots] == ["Ebb", "Shot 2", "Shot 3", "Shot 4"]
    assert made.shots[0].length_frames == 150
    assert made.role("r2").voice_id == "es-dario"
    assert made.line("l1").takes == ()
    assert [each.state for each in compare(later, made)][-1] is UnitState.SAME
    assert not picture_differs(later, made)


def test_a_line_the_version_dropped_does_not_come_back() -> None:
    first = piece()
    version = spanish(first)
    dropped = version.changed(lines=version.lines[:2], captions=version.captions[:3])
    assert caught_up(dropped, first, {}).lines == dropped.lines
    assert compare(first, dropped)[-1].state is UnitState.MISSING


def test_a_shot_that_is_gone_stays_where_the_version_has_words_on_it() -> None:
    first = piece()
    version = spanish(first)
    later = first.changed(
        shots=first.shots[:2],
        captions=first.captions[:3],
        lines=first.lines[:2],
    )
    made = caught_up(version, later, {})
    assert [shot.id for shot in made.shots] == ["s1", "s2", "s3"]
    assert compare(later, made)[-1].state is UnitState.OWN


@given(timelines(), st.data())
def test_any_words_keep_a_version_whole_and_say_exactly_them(timeline: Timeline, data: st.DataObject) -> None:
    first = timeline.project
    there = units(first)
    version = begin_version(first, "p1", "v", "es", {})
    some = data.draw(st.lists(st.sampled_from([each.id for each in there]), unique=True)) if there else []
    words = {key: " ".join(data.draw(st.lists(st.sampled_from(["mar", "¿qué?", "luz,"]), min_size=1)))
             for key in some}  # fmt: skip
    made = with_words(version, words, first)
    assert not list(integrity_errors(made))
    said = {unit.id: unit.text for unit in units(made)}
    assert {key: said[key] for key in words} == words
    assert caught_up(made, first, {}) == made


def test_pairs_belong_by_id_by_the_words_of_the_first_or_by_their_order() -> None:
    there = units(piece())
    named = by_pairs(there, [("l3", "", "C"), ("", "the tide GOES out", "A"), ("", "Elsewhere", "Z")])
    assert (named.words, named.without) == ({"l3": "C", "l1": "A"}, 2)
    assert named.remarks == ("“Elsewhere” is not in this piece",)
    ordered = by_pairs(there, [("", "English", "Spanish")] + [("", f"?{n}", str(n)) for n in range(4)])
    assert ordered.words == {"t1": "0", "l1": "1", "l2": "2", "l3": "3"}


def test_the_same_words_twice_are_two_units() -> None:
    there = units(simple_project(["Look.", "Look."]))
    found = by_pairs(there, [("", "Look.", "Mira."), ("", "Look.", "Mirad.")])
    assert found.words == {"l1": "Mira.", "l2": "Mirad."}


def test_timed_words_go_to_the_line_they_overlap_most() -> None:
    timeline = voiced(simple_project(TEXTS), [2.0, 2.0, 2.0])
    cues = [(0.2, 1.0, "A"), (3.0, 7.9, "B"), (1.0, 2.0, "a"), (30.0, 31.0, "far")]
    timed = [(seconds_to_ticks(a), seconds_to_ticks(b), text) for a, b, text in cues]
    found = by_times(units(timeline.project), timeline, timed)
    assert found.words == {"l1": "A a", "l2": "B"}
    assert found.without == 1
    assert found.remarks == ("“far” lies where the first says nothing",)


def test_paragraphs_belong_by_order_only_where_there_are_as_many() -> None:
    there = units(piece())
    assert by_order(there, ["A", "B", "C"], ["H"]).words == {"l1": "A", "l2": "B", "l3": "C", "t1": "H"}
    assert by_order(there, ["H", "A", "B", "C"], []).words == {"t1": "H", "l1": "A", "l2": "B", "l3": "C"}
    with pytest.raises(UnmatchedError, match="3 lines and the file 2 paragraphs"):
        by_order(there, ["A", "B"], [])


def test_only_what_is_said_changes_where_the_words_on_the_screen_stay() -> None:
    first = piece()
    version = begin_version(first, "p1", "Dub", "ja", {"r1": "ja-chiyo"}, shown="first")
    assert [line.said for line in version.lines] == TEXTS
    made = with_words(version, {"l1": "潮が引く。", "l2": "蟹が待つ。"}, first)
    assert made.captions == first.captions
    assert [line.said for line in made.lines] == ["潮が引く。", "蟹が待つ。", TEXTS[2]]
    assert [each.state for each in compare(first, made)[1:]] == [
        UnitState.DONE,
        UnitState.DONE,
        UnitState.SAME,
    ]
    assert not list(integrity_errors(made))
    assert caught_up(made, first, {}) == made


def test_a_line_that_says_other_words_than_it_shows_is_translated_by_what_it_says() -> None:
    first = piece()
    lines = (first.lines[0].changed(said="The tide goes out twice."), *first.lines[1:])
    first = first.changed(lines=lines)
    version = spanish(first)
    assert version.lines[0].said is None
    made = with_words(version, {"l1": "La marea se va dos veces."}, first)
    assert made.captions[0].text == "La marea se va dos veces."
    assert compare(first, made)[1].state is UnitState.DONE

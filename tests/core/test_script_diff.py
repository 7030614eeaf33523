"""Words brought in again, words laid on shots, punctuation for the ear, coverage."""

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.coverage import coverage
from fox_cadence.core.ear_punctuation import LONGEST_BREATH_WORDS, suggestions, with_commas
from fox_cadence.core.edits import SetCaptionText, SetEmphasis, SetSync
from fox_cadence.core.marks import Emphasis
from fox_cadence.core.project import Project, Role, SceneText, said_text
from fox_cadence.core.script_diff import apply_script, compare_script
from fox_cadence.core.script_layout import TimedText, in_script_order, lay_words
from fox_cadence.core.word_changes import prove, word_changes
from fox_cadence.core.words import words_of
from tests.builders import WORDS, simple_project, voiced

ROLE = Role(id="r1", name="narrator", voice_id="orla")
THREE = ["The tide turns twice a day.", "What it forgets, it keeps in pools.", "A crab tries on a shell."]


def texts(*said: str) -> list[TimedText]:
    return [TimedText(each) for each in said]


def said(project: Project) -> list[str]:
    return [said_text(project, line) for line in project.lines]


def test_a_script_that_changed_keeps_the_lines_that_did_not() -> None:
    project = simple_project(THREE)
    project, _ = SetEmphasis(line_id="l3", first_word=1, end_word=2, level="strong").apply(project)
    new = texts(THREE[0], "Something is watching.", "A crab tries on a shell; it is too small.")
    steps = compare_script(project, new)
    assert [(step.kind, step.line_id) for step in steps] == [
        ("same", "l1"), ("new", None), ("gone", "l2"), ("changed", "l3"),
    ]  # fmt: skip
    made = apply_script(project, steps, new, {})
    assert said(made) == [text.text for text in new]
    assert made.line("l1") == project.line("l1")
    assert len(made.line("l3").marks) == 1


def test_new_punctuation_is_told_from_new_words() -> None:
    steps = compare_script(simple_project(THREE), texts(*THREE[:2], "A crab, tries on, a shell!"))
    assert [step.kind for step in steps] == ["same", "same", "punctuation"]


def test_a_script_names_who_says_a_line() -> None:
    limpet = Role(id="r2", name="limpet", voice_id="pell")
    project = simple_project(THREE[:1], roles=(ROLE, limpet))
    script = [TimedText(THREE[0], role="limpet")]
    assert (
        apply_script(project, compare_script(project, script), script, {"limpet": limpet}).line("l1").role_id
        == "r2"
    )


line_texts = st.lists(
    st.lists(st.sampled_from(WORDS), min_size=1, max_size=6)
    .map(" ".join)
    .filter(lambda text: bool(words_of(text))),
    min_size=1,
    max_size=6,
)


@given(line_texts, line_texts)
def test_whatever_is_brought_in_again_is_what_is_said_afterwards(before: list[str], after: list[str]) -> None:
    project = simple_project(before)
    made = apply_script(project, compare_script(project, texts(*after)), texts(*after), {})
    assert said(made) == after
    assert made.shots == project.shots
    assert in_script_order(made, made.lines) == made.lines  # what is edited next does not turn them round


def test_headings_come_with_their_lines_and_a_script_without_any_leaves_them() -> None:
    project = simple_project(THREE, scene_texts=(SceneText(id="t1", shot_id="s1", text="Tides"),))
    script = [
        TimedText("Tides", heading=True),
        *texts(THREE[0]),
        TimedText("Crabs", heading=True),
        *texts(THREE[2]),
    ]
    made = apply_script(project, compare_script(project, script), script, {})
    assert [(text.id, text.shot_id, text.text) for text in made.scene_texts] == [
        ("t1", "s1", "Tides"), ("t2", "s3", "Crabs"),
    ]  # fmt: skip
    plain = texts(*THREE)
    assert apply_script(project, compare_script(project, plain), plain, {}).scene_texts == project.scene_texts


def test_words_held_to_the_picture_stay_held_when_a_script_brings_marks() -> None:
    project, _ = SetSync(line_id="l1", word=1, shot_id="s1", frames=9).apply(simple_project(THREE[:1]))
    script = [TimedText(THREE[0], marks=(Emphasis(first_word=0, end_word=1),))]
    marks = apply_script(project, compare_script(project, script), script, {}).line("l1").marks
    assert {mark.kind for mark in marks} == {"emphasis", "sync"}


def bare(shots: int) -> Project:
    made = simple_project(["x"] * shots)
    return made.changed(captions=(), lines=(), roles=())


def test_one_line_a_shot_lists_what_is_left_over() -> None:
    made, remarks = lay_words(bare(2), texts(*THREE), ROLE, layout="single")
    assert [line.first_shot_id for line in made.lines] == ["s1", "s2", "s2"]
    assert [(remark.place, "no shot left" in remark.message) for remark in remarks] == [
        ("line 3", True),
        ("picture", False),  # the last shot lasts longer for the two on it
    ]


def test_each_section_has_shots_of_its_own() -> None:
    script = [
        TimedText("One", heading=True),
        *texts(*THREE[:2]),
        TimedText("Two", heading=True),
        *texts(THREE[2]),
    ]
    made, remarks = lay_words(bare(3), script, ROLE, layout="section")
    assert [line.first_shot_id for line in made.lines] == ["s1", "s2", "s3"]
    assert [text.shot_id for text in made.scene_texts] == ["s1", "s3"]
    assert remarks == ()
    crowded, remarks = lay_words(bare(1), script, ROLE, layout="section")
    assert len(crowded.lines) == 3
    assert remarks[0].place == "sections"


@given(st.integers(1, 6), st.lists(st.integers(1, 4), min_size=1, max_size=6))
def test_sections_never_share_a_shot_while_there_are_enough(shots: int, counts: list[int]) -> None:
    script: list[TimedText] = []
    for number, count in enumerate(counts):
        script.append(TimedText(f"Part {number}", heading=True))
        script += texts(*[f"part{number} line{each}" for each in range(count)])
    made, _ = lay_words(bare(shots), script, ROLE, layout="section")
    assert said(made) == [text.text for text in script if not text.heading]
    if len(counts) <= shots:
        used = [
            {line.first_shot_id for line in made.lines if f"part{n} " in said_text(made, line)}
            for n in range(len(counts))
        ]
        assert sum(map(len, used)) == len(set().union(*used))


@pytest.mark.parametrize(
    ("language", "text", "made"),
    [
        (
            "en",
            "Finally the sea comes back but nobody cares.",
            "Finally, the sea comes back, but nobody cares.",
        ),
        ("en", "A crab and a limpet and a star live here.", "A crab, and a limpet, and a star live here."),
        (
            "es",
            "El mar vuelve cada día pero nadie lo espera.",
            "El mar vuelve cada día, pero nadie lo espera.",
        ),
        (
            "de",
            "Das Meer kommt jeden Tag aber niemand wartet.",
            "Das Meer kommt jeden Tag, aber niemand wartet.",
        ),
        ("en", "The tide turns, but nobody waits.", "The tide turns, but nobody waits."),
        ("fi", "Meri tulee aina mutta kukaan ei odota sitä.", "Meri tulee aina mutta kukaan ei odota sitä."),
    ],
)
def test_signs_a_speaker_breathes_at_are_found(language: str, text: str, made: str) -> None:
    found = suggestions(text, language)
    assert with_commas(text, [each.after_word for each in found]) == made
    assert all(each.why for each in found)


def test_a_long_run_is_given_a_breath() -> None:
    text = "the pools fill up one by one and the crabs come out "
    text += "and the weed lifts up and everything begins once more"
    found = suggestions(text, "en")
    assert any("one breath" in each.why for each in found)
    edges = [-1, *[each.after_word for each in found], len(words_of(text)) - 1]
    assert max(b - a for a, b in itertools.pairwise(edges)) <= LONGEST_BREATH_WORDS


@given(st.lists(st.sampled_from([*WORDS, "but", "and", "because"]), min_size=1, max_size=40).map(" ".join))
def test_punctuation_for_the_ear_never_touches_a_word(text: str) -> None:
    proof = prove(text, with_commas(text, [each.after_word for each in suggestions(text, "en")]))
    assert proof.holds
    assert not proof.added
    assert not proof.lost


def test_a_word_that_came_or_went_is_named() -> None:
    proof = prove("The tide turns twice.", "The tide, it turns!")
    assert (proof.holds, proof.added, proof.lost) == (False, ("it",), ("twice.",))
    assert [run.kind for run in word_changes("a b c", "a, b d")] == ["punctuation", "same", "lost", "added"]


def test_coverage_counts_by_section_and_role() -> None:
    roles = (ROLE, Role(id="r2", name="limpet", voice_id="pell"))
    heading = (SceneText(id="t1", shot_id="s2", text="Pools"),)
    project = simple_project(THREE, roles=roles, scene_texts=heading)
    project = project.changed(lines=(*project.lines[:2], project.lines[2].changed(role_id="r2")))
    timeline = voiced(project, [2, 2, 2])
    whole, by_section, by_role = coverage(timeline)
    assert (whole.lines, whole.open_ids) == (3, ())
    assert [(each.name, each.lines) for each in by_section] == [("Before the first heading", 1), ("Pools", 2)]
    assert [(each.name, each.lines) for each in by_role] == [("narrator", 2), ("limpet", 1)]


def test_words_that_changed_are_stale_in_the_coverage() -> None:
    project = simple_project(THREE)
    timeline = voiced(project, [2, 2, 2])
    changed, _ = SetCaptionText(caption_id="c2", text="Other words.").apply(timeline.project)
    from fox_cadence.core.timeline_builder import build_timeline

    takes = {span.take.id: span.take for span in timeline.lines if span.take}
    whole, _, _ = coverage(build_timeline(changed, takes), failed={"l2"})
    assert (whole.stale_ids, whole.missing_ids, whole.failed) == (("l2",), (), 1)
    recorded = {take_id: take.changed(recorded=True) for take_id, take in takes.items()}
    whole, _, _ = coverage(build_timeline(changed, recorded))
    assert (whole.open_ids, whole.spoken_before, whole.recorded) == ((), ("l2",), 3)

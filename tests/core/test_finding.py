"""Words found and replaced everywhere they stand."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from fox_cadence.core.edits import AddSceneText, EditError, ReplaceWords, SetPause, SetSaid, apply_all
from fox_cadence.core.finding import Query, find
from fox_cadence.core.marks import PauseMark
from fox_cadence.core.project import Project, said_text
from tests.builders import WORDS, simple_project


@pytest.fixture
def project() -> Project:
    made = simple_project(["The tide turns the pool.", "Tides  turn twice.", "A tide\npool"])
    made, _ = apply_all(
        made, [SetSaid(line_id="l2", text="The tide, twice."), AddSceneText(shot_id="s3", text="No tide")]
    )
    return made


def found(project: Project, text: str, **how: bool) -> list[str]:
    return [
        f"{place.object_id}:{place.text[place.start : place.end]}"
        for place in find(project, Query(text, **how))
    ]


def test_words_are_found_wherever_they_stand(project: Project) -> None:
    assert found(project, "tide") == ["c1:tide", "c3:tide", "l2:tide", "t1:tide"]
    assert found(project, "TIDE", match_case=True) == []
    assert found(project, "tide", whole_words=False) == [
        "c1:tide",
        "c2:Tide",
        "c3:tide",
        "l2:tide",
        "t1:tide",
    ]
    assert found(project, "tide pool") == ["c3:tide\npool"]
    assert found(project, "pool.") == ["c1:pool."]
    assert found(project, "  ") == []
    assert found(project, ".*") == []


def test_words_are_replaced_in_one_step_that_says_how_many(project: Project) -> None:
    made, label = ReplaceWords(find="tide", by="sea").apply(project)
    assert label == "“tide” replaced by “sea” in 4 places"
    assert [caption.text for caption in made.captions] == [
        "The sea turns the pool.",
        "Tides  turn twice.",
        "A sea\npool",
    ]
    assert made.lines[1].said == "The sea, twice."
    assert made.scene_texts[0].text == "No sea"
    assert said_text(made, made.lines[0]) == "The sea turns the pool."


def test_a_replacement_is_taken_as_it_is_typed(project: Project) -> None:
    made, label = ReplaceWords(find="pool.", by=r"\1 $& pool").apply(project)
    assert made.captions[0].text == r"The tide turns the \1 $& pool"
    assert label.endswith("in 1 place")


def test_marks_stay_with_the_words_that_stay(project: Project) -> None:
    marked, _ = apply_all(
        project,
        [
            SetPause(line_id="l1", after_word=1, seconds=0.3),
            SetPause(line_id="l1", after_word=2, seconds=0.4),
        ],
    )
    made, label = ReplaceWords(find="tide", by="whole wide sea").apply(marked)
    assert label.endswith(", 1 mark gone with their words")
    (mark,) = made.lines[0].marks
    assert isinstance(mark, PauseMark)
    assert mark.after_word == 4  # still after "turns"


@pytest.mark.parametrize(
    ("edit", "words"),
    [
        (ReplaceWords(find="moon", by="sea"), "stands nowhere"),
        (ReplaceWords(find="a tide pool", by=""), "Caption 3 would have no word left"),
        (ReplaceWords(find="The tide, twice.", by="…"), "Line 2 would have no word left"),
        (ReplaceWords(find="no tide", by=" "), "scene text “No tide” would have no word left"),
    ],
)
def test_no_text_is_emptied_by_the_way(project: Project, edit: ReplaceWords, words: str) -> None:
    with pytest.raises(EditError, match=words):
        edit.apply(project)


@given(st.lists(st.sampled_from(WORDS), min_size=1, max_size=12), st.sampled_from(["tide", "a", "crab"]))
def test_nothing_is_left_to_find_and_all_other_words_stay(words: list[str], sought: str) -> None:
    project = simple_project([" ".join(words)])
    assume(found(project, sought))
    made, _ = ReplaceWords(find=sought, by="stone").apply(project)
    assert found(made, sought) == []
    assert made.captions[0].text.split() == ["stone" if word == sought else word for word in words]

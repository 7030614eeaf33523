"""Paragraphs as they are typed, and how a piece would stand in other voices."""

import itertools
from pathlib import Path

import pytest

from fox_cadence.actions.bring_in import NewProject, new_project
from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.estimating import estimate_line, estimate_words
from fox_cadence.actions.projects import project_like, standing_of
from fox_cadence.actions.typing import read_paragraphs, typed_edits
from fox_cadence.actions.voice_standing import voice_standings
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import SetLock, SetRole
from fox_cadence.core.project import said_text
from fox_cadence.core.states import LineState
from fox_cadence.core.ticks import FrameRate, ticks_to_seconds
from fox_cadence.errors import NotFoundError

BAY = "marrow-bay"


def test_paragraphs_are_headings_words_of_a_role_or_just_words() -> None:
    found = read_paragraphs(
        ["# Rocks ", " The  sea. ", "", "LIMPET: Home.", "Note: bring boots", "#", "GULL:"]
    )
    assert [(each.text, each.role, each.heading) for each in found] == [
        ("Rocks", "", True),
        ("The sea.", "", False),
        ("Home.", "limpet", False),
        ("Note: bring boots", "", False),
        ("#", "", False),
        ("GULL:", "", False),
    ]


def test_a_script_is_typed_into_an_empty_project_with_a_role_for_each_new_name(workspace: Workspace) -> None:
    wanted = NewProject("Lamp", 216, 384, FrameRate(numerator=25))
    project_id = new_project(workspace, wanted, [], None).project_id
    head = workspace.head(project_id)
    assert head.project.shots == ()
    texts = ["# Evening", "The lamp goes round.", "KEEPER: I let it.", "Nobody counts."]
    make_edits(workspace, project_id, head, typed_edits(workspace, head.project, texts, None, None, True))
    project = workspace.head(project_id).project
    assert [role.name for role in project.roles] == ["narrator", "keeper"]
    assert project.roles[0].voice_id != project.roles[1].voice_id
    assert [(project.role(line.role_id).name, said_text(project, line)) for line in project.lines] == [
        ("narrator", "The lamp goes round."),
        ("keeper", "I let it."),
        ("narrator", "Nobody counts."),
    ]
    assert [text.text for text in project.scene_texts] == ["Evening"]
    spans = workspace.timeline(project).lines
    assert all(a.end_ticks <= b.start_ticks for a, b in itertools.pairwise(spans))
    assert all(span.spill_ticks == 0 for span in spans)  # the plain shot was held for them


def test_words_of_a_new_line_are_as_long_as_they_are_in_the_line_they_become(demo: Workspace) -> None:
    words = "The pool remembers everything."
    before = estimate_words(demo, BAY, "l6", words)
    head = demo.head(BAY)
    make_edits(demo, BAY, head, typed_edits(demo, head.project, [words], "l6", None, True))
    project = demo.head(BAY).project
    made = project.lines[[line.id for line in project.lines].index("l6") + 1]
    span = next(span for span in demo.timeline(project).lines if span.line.id == made.id)
    assert span.natural_ticks == pytest.approx(before.length_ticks, rel=0.02)
    left = demo.head(BAY).project.longest_ticks
    assert left is not None
    assert before.words_left > 0


def test_without_a_fit_a_line_is_judged_in_its_own_room(demo: Workspace) -> None:
    text = "A very long sentence, much too long for where it stands, and then some more of it to be sure."
    alone = estimate_line(demo, BAY, "l2", text, fitted=False)
    assert alone.state is LineState.SPILLS
    assert alone.words_left < 0
    assert estimate_line(demo, BAY, "l2", "Short.", fitted=False).state in {LineState.SITS, LineState.FLOATS}


def test_another_voice_stands_as_it_does_once_it_is_cast_and_voiced(demo: Workspace) -> None:
    project = demo.head(BAY).project
    narrator = project.role("r1")
    mine, other = voice_standings(demo, BAY, "r1", [narrator.voice_id, "orla"])
    assert (mine.voice_id, other.voice_id) == (narrator.voice_id, "orla")
    count = sum(line.role_id == "r1" for line in project.lines)
    assert len(mine.states) == len(other.states) == count
    assert LineState.SPILLS in mine.states
    assert 0.9 < mine.slowest < mine.fastest <= project.house.fastest_pace + 1e-6
    assert demo.head(BAY).project == project

    lines = [line.id for line in project.lines if line.role_id == "r1"]
    make_edits(demo, BAY, demo.head(BAY), [SetRole(role_id="r1", voice_id="orla")])
    voice_lines(demo, BAY, lines)
    (cast,) = voice_standings(demo, BAY, "r1", ["orla"])
    assert ticks_to_seconds(cast.natural_ticks) == pytest.approx(
        ticks_to_seconds(other.natural_ticks), rel=0.08
    )


def test_locked_lines_and_those_with_a_voice_of_their_own_are_not_cast_anew(demo: Workspace) -> None:
    edits = [SetLock(what="line", id=line.id, locked=True) for line in demo.head(BAY).project.lines]
    make_edits(demo, BAY, demo.head(BAY), edits)
    mine, other = voice_standings(demo, BAY, "r1", ["wren", "orla"])
    assert mine.natural_ticks == other.natural_ticks


def test_a_project_is_begun_like_another_and_says_how_it_stands(demo: Workspace) -> None:
    made = project_like(demo, BAY)
    like, project = demo.head(made).project, demo.head(BAY).project
    assert (like.shots, like.lines, like.captions, like.clips, like.beds) == ((), (), (), {}, ())
    assert (like.roles, like.house, like.rate, like.lexicon) == (
        project.roles,
        project.house,
        project.rate,
        project.lexicon,
    )
    assert standing_of(demo, made).open_text == ""
    assert standing_of(demo, BAY).open_text == "1 unvoiced, 1 spilling"
    with pytest.raises(NotFoundError):
        standing_of(demo, "nobody")


def test_projects_are_put_into_series(demo: Workspace, tmp_path: Path) -> None:
    demo.projects.put_into(BAY, "Marrow Bay")
    listed = {each.project_id: each for each in demo.projects.list()}
    assert listed[BAY].series == "Marrow Bay"
    assert listed[BAY].language == "en"
    assert listed[BAY].picture is not None
    assert {each.series for each in listed.values()} == {"Marrow Bay", ""}

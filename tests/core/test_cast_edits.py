"""Edits of the cast, of kept takes, and of what a project allows; and projects kept by an earlier version."""

import pytest

from fox_cadence.core.delivery import Delivery
from fox_cadence.core.edits import (
    AddRole,
    DeleteRole,
    DropTake,
    EditError,
    NameTake,
    SaveDelivery,
    SetHouse,
    SetRole,
    SetSettings,
    SetShortlist,
)
from fox_cadence.core.project import (
    MOST_KEPT_TAKES,
    KeptTake,
    NotInProjectError,
    Placement,
    Project,
    kept_take,
)
from fox_cadence.core.timeline_builder import build_timeline
from tests.builders import simple_project, take_of

TEXTS = ["The tide turns.", "Nobody waits."]


def test_a_role_that_goes_gives_its_lines_to_another() -> None:
    project, _ = AddRole(name="limpet", voice_id="pell").apply(simple_project(TEXTS))
    made, label = DeleteRole(role_id="r1", to_role_id="r2").apply(project)
    assert label == "Role narrator given to limpet"
    assert {line.role_id for line in made.lines} == {"r2"}
    with pytest.raises(EditError, match="another role"):
        DeleteRole(role_id="r1", to_role_id="r1").apply(project)
    with pytest.raises(NotInProjectError):
        DeleteRole(role_id="r1", to_role_id="r9").apply(project)


@pytest.mark.parametrize(
    ("edit", "label"),
    [
        (SetRole(role_id="r1", name="teller"), "Name of teller"),
        (SetRole(role_id="r1", colour=3), "Colour of narrator"),
        (SetRole(role_id="r1", style="grave"), "Delivery of narrator"),
        (SetRole(role_id="r1", voice_id="wren"), "Voice of narrator"),
        (SetSettings(commercial=True), "Commercial use"),
        (SetSettings(keep_in_step=True), "Speech in step with the words"),
        (SetSettings(character_budget=500), "Character budget"),
        (SetShortlist(voice_id="wren"), "A voice on the shortlist"),
        (SetHouse(gap_s=0.3), "House limits"),
    ],
)
def test_each_change_has_its_name_for_undo(edit: SetRole, label: str) -> None:
    assert edit.apply(simple_project(TEXTS))[1] == label


def test_a_budget_of_nothing_is_none() -> None:
    project, _ = SetSettings(character_budget=500).apply(simple_project(TEXTS))
    assert project.character_budget == 500
    assert SetSettings(character_budget=0).apply(project)[0].character_budget is None


def test_a_delivery_is_kept_under_its_name_once() -> None:
    project, _ = SaveDelivery(name=" night ", delivery=Delivery(style="hushed")).apply(simple_project(TEXTS))
    project, _ = SaveDelivery(name="night", delivery=Delivery(style="calm")).apply(project)
    assert [(each.name, each.delivery.style) for each in project.deliveries] == [("night", "calm")]
    gone, label = SaveDelivery(name="night").apply(project)
    assert (gone.deliveries, label) == ((), "Delivery “night” deleted")
    with pytest.raises(EditError, match="no style"):
        SaveDelivery(name="x", delivery=Delivery(style="gloomy")).apply(project)


def test_a_voice_stands_on_the_shortlist_once() -> None:
    project, _ = SetShortlist(voice_id="wren").apply(simple_project(TEXTS))
    project, _ = SetShortlist(voice_id="wren").apply(project)
    assert project.shortlist == ("wren",)
    assert SetShortlist(voice_id="wren", listed=False).apply(project)[0].shortlist == ()


def with_takes(*ids: str) -> Project:
    project = simple_project(TEXTS)
    line = project.lines[0]
    for take_id in ids:
        line = line.voiced_by(kept_take(project, line, take_id))
    return project.changed(lines=(line, *project.lines[1:]))


def test_a_take_is_named_and_let_go_but_not_the_one_that_plays() -> None:
    project, label = NameTake(line_id="l1", take_id="a", name="  the first ").apply(with_takes("a", "b"))
    assert label == "Line 1: take named “the first”"
    assert [(each.take_id, each.name) for each in project.line("l1").takes] == [("a", "the first"), ("b", "")]
    gone, _ = DropTake(line_id="l1", take_id="a").apply(project)
    assert [each.take_id for each in gone.line("l1").takes] == ["b"]
    with pytest.raises(EditError, match="plays in the piece"):
        DropTake(line_id="l1", take_id="b").apply(project)
    with pytest.raises(EditError, match="no longer keeps"):
        DropTake(line_id="l1", take_id="z").apply(project)


def test_a_line_keeps_its_newest_takes_and_each_once() -> None:
    ids = [f"t{number}" for number in range(MOST_KEPT_TAKES + 5)]
    line = with_takes(*ids, ids[-2]).line("l1")
    assert [each.take_id for each in line.takes] == ids[5:]
    assert line.take_id == ids[-2]


def test_another_take_takes_the_one_of_an_old_fit_away_and_the_same_one_does_not() -> None:
    project = with_takes("a")
    placed = project.line("l1").changed(placement=Placement(offset_ticks=7, spans=(), take_id="paced"))
    other = placed.voiced_by(KeptTake(take_id="b"))
    assert other.placement is not None
    assert (other.placement.offset_ticks, other.placement.take_id) == (7, None)
    again = placed.voiced_by(KeptTake(take_id="a"))
    assert again.placement is not None
    assert again.placement.take_id == "paced"


def test_a_line_of_an_earlier_version_keeps_the_take_it_had_when_it_gets_another() -> None:
    line = simple_project(TEXTS).lines[0].changed(take_id="old")
    assert [each.take_id for each in line.keeping(KeptTake(take_id="new")).takes] == ["old", "new"]


def test_a_project_and_takes_of_the_first_version_open_and_nothing_is_stale() -> None:
    """Their documents lack what came later: marks of other kinds, lexicon, kept takes, the request of a
    take."""
    project = simple_project(TEXTS)
    takes = {}
    lines = []
    for line in project.lines:
        take = take_of(project, line, 2.0)
        old = {key: value for key, value in take.model_dump().items() if key not in ("request", "recorded")}
        takes[take.id] = type(take).model_validate(old)
        lines.append(line.changed(take_id=take.id))
    document = project.changed(lines=tuple(lines)).model_dump()
    for field in ("lexicon", "deliveries", "shortlist", "commercial", "keep_in_step", "character_budget"):
        del document[field]
    for line_document in document["lines"]:
        for field in ("takes", "voice_id", "delivery"):
            del line_document[field]
    for role in document["roles"]:
        del role["style"], role["pitch_range"]
    opened = Project.model_validate(document)
    assert not any(span.stale for span in build_timeline(opened, takes).lines)

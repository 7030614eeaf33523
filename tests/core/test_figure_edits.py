"""Figures put on the picture, changed, taken off; and what goes with their roles."""

import pytest
from pydantic import ValidationError

from fox_cadence.core.begun_like import begun_like
from fox_cadence.core.edits import AddFigure, DeleteFigure, EditError, SetFigure
from fox_cadence.core.edits.cast import DeleteRole
from fox_cadence.core.figures.drawing import BOX, standing
from fox_cadence.core.integrity import integrity_errors
from fox_cadence.core.project import NotInProjectError, Project, Role
from fox_cadence.core.standing import interests
from tests.builders import simple_project, take_of
from tests.core.figures.speaking import spoken


def with_figures(*characters: str) -> Project:
    project = simple_project(["tide pool rests"])
    project = project.changed(roles=(*project.roles, Role(id="r2", name="crab", voice_id="orla")))
    for each in characters:
        project, _ = AddFigure(role_id="r1", character=each).apply(project)
    return project


def test_the_first_stands_on_the_left_the_second_on_the_right_both_whole_and_looking_in() -> None:
    project = with_figures("rusk", "bell")
    one, two = project.figures
    assert (one.id, one.facing, two.id, two.facing) == ("g1", "right", "g2", "left")
    assert one.x < 0.5 < two.x
    for each in project.figures:
        left, top, scale = standing(each.x, each.y, each.size, (project.width, project.height))
        assert left >= 0
        assert left + BOX[0] * scale <= project.width
        assert top >= 0
        assert top + BOX[1] * scale <= project.height


def test_what_is_not_said_of_a_figure_stays() -> None:
    project = with_figures("rusk")
    made, label = SetFigure(figure_id="g1", x=0.7, shown="speaking", colours={"coat": "#102030"}).apply(
        project
    )
    assert label == "Figure Rusk"
    assert made.figures[0] == project.figures[0].changed(x=0.7, shown="speaking", colours={"coat": "#102030"})
    other, _ = SetFigure(figure_id="g1", character="bell").apply(made)
    assert other.figures[0].colours == {}  # it has no coat
    assert other.figures[0].x == 0.7
    with pytest.raises(EditError, match="Bell has no 'coat' to colour"):
        SetFigure(figure_id="g1", colours={"coat": "#102030"}).apply(other)


def test_what_can_not_be_is_refused() -> None:
    project = with_figures("rusk")
    with pytest.raises(NotInProjectError):
        SetFigure(figure_id="g9", x=0.5).apply(project)
    with pytest.raises(NotInProjectError):
        SetFigure(figure_id="g1", role_id="r9").apply(project)
    with pytest.raises(ValidationError):
        SetFigure(figure_id="g1", size=9)
    full = with_figures(*["rusk"] * 12)
    with pytest.raises(EditError, match="at most 12 figures"):
        AddFigure(role_id="r1", character="bell").apply(full)


def test_it_goes_with_its_role_and_can_be_taken_off() -> None:
    project = with_figures("rusk")
    made, _ = DeleteRole(role_id="r1", to_role_id="r2").apply(project)
    assert made.figures[0].role_id == "r2"
    assert not list(integrity_errors(made))
    gone, label = DeleteFigure(figure_id="g1").apply(made)
    assert gone.figures == ()
    assert label == "Figure Rusk taken off"
    lost = made.changed(figures=(made.figures[0].changed(role_id="r1"),))
    assert list(integrity_errors(lost)) == ["figure 'g1' speaks for role 'r1', which is not there"]


def test_a_project_begun_like_another_has_its_figures_where_it_has_its_roles() -> None:
    like = with_figures("rusk")
    assert begun_like(Project(name="new"), like).figures == like.figures
    assert begun_like(Project(name="neu", language="de"), like).figures == ()


def test_words_are_told_to_keep_clear_of_a_face() -> None:
    project = with_figures("rusk")
    takes = [take_of(project, line, 2.0) for line in project.lines]
    timeline = spoken(project, takes)
    faces = interests(timeline, 0, 30)
    figure = project.figures[0]
    assert len(faces) == 2
    assert all(x == figure.x and abs(y - figure.y) < figure.size for x, y in faces)
    shy = spoken(project.changed(figures=(figure.changed(shown="speaking"),)), takes)
    assert interests(shy, 0, 30) == faces
    assert interests(shy, 110, 118) == ()  # its line is over

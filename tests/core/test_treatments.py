"""Treatments in a project: of a role, of a line, kept under a name; and what there is to choose from."""

from typing import get_args

import pytest
from pydantic import ValidationError

from fox_cadence.core.edits import EditError, ForgetTreatment, KeepTreatment, SetTreatment
from fox_cadence.core.mix import plan_mix
from fox_cadence.core.project import Index, treatment_of
from fox_cadence.core.treatment import KINDS, SHIPPED, Compressor, HighPass, Stage, Treatment, Warmth, shipped
from tests.builders import simple_project, take_of
from tests.core.figures.speaking import spoken

WARM = Treatment(name="Warm", stages=(HighPass(hertz=60), Warmth()))


def test_a_role_is_treated_and_a_line_otherwise_or_not_at_all() -> None:
    project = simple_project(["tide pool", "a crab"])
    made, label = SetTreatment(role_id="r1", treatment=WARM).apply(project)
    assert label == "narrator: treated, Warm"
    index = Index(made)
    assert [treatment_of(line, index) for line in made.lines] == [WARM, WARM]
    plain, label = SetTreatment(line_id="l2", treatment=Treatment()).apply(made)
    assert label == "Line 2: not treated"
    assert [treatment_of(line, Index(plain)) for line in plain.lines] == [WARM, None]
    again, label = SetTreatment(line_id="l2", treatment=None).apply(plain)
    assert label == "Line 2: treated as its role"
    assert again == made
    gone, label = SetTreatment(role_id="r1", treatment=None).apply(made)
    assert label == "narrator: not treated"
    assert gone == project


def test_the_mix_is_told_how_each_line_is_treated() -> None:
    project = simple_project(["tide pool", "a crab"])
    project, _ = SetTreatment(role_id="r1", treatment=WARM).apply(project)
    project, _ = SetTreatment(line_id="l1", treatment=Treatment(stages=(Compressor(),))).apply(project)
    plan = plan_mix(spoken(project, [take_of(project, line, 1.5) for line in project.lines]))
    assert [part.treatment for part in plan.speech] == [Treatment(stages=(Compressor(),)), WARM]


def test_what_is_kept_is_kept_under_one_name() -> None:
    project, _ = KeepTreatment(treatment=WARM).apply(simple_project(["tide"]))
    other = WARM.changed(name=" warm ", stages=(Compressor(),))
    project, label = KeepTreatment(treatment=other).apply(project)
    assert label == "Treatment “warm” kept"
    assert [each.stages for each in project.treatments] == [(Compressor(),)]
    project, _ = ForgetTreatment(name="warm").apply(project)
    assert project.treatments == ()
    with pytest.raises(EditError, match="no treatment “warm” kept"):
        ForgetTreatment(name="warm").apply(project)


@pytest.mark.parametrize(
    ("edit", "says"),
    [
        (KeepTreatment(treatment=Treatment(stages=(HighPass(),))), "needs a name"),
        (KeepTreatment(treatment=Treatment(name="Bare")), "no stages"),
        (SetTreatment(treatment=WARM), "role or the line"),
        (SetTreatment(role_id="r1", line_id="l1", treatment=WARM), "role or the line"),
    ],
)
def test_what_can_not_be_is_refused(edit: SetTreatment | KeepTreatment, says: str) -> None:
    with pytest.raises(EditError, match=says):
        edit.apply(simple_project(["tide"]))


def test_every_number_that_is_offered_is_one_of_its_stage_within_its_limits() -> None:
    models = {each.model_fields["kind"].default: each for each in get_args(get_args(Stage)[0])}
    assert {each.kind for each in KINDS} == set(models)
    for kind in KINDS:
        model = models[kind.kind]
        offered = {setting.field for setting in kind.settings}
        assert offered == set(model.model_fields) - {"kind", "side"}
        for setting in kind.settings:
            for edge in (setting.least, setting.most):
                model.model_validate({setting.field: edge})
            for beyond in (setting.least - 1, setting.most + 1):
                with pytest.raises(ValidationError):
                    model.model_validate({setting.field: beyond})


def test_those_that_ship_are_found_by_name() -> None:
    assert len(SHIPPED) >= 8
    assert shipped("harbour RADIO") is next(each for each in SHIPPED if each.name == "Harbour radio")
    assert shipped("nobody's") is None

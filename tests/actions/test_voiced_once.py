"""Lines that are fitted before they are voiced are made once, at the lengths of the fit."""

import pytest

from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.fitting import accept, fit
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import SetCaptionText, SetHouse, SetLineStart, SetRole
from fox_cadence.core.states import LineState
from fox_cadence.core.ticks import seconds_to_ticks
from tests.builders import simple_project

TEXTS = [
    "The tide goes out and leaves a great many things behind it.",
    "A crab waits, and waits, and nobody comes for it at all today.",
]
MISS_TICKS = seconds_to_ticks(0.005)


@pytest.fixture
def fitted(workspace: Workspace) -> tuple[Workspace, str]:
    """A piece whose lines have too little room at natural pace, its fit accepted with nothing voiced."""
    project_id = workspace.projects.create(simple_project(TEXTS, 3.0), "Made")
    accept(workspace, fit(workspace, project_id))
    assert all(line.take_id is None for line in workspace.head(project_id).project.lines)
    return workspace, project_id


def test_voicing_makes_each_line_once_at_the_lengths_of_the_fit(fitted: tuple[Workspace, str]) -> None:
    workspace, project_id = fitted
    planned = workspace.timeline(workspace.head(project_id).project).lines
    assert any(span.lengths != span.speech.natural for span in planned)
    result = voice_lines(workspace, project_id)
    assert (result.made, result.failed) == (2, ())
    made = workspace.timeline(workspace.head(project_id).project).lines
    for before, after in zip(planned, made, strict=True):
        assert after.take is not None
        assert not after.stale
        assert (after.start_ticks, after.lengths) == (before.start_ticks, before.lengths)
        assert abs(after.take.length_ticks - (before.end_ticks - before.start_ticks)) < MISS_TICKS
        assert after.speech.natural == before.speech.natural  # what it would be by itself is still known
        assert after.state is not LineState.UNVOICED
    again = fit(workspace, project_id)
    assert [plan.lengths for plan in again.proposal.lines] == [span.lengths for span in made]
    done = accept(workspace, again)
    assert done.lines == ()  # there is nothing to be made


def test_another_fit_makes_what_has_other_lengths_then(fitted: tuple[Workspace, str]) -> None:
    workspace, project_id = fitted
    voice_lines(workspace, project_id)
    make_edits(workspace, project_id, workspace.head(project_id), [SetHouse(fastest_pace=1.3, lead_s=0.4)])
    again = fit(workspace, project_id)
    done = accept(workspace, again)
    moved = [
        plan.line_id
        for plan, span in zip(again.proposal.lines, again.timeline.lines, strict=True)
        if plan.lengths != span.lengths
    ]
    assert moved
    assert {each.line_id for each in done.lines} == set(moved)
    assert all(abs(each.off_ticks) < MISS_TICKS for each in done.lines)


def test_words_that_changed_after_the_fit_are_said_at_their_own_length(fitted: tuple[Workspace, str]) -> None:
    workspace, project_id = fitted
    head = workspace.head(project_id)
    make_edits(workspace, project_id, head, [SetCaptionText(caption_id="c1", text="The tide goes out.")])
    project = workspace.head(project_id).project
    workspace.settle_lengths(project)
    span = workspace.timeline(project).lines[0]
    assert span.lengths == span.speech.natural
    voice_lines(workspace, project_id)
    first, second = workspace.timeline(workspace.head(project_id).project).lines
    assert first.take is not None
    assert second.take is not None
    assert (first.take.paced, second.take.paced) == (False, True)


def test_a_take_of_a_fit_is_out_of_date_with_the_words_and_without_its_place(
    fitted: tuple[Workspace, str],
) -> None:
    workspace, project_id = fitted
    voice_lines(workspace, project_id)
    project = workspace.head(project_id).project
    bare = project.changed(lines=tuple(line.changed(placement=None) for line in project.lines))
    assert all(span.stale for span in workspace.timeline(bare).lines if span.take and span.take.paced)
    make_edits(workspace, project_id, workspace.head(project_id), [SetLineStart(line_id="l2", offset_s=0.5)])
    assert not any(
        span.stale for span in workspace.timeline(workspace.head(project_id).project).lines
    )  # it was only moved
    head = workspace.head(project_id)
    make_edits(workspace, project_id, head, [SetCaptionText(caption_id="c2", text="A crab waits.")])
    assert workspace.timeline(workspace.head(project_id).project).lines[1].stale


def test_a_role_that_is_recast_and_fitted_is_voiced_at_the_lengths_of_the_fit(workspace: Workspace) -> None:
    """Lines that have takes of the old voice, as after a change of mind."""
    project_id = workspace.projects.create(simple_project(TEXTS, 3.0), "Made")
    voice_lines(workspace, project_id)
    make_edits(workspace, project_id, workspace.head(project_id), [SetRole(role_id="r1", voice_id="wren")])
    workspace.settle_lengths(workspace.head(project_id).project)  # all of them, however long that takes
    fitted = fit(workspace, project_id)
    accept(workspace, fitted)
    before = workspace.timeline(workspace.head(project_id).project).lines
    assert all(span.stale for span in before)
    assert [span.lengths for span in before] == [plan.lengths for plan in fitted.proposal.lines]
    result = voice_lines(workspace, project_id)
    assert (result.made, result.failed) == (2, ())
    for span, plan in zip(
        workspace.timeline(workspace.head(project_id).project).lines, fitted.proposal.lines, strict=True
    ):
        assert span.take is not None
        assert span.take.voice_id == "wren"
        assert not span.stale
        assert abs(span.take.length_ticks - (plan.end_ticks - plan.start_ticks)) < MISS_TICKS
        assert span.state is plan.state

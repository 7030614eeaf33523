"""The sample of words alone: its pictures answer to its words, nothing spills, every line has a voice."""

from itertools import pairwise
from pathlib import Path

import pytest

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.states import LineState
from fox_cadence.demo.night_post import make_night_post

pytestmark = pytest.mark.long  # it is drawn, filled and voiced from nothing


@pytest.fixture(scope="module")
def made(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("night")
    with Workspace(folder) as workspace:
        make_night_post(workspace, size=(144, 144))
    return folder


def test_it_can_be_watched_as_it_is(made: Path) -> None:
    with Workspace(made) as workspace:
        head = workspace.head(make_night_post(workspace))
        timeline = workspace.timeline(head.project)
    shots = [span.shot for span in timeline.shots]
    assert len(shots) >= 6
    assert all(shot.clip_hash for shot in shots)
    assert all(one.clip_hash != other.clip_hash for one, other in pairwise(shots))
    assert {"A train passes", "Stars turn", "Steaming cup"} <= {shot.name for shot in shots}
    assert all(span.take is not None and not span.stale for span in timeline.lines)
    assert all(span.state in (LineState.SITS, LineState.LEANS, LineState.FLOATS) for span in timeline.lines)


def test_filling_was_one_step_and_can_be_undone(made: Path) -> None:
    with Workspace(made) as workspace:
        project_id = make_night_post(workspace)
        filled = workspace.head(project_id).project
        while any(shot.clip_hash for shot in workspace.head(project_id).project.shots):
            workspace.projects.undo(project_id)
        words = workspace.head(project_id).project
    assert [shot.name for shot in words.shots] == [
        "The last collection",
        "Over the hills",
        "Before breakfast",
    ]
    assert [caption.text for caption in words.captions] == [caption.text for caption in filled.captions]

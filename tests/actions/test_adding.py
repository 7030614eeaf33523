"""Pictures and music added to a project that is there."""

from pathlib import Path

import pytest

from fox_cadence.actions.adding import add_media
from fox_cadence.actions.bring_in import MediaFile
from fox_cadence.actions.workspace import Workspace
from fox_cadence.errors import InputError
from tests.builders import simple_project
from tests.media import files


def given(*paths: Path) -> list[MediaFile]:
    return [MediaFile(path, path.name) for path in paths]


def test_pictures_come_after_a_shot_in_their_order_as_one_step(workspace: Workspace, tmp_path: Path) -> None:
    project_id = workspace.projects.create(
        simple_project(["One.", "Two."], width=64, height=64), "Project made"
    )
    media = given(
        files.video(tmp_path / "a.mp4", 1.0), files.still(tmp_path / "b.png"), files.tone(tmp_path / "c.wav")
    )
    added = add_media(workspace, project_id, media, "s1")
    head = workspace.head(project_id)
    assert [shot.name for shot in head.project.shots] == ["Shot 1", "a", "b", "Shot 2"]
    assert (added.shots, added.bed, head.undo_label) == (2, True, "2 shots added, bed c.wav")
    assert len(head.project.beds) == 1
    workspace.projects.undo(project_id)
    assert len(workspace.head(project_id).project.shots) == 2
    assert workspace.head(project_id).project.beds == ()


def test_at_the_end_and_as_a_bed_only_its_sound(workspace: Workspace, tmp_path: Path) -> None:
    project_id = workspace.projects.create(simple_project(["One."], width=64, height=64), "Project made")
    film = files.video(tmp_path / "a.mp4", 1.0, tone_hz=200)
    add_media(workspace, project_id, given(film))
    assert [shot.name for shot in workspace.head(project_id).project.shots] == ["Shot 1", "a"]
    add_media(workspace, project_id, given(film), use="bed")
    project = workspace.head(project_id).project
    assert len(project.shots) == 2
    assert project.clips[project.beds[0].clip_hash].name == "a.mp4"


def test_what_can_not_be_used_is_named_and_the_rest_is_taken(workspace: Workspace, tmp_path: Path) -> None:
    project_id = workspace.projects.create(simple_project(["One."], width=64, height=64), "Project made")
    bad = tmp_path / "bad.mp4"
    bad.write_text("no film")
    added = add_media(workspace, project_id, given(bad, files.still(tmp_path / "b.png")))
    assert [(remark.place, added.shots) for remark in added.remarks] == [("bad.mp4", 1)]
    before = workspace.head(project_id)
    with pytest.raises(InputError, match=r"none of the files could be used: bad\.mp4"):
        add_media(workspace, project_id, given(bad))
    with pytest.raises(InputError, match="no sound"):
        add_media(workspace, project_id, given(files.still(tmp_path / "c.png", colour=(9, 9, 9))), use="bed")
    assert workspace.head(project_id) == before

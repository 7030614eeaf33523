"""A timeline out to a folder and in again, with its media found by name; and what is not found."""

from pathlib import Path

import pytest

from fox_cadence.actions.bring_in import MediaFile, NewProject, new_project
from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.interchange import media_in, project_from_timeline, write_interchange
from fox_cadence.actions.script_import import Choices, Source
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.adjustment import Adjustment
from fox_cadence.core.edits import Applied, LayOver, SetAdjustment, SetTransition
from fox_cadence.core.shot import Shot
from fox_cadence.core.ticks import FrameRate
from fox_cadence.errors import InputError
from tests.media.files import still, video

RATE = FrameRate(numerator=30)
WANTED = NewProject("Again", 108, 192, RATE)


WORDS = b"""1
00:00:00,200 --> 00:00:01,800
Boats wait.

2
00:00:03,100 --> 00:00:05,000
The harbour sleeps.
"""


def as_shown(shot: Shot) -> Shot:
    """All of a shot but its id."""
    return shot.changed(id="")


@pytest.fixture
def made(workspace: Workspace, tmp_path: Path) -> str:
    """A piece of a video and a still with two captions, the first shot becoming the second."""
    boats, harbour = video(tmp_path / "boats.mp4", 3), still(tmp_path / "harbour.png")
    words = Source("w.srt", WORDS, None, "", Choices(False, False))
    files = [MediaFile(boats, boats.name), MediaFile(harbour, harbour.name)]
    project_id = new_project(workspace, NewProject("Harbour", 108, 192, RATE), files, words).project_id
    head = workspace.head(project_id)
    first = head.project.shots[0].id
    edits: list[Applied] = [
        SetTransition(shot_id=first, frames=10),
        SetAdjustment(shot_ids=(first,), adjustment=Adjustment(exposure=-0.5)),
        LayOver(shot_id=first, picture="ring"),
    ]
    make_edits(workspace, project_id, head, edits)
    return project_id


def test_a_piece_comes_back_from_its_otio_file(workspace: Workspace, made: str, tmp_path: Path) -> None:
    out = write_interchange(workspace, made, tmp_path / "out")
    otio_file, edl_file = out.files
    assert any("for Fox Cadence alone" in text for text in out.left_out)
    (tmp_path / "out" / "media" / "boats.mp4").write_bytes(b"another file of that name")
    write_interchange(workspace, made, tmp_path / "out")
    assert {path.name for path in (tmp_path / "out" / "media").iterdir()} == {"boats.mp4", "harbour.png"}
    before = workspace.head(made).project
    again = project_from_timeline(
        workspace, WANTED, otio_file.read_bytes(), otio_file.name, media_in([tmp_path / "out"])
    )
    assert again.remarks == ()
    project = workspace.head(again.project_id).project
    assert [
        (s.clip_hash, s.length_frames, s.transition_frames, s.source_in_ticks) for s in project.shots
    ] == [(s.clip_hash, s.length_frames, s.transition_frames, s.source_in_ticks) for s in before.shots]
    assert [c.text for c in project.captions] == [c.text for c in before.captions]
    assert (project.width, project.height) == (before.width, before.height)
    from_edl = project_from_timeline(
        workspace, WANTED, edl_file.read_bytes(), edl_file.name, media_in([tmp_path / "out"])
    )
    shots = workspace.head(from_edl.project_id).project.shots
    assert [(s.clip_hash, s.length_frames) for s in shots] == [
        (s.clip_hash, s.length_frames) for s in before.shots
    ]


def test_what_is_not_found_is_a_plain_colour_and_is_said(
    workspace: Workspace, made: str, tmp_path: Path
) -> None:
    out = write_interchange(workspace, made, tmp_path / "out")
    (tmp_path / "out" / "media" / "boats.mp4").unlink()
    again = project_from_timeline(
        workspace, WANTED, out.files[0].read_bytes(), "a.otio", media_in([tmp_path / "out" / "media"])
    )
    assert [(remark.place, "no file of this name" in remark.message) for remark in again.remarks] == [
        ("boats.mp4", True)
    ]
    first, second = workspace.head(again.project_id).project.shots
    assert first.clip_hash is None
    assert second.clip_hash is not None
    with pytest.raises(InputError, match="no such folder"):
        media_in([tmp_path / "nowhere"])


def test_a_clip_that_begins_at_a_whole_hour_is_found_in_its_file(
    workspace: Workspace, made: str, tmp_path: Path
) -> None:
    write_interchange(workspace, made, tmp_path / "out")
    text = b"""TITLE: X
FCM: NON-DROP FRAME
001  BOATS    V     C        01:00:01:00 01:00:02:00 00:00:00:00 00:00:01:00
002  BOATS    V     C        01:00:02:00 01:00:09:00 00:00:01:00 00:00:08:00
"""
    again = project_from_timeline(workspace, WANTED, text, "x.edl", media_in([tmp_path / "out"]))
    first, second = workspace.head(again.project_id).project.shots
    assert first.source_in_ticks == RATE.ticks(30)
    assert second.source_in_ticks == RATE.ticks(60)
    assert any("last frame is held" in remark.message for remark in again.remarks)

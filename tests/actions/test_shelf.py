"""The shelf of a data folder: drawn once for a frame, kept for all projects, its licences kept to."""

from pathlib import Path

import pytest

from fox_cadence.actions.bring_in import MediaFile, bring_in_clip
from fox_cadence.actions.bundling import bring_in_bundle, write_bundle
from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.filling import StretchPlan, accept_fill, plan_fill
from fox_cadence.actions.shelf import found, item_of, keep, lay, on_shelf
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.adjustment import Adjustment
from fox_cadence.core.edits import EditError, SetAdjustment, SetSettings
from fox_cadence.core.fill import FillWish
from fox_cadence.core.looks import LOOKS
from fox_cadence.core.shelf import Wish
from fox_cadence.errors import InputError, NotFoundError
from tests.builders import simple_project
from tests.media.files import video
from tests.media.test_cube import written

END = {"after_shot_id": None, "before_shot_id": None}


@pytest.fixture
def piece(workspace: Workspace) -> str:
    project = simple_project(["The lighthouse guides the boats.", "A storm comes."]).changed(
        width=96, height=160
    )
    return workspace.projects.create(project, "Made")


def test_what_is_drawn_is_drawn_once_for_a_frame(workspace: Workspace, piece: str) -> None:
    first = lay(workspace, piece, "idea-lock", END)
    second = lay(workspace, piece, "idea-lock", END)
    project = workspace.head(piece).project
    assert project.shot(first).clip_hash == project.shot(second).clip_hash
    clip = project.clips[project.shot(first).clip_hash or ""]
    assert (clip.width, clip.height, clip.kind, clip.name) == (96, 160, "still", "Closed lock")
    colours = ("#102030", "#405060", "#708090")
    plain, tinted = (lay(workspace, piece, "ground-stripes", END, each) for each in (None, colours))
    project = workspace.head(piece).project
    assert project.shot(plain).clip_hash != project.shot(tinted).clip_hash
    with pytest.raises(NotFoundError):
        lay(workspace, piece, "no-such", END)
    with pytest.raises(InputError, match="over a shot"):
        lay(workspace, piece, "over-ring", END)


def test_a_kept_clip_is_at_hand_in_every_project_and_is_not_cleaned_up(
    workspace: Workspace, piece: str, tmp_path: Path
) -> None:
    clip = bring_in_clip(workspace, MediaFile(video(tmp_path / "quay.mp4"), "quay.mp4"))
    keep(workspace, clip.hash, "Quay", "harbour jetty", "ours alone", commercial=False)
    assert [each.id for each in workspace.cleaning.unused(older_than_s=-1)] == []
    project = workspace.head(piece).project
    (item,) = found(on_shelf(workspace, project), Wish(words="jetties"))
    assert (item.source, item.title, item.commercial) == ("own", "Quay", False)
    shot = lay(workspace, piece, item.id, END)
    assert workspace.head(piece).project.shot(shot).name == "Quay"

    head = workspace.head(piece)
    make_edits(workspace, piece, head, [SetSettings(commercial=True)])
    with pytest.raises(InputError, match="commercial use"):
        lay(workspace, piece, item.id, END)
    plans = plan_fill(workspace, piece, FillWish(shortest_s=1, longest_s=3))
    assert item.id not in {
        each for plan in plans for shot in plan.shots for each in (shot.item, *shot.others)
    }

    workspace.shelf.forget(clip.hash)
    assert (
        item_of(workspace, workspace.head(piece).project, item.id).source == "piece"
    )  # a shot shows it still
    with pytest.raises(InputError, match="title"):
        keep(workspace, clip.hash, " ", "", "", commercial=True)


def test_a_fill_answers_to_the_words_and_a_stale_one_changes_nothing(
    workspace: Workspace, piece: str
) -> None:
    (plan,) = plan_fill(workspace, piece, FillWish(shortest_s=1, longest_s=4, fewest=1, most=4))
    assert plan.shots[0].item == "sea-lighthouse"
    assert "sea-storm" in {shot.item for shot in plan.shots}
    before = workspace.head(piece).project
    longer = plan.shots[-1].changed(end=plan.shots[-1].end + 5)
    stale: list[StretchPlan] = [plan.changed(shots=(*plan.shots[:-1], longer))]
    with pytest.raises(EditError, match="changed since"):
        accept_fill(workspace, piece, stale)
    assert workspace.head(piece).project.shots == before.shots
    assert accept_fill(workspace, piece, [plan]) == len(plan.shots)
    with pytest.raises(InputError, match="sections 1 to 1"):
        plan_fill(workspace, piece, FillWish(), section=4)
    with pytest.raises(InputError, match="shorter"):
        plan_fill(workspace, piece, FillWish(shortest_s=6, longest_s=3))


def test_a_look_travels_in_a_bundle(workspace: Workspace, piece: str, tmp_path: Path) -> None:
    path = tmp_path / "Night dive.cube"
    path.write_bytes(written(LOOKS[0].table()))
    look = bring_in_clip(workspace, MediaFile(path, path.name))
    assert look.kind == "look"
    shot = lay(workspace, piece, "idea-lock", END)
    head = workspace.head(piece)
    known = head.project.changed(clips=head.project.clips | {look.hash: look})
    workspace.projects.commit(piece, head.revision, known, "Look")
    edit = SetAdjustment(shot_ids=(shot,), adjustment=Adjustment(look=look.hash))
    make_edits(workspace, piece, workspace.head(piece), [edit])
    bundle = write_bundle(workspace, piece, tmp_path / "out")
    with Workspace(tmp_path / "elsewhere") as other:
        made = bring_in_bundle(other, bundle, bundle.name)
        assert made.remarks == ()
        assert other.library.original(look.hash).read_bytes() == path.read_bytes()
        assert other.head(made.project_id).project.shot(shot).adjustment.look == look.hash

"""The samples as they ship: small, whole, and there at once; their clips are prepared after that."""

import gzip
import json
from pathlib import Path

import pytest

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.integrity import integrity_errors
from fox_cadence.core.project import said_text
from fox_cadence.core.states import LineState
from fox_cadence.demo import bajamar, hikishio, marrow_bay, night_post
from fox_cadence.demo.samples import DATA, INDEX, ensure_samples
from fox_cadence.media.ingest import PROXY, SOUND

ALL = {marrow_bay.PROJECT_ID, bajamar.SPANISH_ID, hikishio.JAPANESE_ID, night_post.NIGHT_POST_ID}


@pytest.fixture(scope="module")
def shipped(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("shipped")
    with Workspace(folder) as workspace:
        ensure_samples(workspace)
    return folder


def test_they_are_small() -> None:
    assert sum(file.stat().st_size for file in DATA.rglob("*") if file.is_file()) < 5_000_000


def test_all_are_whole_and_the_first_is_the_newest(shipped: Path) -> None:
    with Workspace(shipped) as workspace:
        listed = workspace.projects.list()
        assert {each.project_id for each in listed} == ALL
        assert listed[0].project_id == marrow_bay.PROJECT_ID
        for each in listed:
            project = workspace.head(each.project_id).project
            assert list(integrity_errors(project)) == []
            assert workspace.library.missing_clips(project.clips) == []
            wanted = {line.take_id for line in project.lines if line.take_id}
            assert workspace.takes_of(project).keys() >= wanted


def test_only_what_teaches_is_left_open(shipped: Path) -> None:
    with Workspace(shipped) as workspace:
        states = {
            project_id: [span.state for span in workspace.timeline(workspace.head(project_id).project).lines]
            for project_id in ALL
        }
    assert states["marrow-bay"].count(LineState.SPILLS) == 1
    assert states["marrow-bay"].count(LineState.UNVOICED) == 1
    for settled in ("bajamar", "night-post"):
        assert not {LineState.SPILLS, LineState.UNVOICED, LineState.STALE} & set(states[settled])


def test_the_words_are_those_of_the_scripts_they_were_made_from(shipped: Path) -> None:
    with Workspace(shipped) as workspace:
        bay = workspace.head(marrow_bay.PROJECT_ID).project
        said = {said_text(bay, line) for line in bay.lines}
        night = workspace.head(night_post.NIGHT_POST_ID).project
        told = " ".join(said_text(night, line) for line in night.lines)
    assert {scene.text for scene in marrow_bay.SCRIPT} <= said
    for written in night_post.SCRIPT.splitlines():
        assert written.startswith("#") or written in told


def test_clips_show_posters_until_they_are_prepared(shipped: Path) -> None:
    with Workspace(shipped) as workspace:
        clips = workspace.head(night_post.NIGHT_POST_ID).project.clips.values()
        waiting = workspace.preparing.waiting(clips)
        pictures = [clip for clip in waiting if clip.has_picture]
        assert len(pictures) >= 6
        assert all(workspace.preparing.poster(clip.hash) for clip in pictures)
        sound = next(clip for clip in waiting if clip.kind == "sound")
        assert workspace.library.clip_file(sound.hash, SOUND).is_file()  # made because it was asked for
        workspace.preparing.prepare(pictures[0].hash)
        assert workspace.preparing.poster(pictures[0].hash) is None
        assert (workspace.library.clip_folder(pictures[0].hash) / PROXY).is_file()
        assert [clip.hash for clip in workspace.preparing.waiting([pictures[0], sound])] == []


def test_a_sample_that_was_deleted_stays_so(tmp_path: Path) -> None:
    with Workspace(tmp_path) as workspace:
        ensure_samples(workspace)
        workspace.projects.delete(night_post.NIGHT_POST_ID)
        ensure_samples(workspace)
        assert len(workspace.projects.list()) == len(ALL) - 1


def test_each_take_lasts_what_it_says(shipped: Path) -> None:
    index = json.loads(gzip.decompress((DATA / INDEX).read_bytes()))
    with Workspace(shipped) as workspace:
        takes = workspace.library.takes(each["id"] for each in index["takes"])
        assert len(takes) == len(index["takes"]) > 25
        for take in takes.values():
            size = workspace.library.take_sound(take.sound_hash).stat().st_size
            assert size == 44 + 2 * take.sample_count

"""Nothing is lost: migrations of every released version, refusing disks, cleaning up with a way back."""

import json
import os
import sqlite3
import time
from pathlib import Path

import pytest

from fox_cadence.actions.voicing import take_for, voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.project import Project
from fox_cadence.core.takes import natural_request
from fox_cadence.errors import ClashError, NotFoundError, StorageError
from fox_cadence.store.database import MIGRATIONS, Database
from tests.builders import simple_project

RELEASED = sorted((Path(__file__).parent / "released").glob("*.sql"))
"""Databases as each released version wrote them: a project voiced, renamed, and one step undone."""


@pytest.mark.parametrize("dump", RELEASED, ids=lambda path: path.stem)
def test_a_data_folder_of_every_released_version_opens_with_all_that_was_in_it(
    tmp_path: Path, dump: Path
) -> None:
    connection = sqlite3.connect(tmp_path / "fox-cadence.sqlite")
    connection.executescript(dump.read_text())
    connection.close()
    with Workspace(tmp_path) as workspace:
        head = workspace.head("low-tide")
        assert (head.revision, head.project.name, head.redo_label) == (2, "Low tide", "Name")
        assert [line.take_id is not None for line in head.project.lines] == [True, True]
        takes = workspace.library.takes
        assert takes([line.take_id or "" for line in head.project.lines]) == {}  # the dump has no sound files
        assert len(workspace.cleaning.unused()) == 0
        workspace.projects.redo("low-tide")
        assert workspace.head("low-tide").project.name == "Low tide, second"
        assert [item.label for item in workspace.projects.revisions("low-tide")] == [
            "Name", "2 lines voiced", "Project made",
        ]  # fmt: skip
        assert voice_lines(workspace, "low-tide").made == 2


def test_a_folder_that_a_newer_version_has_changed_is_not_touched(tmp_path: Path) -> None:
    Database(tmp_path / "a.sqlite").close()
    connection = sqlite3.connect(tmp_path / "a.sqlite")
    connection.execute("INSERT INTO migration VALUES ('999_wings.sql', '2030')")
    connection.commit()
    connection.close()
    with pytest.raises(StorageError, match=r"newer version.*999_wings"):
        Database(tmp_path / "a.sqlite")


def named(workspace: Workspace, project_id: str, name: str) -> int:
    head = workspace.head(project_id)
    changed = head.project.changed(name=name)
    return workspace.projects.commit(project_id, head.revision, changed, f"Name {name}")


def test_a_full_disk_a_read_only_and_a_locked_database_say_what_to_do_and_lose_nothing(
    workspace: Workspace, monkeypatch: pytest.MonkeyPatch
) -> None:
    project_id = workspace.projects.create(Project(name="one"), "Project made")
    raw = workspace.database._connection
    (pages,) = raw.execute("PRAGMA page_count").fetchone()
    long_name = os.urandom(200_000).hex()
    raw.execute(f"PRAGMA max_page_count = {pages}")
    with pytest.raises(StorageError, match="disk is full"):
        named(workspace, project_id, long_name)
    raw.execute("PRAGMA max_page_count = 1000000")
    raw.execute("PRAGMA query_only = ON")
    with pytest.raises(StorageError, match="may not be written"):
        named(workspace, project_id, "two")
    raw.execute("PRAGMA query_only = OFF")
    raw.execute("PRAGMA busy_timeout = 50")
    other = sqlite3.connect(workspace.folder / "fox-cadence.sqlite", isolation_level=None)
    other.execute("BEGIN IMMEDIATE")
    with pytest.raises(StorageError, match="Another program holds"):
        named(workspace, project_id, "two")
    assert workspace.head(project_id).project.name == "one"  # it can still be read meanwhile
    other.execute("ROLLBACK")
    other.close()
    assert named(workspace, project_id, "two") == 2  # cured, it goes on


def test_a_data_folder_that_can_not_be_one_says_so(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("not a folder")
    with pytest.raises(StorageError, match="file"):
        Workspace(tmp_path / "file" / "data")
    (tmp_path / "fox-cadence.sqlite").write_bytes(b"no database at all" * 100)
    with pytest.raises(StorageError, match="damaged"):
        Workspace(tmp_path)
    assert (tmp_path / "fox-cadence.sqlite").read_bytes().startswith(b"no database")


def test_only_one_process_serves_a_data_folder(workspace: Workspace) -> None:
    workspace.hold()
    with Workspace(workspace.folder) as second:
        with pytest.raises(StorageError, match="already serves"):
            second.hold()
        # a command beside it works all the same
        second.head(second.projects.create(Project(name="one"), "Made"))


def test_revisions_are_listed_looked_at_and_undo_on_an_old_one_is_a_clash(workspace: Workspace) -> None:
    project_id = workspace.projects.create(Project(name="one"), "Project made")
    for name in ("two", "three"):
        named(workspace, project_id, name)
    workspace.projects.undo(project_id, 3)
    named(workspace, project_id, "four")
    found = workspace.projects.revisions(project_id)
    assert [(each.number, each.in_force) for each in found] == [(4, True), (3, False), (2, True), (1, True)]
    assert workspace.projects.at(project_id, 3).name == "three"
    assert workspace.projects.labels_since(project_id, 2) == ["Name four"]
    assert workspace.projects.labels_since(project_id, 3) == []
    assert [each.number for each in workspace.projects.revisions(project_id, 2, before=3)] == [2, 1]
    with pytest.raises(ClashError):
        workspace.projects.undo(project_id, 3)
    with pytest.raises(NotFoundError):
        workspace.projects.at(project_id, 9)


def test_a_deleted_project_is_brought_back_or_goes_for_good(workspace: Workspace) -> None:
    project_id = workspace.projects.create(Project(name="one"), "Project made")
    with pytest.raises(NotFoundError):
        workspace.projects.delete_for_good(project_id)
    workspace.projects.delete(project_id)
    assert workspace.projects.list() == []
    with pytest.raises(NotFoundError, match="Bring it back"):
        workspace.head(project_id)
    workspace.projects.bring_back(project_id)
    assert workspace.head(project_id).project.name == "one"
    workspace.projects.delete(project_id)
    workspace.projects.delete_for_good(project_id)
    assert workspace.projects.list(deleted=True) == []
    assert not workspace.projects.exists(project_id)


def test_cleaning_finds_just_what_no_revision_points_to_and_brings_it_back(workspace: Workspace) -> None:
    project_id = workspace.projects.create(simple_project(["One pool."]), "Made")
    voice_lines(workspace, project_id)
    project = workspace.head(project_id).project
    heard, _ = take_for(
        workspace, natural_request(project, project.lines[0]).changed(text="Only heard once.")
    )
    workspace.projects.undo(project_id)  # the voiced state can still be gone forward to
    assert workspace.cleaning.unused() == []  # younger than a day
    found = workspace.cleaning.unused(older_than_s=0)
    assert [(item.kind, item.id, item.name) for item in found] == [("take", heard.id, "Only heard once.")]

    sound = workspace.library.take_sound(heard.sound_hash)
    workspace.cleaning.discard(found)
    assert workspace.library.takes([heard.id]) == {}
    assert not sound.exists()
    assert workspace.cleaning.bring_back() == 1
    assert workspace.library.takes([heard.id]) == {heard.id: heard}
    assert sound.exists()
    assert workspace.cleaning.bring_back() == 0

    workspace.cleaning.discard(found)
    assert workspace.cleaning.purge() == 0  # a day has not gone by
    assert workspace.cleaning.purge(older_than_s=0) == 1
    assert workspace.cleaning.discarded() == []
    assert not list((workspace.folder / "discarded").rglob("*.wav"))
    workspace.projects.redo(project_id)
    assert workspace.takes_of(workspace.head(project_id).project)


def test_what_broken_off_work_has_left_is_swept_away_and_nothing_else(workspace: Workspace) -> None:
    project_id = workspace.projects.create(simple_project(["One pool."]), "Made")
    voice_lines(workspace, project_id)
    takes = list((workspace.folder / "takes").rglob("*.wav"))
    left = [
        workspace.scratch / "tmpabc" / "0",
        workspace.folder / "clips" / ".new-x" / "original.mp4",
        workspace.folder / "clips" / ("a" * 64) / "original.mp4",
        takes[0].parent / ".ab-y.wav.part",
        takes[0].parent / f"{'b' * 64}.wav",
        workspace.folder / "exports" / project_id / ".low-tide.mp4.part",
    ]
    for path in left:
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(b"half")
    assert workspace.cleaning.sweep() == 0  # all of it may still be worked on
    for path in left:
        long_ago = time.time() - 7200
        os.utime(path, (long_ago, long_ago))
        if path.parent.name in ("tmpabc", ".new-x", "a" * 64):
            os.utime(path.parent, (long_ago, long_ago))
    assert workspace.cleaning.sweep() == len(left)
    assert not any(path.exists() for path in left)
    assert takes[0].exists()


def test_a_take_whose_sound_has_vanished_counts_as_not_there(workspace: Workspace) -> None:
    project_id = workspace.projects.create(simple_project(["One pool."]), "Made")
    voice_lines(workspace, project_id)
    project = workspace.head(project_id).project
    take = workspace.takes_of(project)[project.lines[0].take_id or ""]
    workspace.library.take_sound(take.sound_hash).unlink()
    assert workspace.takes_of(project) == {}
    assert voice_lines(workspace, project_id).made == 1
    assert workspace.takes_of(project) != {}


def test_results_kept_in_jobs_before_are_rows_of_their_own_now(tmp_path: Path) -> None:
    """Failures and what was exported used to be read back out of finished jobs."""
    path = tmp_path / "fox-cadence.sqlite"
    old = sqlite3.connect(path)
    old.execute("CREATE TABLE migration (name TEXT PRIMARY KEY, made_at TEXT) STRICT")
    for file in sorted(MIGRATIONS.glob("00[1-5]*.sql")):
        old.executescript(file.read_text())
        old.execute("INSERT INTO migration VALUES (?, '')", (file.name,))
    failed = {"failed": [{"line": "l2", "text": "A crab.", "reason": "the voice is hoarse"}]}
    jobs = [
        ("voice", "1", {"failed": [{"line": "l9", "text": "x", "reason": "mended since"}]}),
        ("voice", "2", failed),
        ("export", "1", {"files": [{"name": "old.mp4"}]}),
        ("export", "2", {"files": [{"name": "new.mp4"}]}),
        ("bundle", "1", {"file": "bay.zip"}),
    ]
    for kind, made_at, result in jobs:
        old.execute(
            "INSERT INTO job (id, project_id, kind, state, result, made_at) VALUES (?, 'p', ?, 'done', ?, ?)",
            (f"{kind}-{made_at}", kind, json.dumps(result), made_at),
        )
    old.commit()
    old.close()
    with Workspace(tmp_path) as workspace:
        results = workspace.results
        assert results.failures("p") == {"l2": "the voice is hoarse"}
        assert results.docket("p", "export") == {"files": [{"name": "new.mp4"}]}
        assert results.docket("p", "bundle") == {"file": "bay.zip"}
        results.keep_failures("p", ["l2", "l3"], {"l3": "no sound"})
        assert results.failures("p") == {"l3": "no sound"}

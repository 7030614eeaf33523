import sqlite3
from pathlib import Path

import pytest

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.project import Project
from fox_cadence.errors import ClashError, NotFoundError
from fox_cadence.store.database import Database


def renamed(workspace: Workspace, project_id: str, name: str) -> int:
    head = workspace.head(project_id)
    return workspace.projects.commit(
        project_id, head.revision, head.project.changed(name=name), f"Name {name}"
    )


def test_undo_and_redo_walk_the_revisions_and_survive_a_restart(tmp_path: Path) -> None:
    with Workspace(tmp_path) as workspace:
        project_id = workspace.projects.create(Project(name="one"), "Project made")
        for name in ("two", "three"):
            renamed(workspace, project_id, name)
        workspace.projects.undo(project_id)
    with Workspace(tmp_path) as workspace:
        head = workspace.head(project_id)
        assert (head.project.name, head.undo_label, head.redo_label) == ("two", "Name two", "Name three")
        workspace.projects.redo(project_id)
        assert workspace.head(project_id).project.name == "three"
        for _ in range(5):
            workspace.projects.undo(project_id)
        first = workspace.head(project_id)
        assert (first.project.name, first.undo_label) == ("one", None)


def test_after_an_undo_a_new_change_wins_over_the_old_branch(workspace: Workspace) -> None:
    project_id = workspace.projects.create(Project(name="one"), "Project made")
    renamed(workspace, project_id, "two")
    workspace.projects.undo(project_id)
    renamed(workspace, project_id, "other")
    workspace.projects.undo(project_id)
    workspace.projects.redo(project_id)
    assert workspace.head(project_id).project.name == "other"


def test_a_change_on_an_old_revision_is_a_clash_and_changes_nothing(workspace: Workspace) -> None:
    project_id = workspace.projects.create(Project(name="one"), "Project made")
    renamed(workspace, project_id, "two")
    with pytest.raises(ClashError) as clash:
        workspace.projects.commit(project_id, 1, Project(name="late"), "Late")
    assert (clash.value.based_on, clash.value.newest) == (1, 2)
    assert workspace.head(project_id).project.name == "two"


def test_what_is_not_there_is_named(workspace: Workspace) -> None:
    with pytest.raises(NotFoundError, match="nowhere"):
        workspace.head("nowhere")


def test_a_failed_transaction_leaves_nothing(tmp_path: Path) -> None:
    database = Database(tmp_path / "a.sqlite")

    def twice() -> None:
        with database.write() as db:
            db.execute("INSERT INTO project (id, made_at, head) VALUES ('a', 'now', 1)")
            db.execute("INSERT INTO project (id, made_at, head) VALUES ('a', 'now', 1)")

    with pytest.raises(sqlite3.IntegrityError):
        twice()
    with database.read() as db:
        assert db.execute("SELECT COUNT(*) AS n FROM project").fetchone()["n"] == 0
    database.close()

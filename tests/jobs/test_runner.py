import threading
from collections.abc import Callable
from concurrent.futures import Executor, Future
from pathlib import Path
from typing import Any

from fox_cadence.actions.jobs import resume
from fox_cadence.actions.workspace import Workspace
from fox_cadence.errors import EngineError
from fox_cadence.jobs.runner import JobRunner, Watcher
from fox_cadence.store.jobs import JobRow
from tests.builders import simple_project


def ended(workspace: Workspace, job_id: str) -> JobRow:
    for _ in range(500):
        row = workspace.jobs.get(job_id)
        if row.state not in ("waiting", "running"):
            return row
        threading.Event().wait(0.01)
    raise AssertionError("the job did not end")


def test_a_job_reports_and_gives_its_result(workspace: Workspace) -> None:
    def work(context: Watcher) -> dict[str, Any]:
        context.report(3, 4, "nearly")
        return {"answer": 4}

    row = ended(workspace, workspace.jobs.submit("p", "test", work).id)
    assert (row.state, row.done, row.total, row.result) == ("done", 3, 4, {"answer": 4})


def test_a_job_that_fails_says_why(workspace: Workspace) -> None:
    def ours(context: Watcher) -> dict[str, Any]:
        raise EngineError("the voice is hoarse")

    def foreign(context: Watcher) -> dict[str, Any]:
        raise ZeroDivisionError("by nought")

    assert ended(workspace, workspace.jobs.submit("p", "test", ours).id).note == "the voice is hoarse"
    row = ended(workspace, workspace.jobs.submit("p", "test", foreign).id)
    assert row.state == "failed"
    assert "by nought" in row.note


def test_a_job_stops_when_it_is_asked_to(workspace: Workspace) -> None:
    begun = threading.Event()

    def work(context: Watcher) -> dict[str, Any]:
        begun.set()
        while True:
            context.report(0, 1)
            threading.Event().wait(0.005)

    job = workspace.jobs.submit("p", "test", work)
    begun.wait(5)
    workspace.jobs.cancel(job.id)
    assert ended(workspace, job.id).state == "cancelled"


def test_jobs_that_were_broken_off_end_with_a_word_or_are_taken_up_once(tmp_path: Path) -> None:
    with Workspace(tmp_path) as workspace:
        project_id = workspace.projects.create(simple_project(["One pool."]), "Made")
        lost = workspace.job_store.create(project_id, "preview")
        workspace.job_store.report(lost, 1, 2, "half")
        asked = {
            "line_ids": None,
            "edits": [{"kind": "caption_text", "caption_id": "c1", "text": "A tide pool."}],
        }
        voicing = workspace.job_store.create(project_id, "voice", asked)
        unknown = workspace.job_store.create(project_id, "soar", {})
    with Workspace(tmp_path) as workspace:  # a command beside the server ends nothing
        assert workspace.job_store.get(lost).state == "running"
        assert [job.id for job in resume(workspace)] == [voicing]
        row = workspace.job_store.get(lost)
        assert (row.state, "1 of 2" in row.note, "start it again" in row.note) == ("failed", True, True)
        assert workspace.job_store.get(unknown).state == "failed"
        assert ended(workspace, voicing).result["made"] == 1
        project = workspace.head(project_id).project
        assert (project.captions[0].text, project.lines[0].take_id is not None) == ("A tide pool.", True)
        again = workspace.job_store.create(project_id, "voice", asked)
        for _ in range(2):
            taken = workspace.job_store.end_interrupted()
        assert taken == []  # twice broken off, it is not tried a third time
        assert workspace.job_store.get(again).state == "failed"


def test_old_jobs_are_forgotten_but_not_the_newest_that_was_done(workspace: Workspace) -> None:
    kept = workspace.job_store.create("p", "export")
    workspace.job_store.finish(kept, "done", "", {"files": []})
    for _ in range(5):
        workspace.job_store.finish(workspace.job_store.create("p", "voice"), "failed", "hoarse", {})
    workspace.job_store.forget_old(most_per_project=2)
    assert workspace.job_store.get(kept).state == "done"
    with workspace.database.read() as db:
        assert db.execute("SELECT COUNT(*) AS n FROM job").fetchone()["n"] == 3


def test_progress_is_told_at_once_and_costs_no_transaction_each_time(workspace: Workspace) -> None:
    halfway, seen = threading.Event(), threading.Event()

    def work(watcher: Watcher) -> dict[str, Any]:
        for done in range(1, 501):
            watcher.report(done, 1000, f"Step {done}")
        halfway.set()
        seen.wait(5)
        watcher.report(1000, 1000)
        return {}

    before = changes_of(workspace)
    job = workspace.jobs.submit("p", "test", work)
    assert halfway.wait(5)
    now = workspace.jobs.newest("p")
    assert now is not None
    assert (now.state, now.done, now.total, now.note) == ("running", 500, 1000, "Step 500")
    seen.set()
    row = ended(workspace, job.id)
    assert (row.state, row.done) == ("done", 1000)
    assert changes_of(workspace) - before <= 4  # asked for, begun, ended; a slow machine keeps it once more


def changes_of(workspace: Workspace) -> int:
    with workspace.database.read() as db:
        return int(db.execute("SELECT total_changes()").fetchone()[0])


class AtOnce(Executor):
    """Carries work out as it is handed over."""

    def submit(self, fn: Callable[..., Any], /, *args: Any, **named: Any) -> Future[Any]:
        done: Future[Any] = Future()
        done.set_result(fn(*args, **named))
        return done


def test_any_executor_can_carry_jobs_out(workspace: Workspace) -> None:
    runner = JobRunner(workspace.job_store, AtOnce())
    row = runner.submit("p", "test", lambda watcher: {"answer": 4})
    assert (row.state, row.result) == ("done", {"answer": 4})
    runner.close()

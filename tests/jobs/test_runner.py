import threading
from pathlib import Path
from typing import Any

from fox_cadence.actions.workspace import Workspace
from fox_cadence.errors import EngineError
from fox_cadence.jobs.runner import JobContext
from fox_cadence.store.jobs import JobRow


def ended(workspace: Workspace, job_id: str) -> JobRow:
    for _ in range(500):
        row = workspace.job_store.get(job_id)
        if row.state not in ("waiting", "running"):
            return row
        threading.Event().wait(0.01)
    raise AssertionError("the job did not end")


def test_a_job_reports_and_gives_its_result(workspace: Workspace) -> None:
    def work(context: JobContext) -> dict[str, Any]:
        context.report(3, 4, "nearly")
        return {"answer": 4}

    row = ended(workspace, workspace.jobs.submit("p", "test", work).id)
    assert (row.state, row.done, row.total, row.result) == ("done", 3, 4, {"answer": 4})


def test_a_job_that_fails_says_why(workspace: Workspace) -> None:
    def ours(context: JobContext) -> dict[str, Any]:
        raise EngineError("the voice is hoarse")

    def foreign(context: JobContext) -> dict[str, Any]:
        raise ZeroDivisionError("by nought")

    assert ended(workspace, workspace.jobs.submit("p", "test", ours).id).note == "the voice is hoarse"
    row = ended(workspace, workspace.jobs.submit("p", "test", foreign).id)
    assert row.state == "failed"
    assert "by nought" in row.note


def test_a_job_stops_when_it_is_asked_to(workspace: Workspace) -> None:
    begun = threading.Event()

    def work(context: JobContext) -> dict[str, Any]:
        begun.set()
        while True:
            context.report(0, 1)
            threading.Event().wait(0.005)

    job = workspace.jobs.submit("p", "test", work)
    begun.wait(5)
    workspace.jobs.cancel(job.id)
    assert ended(workspace, job.id).state == "cancelled"


def test_jobs_of_an_application_that_is_gone_are_ended_at_the_next_start(tmp_path: Path) -> None:
    with Workspace(tmp_path) as workspace:
        job_id = workspace.job_store.create("p", "export")
        workspace.job_store.report(job_id, 1, 2, "half")
    with Workspace(tmp_path) as workspace:
        row = workspace.job_store.get(job_id)
        assert row.state == "failed"
        assert "Start it again" in row.note

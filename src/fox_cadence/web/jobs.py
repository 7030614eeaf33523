"""Long work: voicing, and how far jobs are."""

from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from fox_cadence.actions.jobs import start
from fox_cadence.actions.voicing import open_lines
from fox_cadence.core.edits import Edit, apply_all
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.answers.jobs import job_json
from fox_cadence.web.pages import InWorkspace

router = APIRouter(prefix="/api")


@router.get("/jobs/{job_id}")
def job(job_id: str, workspace: InWorkspace) -> Response:
    """How far a job is, and what it came to."""
    return Json(job_json(workspace.jobs.get(job_id)))


@router.get("/projects/{project_id}/job")
def newest_job(project_id: str, workspace: InWorkspace) -> Response:
    """The job of a project that was asked for last, whichever window asked; null when there was none."""
    found = workspace.jobs.newest(project_id)
    return Json(job_json(found) if found else None)


@router.post("/jobs/{job_id}/cancel")
def cancel(job_id: str, workspace: InWorkspace) -> Response:
    """Stop a job; what was finished by then is kept."""
    workspace.jobs.cancel(job_id)
    return Json(job_json(workspace.jobs.get(job_id)))


class VoiceRequest(BaseModel):
    """Lines to voice; without any, all open ones. Edits are made in the same step."""

    line_ids: list[str] | None = Field(None, max_length=20_000)
    edits: list[Annotated[Edit, Field(discriminator="kind")]] = Field([], max_length=50)


@router.get("/projects/{project_id}/voice")
def what_is_open(project_id: str, workspace: InWorkspace) -> Response:
    """The lines that have no voice yet, or one that is out of date."""
    lines = open_lines(workspace, workspace.head(project_id).project)
    return Json({"line_ids": [line.id for line in lines]})


@router.post("/projects/{project_id}/voice")
def voice(project_id: str, request: VoiceRequest, workspace: InWorkspace) -> Response:
    """A job: lines voiced."""
    # what can't be is said before the work begins
    apply_all(workspace.head(project_id).project, request.edits)
    return Json(job_json(start(workspace, project_id, "voice", request.model_dump(mode="json"))))

"""Undo and redo, and the revisions of a project: listed, looked at, gone back to."""

from collections.abc import Callable
from dataclasses import asdict

from fastapi import APIRouter, Response
from pydantic import BaseModel

from fox_cadence.actions.undo import back_to, redo, undo
from fox_cadence.actions.workspace import Workspace
from fox_cadence.errors import ClashError
from fox_cadence.web.answers.answer import Answer, InAnswer
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.pages import InWorkspace
from fox_cadence.web.problems import Problem

router = APIRouter(prefix="/api")


class StepRequest(BaseModel):
    """The revision the editor saw when undo or redo was asked for; None takes whatever is newest."""

    based_on: int | None = None


@router.post("/projects/{project_id}/undo")
def undo_step(
    project_id: str, workspace: InWorkspace, answer: InAnswer, request: StepRequest | None = None
) -> Response:
    """Undo the last step."""
    return _step(workspace, answer, project_id, undo, request)


@router.post("/projects/{project_id}/redo")
def redo_step(
    project_id: str, workspace: InWorkspace, answer: InAnswer, request: StepRequest | None = None
) -> Response:
    """Redo the step that was undone."""
    return _step(workspace, answer, project_id, redo, request)


def _step(
    workspace: Workspace,
    answer: Answer,
    project_id: str,
    step: Callable[[Workspace, str, int | None], None],
    request: StepRequest | None,
) -> Response:
    try:
        step(workspace, project_id, request.based_on if request else None)
    except ClashError as error:
        return Problem("clash", str(error), state=answer.project(project_id))
    return Json(answer.project(project_id))


@router.get("/projects/{project_id}/revisions")
def revisions(project_id: str, workspace: InWorkspace, before: int | None = None) -> Response:
    """The states of a project, the newest first, two hundred at a time."""
    head = workspace.head(project_id)
    found = workspace.projects.revisions(project_id, before=before)
    return Json({"head": head.revision, "revisions": [asdict(each) for each in found]})


@router.get("/projects/{project_id}/revisions/{number}")
def look_at(project_id: str, number: int, workspace: InWorkspace, answer: InAnswer) -> Response:
    """A project as it was, to look at and to hear; nothing is changed."""
    project = workspace.projects.at(project_id, number)
    key = workspace.previews.keep(project)
    return Json({"preview": key, "state": answer.state(project_id, project)})


class BackRequest(BaseModel):
    based_on: int
    number: int


@router.post("/projects/{project_id}/back")
def back(project_id: str, request: BackRequest, workspace: InWorkspace, answer: InAnswer) -> Response:
    """Be again what it was, as one step that can be undone."""
    back_to(workspace, project_id, request.number, request.based_on)
    return Json(answer.project(project_id))

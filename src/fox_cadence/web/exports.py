"""Exports from the browser: a job writes the files into the data folder, the docket offers them."""

from typing import Any

from fastapi import APIRouter
from fastapi.responses import FileResponse, JSONResponse
from pydantic import BaseModel

from fox_cadence.actions.long_work import export_folder, start
from fox_cadence.actions.workspace import Workspace
from fox_cadence.errors import NotFoundError
from fox_cadence.web.pages import InWorkspace
from fox_cadence.web.work import job_json

router = APIRouter(prefix="/api/projects/{project_id}/exports")


class ExportRequest(BaseModel):
    video: bool = True
    sound: bool = True
    captions: bool = True
    look: bool = False


@router.post("")
def begin(project_id: str, request: ExportRequest, workspace: InWorkspace) -> JSONResponse:
    workspace.head(project_id)
    return JSONResponse(job_json(start(workspace, project_id, "export", request.model_dump())))


@router.get("")
def docket(project_id: str, workspace: InWorkspace) -> JSONResponse:
    """What the last export made."""
    workspace.head(project_id)
    return JSONResponse(_last(workspace, project_id))


@router.get("/{name}")
def download(project_id: str, name: str, workspace: InWorkspace) -> FileResponse:
    made = [_last(workspace, project_id, kind).get("files", []) for kind in ("export", "line sounds")]
    names = {file["name"] for files in made for file in files}
    path = export_folder(workspace, project_id) / name
    if name not in names or not path.is_file():
        raise NotFoundError("This file was not exported, or has been moved away. Export it again.")
    return FileResponse(path, filename=name)


def _last(workspace: Workspace, project_id: str, kind: str = "export") -> dict[str, Any]:
    made = workspace.job_store.newest_done(project_id, kind)
    return made.result if made else {}

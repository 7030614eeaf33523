"""Exports from the browser: a job writes the files into the data folder, the docket offers them."""

from typing import Any

from fastapi import APIRouter
from fastapi.responses import FileResponse, JSONResponse
from pydantic import BaseModel

from fox_cadence.actions.exporting import Wanted, export
from fox_cadence.actions.workspace import Workspace
from fox_cadence.errors import NotFoundError
from fox_cadence.jobs.runner import JobContext
from fox_cadence.web.pages import InWorkspace
from fox_cadence.web.work import job_json

router = APIRouter(prefix="/api/projects/{project_id}/exports")


class ExportRequest(BaseModel):
    video: bool = True
    sound: bool = True
    captions: bool = True


@router.post("")
def start(project_id: str, request: ExportRequest, workspace: InWorkspace) -> JSONResponse:
    revision = workspace.head(project_id).revision
    folder = workspace.folder / "exports" / project_id

    def work(context: JobContext) -> dict[str, Any]:
        wanted = Wanted(request.video, request.sound, request.captions)
        files = export(workspace, project_id, folder, wanted, context)
        return {
            "revision": revision,
            "folder": str(folder),
            "files": [{"name": file.name, "bytes": file.stat().st_size} for file in files],
        }

    return JSONResponse(job_json(workspace.jobs.submit(project_id, "export", work)))


@router.get("")
def docket(project_id: str, workspace: InWorkspace) -> JSONResponse:
    """What the last export made."""
    workspace.head(project_id)
    return JSONResponse(_last(workspace, project_id))


@router.get("/{name}")
def download(project_id: str, name: str, workspace: InWorkspace) -> FileResponse:
    made = [_last(workspace, project_id, kind).get("files", []) for kind in ("export", "line sounds")]
    names = {file["name"] for files in made for file in files}
    path = workspace.folder / "exports" / project_id / name
    if name not in names or not path.is_file():
        raise NotFoundError("This file was not exported, or has been moved away. Export it again.")
    return FileResponse(path, filename=name)


def _last(workspace: Workspace, project_id: str, kind: str = "export") -> dict[str, Any]:
    made = workspace.job_store.newest_done(project_id, kind)
    return made.result if made else {}

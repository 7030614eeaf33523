"""Exports from the browser: a job writes the files into the data folder, the docket offers them."""

from dataclasses import asdict

from fastapi import APIRouter, Response
from fastapi.responses import FileResponse
from pydantic import BaseModel

from fox_cadence.actions.docket import products_of
from fox_cadence.actions.jobs import export_folder, start
from fox_cadence.errors import NotFoundError
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.answers.jobs import job_json
from fox_cadence.web.pages import InWorkspace

router = APIRouter(prefix="/api/projects/{project_id}/exports")


class ExportRequest(BaseModel):
    video: bool = True
    sound: bool = True
    captions: bool = True
    look: bool = False
    prove: bool = False


@router.post("")
def begin(project_id: str, request: ExportRequest, workspace: InWorkspace) -> Response:
    workspace.head(project_id)
    return Json(job_json(start(workspace, project_id, "export", request.model_dump())))


@router.get("")
def docket(project_id: str, workspace: InWorkspace) -> Response:
    """What the last export made."""
    workspace.head(project_id)
    return Json(workspace.results.docket(project_id, "export"))


@router.get("/docket")
def whole_docket(project_id: str, workspace: InWorkspace) -> Response:
    """What can be made, what the last export made, and the proof of its video."""
    head = workspace.head(project_id)
    return Json(
        {
            "products": [asdict(each) for each in products_of(workspace, project_id, head.project)],
            "made": workspace.results.docket(project_id, "export"),
            "lines": workspace.results.docket(project_id, "line sounds"),
            "bundle": workspace.results.docket(project_id, "bundle"),
            "timeline": workspace.results.docket(project_id, "timeline"),
            "proof": workspace.results.docket(project_id, "proof"),
        }
    )


@router.post("/proof")
def prove(project_id: str, workspace: InWorkspace) -> Response:
    """Measure the video that was made last against what it was made of."""
    workspace.head(project_id)
    return Json(job_json(start(workspace, project_id, "proof", {})))


@router.post("/timeline")
def timeline(project_id: str, workspace: InWorkspace) -> Response:
    """A job that writes the timeline for other tools, with the media it names."""
    workspace.head(project_id)
    return Json(job_json(start(workspace, project_id, "interchange", {})))


@router.get("/{name}")
def download(project_id: str, name: str, workspace: InWorkspace) -> FileResponse:
    kinds = ("export", "line sounds", "timeline")
    made = [workspace.results.docket(project_id, kind).get("files", []) for kind in kinds]
    names = {file["name"] for files in made for file in files}
    path = export_folder(workspace, project_id) / name
    if name not in names or not path.is_file():
        raise NotFoundError("This file was not exported, or has been moved away. Export it again.")
    return FileResponse(path, filename=name)

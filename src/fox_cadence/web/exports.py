"""The docket and exports from the browser: what is wanted is kept, a job writes the files into the data
folder, the docket offers them."""

from dataclasses import asdict

from fastapi import APIRouter, Response
from fastapi.responses import FileResponse
from pydantic import BaseModel, Field

from fox_cadence.actions.docket import (
    docket_of,
    keep_docket,
    keep_for_all,
    kept_docket,
    products_of,
    rows_named,
)
from fox_cadence.actions.export_jobs import export_folder, provable
from fox_cadence.actions.jobs import start
from fox_cadence.core.docket import Docket
from fox_cadence.errors import NotFoundError
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.answers.jobs import job_json
from fox_cadence.web.pages import InWorkspace

router = APIRouter(prefix="/api/projects/{project_id}/exports")
kept_router = APIRouter(prefix="/api/dockets")


class ExportRequest(BaseModel):
    """What is to be made: rows by their names, or those the docket of the project wants."""

    rows: list[str] | None = Field(None, max_length=60)
    prove: bool = False


@router.post("")
def begin(project_id: str, request: ExportRequest, workspace: InWorkspace) -> Response:
    """A job: the wanted rows of the docket made, and proven where that is asked for."""
    workspace.head(project_id)
    docket = docket_of(workspace, project_id)
    if request.rows is not None:
        docket = rows_named(docket, request.rows)
    asked = {"docket": docket.model_dump(), "prove": request.prove}
    return Json(job_json(start(workspace, project_id, "export", asked)))


@router.get("")
def made(project_id: str, workspace: InWorkspace) -> Response:
    """What the last export made."""
    workspace.head(project_id)
    return Json(workspace.results.docket(project_id, "export"))


@router.get("/docket")
def whole_docket(project_id: str, workspace: InWorkspace) -> Response:
    """What can be made, what was made, which files of it can be proven, and the proofs there are."""
    head = workspace.head(project_id)
    docket = docket_of(workspace, project_id)
    return Json(
        {
            "docket": docket.model_dump(),
            "products": [asdict(each) for each in products_of(workspace, project_id, head.project, docket)],
            "made": workspace.results.docket(project_id, "export"),
            "lines": workspace.results.docket(project_id, "line sounds"),
            "provable": provable(workspace, project_id),
            "proofs": workspace.results.docket(project_id, "proofs"),
            "kept": [each.name for each in workspace.dockets.all()],
        }
    )


@router.put("/docket")
def want(project_id: str, docket: Docket, workspace: InWorkspace) -> Response:
    """Keep what is wanted of a project."""
    head = workspace.head(project_id)
    keep_docket(workspace, project_id, docket)
    return Json({"products": [asdict(each) for each in products_of(workspace, project_id, head.project)]})


class NamedRequest(BaseModel):
    name: str = Field(max_length=60)


@router.post("/docket/keep")
def keep(project_id: str, asked: NamedRequest, workspace: InWorkspace) -> Response:
    """Keep the docket of a project under a name, for all projects."""
    workspace.head(project_id)
    kept = keep_for_all(workspace, asked.name, docket_of(workspace, project_id))
    return Json({"name": kept.name})


@router.post("/docket/take")
def take(project_id: str, asked: NamedRequest, workspace: InWorkspace) -> Response:
    """Give a project a docket that is kept for all."""
    workspace.head(project_id)
    docket = kept_docket(workspace, asked.name)
    keep_docket(workspace, project_id, docket)
    return Json({"docket": docket.model_dump()})


@kept_router.delete("/{name}")
def forget(name: str, workspace: InWorkspace) -> Response:
    """A docket is no longer kept for all projects."""
    workspace.dockets.forget(kept_docket(workspace, name).name)
    return Json({})


class ProofRequest(BaseModel):
    rows: list[str] | None = Field(None, max_length=60)


@router.post("/proof")
def prove(project_id: str, workspace: InWorkspace, asked: ProofRequest | None = None) -> Response:
    """A job: videos that were made measured against what they were made of."""
    workspace.head(project_id)
    request = {"rows": asked.rows if asked else None}
    return Json(job_json(start(workspace, project_id, "proof", request)))


@router.get("/{name}")
def download(project_id: str, name: str, workspace: InWorkspace) -> FileResponse:
    """A file that was made."""
    kinds = ("export", "line sounds")
    files = [workspace.results.docket(project_id, kind).get("files", []) for kind in kinds]
    names = {file["name"] for each in files for file in each}
    proofs = workspace.results.docket(project_id, "proofs").values()
    names |= {report for each in proofs for report in each.get("reports", [])}
    path = export_folder(workspace, project_id) / name
    if name not in names or not path.is_file():
        raise NotFoundError("This file was not exported, or has been moved away. Export it again.")
    return FileResponse(path, filename=name)

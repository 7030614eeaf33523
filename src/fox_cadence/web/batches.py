"""Batches from the browser: several projects made by one docket."""

import json
import tempfile
from pathlib import Path
from typing import Annotated, Any

from fastapi import APIRouter, Request, Response, UploadFile
from fastapi import Path as PathPart
from fastapi.responses import FileResponse, HTMLResponse

from fox_cadence.actions.batch import KEPT_AS, items_of
from fox_cadence.actions.covers import cover_file, keep_cover
from fox_cadence.actions.jobs import start
from fox_cadence.core.batch import Batch, write_batch
from fox_cadence.core.docket.shipped import PLAIN
from fox_cadence.core.languages import language_name
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.answers.jobs import job_json
from fox_cadence.web.pages import InWorkspace, templates
from fox_cadence.web.uploads import UploadRoute, keep_upload, name_of

router = APIRouter(route_class=UploadRoute)

LARGEST_COVER_BYTES = 50 << 20


@router.get("/batch", response_class=HTMLResponse)
def batch_page(request: Request, workspace: InWorkspace) -> Response:
    """Several projects made by one docket, and what became of the last batch."""
    listed = sorted(workspace.projects.list(), key=lambda each: (each.series == "", each.series, each.name))
    rows = [
        {
            "id": each.project_id,
            "name": each.name,
            "series": each.series,
            "language": language_name(each.language),
            "seconds": each.seconds,
            "lines": each.lines,
        }
        for each in listed
    ]
    context = {
        "offered_json": _inline({"projects": rows, "products": [row.name for row in PLAIN.rows]}),
        "dockets": [each.name for each in workspace.dockets.all()],
        "any": bool(rows),
    }
    return templates.TemplateResponse(request, "batch.html", context)


def _inline(value: Any) -> str:
    return json.dumps(value).replace("<", "\\u003c")


@router.post("/api/batches")
def begin(batch: Batch, workspace: InWorkspace) -> Response:
    """A job: every piece of a batch made. Its files stay with their projects; `out` is for terminals."""
    here = batch.model_copy(update={"out": ""})
    items_of(workspace, here)  # what can't be is said before the work begins
    return Json(job_json(start(workspace, "", "batch", {"batch": here.model_dump()})))


@router.get("/api/batches/newest")
def newest(workspace: InWorkspace) -> Response:
    """The table of the last batch, and its job; both null before there was one."""
    found = workspace.jobs.newest("", "batch")
    table = workspace.results.docket("", KEPT_AS)
    return Json({"job": job_json(found) if found else None, "table": table or None})


@router.post("/api/batches/written")
def written(batch: Batch) -> Response:
    """A batch as it is written down for a terminal (TOML)."""
    headers = {"content-disposition": 'attachment; filename="batch.toml"'}
    return Response(write_batch(batch), media_type="application/toml", headers=headers)


@router.post("/api/covers")
def add_cover(file: UploadFile, workspace: InWorkspace) -> Response:
    """Keep a picture that stands for the sound files of a work; the hash it is named by in a batch."""
    with tempfile.TemporaryDirectory(dir=workspace.scratch) as folder:
        path = Path(folder) / name_of(file, "cover")
        keep_upload(file, path, LARGEST_COVER_BYTES, "the picture is")
        return Json({"cover_hash": keep_cover(workspace, path)})


@router.get("/api/covers/{cover_hash}")
def cover(cover_hash: Annotated[str, PathPart(pattern="^[0-9a-f]{64}$")], workspace: InWorkspace) -> Response:
    """The picture of a work (JPEG)."""
    return FileResponse(cover_file(workspace, cover_hash), media_type="image/jpeg")

"""Requests about projects as wholes: states, copies, deleting, bundles, what is kept on the disk."""

import shutil
from dataclasses import asdict
from typing import Annotated, Any, Literal

from fastapi import APIRouter, File, Form, UploadFile
from fastapi.responses import FileResponse, JSONResponse
from pydantic import BaseModel

from fox_cadence.actions.adding import add_media
from fox_cadence.actions.bring_in import LARGEST_MEDIA_BYTES, MediaFile
from fox_cadence.actions.bundling import bring_in_bundle
from fox_cadence.actions.long_work import export_folder, start
from fox_cadence.actions.projects import back_to, copy_project, point_to
from fox_cadence.errors import NotFoundError
from fox_cadence.jobs.runner import JobContext
from fox_cadence.web.editing import current
from fox_cadence.web.pages import InWorkspace
from fox_cadence.web.timeline_view import timeline_json
from fox_cadence.web.uploads import arriving, name_of, then_gone, write_upload
from fox_cadence.web.work import LARGEST_UPLOAD_BYTES, job_json

router = APIRouter(prefix="/api")


@router.get("/projects/{project_id}/revisions")
def revisions(project_id: str, workspace: InWorkspace, before: int | None = None) -> JSONResponse:
    """The states of a project, the newest first, two hundred at a time."""
    head = workspace.head(project_id)
    found = workspace.projects.revisions(project_id, before=before)
    return JSONResponse({"head": head.revision, "revisions": [asdict(each) for each in found]})


@router.get("/projects/{project_id}/revisions/{number}")
def look_at(project_id: str, number: int, workspace: InWorkspace) -> JSONResponse:
    """The timeline of a project as it was, to look at and to hear; nothing is changed."""
    head = workspace.head(project_id)
    project = workspace.projects.at(project_id, number)
    key = workspace.previews.keep(project)
    return JSONResponse({"preview": key, "timeline": timeline_json(head, workspace.timeline(project), 0)})


class BackRequest(BaseModel):
    based_on: int
    number: int


@router.post("/projects/{project_id}/back")
def back(project_id: str, request: BackRequest, workspace: InWorkspace) -> JSONResponse:
    """Be again what it was, as one step that can be undone."""
    back_to(workspace, project_id, request.number, request.based_on)
    return JSONResponse(current(workspace, project_id))


@router.post("/projects/{project_id}/copy")
def copy(project_id: str, workspace: InWorkspace) -> JSONResponse:
    return JSONResponse({"project": copy_project(workspace, project_id)})


@router.post("/projects/{project_id}/delete")
def delete(project_id: str, workspace: InWorkspace) -> JSONResponse:
    workspace.projects.delete(project_id)
    return JSONResponse({})


@router.post("/projects/{project_id}/bring-back")
def bring_back(project_id: str, workspace: InWorkspace) -> JSONResponse:
    workspace.projects.bring_back(project_id)
    return JSONResponse({})


@router.post("/projects/{project_id}/delete-for-good")
def delete_for_good(project_id: str, workspace: InWorkspace) -> JSONResponse:
    """Forget a deleted project; its takes and clips stay until they are cleaned up."""
    workspace.projects.delete_for_good(project_id)
    shutil.rmtree(export_folder(workspace, project_id), ignore_errors=True)
    return JSONResponse({})


@router.post("/projects/{project_id}/clips/{content_hash}/file")
async def point(
    project_id: str, content_hash: str, workspace: InWorkspace, file: Annotated[UploadFile, File()]
) -> JSONResponse:
    """A job that brings back a clip whose file has vanished."""
    workspace.head(project_id)
    with arriving(workspace.scratch) as folder:
        path, name = folder / "file", name_of(file, "file")
        await write_upload(file, path, LARGEST_MEDIA_BYTES)

    def work(context: JobContext) -> dict[str, Any]:
        point_to(workspace, project_id, content_hash, MediaFile(path, name), context)
        return {}

    return JSONResponse(job_json(workspace.jobs.submit(project_id, "media", then_gone(folder, work))))


@router.post("/projects/{project_id}/media")
async def add(
    project_id: str,
    workspace: InWorkspace,
    files: Annotated[list[UploadFile], File()],
    after: Annotated[str, Form()] = "",
    use: Annotated[Literal["shots", "bed"], Form()] = "shots",
) -> JSONResponse:
    """A job that adds files: pictures as shots after the shot `after` or at the end, a sound as the bed."""
    workspace.head(project_id)
    media: list[MediaFile] = []
    with arriving(workspace.scratch) as folder:
        total = 0
        for number, file in enumerate(files):
            path = folder / str(number)
            total += await write_upload(file, path, LARGEST_UPLOAD_BYTES - total, "the files together are")
            media.append(MediaFile(path, name_of(file, "file")))

    def work(context: JobContext) -> dict[str, Any]:
        return add_media(workspace, project_id, media, after or None, use == "bed", context).as_json()

    return JSONResponse(job_json(workspace.jobs.submit(project_id, "media", then_gone(folder, work))))


# bundles


@router.post("/projects/{project_id}/bundle")
def make_bundle(project_id: str, workspace: InWorkspace) -> JSONResponse:
    """A job that writes the project with all it needs into one file."""
    workspace.head(project_id)
    return JSONResponse(job_json(start(workspace, project_id, "bundle", {})))


@router.get("/projects/{project_id}/bundle/{name}")
def bundle(project_id: str, name: str, workspace: InWorkspace) -> FileResponse:
    """The bundle that was made last."""
    made = workspace.job_store.newest_done(project_id, "bundle")
    path = export_folder(workspace, project_id) / name
    if made is None or made.result.get("file") != name or not path.is_file():
        raise NotFoundError("This bundle was not made, or has been moved away. Make it again.")
    return FileResponse(path, filename=name, media_type="application/zip")


@router.post("/bundles")
async def take_bundle(workspace: InWorkspace, file: Annotated[UploadFile, File()]) -> JSONResponse:
    """A job that makes a project of a bundle."""
    with arriving(workspace.scratch) as folder:
        path, name = folder / "bundle", name_of(file, "bundle")
        await write_upload(file, path, LARGEST_UPLOAD_BYTES)

    def work(context: JobContext) -> dict[str, Any]:
        return bring_in_bundle(workspace, path, name, context).as_json()

    return JSONResponse(job_json(workspace.jobs.submit("", "bundle in", then_gone(folder, work))))


# what is kept on the disk


@router.post("/kept/clean")
def clean(workspace: InWorkspace) -> JSONResponse:
    """Put aside what nothing points to; it can be brought back for a day."""
    return JSONResponse({"bytes": workspace.cleaning.discard(workspace.cleaning.unused())})


@router.post("/kept/bring-back")
def uncleaned(workspace: InWorkspace) -> JSONResponse:
    return JSONResponse({"things": workspace.cleaning.bring_back()})

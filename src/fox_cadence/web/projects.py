"""Requests about projects as wholes: states, copies, deleting, bundles, what is kept on the disk."""

import shutil
from dataclasses import asdict
from pathlib import Path
from typing import Annotated, Any, NamedTuple

from fastapi import APIRouter, File, Form, Response, UploadFile
from fastapi.responses import FileResponse
from pydantic import BaseModel, Field

from fox_cadence.actions.adding import Use
from fox_cadence.actions.bring_in import (
    LARGEST_MEDIA_BYTES,
    MediaFile,
    NewProject,
    check_new_project,
    parse_size,
)
from fox_cadence.actions.export_jobs import export_folder
from fox_cadence.actions.interchange import SUFFIXES
from fox_cadence.actions.jobs import files_request, start
from fox_cadence.actions.preparing import prepare_in_background
from fox_cadence.actions.projects import copy_project, project_like, standing_of
from fox_cadence.core.ticks import frame_rate
from fox_cadence.demo.samples import ensure_samples
from fox_cadence.errors import InputError, NotFoundError
from fox_cadence.formats import LARGEST_BYTES, is_words
from fox_cadence.jobs.runner import Watcher
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.answers.jobs import job_json
from fox_cadence.web.pages import InWorkspace
from fox_cadence.web.uploads import UploadRoute, arriving, keep_upload, name_of

router = APIRouter(prefix="/api", route_class=UploadRoute)

LARGEST_UPLOAD_BYTES = 8 << 30


@router.post("/projects")
def create(
    workspace: InWorkspace,
    name: Annotated[str, Form()],
    size: Annotated[str, Form()] = "1080x1920",
    fps: Annotated[str, Form()] = "30",
    language: Annotated[str, Form()] = "en",
    pasted: Annotated[str, Form()] = "",
    encoding: Annotated[str, Form()] = "",
    names: Annotated[bool, Form()] = False,
    descriptions: Annotated[bool, Form()] = False,
    like: Annotated[str, Form(max_length=80)] = "",
    find_cuts: Annotated[bool, Form()] = False,
    finished: Annotated[bool, Form()] = False,
    files: Annotated[list[UploadFile] | None, File()] = None,
) -> Response:
    """Make a project from uploaded files: pictures, at most one file of words, music. A job."""
    wanted = NewProject(name, *parse_size(size), _rate(fps), language, like, find_cuts)
    check_new_project(wanted)
    if like:
        workspace.head(like)
    with arriving(workspace.scratch) as folder:
        media, words, timeline = _receive(files or [], folder)
        if pasted.strip():
            path, encoding = folder / "pasted", ""
            path.write_bytes(pasted.encode("utf-8", "replace"))
            words = {"path": str(path), "name": "pasted.txt"}
        if timeline and words:
            raise InputError(
                "a timeline brings its own words; leave out the other file, or the timeline", "words"
            )
    if timeline:
        wish = {**asdict(wanted), "rate": wanted.rate.model_dump()}
        brought = {"project": wish, "files": files_request(media), "timeline": timeline}
        return Json(job_json(start(workspace, "", "timeline in", brought, folder)))
    how = {"encoding": encoding, "names": names, "descriptions": descriptions}
    asked = {
        "project": {**asdict(wanted), "rate": wanted.rate.model_dump()},
        "files": files_request(media),
        "words": {**words, **how} if words else None,
        "finished": finished,
    }
    return Json(job_json(start(workspace, "", "new project", asked, folder)))


def _rate(name: str) -> Any:
    try:
        return frame_rate(name)
    except ValueError as error:
        raise InputError(str(error), "frame rate") from error


class _Received(NamedTuple):
    """Uploads on disk under names of our own: media, and at most one file of words and one timeline, each
    with its path and name."""

    media: list[MediaFile]
    words: dict[str, str] | None
    timeline: dict[str, str] | None


def _receive(files: list[UploadFile], folder: Path) -> _Received:
    media: list[MediaFile] = []
    single: dict[str, dict[str, str]] = {}
    total = 0
    for number, upload in enumerate(files):
        name = name_of(upload)
        if not name:
            continue
        target = folder / str(number)
        kind = "words" if is_words(name) else "timeline" if Path(name).suffix.lower() in SUFFIXES else ""
        if kind:
            if kind in single:
                what = "files of words" if kind == "words" else "timelines"
                raise InputError(
                    f"there are two {what} ({single[kind]['name']} and {name}); choose one", kind
                )
            keep_upload(upload, target, LARGEST_BYTES)
            single[kind] = {"path": str(target), "name": name}
            continue
        total += keep_upload(upload, target, LARGEST_UPLOAD_BYTES - total, "the files together are")
        media.append(MediaFile(target, name))
    return _Received(media, single.get("words"), single.get("timeline"))


@router.post("/projects/{project_id}/copy")
def copy(project_id: str, workspace: InWorkspace) -> Response:
    """A copy of a project."""
    return Json({"project": copy_project(workspace, project_id)})


@router.post("/projects/{project_id}/begin-like")
def begin_like(project_id: str, workspace: InWorkspace) -> Response:
    """A new project with the cast, the styles, the lexicon and the limits of this one."""
    return Json({"project": project_like(workspace, project_id)})


class SeriesRequest(BaseModel):
    series: str = Field(max_length=80)


@router.post("/projects/{project_id}/series")
def put_into(project_id: str, request: SeriesRequest, workspace: InWorkspace) -> Response:
    """Put a project into a series; '' takes it out."""
    workspace.projects.put_into(project_id, " ".join(request.series.split()))
    return Json({})


@router.get("/projects/{project_id}/standing")
def standing(project_id: str, workspace: InWorkspace) -> Response:
    """What is still open in a project."""
    return Json(asdict(standing_of(workspace, project_id)))


@router.post("/samples")
def samples(workspace: InWorkspace) -> Response:
    """A job that brings in the samples, where they are not there; their clips are prepared after it."""

    def work(watcher: Watcher) -> dict[str, str]:
        project = ensure_samples(workspace, watcher)
        workspace.projects.bring_back(project)  # where it was there, and deleted
        prepare_in_background(workspace)
        return {"project": project}

    return Json(job_json(workspace.jobs.submit("", "samples", work)))


@router.post("/projects/{project_id}/delete")
def delete(project_id: str, workspace: InWorkspace) -> Response:
    """Delete a project; it can be brought back."""
    workspace.projects.delete(project_id)
    return Json({})


@router.post("/projects/{project_id}/bring-back")
def bring_back(project_id: str, workspace: InWorkspace) -> Response:
    """Bring a deleted project back."""
    workspace.projects.bring_back(project_id)
    return Json({})


@router.post("/projects/{project_id}/delete-for-good")
def delete_for_good(project_id: str, workspace: InWorkspace) -> Response:
    """Forget a deleted project; its takes and clips stay until they are cleaned up."""
    workspace.projects.delete_for_good(project_id)
    shutil.rmtree(export_folder(workspace, project_id), ignore_errors=True)
    return Json({})


@router.post("/projects/{project_id}/clips/{content_hash}/file")
def point(
    project_id: str, content_hash: str, workspace: InWorkspace, file: Annotated[UploadFile, File()]
) -> Response:
    """A job that brings back a clip whose file has vanished."""
    workspace.head(project_id)
    with arriving(workspace.scratch) as folder:
        path, name = folder / "file", name_of(file, "file")
        keep_upload(file, path, LARGEST_MEDIA_BYTES)

    asked = {"files": files_request([MediaFile(path, name)]), "clip": content_hash}
    return Json(job_json(start(workspace, project_id, "vanished media", asked, folder)))


@router.post("/projects/{project_id}/media")
def add(
    project_id: str,
    workspace: InWorkspace,
    files: Annotated[list[UploadFile], File()],
    after: Annotated[str, Form()] = "",
    use: Annotated[Use, Form()] = "shots",
    before: Annotated[str, Form()] = "",
) -> Response:
    """A job that adds files: pictures as shots after or before one, at the end, or only to the shelf; a sound
    as the bed."""
    workspace.head(project_id)
    media: list[MediaFile] = []
    with arriving(workspace.scratch) as folder:
        total = 0
        for number, file in enumerate(files):
            path = folder / str(number)
            total += keep_upload(file, path, LARGEST_UPLOAD_BYTES - total, "the files together are")
            media.append(MediaFile(path, name_of(file, "file")))

    asked = {"files": files_request(media), "after": after or None, "use": use, "before": before or None}
    return Json(job_json(start(workspace, project_id, "media", asked, folder)))


@router.post("/projects/{project_id}/clips/{content_hash}/cuts")
def cuts(project_id: str, content_hash: str, workspace: InWorkspace) -> Response:
    """A job that looks for the cuts of a video of the project."""
    workspace.head(project_id)
    return Json(job_json(start(workspace, project_id, "cuts", {"clip": content_hash})))


# bundles


@router.post("/projects/{project_id}/bundle")
def make_bundle(project_id: str, workspace: InWorkspace) -> Response:
    """A job that writes the project with all it needs into one file."""
    workspace.head(project_id)
    return Json(job_json(start(workspace, project_id, "bundle", {})))


@router.get("/projects/{project_id}/bundle/{name}")
def bundle(project_id: str, name: str, workspace: InWorkspace) -> FileResponse:
    """The bundle that was made last."""
    made = workspace.results.docket(project_id, "bundle")
    path = export_folder(workspace, project_id) / name
    if made.get("file") != name or not path.is_file():
        raise NotFoundError("This bundle was not made, or has been moved away. Make it again.")
    return FileResponse(path, filename=name, media_type="application/zip")


@router.post("/bundles")
def take_bundle(workspace: InWorkspace, file: Annotated[UploadFile, File()]) -> Response:
    """A job that makes a project of a bundle."""
    with arriving(workspace.scratch) as folder:
        path, name = folder / "bundle", name_of(file, "bundle")
        keep_upload(file, path, LARGEST_UPLOAD_BYTES)

    return Json(
        job_json(start(workspace, "", "bundle in", {"files": files_request([MediaFile(path, name)])}, folder))
    )


# what is kept on the disk


@router.post("/kept/clean")
def clean(workspace: InWorkspace) -> Response:
    """Put aside what nothing points to; it can be brought back for a day."""
    return Json({"bytes": workspace.cleaning.discard(workspace.cleaning.unused())})


@router.post("/kept/bring-back")
def uncleaned(workspace: InWorkspace) -> Response:
    """Bring back what was cleaned up."""
    return Json({"things": workspace.cleaning.bring_back()})

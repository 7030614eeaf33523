"""Requests about takes: those of a line, comparing, recordings, sound files of lines."""

from typing import Annotated

from fastapi import APIRouter, File, Form, Response, UploadFile
from pydantic import BaseModel, Field

from fox_cadence.actions.bring_in import MediaFile
from fox_cadence.actions.jobs import files_request, start
from fox_cadence.actions.line_sounds import Format
from fox_cadence.actions.takes import Variant, choose_take, keep_compared, takes_of_line
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.errors import InputError
from fox_cadence.web.answers.answer import InAnswer
from fox_cadence.web.answers.desk import line_take_json, way_json
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.answers.jobs import job_json
from fox_cadence.web.pages import InWorkspace
from fox_cadence.web.uploads import UploadRoute, arriving, keep_upload, name_of

router = APIRouter(prefix="/api/projects/{project_id}", route_class=UploadRoute)

LARGEST_RECORDING_BYTES = 500 << 20


@router.get("/lines/{line_id}/takes")
def takes(project_id: str, line_id: str, workspace: InWorkspace) -> Response:
    """The takes a line keeps, the newest first."""
    timeline = workspace.timeline(workspace.head(project_id).project)
    span = next((each for each in timeline.lines if each.line.id == line_id), None)
    window = span.window.end_ticks - span.window.start_ticks + span.window.late_ticks if span else 0
    found = takes_of_line(workspace, project_id, line_id)
    return Json({"takes": [line_take_json(each, ticks_to_seconds(window)) for each in found]})


class ChooseRequest(BaseModel):
    based_on: int
    take_id: str = Field(max_length=80)


@router.post("/lines/{line_id}/take")
def choose(
    project_id: str, line_id: str, request: ChooseRequest, workspace: InWorkspace, answer: InAnswer
) -> Response:
    """Let a line play a take it keeps."""
    choose_take(workspace, project_id, request.based_on, line_id, request.take_id)
    return Json(answer.project(project_id))


class CompareRequest(BaseModel):
    variants: list[Variant] = Field(max_length=6)


@router.post("/lines/{line_id}/compare")
def compare_ways(project_id: str, line_id: str, request: CompareRequest, workspace: InWorkspace) -> Response:
    """A job that says a line in several ways."""
    workspace.head(project_id).project.line(line_id)
    asked = {"line_id": line_id, "variants": [each.model_dump() for each in request.variants]}
    return Json(job_json(start(workspace, project_id, "compare", asked)))


@router.get("/ways/{job_id}")
def ways(project_id: str, job_id: str, workspace: InWorkspace) -> Response:
    """The ways a line was said in by a job, with their takes."""
    found = workspace.jobs.get(job_id).result.get("ways", [])
    takes = workspace.library.takes([each["take_id"] for each in found if each["take_id"]])
    return Json({"ways": [way_json(each, takes.get(each["take_id"] or "")) for each in found]})


class KeepRequest(CompareRequest):
    based_on: int
    chosen: int | None = Field(None, ge=0, le=5)


@router.post("/lines/{line_id}/keep")
def keep(
    project_id: str, line_id: str, request: KeepRequest, workspace: InWorkspace, answer: InAnswer
) -> Response:
    """Keep the compared ways as takes, and let one of them play."""
    keep_compared(workspace, project_id, request.based_on, line_id, request.variants, request.chosen)
    return Json(answer.project(project_id))


@router.post("/recordings")
def record(
    project_id: str,
    workspace: InWorkspace,
    file: Annotated[UploadFile, File()],
    line_ids: Annotated[str, Form()] = "",
) -> Response:
    """A job that gives lines their takes out of a recording; without lines it drafts its words."""
    workspace.head(project_id)
    name = name_of(file, "recording")
    with arriving(workspace.scratch) as folder:
        path = folder / "recording"
        if not keep_upload(file, path, LARGEST_RECORDING_BYTES):
            raise InputError("the file is empty", name)
    chosen = [each for each in line_ids.split(",") if each]
    asked = {"files": files_request([MediaFile(path, name)]), "line_ids": chosen}
    return Json(job_json(start(workspace, project_id, "record", asked, folder)))


class SoundRequest(BaseModel):
    line_ids: list[str] = Field(max_length=20_000)
    format: Format = "wav"


@router.post("/line-sounds")
def sounds(project_id: str, request: SoundRequest, workspace: InWorkspace) -> Response:
    """A job that writes the sound of lines as files, each its own."""
    workspace.head(project_id)
    return Json(job_json(start(workspace, project_id, "line sounds", request.model_dump())))

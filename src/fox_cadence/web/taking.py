"""Requests about takes: those of a line, comparing, recordings, sound files of lines."""

from typing import Annotated, Any

from fastapi import APIRouter, File, Form, UploadFile
from fastapi.responses import JSONResponse
from pydantic import BaseModel, Field

from fox_cadence.actions.choosing import Variant, choose_take, compare, keep_compared, takes_of_line
from fox_cadence.actions.exporting_sound import Format
from fox_cadence.actions.long_work import start
from fox_cadence.actions.recording import bring_recording, draft_of
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.errors import InputError
from fox_cadence.jobs.runner import JobContext
from fox_cadence.web.direction_view import compared_json, line_take_json
from fox_cadence.web.editing import current
from fox_cadence.web.pages import InWorkspace
from fox_cadence.web.uploads import arriving, name_of, then_gone, write_upload
from fox_cadence.web.work import job_json

router = APIRouter(prefix="/api/projects/{project_id}")

LARGEST_RECORDING_BYTES = 500 << 20


@router.get("/lines/{line_id}/takes")
def takes(project_id: str, line_id: str, workspace: InWorkspace) -> JSONResponse:
    """The takes a line keeps, the newest first."""
    timeline = workspace.timeline(workspace.head(project_id).project)
    span = next((each for each in timeline.lines if each.line.id == line_id), None)
    window = span.window.end_ticks - span.window.start_ticks + span.window.late_ticks if span else 0
    found = takes_of_line(workspace, project_id, line_id)
    return JSONResponse({"takes": [line_take_json(each, ticks_to_seconds(window)) for each in found]})


class ChooseRequest(BaseModel):
    based_on: int
    take_id: str = Field(max_length=80)


@router.post("/lines/{line_id}/take")
def choose(project_id: str, line_id: str, request: ChooseRequest, workspace: InWorkspace) -> JSONResponse:
    """Let a line play a take it keeps."""
    choose_take(workspace, project_id, request.based_on, line_id, request.take_id)
    return JSONResponse(current(workspace, project_id))


class CompareRequest(BaseModel):
    variants: list[Variant] = Field(max_length=6)


@router.post("/lines/{line_id}/compare")
def compare_ways(project_id: str, line_id: str, request: CompareRequest, workspace: InWorkspace) -> JSONResponse:
    """A job that says a line in several ways."""
    workspace.head(project_id).project.line(line_id)

    def work(context: JobContext) -> dict[str, Any]:
        found = compare(workspace, project_id, line_id, request.variants, context)
        return {"ways": [compared_json(each, place) for place, each in enumerate(found)]}

    return JSONResponse(job_json(workspace.jobs.submit(project_id, "compare", work)))


class KeepRequest(CompareRequest):
    based_on: int
    chosen: int | None = Field(None, ge=0, le=5)


@router.post("/lines/{line_id}/keep")
def keep(project_id: str, line_id: str, request: KeepRequest, workspace: InWorkspace) -> JSONResponse:
    """Keep the compared ways as takes, and let one of them play."""
    keep_compared(workspace, project_id, request.based_on, line_id, request.variants, request.chosen)
    return JSONResponse(current(workspace, project_id))


@router.post("/recordings")
async def record(
    project_id: str,
    workspace: InWorkspace,
    file: Annotated[UploadFile, File()],
    line_ids: Annotated[str, Form()] = "",
) -> JSONResponse:
    """A job that gives lines their takes out of a recording; without lines it drafts its words."""
    workspace.head(project_id)
    name = name_of(file, "recording")
    with arriving(workspace.scratch) as folder:
        path = folder / "recording"
        if not await write_upload(file, path, LARGEST_RECORDING_BYTES):
            raise InputError("the file is empty", name)
    chosen = [each for each in line_ids.split(",") if each]

    def work(context: JobContext) -> dict[str, Any]:
        if not chosen:
            text, words = draft_of(path, name, context)
            return {"draft": text, "words": len(words)}
        made = bring_recording(workspace, project_id, chosen, path, name, context)
        return {
            "checked": made.checked,
            "lines": [
                {"line": each.line_id, "seconds": round(each.seconds, 2), "doubtful": list(each.doubtful)}
                for each in made.lines
            ],
        }

    return JSONResponse(job_json(workspace.jobs.submit(project_id, "record", then_gone(folder, work))))


class SoundRequest(BaseModel):
    line_ids: list[str] = Field(max_length=20_000)
    format: Format = "wav"


@router.post("/line-sounds")
def sounds(project_id: str, request: SoundRequest, workspace: InWorkspace) -> JSONResponse:
    """A job that writes the sound of lines as files, each its own."""
    workspace.head(project_id)
    return JSONResponse(job_json(start(workspace, project_id, "line sounds", request.model_dump())))

"""Long work: voicing, new projects, and how far jobs are."""

from pathlib import Path
from typing import Annotated, Any

from fastapi import APIRouter, File, Form, UploadFile
from fastapi.responses import JSONResponse
from pydantic import BaseModel, Field

from fox_cadence.actions.bring_in import MediaFile, NewProject, check_new_project, new_project
from fox_cadence.actions.long_work import start
from fox_cadence.actions.voicing import open_lines
from fox_cadence.actions.writing import Choices, Source
from fox_cadence.core.edits import Edit, apply_all
from fox_cadence.core.ticks import frame_rate
from fox_cadence.errors import InputError
from fox_cadence.formats import LARGEST_BYTES, is_words
from fox_cadence.jobs.runner import JobContext
from fox_cadence.store.jobs import JobRow
from fox_cadence.web.pages import InWorkspace
from fox_cadence.web.uploads import arriving, name_of, then_gone, write_upload

router = APIRouter(prefix="/api")

LARGEST_UPLOAD_BYTES = 8 << 30


def job_json(job: JobRow) -> dict[str, Any]:
    return {
        "id": job.id, "kind": job.kind, "state": job.state, "done": job.done, "total": job.total, "note": job.note,
        "result": job.result,
    }  # fmt: skip


@router.get("/jobs/{job_id}")
def job(job_id: str, workspace: InWorkspace) -> JSONResponse:
    return JSONResponse(job_json(workspace.job_store.get(job_id)))


@router.get("/projects/{project_id}/job")
def newest_job(project_id: str, workspace: InWorkspace) -> JSONResponse:
    """The job of a project that was asked for last, whichever window asked; null when there was none."""
    found = workspace.job_store.newest(project_id)
    return JSONResponse(job_json(found) if found else None)


@router.post("/jobs/{job_id}/cancel")
def cancel(job_id: str, workspace: InWorkspace) -> JSONResponse:
    workspace.jobs.cancel(job_id)
    return JSONResponse(job_json(workspace.job_store.get(job_id)))


class VoiceRequest(BaseModel):
    """Lines to voice; without any, all open ones. Edits are made in the same step."""

    line_ids: list[str] | None = Field(None, max_length=20_000)
    edits: list[Annotated[Edit, Field(discriminator="kind")]] = Field([], max_length=50)


@router.get("/projects/{project_id}/voice")
def what_is_open(project_id: str, workspace: InWorkspace) -> JSONResponse:
    lines = open_lines(workspace, workspace.head(project_id).project)
    return JSONResponse({"line_ids": [line.id for line in lines]})


@router.post("/projects/{project_id}/voice")
def voice(project_id: str, request: VoiceRequest, workspace: InWorkspace) -> JSONResponse:
    apply_all(workspace.head(project_id).project, request.edits)  # what can't be is said before the work begins

    return JSONResponse(job_json(start(workspace, project_id, "voice", request.model_dump(mode="json"))))


@router.post("/projects")
async def create(
    workspace: InWorkspace,
    name: Annotated[str, Form()],
    size: Annotated[str, Form()] = "1080x1920",
    fps: Annotated[str, Form()] = "30",
    language: Annotated[str, Form()] = "en",
    pasted: Annotated[str, Form()] = "",
    encoding: Annotated[str, Form()] = "",
    names: Annotated[bool, Form()] = False,
    descriptions: Annotated[bool, Form()] = False,
    files: Annotated[list[UploadFile] | None, File()] = None,
) -> JSONResponse:
    """Make a project from uploaded files: pictures, at most one file of words, music. A job."""
    wanted = NewProject(name, *parse_size(size), _rate(fps), language)
    check_new_project(wanted)
    with arriving(workspace.scratch) as folder:
        media, words = await _receive(files or [], folder)
    if pasted.strip():
        words = ("pasted.txt", pasted.encode("utf-8", "replace"))
        encoding = ""
    source = Source(*words, None, encoding, Choices(names, descriptions)) if words else None

    def work(context: JobContext) -> dict[str, Any]:
        return new_project(workspace, wanted, media, source, context).as_json()

    return JSONResponse(job_json(workspace.jobs.submit("", "new project", then_gone(folder, work))))


def parse_size(text: str) -> tuple[int, int]:
    """'1080x1920' as width and height. Raises InputError."""
    parts = text.lower().replace("×", "x").split("x")
    if len(parts) != 2 or not all(part.strip().isdigit() for part in parts):
        raise InputError(f"{text!r} is not a size such as 1080x1920", "size")
    return int(parts[0]), int(parts[1])


def _rate(name: str) -> Any:
    try:
        return frame_rate(name)
    except ValueError as error:
        raise InputError(str(error), "frame rate") from error


async def _receive(files: list[UploadFile], folder: Path) -> tuple[list[MediaFile], tuple[str, bytes] | None]:
    """Uploads on disk under names of our own; files of words in memory, because they are small."""
    media: list[MediaFile] = []
    words: tuple[str, bytes] | None = None
    total = 0
    for number, upload in enumerate(files):
        name = name_of(upload)
        if not name:
            continue
        if is_words(name):
            if words is not None:
                raise InputError(f"there are two files of words ({words[0]} and {name}); choose one", "words")
            words = (name, await upload.read(LARGEST_BYTES + 1))
            continue
        target = folder / str(number)
        total += await write_upload(upload, target, LARGEST_UPLOAD_BYTES - total, "the files together are")
        media.append(MediaFile(target, name))
    return media, words

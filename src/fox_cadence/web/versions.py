"""Requests about versions: the same piece in other languages, side by side."""

from typing import Annotated, Literal
from urllib.parse import quote

from fastapi import APIRouter, File, Form, Request, Response, UploadFile
from fastapi.responses import HTMLResponse
from pydantic import BaseModel, Field

from fox_cadence.actions.versions import (
    catch_up,
    first_of,
    make_version,
    put_file,
    put_words,
    say_right,
    words_to_translate,
)
from fox_cadence.core.languages import LANGUAGES, primary
from fox_cadence.core.names import tidy_name
from fox_cadence.errors import InputError
from fox_cadence.formats import LARGEST_BYTES
from fox_cadence.voices.catalogue import all_voices
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.answers.versions import versions_json
from fox_cadence.web.pages import InWorkspace, templates
from fox_cadence.web.uploads import UploadRoute, name_of

router = APIRouter(route_class=UploadRoute)

_KINDS = {
    "csv": "text/csv",
    "xlf": "application/xliff+xml",
    "docx": "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
}


@router.get("/projects/{project_id}/versions", response_class=HTMLResponse)
def versions_page(request: Request, project_id: str, workspace: InWorkspace) -> Response:
    """All versions of a piece, side by side."""
    first_id = first_of(workspace, project_id)
    first = workspace.head(first_id).project
    natural = {primary(voice.language) for voice in all_voices() if voice.natural}
    offered = [
        (tag, name, tag in natural) for tag, name in LANGUAGES.items() if tag != primary(first.language)
    ]
    context = {
        "project_id": first_id,
        "project": first,
        "languages": sorted(offered, key=lambda each: (not each[2], each[1])),
    }
    return templates.TemplateResponse(request, "versions.html", context)


@router.get("/api/projects/{project_id}/versions")
def versions(project_id: str, workspace: InWorkspace) -> Response:
    """The versions of a project in other languages, and how they stand."""
    return Json(versions_json(workspace, project_id))


@router.post("/api/projects/{project_id}/versions")
def begin(
    project_id: str,
    workspace: InWorkspace,
    language: Annotated[str, Form(max_length=20)],
    name: Annotated[str, Form(max_length=200)] = "",
    cuts: Annotated[Literal["own", "first"], Form()] = "own",
    shown: Annotated[Literal["own", "first"], Form()] = "own",
    file: Annotated[UploadFile | None, File()] = None,
) -> Response:
    """Begin a version, with words from a file where one comes along."""
    words = _words(file) if file is not None and file.filename else None
    made = make_version(workspace, project_id, language, words, name, cuts, shown)
    return Json(
        {
            "project": made.project_id,
            "placed": made.placed,
            "without": made.without,
            "remarks": list(made.remarks),
            "versions": versions_json(workspace, project_id),
        }
    )


def _words(file: UploadFile) -> tuple[str, bytes]:
    data = file.file.read(LARGEST_BYTES + 1)
    if len(data) > LARGEST_BYTES:
        raise InputError(f"words may have {LARGEST_BYTES:,} bytes", name_of(file, "words"))
    return name_of(file, "words"), data


class WordsRequest(BaseModel):
    words: dict[Annotated[str, Field(max_length=80)], Annotated[str, Field(max_length=20_000)]] = Field(
        max_length=5_000
    )


@router.post("/api/projects/{project_id}/version-words")
def write(project_id: str, request: WordsRequest, workspace: InWorkspace) -> Response:
    """Give units of a version their words."""
    put_words(workspace, project_id, request.words)
    return Json(versions_json(workspace, project_id))


@router.post("/api/projects/{project_id}/version-file")
def write_file(project_id: str, workspace: InWorkspace, file: Annotated[UploadFile, File()]) -> Response:
    """Give a version the words of a file."""
    matched = put_file(workspace, project_id, *_words(file))
    return Json(
        {
            "placed": len(matched.words),
            "without": matched.without,
            "remarks": list(matched.remarks),
            "versions": versions_json(workspace, project_id),
        }
    )


class RightRequest(BaseModel):
    unit_ids: list[Annotated[str, Field(max_length=80)]] = Field(max_length=5_000)


@router.post("/api/projects/{project_id}/version-right")
def right(project_id: str, request: RightRequest, workspace: InWorkspace) -> Response:
    """Words of a version are right though the first's have changed."""
    say_right(workspace, project_id, request.unit_ids)
    return Json(versions_json(workspace, project_id))


@router.post("/api/projects/{project_id}/version-picture")
def picture(project_id: str, workspace: InWorkspace) -> Response:
    """Bring picture, bed and lines up to the first's."""
    catch_up(workspace, project_id)
    return Json(versions_json(workspace, project_id))


@router.get("/api/projects/{project_id}/words-to-translate.{kind}")
def words(project_id: str, kind: str, workspace: InWorkspace, language: str = "") -> Response:
    """The words as a file for a translator."""
    made = words_to_translate(workspace, project_id, kind, language[:20])
    name = tidy_name(workspace.head(project_id).project.name)
    headers = {"content-disposition": f"attachment; filename*=UTF-8''{quote(f'{name}.{kind}', safe='')}"}
    return Response(made, media_type=_KINDS[kind], headers=headers)

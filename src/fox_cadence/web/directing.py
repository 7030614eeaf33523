"""Requests of the pass Words: how words are said, the lexicon, punctuation for the ear, the script as a file."""

from dataclasses import asdict
from typing import Annotated, Any
from urllib.parse import quote

from fastapi import APIRouter, File, Response, UploadFile
from fastapi.responses import JSONResponse
from pydantic import BaseModel, Field

from fox_cadence.actions.directing import (
    hear_entry,
    hear_pronunciation,
    lexicon_file,
    lexicon_use,
    read_lexicon,
    repunctuate,
    script_file,
    told_words,
)
from fox_cadence.actions.exporting import file_stem
from fox_cadence.core.edits.lexicon import AddEntries, SetEntry
from fox_cadence.errors import InputError
from fox_cadence.web.direction_view import proof_json
from fox_cadence.web.editing import current
from fox_cadence.web.media import NOT_KEPT, heard
from fox_cadence.web.pages import InWorkspace

router = APIRouter(prefix="/api/projects/{project_id}")

LARGEST_LEXICON_BYTES = 4 << 20


@router.get("/lines/{line_id}/told")
def told(project_id: str, line_id: str, workspace: InWorkspace) -> JSONResponse:
    """How each word of a line will be said."""
    project = workspace.head(project_id).project
    return JSONResponse({"words": [asdict(word) for word in told_words(project, project.line(line_id))]})


@router.get("/lines/{line_id}/words.wav")
def hear_words(
    project_id: str,
    line_id: str,
    workspace: InWorkspace,
    first: int,
    end: int,
    ipa: str = "",
    spelled: str = "",
) -> Response:
    """Some words of a line alone, as they would be said with a pronunciation, or as they are."""
    take, start, stop = hear_pronunciation(workspace, project_id, line_id, first, end, ipa[:200], spelled[:200])
    return heard(workspace, take, (start, stop))


@router.get("/lexicon")
def lexicon(project_id: str, workspace: InWorkspace) -> JSONResponse:
    """The entries with how often each applies, and where."""
    project = workspace.head(project_id).project
    uses = {use.entry_id: use for use in lexicon_use(project)}
    return JSONResponse(
        {
            "entries": [
                entry.model_dump() | {"count": uses[entry.id].count, "lines": list(uses[entry.id].line_ids)}
                for entry in project.lexicon
            ]
        }
    )


@router.get("/lexicon/sound.wav")
def lexicon_sound(project_id: str, workspace: InWorkspace, written: str, ipa: str = "", spelled: str = "") -> Response:
    """A word as it would be said with a pronunciation; with none, as the voice says it."""
    edit = SetEntry(written=written[:200], ipa=ipa[:200] or None, spelled=spelled[:200] or None)
    return heard(workspace, hear_entry(workspace, project_id, edit))


@router.get("/lexicon.pls")
def lexicon_out(project_id: str, workspace: InWorkspace) -> Response:
    project = workspace.head(project_id).project
    name = f"{file_stem(project.name)}.pls"
    return _file(lexicon_file(project), "application/pls+xml", name)


@router.post("/lexicon")
async def lexicon_in(project_id: str, workspace: InWorkspace, file: Annotated[UploadFile, File()]) -> JSONResponse:
    """Bring a PLS file in; its entries replace those of the same words."""
    data = await file.read(LARGEST_LEXICON_BYTES + 1)
    name = (file.filename or "lexicon")[:200]
    if len(data) > LARGEST_LEXICON_BYTES:
        raise InputError(f"the file is larger than {LARGEST_LEXICON_BYTES >> 20} MiB", name)
    head = workspace.head(project_id)
    found = read_lexicon(name, data, head.project.language)
    project, label = AddEntries(entries=list(found.entries)).apply(head.project)
    if project != head.project:
        workspace.projects.commit(project_id, head.revision, project, label)
    remarks = [{"place": problem.place, "message": problem.message} for problem in found.problems]
    return JSONResponse({"timeline": current(workspace, project_id), "count": len(found.entries), "remarks": remarks})


@router.get("/script.ssml")
def script_out(project_id: str, workspace: InWorkspace) -> Response:
    """All lines with their direction."""
    project = workspace.head(project_id).project
    return _file(script_file(project), "application/ssml+xml", f"{file_stem(project.name)}.ssml")


class PunctuateRequest(BaseModel):
    """A repunctuated version to be proved; None asks for our own suggestions."""

    text: str | None = Field(None, max_length=5000)


@router.post("/lines/{line_id}/punctuate")
def punctuate(project_id: str, line_id: str, request: PunctuateRequest, workspace: InWorkspace) -> JSONResponse:
    project = workspace.head(project_id).project
    found = repunctuate(project, project.line(line_id), request.text)
    answer: dict[str, Any] = {
        "text": found.text,
        "suggested": [asdict(each) for each in found.suggested],
        "proof": proof_json(found.proof),
    }
    return JSONResponse(answer)


def _file(text: str, kind: str, name: str) -> Response:
    disposition = f"attachment; filename*=UTF-8''{quote(name)}"
    return Response(text, media_type=kind, headers=NOT_KEPT | {"content-disposition": disposition})

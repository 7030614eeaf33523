"""Requests of the pass Words: how words are said, the lexicon, punctuation for the ear, the script as a
file."""

from dataclasses import asdict
from typing import Annotated, Any
from urllib.parse import quote

from fastapi import APIRouter, File, Query, Response, UploadFile
from pydantic import BaseModel, Field

from fox_cadence.actions.directing import (
    bring_lexicon,
    hear_entry,
    hear_pronunciation,
    lexicon_file,
    lexicon_use,
    repunctuate,
    said_in,
    script_file,
    told_words,
)
from fox_cadence.core.docket.names import stem
from fox_cadence.core.edits.lexicon import SetEntry
from fox_cadence.errors import InputError
from fox_cadence.web.answers.answer import InAnswer
from fox_cadence.web.answers.desk import proof_json
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.media import NOT_KEPT, take_response
from fox_cadence.web.pages import InWorkspace

router = APIRouter(prefix="/api/projects/{project_id}")

WordNumber = Annotated[int, Query(ge=0, le=1_000_000)]
"""A word of a line, counted from 0."""
Pronounced = Annotated[str, Query(max_length=200)]

LARGEST_LEXICON_BYTES = 4 << 20


@router.get("/lines/{line_id}/told")
def told(project_id: str, line_id: str, workspace: InWorkspace) -> Response:
    """How each word of a line will be said."""
    project = workspace.head(project_id).project
    return Json({"words": [asdict(word) for word in told_words(project, project.line(line_id))]})


@router.get("/lines/{line_id}/words.wav")
def hear_words(
    project_id: str,
    line_id: str,
    workspace: InWorkspace,
    first: WordNumber,
    end: WordNumber,
    ipa: Pronounced = "",
    spelled: Pronounced = "",
) -> Response:
    """Some words of a line alone, as they would be said with a pronunciation, or as they are."""
    take, start, stop = hear_pronunciation(workspace, project_id, line_id, first, end, ipa, spelled)
    return take_response(workspace, take, (start, stop))


@router.get("/lines/{line_id}/said-in")
def said_in_language(
    project_id: str, line_id: str, workspace: InWorkspace, first: WordNumber, end: WordNumber, language: str
) -> Response:
    """How another language says some words of a line, in IPA."""
    found = said_in(workspace, project_id, line_id, first, end, language[:20])
    return Json({"ipa": found})


@router.get("/lexicon")
def lexicon(project_id: str, workspace: InWorkspace) -> Response:
    """The entries with how often each applies, and where."""
    project = workspace.head(project_id).project
    uses = {use.entry_id: use for use in lexicon_use(project)}
    return Json(
        {
            "entries": [
                entry.model_dump() | {"count": uses[entry.id].count, "lines": list(uses[entry.id].line_ids)}
                for entry in project.lexicon
            ]
        }
    )


@router.get("/lexicon/sound.wav")
def lexicon_sound(
    project_id: str,
    workspace: InWorkspace,
    written: Annotated[str, Query(min_length=1, max_length=200)],
    ipa: Pronounced = "",
    spelled: Pronounced = "",
) -> Response:
    """A word as it would be said with a pronunciation; with none, as the voice says it."""
    edit = SetEntry(written=written, ipa=ipa or None, spelled=spelled or None)
    return take_response(workspace, hear_entry(workspace, project_id, edit))


@router.get("/lexicon.pls")
def lexicon_out(project_id: str, workspace: InWorkspace) -> Response:
    """The lexicon of a project as a file (PLS)."""
    project = workspace.head(project_id).project
    name = f"{stem(project.name)}.pls"
    return _file(lexicon_file(project), "application/pls+xml", name)


@router.post("/lexicon")
def lexicon_in(
    project_id: str, workspace: InWorkspace, answer: InAnswer, file: Annotated[UploadFile, File()]
) -> Response:
    """Bring a PLS file in, as one step; its entries replace those of the same words."""
    data = file.file.read(LARGEST_LEXICON_BYTES + 1)
    name = (file.filename or "lexicon")[:200]
    if len(data) > LARGEST_LEXICON_BYTES:
        raise InputError(f"the file is larger than {LARGEST_LEXICON_BYTES >> 20} MiB", name)
    count, problems = bring_lexicon(workspace, project_id, name, data)
    remarks = [{"place": problem.place, "message": problem.message} for problem in problems]
    return Json({"state": answer.project(project_id), "count": count, "remarks": remarks})


@router.get("/script.ssml")
def script_out(project_id: str, workspace: InWorkspace) -> Response:
    """All lines with their direction."""
    project = workspace.head(project_id).project
    return _file(script_file(project), "application/ssml+xml", f"{stem(project.name)}.ssml")


class PunctuateRequest(BaseModel):
    """A repunctuated version to be proved; None asks for our own suggestions."""

    text: str | None = Field(None, max_length=5000)


@router.post("/lines/{line_id}/punctuate")
def punctuate(project_id: str, line_id: str, request: PunctuateRequest, workspace: InWorkspace) -> Response:
    """Where a line would be cut for the ear."""
    project = workspace.head(project_id).project
    found = repunctuate(project, project.line(line_id), request.text)
    answer: dict[str, Any] = {
        "text": found.text,
        "suggested": [asdict(each) for each in found.suggested],
        "proof": proof_json(found.proof),
    }
    return Json(answer)


def _file(text: str, kind: str, name: str) -> Response:
    disposition = f"attachment; filename*=UTF-8''{quote(name)}"
    return Response(text, media_type=kind, headers=NOT_KEPT | {"content-disposition": disposition})

"""The JSON of a project: its timeline, edits, undo."""

from functools import lru_cache
from typing import Annotated, Any

from fastapi import APIRouter
from fastapi.responses import JSONResponse
from pydantic import BaseModel, Field

from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import Edit
from fox_cadence.core.finding import Query, find
from fox_cadence.core.lettering import letter, style_by_id
from fox_cadence.errors import InputError
from fox_cadence.media.fonts import caption_face
from fox_cadence.web.direction_view import cast_json
from fox_cadence.web.pages import InWorkspace
from fox_cadence.web.timeline_view import drawing_json, place_json, timeline_json

router = APIRouter(prefix="/api/projects/{project_id}")

MOST_PLACES_SHOWN = 50
SLOW = 1.0
"""A voice that takes longer than what it says is waited for at every hearing, and is called slow."""


class EditRequest(BaseModel):
    """An edit, or several as one step, and the revision they were made on."""

    based_on: int
    edit: Edit | None = Field(None, discriminator="kind")
    edits: list[Annotated[Edit, Field(discriminator="kind")]] = Field([], max_length=50)
    label: str = Field("", max_length=200)


def current(workspace: Workspace, project_id: str) -> dict[str, Any]:
    """The timeline JSON of a project as it stands."""
    head = workspace.head(project_id)
    made = workspace.job_store.newest_done(project_id, "export")
    exported = len(made.result.get("files", [])) if made else 0
    timeline = workspace.timeline(head.project)
    voiced = workspace.job_store.newest_done(project_id, "voice")
    failed = {each["line"]: each["reason"] for each in voiced.result.get("failed", [])} if voiced else {}
    slow = {voice_id: round(each, 1) for voice_id, each in workspace.slowness.items() if each > SLOW}
    answer = timeline_json(head, timeline, exported) | cast_json(head.project, timeline, failed)
    answer["slow_voices"] = slow
    for line in answer["lines"]:
        line["failed"] = failed.get(line["id"], "") if line["state"] in ("unvoiced", "stale") else ""
    return answer


@router.get("/timeline")
def timeline(project_id: str, workspace: InWorkspace) -> JSONResponse:
    return JSONResponse(current(workspace, project_id))


@router.post("/edits")
def edit(project_id: str, request: EditRequest, workspace: InWorkspace) -> JSONResponse:
    """Make an edit; the new timeline. 409 when the project changed meanwhile."""
    head = workspace.head(project_id)
    if head.revision != request.based_on:
        message = (
            f"This project was changed in another window (“{head.undo_label or 'undo'}”), so your change was not made. "
            "What you typed is still here; do it again on what is shown now."
        )
        return JSONResponse({"message": message, "timeline": current(workspace, project_id)}, 409)
    edits = [*([request.edit] if request.edit else []), *request.edits]
    if not edits:
        raise InputError("an edit is missing", "edit")
    make_edits(workspace, project_id, head, edits, request.label)
    return JSONResponse(current(workspace, project_id))


class FindRequest(BaseModel):
    text: str = Field(max_length=200)
    whole_words: bool = True
    match_case: bool = False


@router.post("/find")
def find_words(project_id: str, request: FindRequest, workspace: InWorkspace) -> JSONResponse:
    """Where a text stands in the words of a project: how often, and the first places with what is around them."""
    project = workspace.head(project_id).project
    places = list(find(project, Query(request.text, request.whole_words, request.match_case)))
    return JSONResponse(
        {"count": len(places), "places": [place_json(project, place) for place in places[:MOST_PLACES_SHOWN]]}
    )


@router.post("/undo")
def undo(project_id: str, workspace: InWorkspace) -> JSONResponse:
    workspace.projects.undo(project_id)
    return JSONResponse(current(workspace, project_id))


@router.post("/redo")
def redo(project_id: str, workspace: InWorkspace) -> JSONResponse:
    workspace.projects.redo(project_id)
    return JSONResponse(current(workspace, project_id))


@lru_cache(maxsize=600)
def _drawing(text: str, style: str, width: int, height: int) -> dict[str, Any]:
    """A drawing as JSON, kept: the outlines are 30 times as long as all else there is to say of a caption."""
    return drawing_json(letter(text, style_by_id(style), caption_face(), width, height))


class DrawingsRequest(BaseModel):
    caption_ids: list[str] = Field(max_length=60)


@router.post("/drawings")
def drawings(project_id: str, request: DrawingsRequest, workspace: InWorkspace) -> JSONResponse:
    """The drawings of some captions by their ids; those that are not there are left out."""
    project = workspace.head(project_id).project
    wanted = set(request.caption_ids)
    return JSONResponse(
        {
            caption.id: _drawing(caption.text, project.caption_style, project.width, project.height)
            for caption in project.captions
            if caption.id in wanted and caption.text.strip()
        }
    )


@router.get("/captions/{caption_id}/drawing")
def drawing(project_id: str, caption_id: str, style: str, workspace: InWorkspace) -> JSONResponse:
    """A caption in a style it does not have yet, to look at before choosing."""
    project = workspace.head(project_id).project
    caption = project.caption(caption_id)
    return JSONResponse(_drawing(caption.text, style_by_id(style).id, project.width, project.height))

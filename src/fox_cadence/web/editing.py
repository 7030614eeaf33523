"""The JSON of a project: its timeline, edits, undo."""

from collections.abc import Callable
from dataclasses import asdict
from functools import lru_cache
from typing import Annotated, Any

from fastapi import APIRouter, Response
from fastapi.responses import JSONResponse
from pydantic import BaseModel, Field

from fox_cadence.actions.editing import clash_between, make_edits
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import Edit
from fox_cadence.core.finding import Query, find
from fox_cadence.core.lettering import letter, style_by_id
from fox_cadence.errors import ClashError, InputError
from fox_cadence.media.fonts import caption_face
from fox_cadence.store.projects import Head
from fox_cadence.web.direction_view import cast_json
from fox_cadence.web.fast_json import FastJson
from fox_cadence.web.pages import InWorkspace
from fox_cadence.web.timeline_view import drawing_json, place_json, timeline_json

router = APIRouter(prefix="/api/projects/{project_id}")

MOST_PLACES_SHOWN = 50
MOST_LABELS = 3
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
    gone = workspace.library.missing_clips(head.project.clips)
    answer["missing"] = [{"hash": each, "name": head.project.clips[each].name} for each in gone]
    answer["lines"] = [
        line | {"failed": failed.get(line["id"], "") if line["state"] in ("unvoiced", "stale") else ""}
        for line in answer["lines"]
    ]
    return answer


@router.get("/timeline")
def timeline(project_id: str, workspace: InWorkspace) -> Response:
    return FastJson(current(workspace, project_id))


@router.post("/edits")
def edit(project_id: str, request: EditRequest, workspace: InWorkspace) -> Response:
    """Make an edit; the new timeline. 409 with both versions when the project changed meanwhile."""
    head = workspace.head(project_id)
    edits = [*([request.edit] if request.edit else []), *request.edits]
    if not edits:
        raise InputError("an edit is missing", "edit")
    if head.revision != request.based_on:
        return _clash(workspace, head, request.based_on, edits, request.label)
    try:
        make_edits(workspace, project_id, head, edits, request.label)
    except ClashError:  # another window came between our look and our change
        return _clash(workspace, workspace.head(project_id), request.based_on, edits, request.label)
    return FastJson(current(workspace, project_id))


def _clash(workspace: Workspace, head: Head, based_on: int, edits: list[Edit], label: str) -> JSONResponse:
    """What both windows wanted. Nothing was changed."""
    clash = clash_between(workspace, head, based_on, edits, label)
    theirs = "; ".join(clash.theirs[-MOST_LABELS:]) or "undo"
    message = (
        f"This project was changed in another window ({theirs}), so your change was not made. What you typed is kept "
        "here; make it on what is shown now, or let it go."
    )
    answer = {
        "message": message,
        "clash": {"yours": clash.yours, "theirs": theirs, "words": [asdict(each) for each in clash.words]},
        "timeline": current(workspace, head.project_id),
    }
    return JSONResponse(answer, 409)


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


class StepRequest(BaseModel):
    """The revision the editor saw when undo or redo was asked for; None takes whatever is newest."""

    based_on: int | None = None


@router.post("/undo")
def undo(project_id: str, workspace: InWorkspace, request: StepRequest | None = None) -> Response:
    return _step(workspace, project_id, workspace.projects.undo, request)


@router.post("/redo")
def redo(project_id: str, workspace: InWorkspace, request: StepRequest | None = None) -> Response:
    return _step(workspace, project_id, workspace.projects.redo, request)


def _step(
    workspace: Workspace, project_id: str, step: Callable[[str, int | None], None], request: StepRequest | None
) -> Response:
    try:
        step(project_id, request.based_on if request else None)
    except ClashError as error:
        return JSONResponse({"message": str(error), "timeline": current(workspace, project_id)}, 409)
    return FastJson(current(workspace, project_id))


@lru_cache(maxsize=600)
def _drawing(text: str, style: str, width: int, height: int) -> dict[str, Any]:
    """A drawing as JSON, kept: the outlines are 30 times as long as all else there is to say of a caption."""
    return drawing_json(letter(text, style_by_id(style), caption_face(), width, height))


class DrawingsRequest(BaseModel):
    """Words of captions and the style to draw them in: whichever state of the project they are of."""

    texts: list[Annotated[str, Field(max_length=5000)]] = Field(max_length=60)
    style: str = Field(max_length=60)


@router.post("/drawings")
def drawings(project_id: str, request: DrawingsRequest, workspace: InWorkspace) -> JSONResponse:
    """The drawings of some captions, in the order of their words; null for one without any."""
    project = workspace.head(project_id).project
    style = style_by_id(request.style).id
    return JSONResponse(
        [_drawing(text, style, project.width, project.height) if text.strip() else None for text in request.texts]
    )


@router.get("/captions/{caption_id}/drawing")
def drawing(project_id: str, caption_id: str, style: str, workspace: InWorkspace) -> JSONResponse:
    """A caption in a style it does not have yet, to look at before choosing."""
    project = workspace.head(project_id).project
    caption = project.caption(caption_id)
    return JSONResponse(_drawing(caption.text, style_by_id(style).id, project.width, project.height))

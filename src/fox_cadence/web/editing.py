"""A project and its changes: edits, find."""

from collections.abc import Sequence
from dataclasses import asdict
from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from fox_cadence.actions.editing import clash_between, make_edits
from fox_cadence.actions.typing import typed_edits
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import Applied, Edit, apply_all
from fox_cadence.core.finding import Query, find
from fox_cadence.errors import ClashError, InputError
from fox_cadence.store.projects import Head
from fox_cadence.web.answers.answer import Answer, InAnswer
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.answers.places import place_json
from fox_cadence.web.pages import InWorkspace
from fox_cadence.web.problems import Problem

router = APIRouter(prefix="/api/projects/{project_id}")

MOST_PLACES_SHOWN = 50
MOST_LABELS = 3


class EditRequest(BaseModel):
    """An edit, or several as one step, and the revision they were made on."""

    based_on: int
    edit: Edit | None = Field(None, discriminator="kind")
    edits: list[Annotated[Edit, Field(discriminator="kind")]] = Field([], max_length=50)
    label: str = Field("", max_length=200)


@router.get("/timeline")
def timeline(project_id: str, answer: InAnswer) -> Response:
    """A project as it stands: all of it, or what a page does not know yet."""
    return Json(answer.project(project_id))


@router.post("/edits")
def edit(project_id: str, request: EditRequest, workspace: InWorkspace, answer: InAnswer) -> Response:
    """Make an edit; what has changed with it. 409 with both versions when the project changed meanwhile."""
    edits = [*([request.edit] if request.edit else []), *request.edits]
    if not edits:
        raise InputError("an edit is missing", "edit")
    return _made(workspace, answer, workspace.head(project_id), request.based_on, edits, request.label)


class TypedRequest(BaseModel):
    """Paragraphs written into the script after a line, or before all of them; `before` are edits of the same
    step that are made first."""

    based_on: int
    paragraphs: list[Annotated[str, Field(max_length=5000)]] = Field(min_length=1, max_length=2000)
    after_line_id: str | None = None
    shot_id: str | None = None
    shown: bool = True
    before: list[Annotated[Edit, Field(discriminator="kind")]] = Field([], max_length=5)


@router.post("/typed")
def typed(project_id: str, request: TypedRequest, workspace: InWorkspace, answer: InAnswer) -> Response:
    """Write paragraphs into the script as one step; what has changed with it, or 409 as for edits."""
    head = workspace.head(project_id)
    written = typed_edits(
        workspace, head.project, request.paragraphs, request.after_line_id, request.shot_id, request.shown
    )
    if not written:
        raise InputError("there are no words to write", "paragraphs")
    edits: list[Applied] = [*request.before, *written]
    label = "" if len(edits) == 1 else edits[-1].apply(apply_all(head.project, edits[:-1])[0])[1]
    return _made(workspace, answer, head, request.based_on, edits, label)


def _made(
    workspace: Workspace, answer: Answer, head: Head, based_on: int, edits: Sequence[Applied], label: str
) -> Response:
    """Edits made on a project, or what both windows wanted where another came first."""
    if head.revision != based_on:
        return _clash(workspace, answer, head, based_on, edits, label)
    try:
        make_edits(workspace, head.project_id, head, edits, label)
    except ClashError:  # another window came between our look and our change
        return _clash(workspace, answer, workspace.head(head.project_id), based_on, edits, label)
    return Json(answer.project(head.project_id))


def _clash(
    workspace: Workspace, answer: Answer, head: Head, based_on: int, edits: Sequence[Applied], label: str
) -> Response:
    """What both windows wanted. Nothing was changed."""
    clash = clash_between(workspace, head, based_on, edits, label)
    theirs = "; ".join(clash.theirs[-MOST_LABELS:]) or "undo"
    message = (
        f"This project was changed in another window ({theirs}), so your change was not made. What you "
        "typed is kept "
        "here; apply it to what is shown now, or discard it."
    )
    both = {"yours": clash.yours, "theirs": theirs, "words": [asdict(each) for each in clash.words]}
    return Problem("clash", message, clash=both, state=answer.project(head.project_id))


class FindRequest(BaseModel):
    text: str = Field(max_length=200)
    whole_words: bool = True
    match_case: bool = False


@router.post("/find")
def find_words(project_id: str, request: FindRequest, workspace: InWorkspace) -> Response:
    """Where a text stands in the words of a project: how often, and the first places with what is around
    them."""
    project = workspace.head(project_id).project
    places = list(find(project, Query(request.text, request.whole_words, request.match_case)))
    return Json(
        {"count": len(places), "places": [place_json(project, place) for place in places[:MOST_PLACES_SHOWN]]}
    )

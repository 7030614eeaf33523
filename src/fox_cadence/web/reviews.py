"""Review links from the page of a project: made, revoked, and the notes that came back."""

from dataclasses import asdict
from typing import Any

from fastapi import APIRouter, Response
from pydantic import AwareDatetime, BaseModel, Field

from fox_cadence.actions.reviewing import (
    LONGEST_NOTE,
    Made,
    NoteNow,
    answer_note,
    link_in,
    links_of,
    make_link,
    mark_note,
    notes_of,
    revoke,
)
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.pages import InWorkspace

router = APIRouter(prefix="/api/projects/{project_id}/reviews")


class LinkRequest(BaseModel):
    """Which finished video is shown, and to whom: until a time, in one browser only, behind a password."""

    file: str = Field(max_length=255)
    until: AwareDatetime | None = None
    once: bool = False
    password: str = Field("", max_length=1000)


@router.get("")
def all_of_them(project_id: str, workspace: InWorkspace) -> Response:
    """The review links of a project and the notes left on their pages."""
    workspace.head(project_id)
    made = links_of(workspace, project_id)
    return Json(
        {
            "links": [link_json(each) for each in made],
            "notes": [note_json(each) for each in notes_of(workspace, project_id)],
        }
    )


@router.post("")
def make(project_id: str, asked: LinkRequest, workspace: InWorkspace) -> Response:
    """Make a review link."""
    workspace.head(project_id)
    made = make_link(workspace, project_id, asked.file, asked.until, asked.once, asked.password)
    return Json(link_json(made))


@router.delete("/{link_id}")
def end(project_id: str, link_id: str, workspace: InWorkspace) -> Response:
    """Revoke a review link."""
    revoke(workspace, project_id, link_id)
    return Json({})


@router.get("/{link_id}/log")
def log(project_id: str, link_id: str, workspace: InWorkspace) -> Response:
    """What happened to a link, the newest first."""
    link_in(workspace, project_id, link_id)
    return Json([asdict(each) for each in workspace.reviews.logged(link_id)])


class AnswerRequest(BaseModel):
    text: str = Field(max_length=2 * LONGEST_NOTE)


@router.put("/notes/{note_id}/answer")
def answer(project_id: str, note_id: str, asked: AnswerRequest, workspace: InWorkspace) -> Response:
    """Answer a note; no words take the answer back."""
    answer_note(workspace, project_id, note_id, asked.text)
    return all_of_them(project_id, workspace)


class DoneRequest(BaseModel):
    done: bool


@router.put("/notes/{note_id}/done")
def done(project_id: str, note_id: str, asked: DoneRequest, workspace: InWorkspace) -> Response:
    """Say whether what a note asks for is done."""
    mark_note(workspace, project_id, note_id, asked.done)
    return all_of_them(project_id, workspace)


def link_json(made: Made) -> dict[str, Any]:
    """A link, the path of its page, and how it stands."""
    link = asdict(made.link)
    del link["project_id"], link["secret"]
    return link | {"path": made.path, "standing": made.standing}


def note_json(now: NoteNow) -> dict[str, Any]:
    """A note, and the frame of the piece it belongs to now."""
    note = asdict(now.note)
    del note["moment"]
    return note | {"frame": now.frame}

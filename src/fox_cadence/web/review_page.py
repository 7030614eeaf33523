"""The page of a review link: all that somebody without a password of ours can reach.

Every request looks by itself whether its link still opens for this browser; what an address may ask for is
counted.
"""

from dataclasses import dataclass
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Form, Request, Response
from fastapi.responses import FileResponse, HTMLResponse, RedirectResponse
from pydantic import BaseModel, Field

from fox_cadence.actions.reviewing import LONGEST_NAME, LONGEST_NOTE, Look, leave_note, look, video_of
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.review import Standing
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.errors import NotFoundError
from fox_cadence.formats import Cue, webvtt
from fox_cadence.store.access import SESSION_DAYS
from fox_cadence.store.reviews import Note
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.pages import templates, workspace_of
from fox_cadence.web.problems import Problem
from fox_cadence.web.rates import Rate

router = APIRouter(prefix="/review/{secret}")

_COOKIE = "fox_review"
_HEADERS = {
    "cache-control": "private, no-store",
    "x-robots-tag": "noindex",
}
"""The address is the key: what it opens is kept nowhere; that it is told to no other site is guard.py's."""

_ENDED: dict[Standing, str] = {
    "over": "This review has ended.",
    "revoked": "This review has been ended by whoever sent it.",
    "used": "This link works in one browser only, and has been opened in another.",
}
_KINDS = {401: "signed-out", 403: "refused", 404: "not-found", 410: "ended", 429: "too-many"}
_DOOR = "Open the page of the review first."
_UNKNOWN = "This link opens nothing. Was all of it copied?"


@dataclass(frozen=True)
class Rates:
    """Of one address: pages and lists of notes, passwords, notes, addresses that open nothing."""

    looks: Rate
    passwords: Rate
    notes: Rate
    misses: Rate


def review_rates() -> Rates:
    return Rates(Rate(120, 60), Rate(5, 60), Rate(10, 60), Rate(20, 60))


class ShutError(Exception):
    """A page that does not open, with the words for whoever asked."""

    def __init__(self, status: int, message: str, door: Look | None = None) -> None:
        super().__init__(message)
        self.status = status
        self.door = door


def answer_shut(request: Request, error: Exception) -> Response:
    """The door where there is one, else why nothing opens."""
    assert isinstance(error, ShutError)
    if request.url.path.endswith("/notes"):
        return Problem(_KINDS[error.status], str(error) or _DOOR, error.status, _HEADERS)
    context = {"message": str(error), "door": error.door, "secret": request.path_params.get("secret", "")}
    return templates.TemplateResponse(
        request, "review_door.html", context, status_code=error.status, headers=_HEADERS
    )


def _asked(request: Request, secret: str) -> Look:
    """What an address opens. Raises ShutError when there is nothing, nothing any more, or too much was
    asked."""
    workspace, rates = workspace_of(request), _rates(request)
    address = _address(request)
    if max(rates.looks.wait_s(address), rates.misses.wait_s(address)) > 0:
        raise ShutError(429, "Too much was asked from here at once. Try again in a minute.")
    try:
        found = look(workspace, secret, request.cookies.get(_COOKIE, ""))
    except NotFoundError as error:
        rates.misses.count(address)
        raise ShutError(404, _UNKNOWN) from error
    if found.standing != "open":
        rates.looks.count(address)
        workspace.reviews.log(found.link.id, "the page was asked for in vain", address)
        raise ShutError(410, _ENDED[found.standing])
    return found


def _inside(request: Request, secret: str) -> Look:
    """What an address opens for a browser that has come in. Raises ShutError."""
    found = _asked(request, secret)
    if found.door:
        raise ShutError(401, "", found)
    return found


Asked = Annotated[Look, Depends(_asked)]
Inside = Annotated[Look, Depends(_inside)]
InWorkspace = Annotated[Workspace, Depends(workspace_of)]


@router.get("", response_class=HTMLResponse)
def page(request: Request, secret: str, inside: Inside, workspace: InWorkspace) -> Response:
    """A finished video with its captions, chapters and transcript, and the notes on it."""
    _rates(request).looks.count(_address(request))
    workspace.reviews.log(inside.link.id, "the page was opened", _address(request))
    context = {
        "secret": secret,
        "link": inside.link,
        "shown": inside.shown,
        "longest_note": LONGEST_NOTE,
        "longest_name": LONGEST_NAME,
    }
    return templates.TemplateResponse(request, "review.html", context, headers=_HEADERS)


@router.post("/open", response_class=HTMLResponse)
def come_in(
    request: Request,
    secret: str,
    asked: Asked,
    workspace: InWorkspace,
    password: Annotated[str, Form(max_length=1000)] = "",
) -> Response:
    """Come in by a password, or as the one browser that may."""
    link, rates, address = asked.link, _rates(request), _address(request)
    if link.password:
        wait = rates.passwords.wait_s(address)
        if wait > 0:
            raise ShutError(429, f"Too many wrong passwords. Try again in {wait:.0f} s.", asked)
        if not workspace.reviews.is_password(link.id, password):
            rates.passwords.count(address)
            workspace.reviews.log(link.id, "a wrong password was given", address)
            raise ShutError(403, "That is not the password.", asked)
    token = workspace.reviews.let_in(link)
    if token is None:
        raise ShutError(410, _ENDED["used"])
    answer = RedirectResponse(f"/review/{secret}", 303, _HEADERS)
    answer.set_cookie(
        _COOKIE, token, max_age=SESSION_DAYS * 86400, httponly=True, samesite="lax", path=f"/review/{secret}",
        secure=request.url.scheme == "https",
    )  # fmt: skip
    return answer


@router.get("/video")
def video(inside: Inside, workspace: InWorkspace) -> FileResponse:
    """The video; parts of it where the browser asks for parts."""
    return FileResponse(video_of(workspace, inside.link), headers=_HEADERS)


@router.get("/captions.vtt")
def captions(inside: Inside) -> Response:
    """The captions of the video (WebVTT)."""
    cues = [
        Cue(cue.text, seconds_to_ticks(cue.start_s), seconds_to_ticks(cue.end_s))
        for cue in inside.shown.captions
    ]
    return Response(webvtt.write(cues), media_type="text/vtt", headers=_HEADERS)


@router.get("/notes")
def notes(request: Request, inside: Inside, workspace: InWorkspace) -> Response:
    """The notes on the video, with what was answered."""
    _rates(request).looks.count(_address(request))
    return _notes(workspace, inside)


class NoteRequest(BaseModel):
    """What somebody says of a moment of the video."""

    at_s: float = Field(ge=0, le=1e6)
    author: str = Field(max_length=4 * LONGEST_NAME)
    text: str = Field(max_length=2 * LONGEST_NOTE)


@router.post("/notes")
def leave(request: Request, said: NoteRequest, inside: Inside, workspace: InWorkspace) -> Response:
    """Leave a note at a moment."""
    rates, address = _rates(request), _address(request)
    if rates.notes.wait_s(address) > 0:
        raise ShutError(
            429, "Ten notes a minute is the most that can be taken. Keep yours, and try again soon."
        )
    rates.notes.count(address)
    leave_note(workspace, inside, said.at_s, said.author, said.text, address)
    return _notes(workspace, inside)


def _notes(workspace: Workspace, inside: Look) -> Response:
    return Json([_note_json(note) for note in workspace.reviews.notes(inside.link.id)], headers=_HEADERS)


def _note_json(note: Note) -> dict[str, Any]:
    return {
        "id": note.id,
        "at_s": note.at_s,
        "author": note.author,
        "text": note.text,
        "answer": note.answer,
        "done": bool(note.done_at),
    }


def _rates(request: Request) -> Rates:
    rates = request.app.state.review_rates
    assert isinstance(rates, Rates)
    return rates


def _address(request: Request) -> str:
    return request.client.host if request.client else ""

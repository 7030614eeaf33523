"""Errors as answers: problem details (RFC 9457) for scripts and our own pages, a page for people.

Each kind of error has a name that stays: `type` is the address of its row on the page that describes the
interface.
"""

from collections.abc import Awaitable, Callable, Mapping
from http import HTTPStatus
from typing import Any

from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from pydantic_core import to_json
from starlette.exceptions import HTTPException

from fox_cadence.core.edits import EditError
from fox_cadence.core.project import NotInProjectError
from fox_cadence.errors import (
    ClashError,
    EngineError,
    FoxError,
    InputError,
    MediaError,
    NotFoundError,
    StorageError,
)
from fox_cadence.store.storage_errors import describe
from fox_cadence.web.pages import error_page

KINDS: dict[str, tuple[int, str]] = {
    "invalid": (422, "something that was sent can't be used"),
    "not-found": (404, "there is no such thing"),
    "clash": (409, "the change was based on a revision that is no longer the newest; nothing was changed"),
    "refused": (403, "this caller may not do this"),
    "signed-out": (401, "a password or a token is needed"),
    "not-allowed": (405, "this address does not know this method"),
    "ended": (410, "what was here has ended"),
    "too-large": (413, "more was sent than is taken at once"),
    "too-many": (429, "too much was asked in a while"),
    "media": (422, "a media file can't be read or written"),
    "engine": (502, "a voice engine died, hung or refused"),
    "storage": (507, "the disk or the database refused; nothing that was kept is lost"),
    "failed": (500, "this failed in a way we did not foresee"),
}
"""Kinds of problems: the usual status of each, and what it means."""

_OF_STATUS = {KINDS[kind][0]: kind for kind in reversed(KINDS)}
_OF_ERRORS: tuple[tuple[type[Exception], str], ...] = (
    (NotFoundError, "not-found"),
    (NotInProjectError, "not-found"),
    (ClashError, "clash"),
    (InputError, "invalid"),
    (EditError, "invalid"),
    (MediaError, "media"),
    (EngineError, "engine"),
    (FoxError, "failed"),
)
CONTENT_TYPE = "application/problem+json"
_UNFORESEEN = (
    "This failed in a way we did not foresee. Nothing that was kept is lost; the terminal says more."
)


def details(kind: str, detail: str, status: int | None = None, **more: Any) -> dict[str, Any]:
    """The members of problem details; `more` are those of ours."""
    usual, _ = KINDS[kind]
    code = status or usual
    return {
        "type": f"/api#{kind}",
        "title": HTTPStatus(code).phrase,
        "status": code,
        "detail": detail,
        **more,
    }


class Problem(Response):
    """An answer that says what was wrong."""

    media_type = CONTENT_TYPE

    def __init__(
        self,
        kind: str,
        detail: str,
        status: int | None = None,
        headers: Mapping[str, str] | None = None,
        **more: Any,
    ) -> None:
        told = details(kind, detail, status, **more)
        super().__init__(to_json(told, inf_nan_mode="null"), told["status"], headers)


def answer_errors(app: FastAPI) -> None:
    """Have an application answer our errors, and what its framework refuses, in this way."""
    for error, kind in _OF_ERRORS:
        app.add_exception_handler(error, _answer_with(kind))
    for refused in (StorageError, OSError):
        app.add_exception_handler(refused, _answer_storage)
    app.add_exception_handler(Exception, _answer_with("failed", _UNFORESEEN))
    app.add_exception_handler(RequestValidationError, _answer_invalid)
    app.add_exception_handler(404, _answer_with("not-found", "There is nothing at this address."))
    app.add_exception_handler(HTTPException, _answer_http)


def _answer_with(kind: str, text: str = "") -> Callable[[Request, Exception], Awaitable[Response]]:
    async def answer(request: Request, error: Exception) -> Response:
        return _answer(request, kind, text or str(error))

    return answer


def _answer(request: Request, kind: str, text: str, status: int | None = None) -> Response:
    if _for_scripts(request):
        return Problem(kind, text, status)
    return error_page(request, status or KINDS[kind][0], text)


def _for_scripts(request: Request) -> bool:
    path = request.url.path
    return path.startswith(("/api/", "/media/")) or (path.startswith("/review/") and path.endswith("/notes"))


async def _answer_storage(request: Request, error: Exception) -> Response:
    """The disk or the database refused: 507 (RFC 4918), so that the page keeps what was typed."""
    return _answer(request, "storage", str(error) if isinstance(error, FoxError) else describe(error))


async def _answer_http(request: Request, error: Exception) -> Response:
    """What the framework refuses by itself, such as a form that can't be read."""
    assert isinstance(error, HTTPException)
    kind = _OF_STATUS.get(error.status_code, "invalid" if error.status_code < 500 else "failed")
    return _answer(request, kind, str(error.detail), error.status_code)


_LIMITS = {
    "greater_than_equal": "it must be at least {ge}",
    "greater_than": "it must be more than {gt}",
    "less_than_equal": "it may be at most {le}",
    "less_than": "it must be less than {lt}",
    "string_too_long": "it may have {max_length} characters at most",
    "string_too_short": "it must not be empty",
    "too_long": "there may be {max_length} of them at most",
    "missing": "it is missing",
    "extra_forbidden": "this can’t be changed",
    "int_parsing": "it must be a whole number",
    "int_from_float": "it must be a whole number",
    "float_parsing": "it must be a number",
}
"""What a value must be, in our words, by the kind of pydantic's error; its own words stand for the rest."""


async def _answer_invalid(request: Request, error: Exception) -> Response:
    assert isinstance(error, RequestValidationError)
    first = error.errors()[0]
    names = [part for part in first["loc"] if isinstance(part, str) and part not in ("body", "edit", "edits")]
    field = names[-1].replace("_", " ") if names else "this"
    ours = _LIMITS.get(first["type"])
    words = ours.format(**first.get("ctx", {})) if ours else first["msg"]
    place = "/".join(str(part) for part in first["loc"])
    return Problem("invalid", f"{field}: {words}", place=place)

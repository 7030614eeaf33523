"""The FastAPI application: puts the routes together and turns our errors into answers."""

import asyncio
import logging
from collections.abc import AsyncIterator, Awaitable, Callable
from contextlib import asynccontextmanager
from dataclasses import dataclass
from pathlib import Path

from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from fastapi.staticfiles import StaticFiles
from starlette.exceptions import HTTPException

from fox_cadence.actions.jobs import resume
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import EditError
from fox_cadence.core.project import NotInProjectError
from fox_cadence.errors import ClashError, EngineError, FoxError, InputError, NotFoundError, StorageError
from fox_cadence.store.cleaning import HOUR_S
from fox_cadence.store.storage_errors import describe
from fox_cadence.web import (
    access,
    casting,
    deliveries,
    directing,
    editing,
    exports,
    figures,
    fitting,
    jobs,
    lettering,
    media,
    pages,
    projects,
    script_import,
    shelf,
    sound,
    takes,
    undo,
    versions,
)
from fox_cadence.web.answers.answer import Answers
from fox_cadence.web.compression import Compression
from fox_cadence.web.guard import Guard
from fox_cadence.web.pages import error_page

_log = logging.getLogger(__name__)
HERE = Path(__file__).resolve().parent

_STATUS: tuple[tuple[type[Exception], int], ...] = (
    (NotFoundError, 404),
    (NotInProjectError, 404),
    (ClashError, 409),
    (InputError, 422),
    (EditError, 422),
    (EngineError, 502),
    (FoxError, 500),
)


@dataclass(frozen=True, slots=True)
class Listening:
    """On a network it answers only to those who have signed in, under any address of this machine and these
    names."""

    network: bool = False
    names: frozenset[str] = frozenset()


def create_app(workspace: Workspace, listening: Listening = Listening()) -> FastAPI:
    """The application over an open workspace; closes it when the server stops."""

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        await asyncio.to_thread(resume, workspace)
        workspace.foreseen.begin()
        tidying = asyncio.create_task(_tidy(workspace))
        yield
        tidying.cancel()
        await asyncio.to_thread(workspace.close)

    app = FastAPI(title="Fox Cadence", docs_url=None, redoc_url=None, openapi_url=None, lifespan=lifespan)
    app.state.workspace = workspace
    app.state.answers = Answers(workspace)
    app.state.tries = access.Tries()
    app.state.network = listening.network
    if listening.network:
        app.add_middleware(access.SignedIn, access=workspace.access)
    app.add_middleware(Compression)
    app.add_middleware(Guard, names=listening.names, by_address=listening.network)
    for module in (
        pages,
        editing,
        script_import,
        directing,
        takes,
        casting,
        undo,
        deliveries,
        fitting,
        jobs,
        figures,
        lettering,
        media,
        exports,
        projects,
        shelf,
        sound,
        versions,
        access,
    ):
        app.include_router(module.router)
    app.include_router(script_import.before)
    app.include_router(exports.kept_router)
    app.mount("/static", StaticFiles(directory=HERE / "static"), name="static")
    app.mount("/fonts", StaticFiles(directory=HERE.parent / "fonts"), name="fonts")
    for kind, status in _STATUS:
        app.add_exception_handler(kind, _answer_with(status))
    for refused in (StorageError, OSError):
        app.add_exception_handler(refused, _answer_storage)
    app.add_exception_handler(Exception, _answer_unforeseen)
    app.add_exception_handler(RequestValidationError, _answer_invalid)
    app.add_exception_handler(404, _answer_with(404, "There is nothing at this address."))
    app.add_exception_handler(HTTPException, _answer_http)
    return app


async def _answer_http(request: Request, error: Exception) -> Response:
    """What the framework refuses by itself, such as a form that can't be read."""
    assert isinstance(error, HTTPException)
    return await _answer_with(error.status_code, str(error.detail))(request, error)


async def _tidy(workspace: Workspace) -> None:
    """Every hour: what broken-off work has left goes, and what was cleaned up a day ago."""
    while True:
        try:
            await asyncio.to_thread(workspace.cleaning.sweep)
            await asyncio.to_thread(workspace.cleaning.purge)
        except (FoxError, OSError):
            _log.exception("tidying up failed; it is tried again in an hour")
        await asyncio.sleep(HOUR_S)


async def _answer_storage(request: Request, error: Exception) -> Response:
    """The disk or the database refused: 507 (RFC 4918), so that the page keeps what was typed."""
    text = str(error) if isinstance(error, FoxError) else describe(error)
    return await _answer_with(507, text)(request, error)


async def _answer_unforeseen(request: Request, error: Exception) -> Response:
    text = "This failed in a way we did not foresee. Nothing that was kept is lost; the terminal says more."
    return await _answer_with(500, text)(request, error)


def _answer_with(status: int, message: str = "") -> Callable[[Request, Exception], Awaitable[Response]]:
    async def answer(request: Request, error: Exception) -> Response:
        text = message or str(error)
        if request.url.path.startswith(("/api/", "/media/")):
            return JSONResponse({"message": text}, status)
        return error_page(request, status, text)

    return answer


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


async def _answer_invalid(_: Request, error: Exception) -> Response:
    assert isinstance(error, RequestValidationError)
    first = error.errors()[0]
    names = [part for part in first["loc"] if isinstance(part, str) and part not in ("body", "edit", "edits")]
    field = names[-1].replace("_", " ") if names else "this"
    ours = _LIMITS.get(first["type"])
    words = ours.format(**first.get("ctx", {})) if ours else first["msg"]
    return JSONResponse({"message": f"{field}: {words}"}, 422)

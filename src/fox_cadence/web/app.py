"""The FastAPI application: puts the routes together and turns our errors into answers."""

import asyncio
import logging
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from dataclasses import dataclass

from fastapi import FastAPI

from fox_cadence.actions.jobs import resume
from fox_cadence.actions.preparing import prepare_in_background
from fox_cadence.actions.reviewing import drop_ended
from fox_cadence.actions.workspace import Workspace
from fox_cadence.errors import FoxError
from fox_cadence.store.cleaning import HOUR_S
from fox_cadence.web import (
    access,
    batches,
    casting,
    deliveries,
    directing,
    editing,
    exports,
    figures,
    fitting,
    interface,
    jobs,
    lettering,
    media,
    pages,
    projects,
    review_page,
    reviews,
    script_import,
    shelf,
    sound,
    takes,
    undo,
    versions,
)
from fox_cadence.web.answers.answer import Answers
from fox_cadence.web.assets import FONTS, STATIC, Assets, Fonts
from fox_cadence.web.compression import Compression
from fox_cadence.web.guard import Guard
from fox_cadence.web.problems import answer_errors

_log = logging.getLogger(__name__)


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
        await asyncio.to_thread(prepare_in_background, workspace)
        workspace.foreseen.begin()
        tidying = asyncio.create_task(_tidy(workspace))
        yield
        tidying.cancel()
        await asyncio.to_thread(workspace.close)

    app = FastAPI(
        title="Fox Cadence",
        docs_url=None,
        redoc_url=None,
        openapi_url=None,
        lifespan=lifespan,
        generate_unique_id_function=interface.name_of,
    )
    app.state.workspace = workspace
    app.state.answers = Answers(workspace)
    app.state.tries = access.Tries()
    app.state.review_rates = review_page.review_rates()
    app.state.network = listening.network
    if listening.network:
        app.add_middleware(access.SignedIn, access=workspace.access, tokens=workspace.tokens)
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
        batches,
        interface,
        reviews,
        review_page,
        access,
    ):
        app.include_router(module.router)
    app.include_router(script_import.before)
    app.include_router(exports.kept_router)
    app.mount("/static", Assets(directory=STATIC), name="static")
    app.mount("/fonts", Fonts(directory=FONTS), name="fonts")
    answer_errors(app)
    interface.describe(app)
    app.add_exception_handler(review_page.ShutError, review_page.answer_shut)
    return app


async def _tidy(workspace: Workspace) -> None:
    """Every hour: what broken-off work has left goes, what was cleaned up a day ago, and the videos of review
    links that have ended."""
    while True:
        try:
            await asyncio.to_thread(workspace.cleaning.sweep)
            await asyncio.to_thread(workspace.cleaning.purge)
            await asyncio.to_thread(drop_ended, workspace)
        except (FoxError, OSError):
            _log.exception("tidying up failed; it is tried again in an hour")
        await asyncio.sleep(HOUR_S)

"""Windows of the real interface in headless Chromium."""

import secrets
import shutil
import sqlite3
from collections.abc import Callable, Iterator
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import Browser, BrowserContext, ConsoleMessage, Page, ViewportSize, expect

from fox_cadence.actions.workspace import Workspace
from fox_cadence.demo.samples import FIRST_ID
from fox_cadence.store.database import DATABASE
from tests.browser.application import WINDOWS, chromium, served

expect.set_options(timeout=60_000)  # beside voices being made, a page may wait long for its turn

VIEWPORT: ViewportSize = {"width": 1280, "height": 800}

REFUSALS = tuple(f"status of {status}" for status in (401, 403, 404, 409, 410, 422))
"""What the browser logs when the server refuses a change with a reason, as some tests want it to."""
GONE = (
    "net::ERR_CONNECTION",
    "net::ERR_CONTENT_LENGTH_MISMATCH",
    "net::ERR_EMPTY_RESPONSE",
    "net::ERR_INCOMPLETE_CHUNKED_ENCODING",
    "net::ERR_SOCKET_NOT_CONNECTED",
)
"""What it logs in a test that kills the server."""
FAULTY = "Expression Error"
"""How the warning begins that says which expression of a template a page error comes from."""


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with chromium() as made:
        yield made


class Watched:
    """Windows that are looked after: what goes wrong in them fails the test."""

    def __init__(self) -> None:
        self.wrong: list[str] = []

    def look_after(self, page: Page, address: str) -> Page:
        page.set_default_timeout(60_000)
        page.on("pageerror", lambda error: self.wrong.append(f"page error: {error}"))
        page.on("console", self._console)
        ours = (f"{urlsplit(address).scheme}://{urlsplit(address).netloc}/", "blob:", "data:")
        page.on(
            "request",
            lambda request: (
                None if request.url.startswith(ours) else self.wrong.append(f"foreign request: {request.url}")
            ),
        )
        return page

    def _console(self, message: ConsoleMessage) -> None:
        counts = message.type == "error" or FAULTY in message.text
        if counts and not any(status in message.text for status in (*REFUSALS, *GONE)):
            self.wrong.append(f"console: {message.text}")


@pytest.fixture
def watched() -> Iterator[Watched]:
    made = Watched()
    yield made
    while WINDOWS:
        WINDOWS.pop().close()
    assert not made.wrong, made.wrong


@pytest.fixture
def open_page(browser: Browser, watched: Watched) -> Callable[[str], Page]:
    """Opens an address in a new window of somebody else: nothing is remembered in it. The test fails when a
    page logs an error or asks another host for anything."""

    def open_at(address: str) -> Page:
        context = browser.new_context(viewport=VIEWPORT, accept_downloads=True)
        WINDOWS.append(context)
        page = watched.look_after(context.new_page(), address)
        page.goto(address)
        return page

    return open_at


@dataclass(frozen=True)
class Shared:
    """An application that many tests use one after the other, and the folder it serves."""

    address: str
    folder: Path
    master: Path


@pytest.fixture(scope="session")
def shared(demo_master: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Shared]:
    """One server for all tests that only look at the sample: starting one for each takes longer than most of
    them."""
    folder = Path(shutil.copytree(demo_master, tmp_path_factory.mktemp("shared") / "data"))
    with served(folder) as address:
        yield Shared(address, folder, demo_master)


@pytest.fixture(scope="session")
def warm(browser: Browser, shared: Shared) -> Iterator[BrowserContext]:
    """A browser that has seen the application before: what never changes is at hand in it."""
    context = browser.new_context(viewport=VIEWPORT, accept_downloads=True)
    page = context.new_page()
    page.goto(f"{shared.address}/projects/{FIRST_ID}")
    expect(page.locator("#page .shot").first).to_be_visible()
    page.close()
    yield context
    context.close()


@pytest.fixture
def page(shared: Shared, warm: BrowserContext, watched: Watched) -> Iterator[Page]:
    """The sample project in a window, as if nobody had used it before."""
    project_id = as_it_was(shared)
    made = watched.look_after(warm.new_page(), shared.address)
    what = {"origin": shared.address, "storageTypes": "local_storage,session_storage,cookies"}
    warm.new_cdp_session(made).send("Storage.clearDataForOrigin", what)
    made.goto(f"{shared.address}/projects/{project_id}")
    expect(made.locator("#page .shot").first).to_be_visible()
    yield made
    made.close()


@pytest.fixture
def small_demo(demo_data: Path) -> Path:
    """A data folder with the sample in a small frame: the same code, in a fifth of the time."""
    with Workspace(demo_data) as workspace:
        head = workspace.head("marrow-bay")
        small = head.project.changed(width=216, height=384)
        workspace.projects.commit("marrow-bay", head.revision, small, "Small frame")
    return demo_data


def as_it_was(shared: Shared) -> str:
    """The data of the sample as it was made, its project under an id that the server has not seen; the id."""
    project_id = secrets.token_hex(4)
    with closing(sqlite3.connect(shared.folder / DATABASE, timeout=30, isolation_level=None)) as db:
        db.execute("ATTACH ? AS master", (str(shared.master / DATABASE),))
        tables = [row[0] for row in db.execute("SELECT name FROM master.sqlite_master WHERE type = 'table'")]
        db.execute("BEGIN IMMEDIATE")
        for table in sorted(tables, reverse=True):  # revisions point to projects
            db.execute(f"DELETE FROM main.{table}")
        for table in sorted(tables):
            db.execute(f"INSERT INTO main.{table} SELECT * FROM master.{table}")
        columns = [row[1] for row in db.execute("PRAGMA main.table_info(project)") if row[1] != "id"]
        names = ", ".join(columns)
        sample = "FROM main.project WHERE id = 'marrow-bay'"
        db.execute(f"INSERT INTO main.project (id, {names}) SELECT ?, {names} {sample}", (project_id,))
        db.execute("UPDATE main.revision SET project_id = ? WHERE project_id = 'marrow-bay'", (project_id,))
        db.execute("DELETE FROM main.project WHERE id = 'marrow-bay'")
        db.execute("COMMIT")
    return project_id

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
from playwright.sync_api import Browser, Page, expect

from fox_cadence.actions.workspace import Workspace
from tests.browser.application import WINDOWS, chromium, served

expect.set_options(timeout=60_000)  # beside voices being made, a page may wait long for its turn

DATABASE = "fox-cadence.sqlite"

REFUSALS = tuple(f"status of {status}" for status in (401, 403, 404, 409, 410, 422))
"""What the browser logs when the server refuses a change with a reason, as some tests want it to."""
GONE = ("net::ERR_CONNECTION", "net::ERR_CONTENT_LENGTH_MISMATCH", "net::ERR_EMPTY_RESPONSE")
"""What it logs in a test that kills the server."""
FAULTY = "Expression Error"
"""How the warning begins that says which expression of a template a page error comes from."""


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with chromium() as made:
        yield made


@pytest.fixture
def open_page(browser: Browser) -> Iterator[Callable[[str], Page]]:
    """Opens an address in a new window; the test fails when a page logs an error or asks another host for
    anything."""
    wrong: list[str] = []

    def open_at(address: str) -> Page:
        context = browser.new_context(viewport={"width": 1280, "height": 800}, accept_downloads=True)
        WINDOWS.append(context)
        page = context.new_page()
        page.set_default_timeout(60_000)
        page.on("pageerror", lambda error: wrong.append(f"page error: {error}"))
        page.on(
            "console",
            lambda message: (
                wrong.append(f"console: {message.text}")
                if (message.type == "error" or FAULTY in message.text)
                and not any(status in message.text for status in (*REFUSALS, *GONE))
                else None
            ),
        )
        page.on(
            "request",
            lambda request: (
                wrong.append(f"foreign request: {request.url}")
                if not request.url.startswith(
                    (f"{urlsplit(address).scheme}://{urlsplit(address).netloc}/", "blob:", "data:")
                )
                else None
            ),
        )
        page.goto(address)
        return page

    yield open_at
    while WINDOWS:
        WINDOWS.pop().close()
    assert not wrong, wrong


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


@pytest.fixture
def page(shared: Shared, open_page: Callable[[str], Page]) -> Page:
    """The sample project in a window, as if nobody had used it before."""
    made = open_page(f"{shared.address}/projects/{as_it_was(shared)}")
    expect(made.locator("#page .shot").first).to_be_visible()
    return made


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

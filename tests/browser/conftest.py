"""Windows of the real interface in headless Chromium."""

from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.application import WINDOWS, chromium, served

expect.set_options(timeout=15_000)  # beside voices being made, a page may wait for its turn

REFUSALS = ("status of 403", "status of 404", "status of 409", "status of 422")
"""What the browser logs when the server refuses a change with a reason, as some tests want it to."""
GONE = ("net::ERR_CONNECTION", "net::ERR_CONTENT_LENGTH_MISMATCH", "net::ERR_EMPTY_RESPONSE")
"""What it logs in a test that kills the server."""


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with chromium() as made:
        yield made


@pytest.fixture
def open_page(browser: Browser) -> Iterator[Callable[[str], Page]]:
    """Opens an address in a new window; the test fails when a page logs an error or asks another host for anything."""
    wrong: list[str] = []

    def open_at(address: str) -> Page:
        context = browser.new_context(viewport={"width": 1280, "height": 800}, accept_downloads=True)
        WINDOWS.append(context)
        page = context.new_page()
        page.set_default_timeout(20_000)
        page.on("pageerror", lambda error: wrong.append(f"page error: {error}"))
        page.on(
            "console",
            lambda message: (
                wrong.append(f"console: {message.text}")
                if message.type == "error" and not any(status in message.text for status in (*REFUSALS, *GONE))
                else None
            ),
        )
        page.on(
            "request",
            lambda request: (
                wrong.append(f"foreign request: {request.url}")
                if not request.url.startswith((address.split("/projects")[0].rsplit("/new", 1)[0], "blob:", "data:"))
                else None
            ),
        )
        page.goto(address)
        return page

    yield open_at
    while WINDOWS:
        WINDOWS.pop().close()
    assert not wrong, wrong


@pytest.fixture
def page(demo_data: Path, open_page: Callable[[str], Page]) -> Iterator[Page]:
    """The sample project in a window of the application that serves it."""
    with served(demo_data) as address:
        made = open_page(f"{address}/projects/marrow-bay")
        expect(made.locator("#page .shot").first).to_be_visible()
        yield made

"""The real application as a process of its own, and the real interface in headless Chromium."""

import json
import os
import subprocess
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, sync_playwright

CHROMIUM = "/usr/bin/chromium"
FLAGS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync", "--autoplay-policy=no-user-gesture-required",
]  # fmt: skip

REFUSALS = ("status of 404", "status of 409", "status of 422")
"""What the browser logs when the server refuses a change with a reason, as some tests want it to."""


@contextmanager
def served(data: Path) -> Iterator[str]:
    """The address of an application that serves a data folder."""
    process = subprocess.Popen(
        [sys.executable, "-m", "fox_cadence.cli", "serve", "--data", str(data), "--port", "0", "--json"],
        stdout=subprocess.PIPE,
        env={**os.environ, "PYTHONWARNINGS": "default"},
    )
    try:
        assert process.stdout is not None
        yield json.loads(process.stdout.readline())["address"].rstrip("/")
    finally:
        process.terminate()
        process.wait(timeout=20)
        if process.stdout is not None:
            process.stdout.close()


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        made = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        yield made
        made.close()


@pytest.fixture
def open_page(browser: Browser) -> Iterator[Callable[[str], Page]]:
    """Opens an address in a new window; the test fails when a page logs an error or asks another host for anything."""
    contexts = []
    wrong: list[str] = []

    def open_at(address: str) -> Page:
        context = browser.new_context(viewport={"width": 1280, "height": 800}, accept_downloads=True)
        contexts.append(context)
        page = context.new_page()
        page.set_default_timeout(20_000)
        page.on("pageerror", lambda error: wrong.append(f"page error: {error}"))
        page.on(
            "console",
            lambda message: (
                wrong.append(f"console: {message.text}")
                if message.type == "error" and not any(status in message.text for status in REFUSALS)
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
    for context in contexts:
        context.close()
    assert not wrong, wrong

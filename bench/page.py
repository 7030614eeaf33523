"""How soon the page is there: the first sample in Chromium, seen the first time and again, against a bare
page of the framework with as many bytes of scripts and styles."""

import tempfile
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

from playwright.sync_api import Browser, Page

from bench.serving import running
from fox_cadence.actions.workspace import Workspace
from fox_cadence.demo.samples import FIRST_ID, ensure_samples
from tests.browser.application import chromium, served

ROUNDS = 5
CAPTION = "#page .caption"


def rows() -> list[str]:
    found = ["| what | ours | bare page | ratio |", "| --- | --- | --- | --- |"]
    with tempfile.TemporaryDirectory() as folder, chromium() as browser:
        with Workspace(Path(folder)) as workspace:
            ensure_samples(workspace)
            workspace.preparing.prepare_all(workspace.library.clips())
        with served(Path(folder)) as address:
            ours = f"{address}/projects/{FIRST_ID}"
            _visits(browser, ours, CAPTION, 1)  # the server has answered once
            first, requests, sizes = _visits(browser, ours, CAPTION, ROUNDS)
            again = _again(browser, ours, CAPTION)
        with running("bench.bare_app", str(sum(sizes))) as host:
            bare = f"http://{host}/page"
            bare_first, _, _ = _visits(browser, bare, "#done", ROUNDS)
            bare_again = _again(browser, bare, "#done")
    found.append(_row("first caption, nothing kept from before", first, bare_first))
    found.append(_row("first caption, seen before", again, bare_again))
    return [
        *found,
        "",
        f"{requests} requests for scripts and styles, {sum(sizes) / 1000:,.0f} kB as they come.",
    ]


def _row(what: str, ours: float, bare: float) -> str:
    return f"| {what} | {ours:.0f} ms | {bare:.0f} ms | {ours / bare:.1f} |"


def _visits(browser: Browser, address: str, seen: str, rounds: int) -> tuple[float, int, list[int]]:
    """The least time until something is seen, each in a browser of its own; how many scripts and styles were
    asked for, and how many bytes came for each."""
    times: list[float] = []
    found: list[dict[str, Any]] = []
    for _ in range(rounds):
        context = browser.new_context(viewport={"width": 1280, "height": 800})
        page = context.new_page()
        times.append(_until(page, address, seen))
        found = page.evaluate("""() => performance.getEntriesByType("resource")
            .filter((each) => /\\.(js|css)$/.test(new URL(each.name).pathname))
            .map((each) => ({ bytes: each.encodedBodySize }))""")
        context.close()
    return min(times), len(found), [int(each["bytes"]) for each in found]


def _again(browser: Browser, address: str, seen: str) -> float:
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    page = context.new_page()
    times = [_until(page, address, seen) for _ in range(ROUNDS + 1)][1:]
    context.close()
    return min(times)


def _until(page: Page, address: str, seen: str) -> float:
    """Milliseconds from the beginning of the navigation until something is seen, by the clock of the page."""
    assert urlsplit(address).scheme == "http"
    page.goto("about:blank")
    page.goto(address, wait_until="commit")
    page.locator(seen).first.wait_for()
    return float(page.evaluate("performance.now()"))

"""The real application as a process of its own and a headless Chromium, for tests, screenshots and
benchmarks."""

import json
import os
import signal
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from playwright.sync_api import Browser, BrowserContext, Page, sync_playwright

CHROMIUM = "/usr/bin/chromium-headless-shell"
FLAGS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync", "--autoplay-policy=no-user-gesture-required",
    "--font-render-hinting=none",
]  # fmt: skip


SERVER = "FOX_CADENCE_TEST_SERVER"
"""Set in the environment: the module that is run in the place of the terminal's own."""

WINDOWS: list[BrowserContext] = []
"""Closed before the server they look at stops, so that none asks for what can't be answered any more."""


@contextmanager
def served(data: Path, command: str = "serve", *options: str) -> Iterator[str]:
    """The address an application answers at that serves a data folder; the command is serve or demo."""
    process = subprocess.Popen(
        [
            sys.executable,
            "-m",
            os.environ.get(SERVER, "fox_cadence.cli"),
            command,
            "--data",
            str(data),
            "--port",
            "0",
            "--json",
            *options,
        ],
        stdout=subprocess.PIPE,
        env={**os.environ, "PYTHONWARNINGS": "default", "PYTHONFAULTHANDLER": "1"},
    )
    try:
        assert process.stdout is not None
        yield json.loads(process.stdout.readline())["address"].rstrip("/")
    finally:
        while WINDOWS:
            WINDOWS.pop().close()
        _stop(process)
        if process.stdout is not None:
            process.stdout.close()


def _stop(process: "subprocess.Popen[bytes]") -> None:
    process.terminate()
    try:
        process.wait(timeout=60)
    except subprocess.TimeoutExpired:
        process.send_signal(signal.SIGABRT)  # it says where each of its threads stands, and ends
        process.wait(timeout=60)
        raise


def at_rest(page: Page) -> None:
    """Wait until a page has drawn what it was told: no request is on its way, nothing moves, two frames have
    passed."""
    page.wait_for_load_state("networkidle")
    page.evaluate(
        """async () => {
            await document.fonts.ready;
            await Promise.all(document.getAnimations().map((each) => each.finished.catch(() => {})));
            const frame = () => new Promise((done) => requestAnimationFrame(done));
            await frame();
            await frame();
        }"""
    )


@contextmanager
def chromium(*flags: str) -> Iterator[Browser]:
    """Debian's Chromium without a window."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=[*FLAGS, *flags])
        try:
            yield browser
        finally:
            browser.close()

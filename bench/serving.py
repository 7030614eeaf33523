"""The server: its start, a page of 500 lines against one of 10, an edit against an endpoint that does
nothing."""

import http.client
import json
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

from bench.clock import quantile
from bench.corpus import built
from bench.hearing import project_of
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from tests.browser.application import chromium

FEW, MANY = 10, 500
ROUNDS = 5
EDITS = 40


def rows() -> list[str]:
    found = ["| what | against | ours | theirs | ratio | aim |", "| --- | --- | --- | --- | --- | --- |"]
    with tempfile.TemporaryDirectory() as folder:
        data = Path(folder)
        with Workspace(data) as workspace:
            for count in (FEW, MANY):
                workspace.projects.create(project_of("orla", built("en", count)), "Made", f"of-{count}")
                voice_lines(workspace, f"of-{count}")
        found += _start(data)
        with running("bench.our_app", folder) as address:
            found += _page(address)
            found += _edit(address)
            found += ["", _scrolling(address)]
    return found


def row(what: str, against: str, ours: float, theirs: float, unit: str, aim: str) -> str:
    both = f"{_short(ours)} {unit} | {_short(theirs)} {unit}"
    return f"| {what} | {against} | {both} | {ours / theirs:.2f} | {aim} |"


def _short(value: float) -> str:
    return f"{value:,.0f}" if value >= 100 else f"{value:.3g}"


@contextmanager
def running(module: str, *arguments: str) -> Iterator[str]:
    """The host and port of an application in a process of its own."""
    process = subprocess.Popen([sys.executable, "-m", module, *arguments], stdout=subprocess.PIPE)
    try:
        assert process.stdout is not None
        yield urlsplit(json.loads(process.stdout.readline())["address"]).netloc
    finally:
        process.terminate()
        process.wait()


def _start(data: Path) -> list[str]:
    """From the command to the whole of the first page, in turns."""
    times: dict[str, list[float]] = {"ours": [], "bare": []}
    for _ in range(ROUNDS):
        for name, command in (
            ("ours", ["fox_cadence.cli", "serve", "--data", str(data), "--port", "0", "--json"]),
            ("bare", ["bench.bare_app"]),
        ):
            began = time.perf_counter()
            with running(*command) as address:
                _ask(address, "GET", "/")
                times[name].append(time.perf_counter() - began)
    ours, bare = (min(times[name]) for name in ("ours", "bare"))
    return [row("start to first page", "a bare application of the framework", ours, bare, "s", "3")]


def _page(address: str) -> list[str]:
    """First byte, bytes that come, and when a line can be chosen, in Chromium with nothing kept from
    before."""
    measured: dict[int, list[tuple[float, float, float]]] = {FEW: [], MANY: []}
    with chromium() as browser:
        for _ in range(ROUNDS):
            for count in (FEW, MANY):
                context = browser.new_context(viewport={"width": 1280, "height": 800})
                page = context.new_page()
                cdp = context.new_cdp_session(page)
                cdp.send("Network.enable")
                came: list[float] = []
                cdp.on(
                    "Network.loadingFinished",
                    lambda event, came=came: came.append(event["encodedDataLength"]),
                )
                page.goto(f"http://{address}/projects/of-{count}", wait_until="commit")
                page.locator("#page .voice.chosen").first.wait_for()
                ready = page.evaluate("performance.now()")
                page.wait_for_timeout(300)
                entry = page.evaluate("performance.getEntriesByType('navigation')[0].responseStart")
                measured[count].append((entry, sum(came) / 1000, ready))
                context.close()
    found: list[str] = []
    for place, (what, unit) in enumerate(
        (("first byte", "ms"), ("bytes until it stands", "kB"), ("interactive", "ms"))
    ):
        ours, theirs = (min(each[place] for each in measured[count]) for count in (MANY, FEW))
        found.append(row(f"page of {MANY} lines: {what}", f"of {FEW}", ours, theirs, unit, "3"))
    return found


_SCROLL = """async () => {
  const scroller = document.querySelector('#scroller');
  const times = [];
  let last = performance.now();
  for (let step = 0; step < 200; step += 1) {
    scroller.scrollTop += 60;
    await new Promise((done) => requestAnimationFrame(done));
    const now = performance.now();
    times.push(now - last);
    last = now;
  }
  return times;
}"""


def _scrolling(address: str) -> str:
    """Frame after frame while the sheet of the long project is scrolled, 60 pixels a frame."""
    with chromium() as browser:
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"http://{address}/projects/of-{MANY}")
        page.locator("#page .voice.chosen").first.wait_for()
        page.wait_for_timeout(1500)
        times = page.evaluate(_SCROLL)
    median, high = quantile(times, 0.5), quantile(times, 0.95)
    return (
        f"Scrolling {MANY} lines, {len(times)} frames: median {median:.0f} ms, p95 {high:.0f} ms, "
        f"longest {max(times):.0f} ms."
    )


def _edit(address: str) -> list[str]:
    """Words of a caption changed, each time another, against an endpoint of the same server that answers
    {}."""
    path = f"/api/projects/of-{MANY}"
    state = json.loads(_ask(address, "GET", f"{path}/timeline"))
    known, revision = state["version"], state["revision"]
    ours: list[float] = []
    theirs: list[float] = []
    for number in range(EDITS):
        edit = {
            "kind": "caption_text",
            "caption_id": f"c{number * 7 + 1}",
            "text": f"Wave {number} came in at noon.",
        }
        began = time.perf_counter()
        answer = _ask(address, "POST", f"{path}/edits", {"based_on": revision, "edit": edit}, known)
        ours.append(time.perf_counter() - began)
        told = json.loads(answer)
        known, revision = told["version"], told["values"]["revision"]
        began = time.perf_counter()
        _ask(address, "POST", "/api/nothing", {})
        theirs.append(time.perf_counter() - began)
    what = f"an edit of {MANY} lines ({len(answer) / 1000:.1f} kB answered)"
    nothing = "an endpoint of the same server that does nothing"
    return [row(what, nothing, quantile(ours, 0.5) * 1000, quantile(theirs, 0.5) * 1000, "ms", "10")]


def _ask(address: str, method: str, path: str, body: Any = None, known: str = "") -> bytes:
    connection = http.client.HTTPConnection(address, timeout=60)
    headers = {"content-type": "application/json", "x-known-version": known}
    connection.request(method, path, None if body is None else json.dumps(body), headers)
    answer = connection.getresponse()
    data = answer.read()
    connection.close()
    assert answer.status == 200, (answer.status, data[:200])
    return data

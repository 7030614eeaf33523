"""A drag in the real interface: from the request of each step to the frame in which its proposal is drawn."""

import tempfile
from pathlib import Path

import numpy as np
from playwright.sync_api import CDPSession, Page

from bench.clock import quantile
from bench.corpus import built
from bench.hearing import project_of
from bench.loop import sixty_lines
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from tests.browser.application import chromium, served

STEPS = 90
BESIDE = 1500
PARTS = {
    "TaskDuration": "all",
    "ScriptDuration": "script",
    "LayoutDuration": "layout",
    "RecalcStyleDuration": "style",
}

_WATCH = """() => {
  window.steps = [];
  if (window.watched) return;
  window.watched = true;
  const real = window.fetch;
  window.fetch = async (path, options) => {
    if (!String(path).endsWith("/try")) return real(path, options);
    const began = performance.now();
    const answer = await real(path, options);
    const came = performance.now();
    const json = answer.json.bind(answer);
    answer.json = async () => {
      const data = await json();
      const drawn = () => window.steps.push([came - began, performance.now() - began]);
      requestAnimationFrame(() => setTimeout(drawn));
      return data;
    };
    return answer;
  };
}"""


_SEEN = """() => [...document.querySelectorAll('[data-cut]')].find((cut) => {
  const { top } = cut.getBoundingClientRect();
  return top > 300 && top < 600;
}).dataset.cut"""
"""A cut in the middle of the window: only those near it are drawn."""


def rows() -> list[str]:
    """A cut of a voiced piece of 60 lines moved by a pointer, a move every 50 ms: alone, and beside a voicing
    job."""
    with tempfile.TemporaryDirectory() as folder:
        with Workspace(Path(folder) / "data") as workspace:
            project = sixty_lines(workspace, Path(folder))
            voice_lines(workspace, project)
            workspace.projects.create(project_of("pell", built("en", BESIDE)), "Made", "beside")
        with served(Path(folder) / "data") as address, chromium() as browser:
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.goto(f"{address}/projects/{project}")
            page.locator("#page .voice.chosen").first.wait_for()
            page.wait_for_timeout(500)
            found = _dragged(page, "")
            job = page.request.post(f"{address}/api/projects/beside/voice", data={}).json()
            found += _dragged(page, ", beside a voicing job")
            state = page.request.get(f"{address}/api/jobs/{job['id']}").json()["state"]
            assert state == "running", f"the voicing job had ended: {state}"
    return found


def _dragged(page: Page, how: str) -> list[str]:
    cut = page.locator(f"[data-cut={page.evaluate(_SEEN)}]")
    page.evaluate(_WATCH)
    watch = page.context.new_cdp_session(page)
    watch.send("Performance.enable")
    before = _spent(watch)
    box = cut.bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    for step in range(STEPS):
        page.mouse.move(x, y + 30 * np.sin(step / 8))
        page.wait_for_timeout(50)
    page.keyboard.press("Escape")
    page.mouse.up()
    times = page.evaluate("window.steps")
    after = _spent(watch)
    answered, drawn = ([pair[column] for pair in times] for column in (0, 1))
    each = {name: (after[name] - before[name]) * 1000 / len(times) for name in PARTS}
    parts = ", ".join(f"{word} {each[name]:.0f} ms" for name, word in PARTS.items())
    return [
        f"A drag step on 60 lines in the browser{how}, {len(times)} steps: "
        f"answered in median {quantile(answered, 0.5):.0f} ms, "
        f"p95 {quantile(answered, 0.95):.0f} ms; drawn in median {quantile(drawn, 0.5):.0f} ms, "
        f"p95 {quantile(drawn, 0.95):.0f} ms.",
        f"What the page's own thread spends on a step: {parts}.",
    ]


def _spent(watch: CDPSession) -> dict[str, float]:
    """Seconds the page's thread has spent so far, by kind of work."""
    found = watch.send("Performance.getMetrics")["metrics"]
    return {str(metric["name"]): float(metric["value"]) for metric in found}

"""A drag in the real interface: from the request of each step to the frame in which its proposal is drawn."""

import tempfile
from pathlib import Path

import numpy as np
from playwright.sync_api import CDPSession

from bench.clock import quantile
from bench.loop import sixty_lines
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from tests.browser.application import chromium, served

STEPS = 90
PARTS = {
    "TaskDuration": "all",
    "ScriptDuration": "script",
    "LayoutDuration": "layout",
    "RecalcStyleDuration": "style",
}

_WATCH = """() => {
  const real = window.fetch;
  window.steps = [];
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


def rows() -> list[str]:
    """One sentence for a cut of a voiced piece of 60 lines, moved by a pointer, a move every 50 ms."""
    with tempfile.TemporaryDirectory() as folder:
        with Workspace(Path(folder) / "data") as workspace:
            project = sixty_lines(workspace, Path(folder))
            voice_lines(workspace, project)
        with served(Path(folder) / "data") as address, chromium() as browser:
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.goto(f"{address}/projects/{project}")
            cut = page.locator("[data-cut]").nth(4)
            cut.wait_for()
            cut.scroll_into_view_if_needed()
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
        f"A drag step on 60 lines in the browser, {len(times)} steps: "
        f"answered in median {quantile(answered, 0.5):.0f} ms, "
        f"p95 {quantile(answered, 0.95):.0f} ms; drawn in median {quantile(drawn, 0.5):.0f} ms, "
        f"p95 {quantile(drawn, 0.95):.0f} ms.",
        f"What the page's own thread spends on a step: {parts}.",
    ]


def _spent(watch: CDPSession) -> dict[str, float]:
    """Seconds the page's thread has spent so far, by kind of work."""
    found = watch.send("Performance.getMetrics")["metrics"]
    return {str(metric["name"]): float(metric["value"]) for metric in found}

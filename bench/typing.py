"""Typing on the script page of a long piece: from a key to the frame that shows it, and to its estimate."""

import tempfile
from pathlib import Path

from bench.clock import quantile
from fox_cadence.actions.workspace import Workspace
from tests.browser.application import chromium, served
from tests.builders import simple_project

LINES = 500
KEYS = 60

_WATCH = """() => {
  window.drawn = [];
  let pressed = 0;
  document.addEventListener('keydown', () => { pressed = performance.now(); }, true);
  document.addEventListener('input', () => {
    const at = pressed;
    requestAnimationFrame(() => setTimeout(() => window.drawn.push(performance.now() - at)));
  }, true);
}"""

_SCROLL = """async () => {
  const scroller = document.querySelector('#script-scroller');
  const times = [];
  let last = performance.now();
  for (let step = 0; step < 150; step += 1) {
    scroller.scrollTop += 60;
    await new Promise((done) => requestAnimationFrame(done));
    times.push(performance.now() - last);
    last = performance.now();
  }
  return times;
}"""


def rows() -> list[str]:
    """What was measured, in sentences."""
    with tempfile.TemporaryDirectory() as folder:
        data = Path(folder) / "data"
        with Workspace(data) as workspace:
            texts = [f"Wave {number} comes in, and one more goes out." for number in range(LINES)]
            workspace.projects.create(simple_project(texts), "Made", "long")
        with served(data) as address, chromium() as browser:
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.goto(f"{address}/projects/long")
            page.locator("#page .shot").first.wait_for()
            page.keyboard.press("2")
            page.locator("#script .srow").first.wait_for()
            page.wait_for_timeout(2_000)
            scrolled = page.evaluate(_SCROLL)
            field = page.locator('.srow[data-line="l250"] script-text[data-kind="shown"]')
            field.click()
            page.keyboard.press("End")
            page.evaluate(_WATCH)
            for number in range(KEYS):
                page.keyboard.press("abcde "[number % 6])
                page.wait_for_timeout(90)
            page.wait_for_timeout(1_000)
            drawn = page.evaluate("window.drawn")
            began = page.evaluate("performance.now()")
            page.keyboard.press("x")
            page.locator('.srow[data-line="l250"] .slength', has_text="too many").wait_for()
            estimate = page.evaluate("performance.now()") - began
    return [
        f"Typing in {LINES} lines, {len(drawn)} keys, from the key to the frame that shows it: "
        f"median {quantile(drawn, 0.5):.0f} ms, p95 {quantile(drawn, 0.95):.0f} ms, "
        f"longest {max(drawn):.0f} ms. A key until its estimate stands: {estimate:.0f} ms.",
        f"Scrolling the script, {len(scrolled)} frames of 60 pixels: "
        f"median {quantile(scrolled, 0.5):.0f} ms, p95 {quantile(scrolled, 0.95):.0f} ms.",
    ]


if __name__ == "__main__":
    print("\n".join(rows()))

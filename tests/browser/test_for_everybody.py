"""For hands and eyes: WCAG 2.2 AA as axe-core can check it, work by keyboard alone, five hundred lines."""

from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from fox_cadence.actions.workspace import Workspace
from tests.browser.application import at_rest, served
from tests.builders import simple_project

Opener = Callable[[str], Page]

AXE = Path(__file__).resolve().parents[2] / "node_modules" / "axe-core" / "axe.min.js"
STANDARDS = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]
EQUIVALENT = ("caption-edge", 'class="rest')
"""Edges of captions and pauses lie nearer to one another than targets may (2.5.8) where captions and words
do. The same is done by fields that are large enough, In and Out and Pause after under Words, and by arrow
keys."""

DESKS = {
    "1": ("", ()),
    "2": ("words", ("line", "direct", "script", "lexicon", "find", "punctuate")),
    "3": ("cast", ("voices", "roles", "line", "takes", "record", "coverage")),
    "4": ("desk", ("line", "shot", "house")),
    "5": ("", ()),
    "6": ("sound-desk", ("mix", "beds", "effects", "treatment", "clean", "sing", "own")),
    "7": ("", ()),
}


def wrong(page: Page, rules: list[str]) -> list[str]:
    """What axe-core calls serious or critical on a page: rule and element. `rules` by name or by standard."""
    if not page.evaluate("'axe' in window"):
        page.evaluate(AXE.read_text())
    found = page.evaluate(
        "(rules) => axe.run(document, {runOnly: rules, resultTypes: ['violations']})", rules
    )["violations"]
    return [
        f"{rule['id']}: {node['html'][:120]}"
        for rule in found
        if rule["impact"] in ("serious", "critical")
        for node in rule["nodes"]
        if not (rule["id"] == "target-size" and any(each in node["html"] for each in EQUIVALENT))
    ]


@pytest.mark.parametrize("theme", ["light", pytest.param("dark", marks=pytest.mark.long)])
def test_no_view_has_a_serious_fault_for_anybody(demo_data: Path, open_page: Opener, theme: str) -> None:
    with Workspace(demo_data) as workspace:
        for sample in ("bajamar", "hikishio"):
            workspace.projects.delete(sample)
    faults: dict[str, list[str]] = {}

    def look(page: Page, name: str) -> None:
        at_rest(page)
        # by night nothing but the colours is another
        if found := wrong(page, STANDARDS if theme == "light" else ["color-contrast"]):
            faults[name] = found

    with served(demo_data) as address:
        page = open_page(f"{address}/")
        page.emulate_media(color_scheme="dark" if theme == "dark" else "light")
        for path in ("/", "/new", "/kept", "/batch", "/api", "/sign-in"):
            page.goto(address + path)
            look(page, path)
        page.goto(f"{address}/projects/marrow-bay")
        expect(page.locator("#page .shot").first).to_be_visible()
        assert page.evaluate("document.documentElement.dataset.theme") == (
            "night" if theme == "dark" else "day"
        )
        for key, (kind, desks) in DESKS.items():
            page.keyboard.press("Escape")
            page.keyboard.press(key)
            for desk in desks or ("",):
                if desk:
                    page.locator(f"[data-{kind}={desk}]").first.click()
                look(page, f"{key} {desk}")
        page.keyboard.press("f")
        expect(page.locator("#proposal")).to_be_visible()
        look(page, "proposal")
        page.keyboard.press("?")
        look(page, "keys")
        page.keyboard.press("Escape")
        page.locator("#revisions-open").click()
        expect(page.locator("#revision-list tr").first).to_be_visible()
        look(page, "revisions")
    assert faults == {}


def focused(page: Page) -> str:
    return str(
        page.evaluate(
            "(() => { const e = document.activeElement; return e.getAttribute('aria-label') || e.innerText "
            "|| e.id })()"
        )
    )


def test_a_line_is_changed_voiced_fitted_and_exported_by_keys_alone(
    demo_data: Path, open_page: Opener
) -> None:
    with served(demo_data) as address:
        page = open_page(f"{address}/")
        page.locator("body").press("Tab")
        for _ in range(20):
            if focused(page) == "Low tide at Marrow Bay":
                break
            page.keyboard.press("Tab")
        page.keyboard.press("Enter")
        expect(page.locator("#page .shot").first).to_be_visible()
        line = page.locator('.voice[data-line="l7"]')
        for _ in range(12):
            if "chosen" in (line.get_attribute("class") or ""):
                break
            page.keyboard.press("ArrowDown")
        page.keyboard.press("Enter")
        field = page.get_by_label("Words of the caption")
        expect(field).to_be_focused()
        page.keyboard.press("Control+A")
        page.keyboard.type("Something small is watching.")
        page.keyboard.press("Enter")
        expect(page.locator(".caption", has_text="Something small")).to_be_visible()
        page.keyboard.press("v")
        expect(page.locator("#voice-open")).to_have_text("All voiced", timeout=60_000)
        page.keyboard.press("f")
        expect(page.locator("#proposal")).to_be_visible()
        page.keyboard.press("a")
        expect(page.locator("#notice")).to_contain_text("Fit accepted", timeout=60_000)
        page.keyboard.press("7")
        for _ in range(120):
            if page.evaluate("document.activeElement.id") == "export":
                break
            page.keyboard.press("Tab")
        assert page.evaluate("document.activeElement.id") == "export"
        page.keyboard.press("Control+z")
        expect(page.locator("#notice")).to_contain_text("Undone: Fit accepted")


def test_the_focus_goes_through_the_page_as_it_is_read(page: Page) -> None:
    """Top bar, passes, surface, frame, desk, each border before what it bounds: never back, always seen."""
    order: list[str] = []
    where = """(() => { const e = document.activeElement, box = e.getBoundingClientRect();
        const parts = ['.topbar', '.passes', '.left', '.divider-right', '.stage', '.divider-frame', '#desk'];
        const part = parts.find((each) => e.closest(each)) ?? '';
        return [part, box.width > 0 && box.height > 0 && getComputedStyle(e).outlineStyle !== 'none'] })()"""
    for _ in range(150):
        page.keyboard.press("Tab")
        part, seen = page.evaluate(where)
        if not part:
            break
        assert seen, focused(page)
        if not order or order[-1] != part:
            order.append(part)
        if part == "#desk":
            break
    assert order == [".topbar", ".passes", ".left", ".divider-right", ".stage", ".divider-frame", "#desk"]


@pytest.fixture
def long_page(tmp_path: Path, open_page: Opener) -> Iterator[Page]:
    """A project of five hundred lines."""
    folder = tmp_path / "long"
    with Workspace(folder) as workspace:
        texts = [f"Wave {number} comes in, and one more goes out." for number in range(500)]
        workspace.projects.create(simple_project(texts), "Made", "long")
    with served(folder) as address:
        page = open_page(f"{address}/projects/long")
        expect(page.locator("#page .shot").first).to_be_visible()
        yield page


def test_only_what_is_seen_of_five_hundred_lines_is_drawn(long_page: Page) -> None:
    page = long_page
    assert page.evaluate("document.querySelectorAll('#page *').length") < 1500
    page.evaluate("document.querySelector('#scroller').scrollTop = 42_000")
    at_rest(page)
    assert page.evaluate("document.querySelectorAll('#page *').length") < 1500
    expect(page.locator(".voice").first).to_be_visible()
    assert int(page.locator(".shot-label b").first.inner_text()) > 200

"""A figure in the frame: put there, dragged, coloured; its mouth is that of the frame that is shown."""

import re
import time

from playwright.sync_api import Page, expect

from fox_cadence.core.figures.characters import drawn
from fox_cadence.core.figures.drawing import FigureDrawing, Pose


def put(page: Page, character: str) -> None:
    page.keyboard.press("5")
    page.locator("[data-letter-desk=figures]").click()
    page.locator(f"[data-add-figure={character}]").click()
    expect(page.locator("#figures [data-figure]")).to_be_attached()


def told(page: Page, frame: int) -> Pose:
    """What the core says the figure does in a frame."""
    project = page.url.rsplit("/", 1)[1].split("#")[0].split("?")[0]
    found = page.evaluate(
        """async ([project, first]) => (await fetch(`/api/projects/${project}/acting`, { method: "POST",
            headers: { "content-type": "application/json" },
            body: JSON.stringify({ first, end: first + 1 }) })).json()""",
        [project, frame],
    )
    return Pose(*found["figures"][0]["poses"])


def numbers(d: str) -> list[float]:
    return [float(each) for each in re.findall(r"-?\d+(?:\.\d+)?(?:e-?\d+)?", d)]


def shown(page: Page) -> tuple[int, list[str]]:
    """The frame whose figure is seen, and its outlines."""
    frame, outlines = page.evaluate(
        """() => { const at = document.querySelector("#figures [data-figure]");
            const paths = [...at.querySelectorAll("path")];
            return [Number(at.dataset.frame), paths.map((path) => path.getAttribute("d"))]; }"""
    )
    return frame, outlines


def same(drawing: FigureDrawing, pose: Pose, outlines: list[str]) -> bool:
    for part, outline in zip(drawing.parts, outlines, strict=True):
        meant = [value for _, values in part.posed(pose) for value in values]
        if max((abs(a - b) for a, b in zip(meant, numbers(outline), strict=True)), default=0) > 1e-6:
            return False
    return True


def test_a_figure_is_put_on_the_picture_placed_and_coloured(page: Page) -> None:
    put(page, "tobit")
    figure = page.locator("#figures [data-figure]")
    before = figure.bounding_box()
    assert before is not None
    x, y = before["x"] + before["width"] / 2, before["y"] + before["height"] / 4
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 40, y - 30, steps=4)
    page.mouse.move(x + 61, y - 43, steps=4)
    page.mouse.up()
    expect(page.locator("#figure-x")).not_to_have_value("24")
    after = figure.bounding_box()
    assert after is not None
    assert abs(after["x"] - before["x"] - 61) < 9  # it snaps
    assert abs(after["y"] - before["y"] + 43) < 9
    page.locator("#figure-size").fill("30")
    page.locator("#figure-size").press("Enter")
    page.wait_for_function(
        """high => Math.abs(document.querySelector("#figures [data-figure]").getBoundingClientRect().height
            - high) < 1""",
        arg=before["height"] * 0.6,
    )
    page.get_by_label("Colour: clothes").fill("#aa2255")
    expect(page.locator("#figures path[fill='#aa2255']").first).to_be_attached()
    page.locator("[data-facing=left]").click()
    expect(page.locator("[data-facing=left]")).to_have_attribute("aria-pressed", "true")
    page.locator(".portraits [data-character=bell]").click()
    expect(page.locator("[data-figure-id=g1]")).to_contain_text("Bell, narrator")
    page.keyboard.press("Control+z")
    expect(page.locator("[data-figure-id=g1]")).to_contain_text("Tobit, narrator")
    page.locator("#delete-figure").click()
    expect(figure).to_have_count(0)


def test_the_mouth_that_is_seen_is_that_of_the_frame_that_is_shown(page: Page) -> None:
    put(page, "rusk")
    drawing = drawn("rusk", "right", {})
    page.locator('.proof-card[data-caption="c1"] button').click()
    expect(page.locator("#figures [data-figure]")).to_be_attached()
    for _ in range(3):
        page.keyboard.press("ArrowRight")
        frame, outlines = shown(page)
        assert same(drawing, told(page, frame), outlines)
    page.locator("#play").click()
    seen: dict[int, list[str]] = {}
    until = time.monotonic() + 15
    while len(seen) < 12 and time.monotonic() < until:
        frame, outlines = shown(page)
        seen[frame] = outlines
        page.wait_for_timeout(90)
    page.locator("#play").click()
    assert len(seen) >= 6
    poses = {frame: told(page, frame) for frame in seen}
    assert all(same(drawing, poses[frame], outlines) for frame, outlines in seen.items())
    assert len({pose.jaw for pose in poses.values()}) > 2  # it did speak


def test_the_proof_sheet_shows_figures_in_their_frames(page: Page) -> None:
    put(page, "skerry")
    card = page.locator('.proof-card[data-caption="c1"] .proof-figures [data-figure]')
    expect(card).to_be_attached()
    page.locator("[data-shown=speaking]").click()
    expect(page.locator('.proof-card[data-words="n1"] .proof-figures')).to_be_attached()
    expect(card).to_be_attached()  # its words are spoken there

"""Takes docs/screenshots: one PNG of each main view at 1280x800, of the sample project, by the real
interface."""

import tempfile
from pathlib import Path

from playwright.sync_api import Page, ViewportSize, expect

from tests.browser.application import chromium, served

TARGET = Path(__file__).resolve().parent.parent / "docs" / "screenshots"
SIZE: ViewportSize = {"width": 1280, "height": 800}


def keep(page: Page, name: str) -> None:
    page.wait_for_timeout(700)
    page.mouse.move(5, 790)
    page.screenshot(path=TARGET / f"{name}.png")
    print(name)


def take_fit(page: Page) -> None:
    """A line that spills with what would cure it, a drag under way, a proposal against what is there now."""
    page.locator("#remedies tr").first.wait_for()
    page.locator("#remedies").scroll_into_view_if_needed()
    keep(page, "remedies")
    page.keyboard.press("f")
    page.locator("#proposal").wait_for()
    keep(page, "proposal")
    page.keyboard.press("d")
    page.get_by_role("button", name="House limits").click()
    page.locator("#house-longest_l_cut_s").fill("0.4")
    page.get_by_text("With this:").wait_for()
    keep(page, "house-limits")
    page.keyboard.press("Tab")
    page.get_by_role("button", name="Undo").click()
    page.locator("#notice").get_by_role("button").click()
    page.get_by_role("button", name="Line", exact=True).last.click()
    cut = page.locator('[data-cut="s4"]')
    cut.scroll_into_view_if_needed()
    box = cut.bounding_box()
    assert box is not None
    x, y = box["x"] + 40, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y - 24, steps=6)
    page.locator(".ghost-cut").first.wait_for()
    page.wait_for_timeout(700)
    page.screenshot(path=TARGET / "drag.png")
    page.keyboard.press("Escape")
    page.mouse.up()


def take_words_and_cast(page: Page) -> None:
    """A directed line, a script before it comes in, and a line in several styles."""
    page.keyboard.press("4")
    page.locator('.voice[data-line="l1"]').click()
    page.keyboard.press("n")
    page.locator('#direct-words [data-word="2"]').click()
    page.locator("#set-pause").click()
    page.locator(".dafter:visible").wait_for()
    page.locator('#direct-words [data-word="4"]').click()
    page.keyboard.press("e")
    page.locator(".dword.weight-moderate").wait_for()
    page.locator('#direct-words [data-word="6"]').click()
    page.locator("#said-as").fill("mar oh")
    page.locator("#set-said").click()
    page.locator(".srow .has-pronunciation").wait_for()
    page.locator("#desk").evaluate("desk => { desk.scrollTop = 0 }")
    field = page.locator('.srow[data-line="l4"] script-text[data-kind="shown"]')
    field.click()
    page.evaluate(
        "() => { const [node] = document.activeElement.place(0);"
        " document.getSelection().setBaseAndExtent(node, 2, node, 13); }"
    )
    page.locator("#strip:visible").wait_for()
    keep(page, "words")
    page.keyboard.press("Escape")
    page.locator("[data-words=script]").click()
    script = (
        "# Home\n\nTwice a day, the sea leaves Marrow Bay.\n\nLIMPET: I was here before the rock.\n\n"
        "What it forgets, it keeps in 40 small pools.\n\nGULL: ???\n"
    )
    page.locator("#pasted").fill(script)
    page.locator("select").filter(has_text="Markdown").select_option(".md")
    page.locator("#plan").wait_for()
    page.locator("#plan").scroll_into_view_if_needed()
    keep(page, "import")
    page.locator("#pasted").fill("")
    page.locator("[data-pass=cast]").click()
    for name in ("Holt", "Maren", "Cass"):
        page.get_by_label(f"List, put on the shortlist: {name}").click()
        page.wait_for_timeout(400)
    page.locator("#desk").evaluate("desk => { desk.scrollTop = 0 }")
    page.locator('#shortlist [data-voice="en-cass"] .signs').wait_for()
    expect(page.locator("#shortlist")).not_to_contain_text("≈", timeout=60_000)
    keep(page, "cast")
    for _ in range(6):
        page.get_by_role("button", name="Undo").click()
        page.wait_for_timeout(300)


def take_review(page: Page, root: str) -> None:
    """What somebody else sees of the finished video, with a note that was answered."""
    page.get_by_role("button", name="Make a review link").click()
    path = page.get_by_role("link", name="See it").get_attribute("href")
    assert path is not None
    project = page.url.rsplit("/", 1)[1].split("?")[0]
    said = {"at_s": 13.4, "author": "Rosa", "text": "Could the crab be seen a little longer here?"}
    headers = {"origin": root}
    page.request.post(f"{root}{path}/notes", data=said, headers=headers)
    reviews = f"{root}/api/projects/{project}/reviews"
    note = page.request.get(reviews).json()["notes"][0]["id"]
    answer = {"text": "Half a second more in the next cut."}
    page.request.put(f"{reviews}/notes/{note}/answer", data=answer, headers=headers)
    other = page.context.new_page()
    other.set_viewport_size(SIZE)
    other.goto(f"{root}{path}")
    other.locator(".review-answer").wait_for()
    other.locator("#said li > button").nth(3).click()
    other.locator("#said .heard").wait_for()
    other.wait_for_timeout(1500)
    keep(other, "review")
    other.close()


def take_batch(page: Page, root: str) -> None:
    """Captions of all projects made in a batch."""
    page.goto(f"{root}/batch")
    page.locator("#all-projects").click()
    for product in ("Captions", "Cue sheet"):
        page.get_by_label(product, exact=True).check()
    page.get_by_label("voice open lines first").uncheck()
    page.locator("#batch-prove").check()
    page.locator("#begin-batch").click()
    expect(page.locator("#batch-counts")).to_contain_text("made", timeout=120_000)
    expect(page.locator("#batch-table")).not_to_contain_text("waits", timeout=120_000)
    keep(page, "batch")


def take(page: Page, address: str) -> None:
    root = address.split("/projects")[0]
    page.goto(address)
    page.locator("#page .shot").first.wait_for()
    keep(page, "sheet")
    page.locator("#welcome").get_by_role("button", name="Close").click()
    take_fit(page)
    page.keyboard.press("1")
    page.locator("#picture-page [data-line='l4']").first.click()
    page.locator("#fill-open").click()
    page.locator("#fill-plan").click()
    page.locator("#fill-panel tbody tr").first.wait_for()
    keep(page, "picture")
    page.locator("#fill-panel").get_by_role("button", name="Close").click()
    take_words_and_cast(page)
    page.keyboard.press("5")
    page.locator("[data-letter-desk=figures]").click()
    page.locator("[data-add-figure=tobit]").click()
    page.locator("#figures [data-figure]").wait_for(state="attached")
    page.wait_for_timeout(2500)
    keep(page, "lettering")
    page.get_by_role("button", name="Undo").click()
    page.keyboard.press("6")
    page.locator("[data-sound-desk=beds]").click()
    page.locator("#mix-lufs", has_text="LUFS").wait_for()
    page.wait_for_timeout(1500)
    keep(page, "sound")
    page.keyboard.press("v")
    page.get_by_role("button", name="All voiced").wait_for()
    page.keyboard.press("7")
    page.locator("#prove-after").check()
    page.locator("#export").click()
    page.locator("#verdict").wait_for(timeout=180_000)
    page.locator("#notice").get_by_role("button").click()
    keep(page, "export")
    take_review(page, root)
    page.locator("#revisions-open").click()
    page.locator(".look-at:visible").nth(1).click()
    page.get_by_text("This is revision").wait_for()
    keep(page, "revisions")
    page.goto(f"{address}/versions")
    page.locator("#side-by-side tbody tr").first.wait_for()
    keep(page, "versions")
    page.goto(root)
    keep(page, "projects")
    take_batch(page, root)
    page.goto(f"{root}/new")
    keep(page, "new-project")


def main() -> None:
    TARGET.mkdir(parents=True, exist_ok=True)
    with (
        tempfile.TemporaryDirectory() as folder,
        served(Path(folder), "demo") as address,
        chromium() as browser,
    ):
        light = browser.new_context(viewport=SIZE, color_scheme="light")
        take(light.new_page(), address)
        night = browser.new_page(viewport=SIZE, color_scheme="dark")
        night.goto(address)
        night.locator("#page .shot").first.wait_for()
        night.locator("#welcome").get_by_role("button", name="Close").click()
        night.keyboard.press("2")
        keep(night, "night")


if __name__ == "__main__":
    main()

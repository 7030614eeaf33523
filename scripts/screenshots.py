"""Takes docs/screenshots: one PNG of each main view at 1280x800, of the sample project, by the real interface."""

import tempfile
from pathlib import Path

from playwright.sync_api import Page

from tests.browser.application import chromium, served

TARGET = Path(__file__).resolve().parent.parent / "docs" / "screenshots"
SIZE = {"width": 1280, "height": 800}


def keep(page: Page, name: str) -> None:
    page.wait_for_timeout(700)
    page.mouse.move(5, 790)
    page.screenshot(path=TARGET / f"{name}.png")
    print(name)


def take(page: Page, address: str) -> None:
    root = address.split("/projects")[0]
    page.goto(address)
    page.locator("#page .shot").first.wait_for()
    keep(page, "sheet")
    page.locator("#fit").click()
    page.locator("#proposal").wait_for()
    keep(page, "proposal")
    page.keyboard.press("d")
    for number, name in enumerate(("picture", "words", "cast"), 1):
        page.keyboard.press(str(number))
        keep(page, name)
    for number, name in ((5, "lettering"), (6, "sound")):
        page.keyboard.press(str(number))
        page.wait_for_timeout(2500)
        keep(page, name)
    page.keyboard.press("v")
    page.get_by_text("All voiced").wait_for()
    page.keyboard.press("7")
    page.get_by_label("Video: MP4").uncheck()
    page.locator("#export").click()
    page.locator("#files-made a").first.wait_for()
    keep(page, "export")
    page.goto(root)
    keep(page, "projects")
    page.goto(f"{root}/new")
    keep(page, "new-project")


def main() -> None:
    TARGET.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder, served(Path(folder), "demo") as address, chromium() as browser:
        take(browser.new_page(viewport=SIZE, color_scheme="light"), address)
        night = browser.new_page(viewport=SIZE, color_scheme="dark")
        night.goto(address)
        night.locator("#page .shot").first.wait_for()
        keep(night, "night")


if __name__ == "__main__":
    main()

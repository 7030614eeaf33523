"""Records line 2 of a served sample with a microphone that plays a file, in a browser of its own: `ADDRESS
FILE`.

A program, because a test can't start a second browser beside the one all tests share.
"""

import sys

from playwright.sync_api import expect

from tests.browser.application import chromium


def main(address: str, file: str) -> None:
    flags = (
        "--use-fake-ui-for-media-stream",
        "--use-fake-device-for-media-stream",
        f"--use-file-for-fake-audio-capture={file}",
    )
    with chromium(*flags) as browser:
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{address}/projects/marrow-bay")
        page.locator('.voice[data-line="l2"]').click()
        page.keyboard.press("3")
        page.locator("[data-cast=record]").click()
        page.locator("#record").click()
        expect(page.locator(".countin")).to_be_visible()
        stop = page.get_by_role("button", name="Stop", exact=True)
        expect(stop).to_be_visible()
        expect(page.get_by_text("good", exact=True)).to_be_visible(timeout=15_000)
        page.wait_for_timeout(5_000)
        stop.click()
        expect(page.locator("#attempts")).to_contain_text("Attempt 1")
        page.get_by_role("button", name="Use it").click()
        said = page.locator("#recorded").or_(page.locator("#notice.notice-error"))
        expect(said.first).to_be_visible(timeout=60_000)
        print(said.first.inner_text())


if __name__ == "__main__":
    main(*sys.argv[1:])

"""A finished video is shown to somebody in another browser, whose notes come back to the sheet."""

from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from tests.browser.test_for_everybody import STANDARDS, wrong


@pytest.mark.long
def test_notes_of_a_second_browser_come_to_the_sheet_and_are_answered_there(
    page: Page, open_page: Callable[[str], Page]
) -> None:
    page.keyboard.press("7")
    expect(page.locator("#review-links")).to_contain_text("Make a video first")
    page.locator("#all-rows").click()
    for row in ("video", "sound", "captions"):
        page.locator(f"#wants-{row}").uncheck()
    page.locator("#wants-look").check()
    page.locator("#export").click()
    expect(page.locator("#watch")).to_be_visible(timeout=300_000)
    page.locator("#review-password").fill("clam beds")
    page.get_by_role("button", name="Make a review link").click()
    link = page.locator("[data-review]")
    expect(link).to_contain_text("until revoked, with a password")
    path = link.get_by_role("link", name="See it").get_attribute("href")

    visitor = open_page(page.url.split("/projects")[0] + str(path))
    visitor.get_by_label("Password").fill("mussel beds")
    visitor.get_by_role("button", name="Open the review").click()
    expect(visitor.get_by_role("alert")).to_have_text("That is not the password.")
    visitor.get_by_label("Password").fill("clam beds")
    visitor.get_by_role("button", name="Open the review").click()
    expect(visitor.locator("#watch")).to_have_js_property("videoWidth", 270)
    crab = visitor.locator("#said li", has_text="A hermit crab")
    crab.get_by_title("Go there").click()
    expect(visitor.locator("#moment")).to_have_text(crab.get_by_title("Go there").inner_text())
    expect(crab).to_have_class("heard")
    visitor.locator("#note-text").fill("Wider, please.")
    visitor.get_by_role("button", name="Leave the note").click()  # without a name: the words stay
    expect(visitor.locator("#note-text")).to_have_value("Wider, please.")
    visitor.locator("#note-author").fill("Rosa")
    visitor.get_by_role("button", name="Leave the note").click()
    said = visitor.locator(".review-note")
    expect(said).to_contain_text("Rosa Wider, please.")
    assert wrong(visitor, STANDARDS) == []

    page.bring_to_front()
    expect(page.locator("#notice")).to_contain_text("Rosa has left a note")  # without being asked
    expect(page.locator('[data-pass="export"]')).to_contain_text("1 note")
    page.keyboard.press("4")
    mark = page.locator("#page .note-mark")
    mark.focus()
    page.keyboard.press("Enter")
    expect(page.locator(".note-open")).to_contain_text("Wider, please.")
    expect(page.locator("#time")).to_contain_text("Hermit")
    assert wrong(page, STANDARDS) == []
    page.locator("#note-answer").fill("It is wider now.")
    page.keyboard.press("Escape")
    expect(page.locator(".note-open")).to_have_count(0)
    mark.click()  # what was typed is still there
    expect(page.locator("#note-answer")).to_have_value("It is wider now.")
    page.get_by_role("button", name="Answer", exact=True).press("Enter")
    expect(page.locator("#notice")).to_contain_text("Answered")
    page.get_by_role("button", name="Done", exact=True).click()
    expect(page.locator('[data-pass="export"]')).not_to_contain_text("1 note")
    visitor.bring_to_front()
    expect(said).to_contain_text("It is wider now.")
    expect(said).to_contain_text("done")

    page.bring_to_front()
    page.keyboard.press("7")
    link.get_by_role("button", name="Revoke").click()
    expect(link).to_contain_text("revoked")
    expect(visitor.locator("#not-left")).to_contain_text("has been ended")
    visitor.reload()
    expect(visitor.locator("body")).to_contain_text("There is nothing to see here")

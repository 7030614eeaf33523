"""Nothing typed is lost: two windows, a server that is killed, revisions, and projects as wholes."""

import json
import os
import signal
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, expect

from fox_cadence.actions.workspace import Workspace
from tests.browser.application import WINDOWS, served

Opener = Callable[[str], Page]
MINE = "Twice a day, the sea forgets Marrow Bay."


def opened(open_page: Opener, address: str) -> Page:
    page = open_page(f"{address}/projects/marrow-bay")
    expect(page.locator("#page .shot").first).to_be_visible()
    return page


def change_caption(page: Page, number: int, text: str) -> None:
    page.locator(f'.caption[data-caption="c{number}"]').focus()
    page.keyboard.press("Enter")
    field = page.get_by_label("Words of the caption")
    field.fill(text)
    field.press("Enter")


def test_a_clash_shows_both_versions_and_keeps_what_was_typed(demo_data: Path, open_page: Opener) -> None:
    with served(demo_data) as address:
        one, two = (opened(open_page, address) for _ in range(2))
        change_caption(one, 1, "Twice a day, the sea visits Marrow Bay.")
        expect(one.locator('.caption[data-caption="c1"]')).to_contain_text("visits")
        change_caption(two, 1, MINE)
        held = two.locator("#held")
        expect(held).to_contain_text("Changed in another window")
        expect(held).to_contain_text("Words of caption 1")
        expect(held).to_contain_text(MINE)
        expect(held).to_contain_text("the sea visits")
        expect(two.locator('.caption[data-caption="c1"]')).to_contain_text("visits")
        two.locator("#make-held").click()
        expect(two.locator('.caption[data-caption="c1"]')).to_contain_text("forgets")
        expect(held).to_be_hidden()
        one.get_by_role("button", name="Undo", exact=True).click()
        expect(one.locator("#notice")).to_contain_text("another window")
        expect(one.locator('.caption[data-caption="c1"]')).to_contain_text("forgets")


def test_what_is_typed_while_the_server_is_dead_is_kept_until_it_is_back(
    demo_data: Path, open_page: Opener
) -> None:
    command = [sys.executable, "-m", "fox_cadence.cli", "serve", "--data", str(demo_data), "--json", "--port"]
    process = subprocess.Popen([*command, "0"], stdout=subprocess.PIPE)
    assert process.stdout is not None
    address = json.loads(process.stdout.readline())["address"].rstrip("/")
    page = opened(open_page, address)
    os.kill(process.pid, signal.SIGKILL)
    process.wait()
    process.stdout.close()
    change_caption(page, 1, MINE)
    expect(page.locator("#held")).to_contain_text("Not saved yet")
    expect(page.locator("#held")).to_contain_text(MINE)
    expect(page.locator("#notice")).to_contain_text("does not answer")
    again = subprocess.Popen([*command, address.rsplit(":", 1)[1]], stdout=subprocess.PIPE)
    try:
        assert again.stdout is not None
        again.stdout.readline()
        page.on("dialog", lambda dialog: dialog.accept())
        page.reload()
        expect(page.locator("#held")).to_contain_text(MINE)
        page.locator("#make-held").click()
        expect(page.locator('.caption[data-caption="c1"]')).to_contain_text("forgets")
        expect(page.locator("#held")).to_be_hidden()
    finally:
        page.context.close()
        WINDOWS.clear()
        again.terminate()
        again.wait(timeout=60)
        if again.stdout is not None:
            again.stdout.close()


def test_an_answer_that_breaks_off_is_not_taken_for_one(page: Page) -> None:
    """As when the server is killed while it answers: the status says OK, and the rest never comes."""
    page.route("**/why*", lambda route: route.fulfill(status=200, body='{"why": [{"text'))
    page.route("**/edits", lambda route: route.fulfill(status=200, body='{"version"'))
    with page.expect_response("**/why*"):
        page.locator('.voice[data-line="l2"]').first.click()
    change_caption(page, 1, MINE)
    expect(page.locator("#notice")).to_contain_text("broke off")
    expect(page.locator("#held")).to_contain_text(MINE)
    page.unroute("**/edits")
    page.locator("#make-held").click()
    expect(page.locator('.caption[data-caption="c1"]')).to_contain_text("forgets")


def test_a_revision_is_looked_at_and_gone_back_to(page: Page) -> None:
    change_caption(page, 1, MINE)
    expect(page.locator('.caption[data-caption="c1"]')).to_contain_text("forgets")
    page.locator("#revisions-open").click()
    rows = page.locator("#revision-list tr")
    expect(rows.first).to_contain_text("Words of caption 1")
    rows.nth(1).get_by_role("button").click()
    expect(page.get_by_text("This is revision")).to_be_visible()
    expect(page.locator('.caption[data-caption="c1"]')).to_contain_text("leaves")
    change_caption(page, 2, "What it forgets, it hides.")
    expect(page.locator("#notice")).to_contain_text("You are looking at revision")
    expect(page.locator("#held")).to_contain_text("it hides")
    page.locator("#drop-held").click()
    page.locator("#leave-revision").click()
    expect(page.locator('.caption[data-caption="c1"]')).to_contain_text("forgets")
    rows.nth(1).get_by_role("button").click()
    page.locator("#go-back").click()
    expect(page.locator('.caption[data-caption="c1"]')).to_contain_text("leaves")
    expect(rows.first).to_contain_text("Back to")
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(page.locator('.caption[data-caption="c1"]')).to_contain_text("forgets")
    page.locator('.voice[data-line="l2"]').first.click()
    page.keyboard.press("7")
    expect(page.locator("#revision-list")).to_have_count(0)
    expect(page.locator("#export")).to_be_visible()


def test_projects_are_copied_deleted_brought_back_and_carried_in_one_file(
    demo_data: Path, open_page: Opener
) -> None:
    with served(demo_data) as address:
        page = open_page(f"{address}/")
        page.get_by_role("button", name="Copy Low tide at Marrow Bay").click()
        copy = page.locator("#projects tr", has_text="(2)")
        expect(copy).to_be_visible()
        copy.get_by_role("button", name="Delete").click()
        gone = page.locator("#deleted tr", has_text="(2)")
        expect(gone).to_be_visible()
        gone.get_by_role("button", name="Restore").click()
        expect(copy).to_be_visible()
        with page.expect_download(timeout=60_000) as packed:
            page.get_by_role("button", name="Pack into one file: Bajamar").click()
        bundle = demo_data / "carried.cadence.zip"
        packed.value.save_as(bundle)
        page.locator("#bundle-file").set_input_files(bundle)
        page.wait_for_url("**/projects/*", timeout=60_000)
        expect(page.locator("#page .shot").first).to_be_visible()
        broken = demo_data / "broken.zip"
        broken.write_bytes(b"not a bundle")
        page.goto(f"{address}/")
        page.locator("#bundle-file").set_input_files(broken)
        expect(page.locator("#list-message")).to_contain_text("broken.zip")


def test_on_a_network_one_signs_in_first(demo_data: Path, open_page: Opener) -> None:
    with Workspace(demo_data) as workspace:
        workspace.access.set_password("low water at nine")
    with served(demo_data, "serve", "--host", "0.0.0.0") as address:
        page = open_page(f"{address.replace('0.0.0.0', '127.0.0.1')}/projects/marrow-bay")
        expect(page.get_by_role("heading", name="Sign in")).to_be_visible()
        page.get_by_label("Password").fill("a guess at it")
        page.get_by_label("Password").press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("That is not the password")
        page.get_by_label("Password").fill("low water at nine")
        page.get_by_label("Password").press("Enter")
        page.get_by_role("link", name="Low tide at Marrow Bay").click()
        expect(page.locator("#page .shot").first).to_be_visible()
        change_caption(page, 1, MINE)
        expect(page.locator('.caption[data-caption="c1"]')).to_contain_text("forgets")
        page.goto(page.url.rsplit("/projects", 1)[0])
        page.get_by_role("button", name="Sign out").click()
        expect(page.get_by_role("heading", name="Sign in")).to_be_visible()


def test_media_that_vanished_is_pointed_to_again(demo_data: Path, open_page: Opener) -> None:
    with Workspace(demo_data) as workspace:
        clip = next(iter(workspace.head("marrow-bay").project.clips.values()))
        moved = workspace.library.original(clip.hash).rename(demo_data / "moved.mp4")
    with served(demo_data) as address:
        page = opened(open_page, address)
        page.keyboard.press("1")
        expect(page.locator("#missing-media")).to_contain_text(clip.name)
        page.locator(".missing-file").set_input_files(moved)
        expect(page.locator("#notice")).to_contain_text("is back")
        expect(page.locator("#missing-media")).to_have_count(0)

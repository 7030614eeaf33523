"""A project of one's own: files made here, chosen in the page, voiced, fitted and exported."""

from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.browser.application import served
from tests.media.files import still, tone, video

SRT = """1
00:00:00,400 --> 00:00:02,600
The ferry leaves before the fog does.

2
00:00:03,200 --> 00:00:05,000
Nobody waves.

broken
00:00:05,000 -> 00:00:06,000
Lost?
"""


def test_files_become_a_project_that_is_spoken_and_exported(
    tmp_path: Path, open_page: Callable[[str], Page]
) -> None:
    files = [
        video(tmp_path / "quay.mp4", 3.0, Fraction(25), (320, 240), seed=1, tone_hz=330),
        still(tmp_path / "fog.png"),
        tone(tmp_path / "hum.wav"),
    ]
    words = tmp_path / "ferry.srt"
    words.write_text(SRT)
    broken = tmp_path / "not-a-video.mp4"
    broken.write_text("this is text")
    with served(tmp_path / "data") as address:
        page = open_page(f"{address}/")
        page.get_by_role("link", name="New project").first.click()
        page.get_by_label("Name", exact=True).fill("The ferry <b>& fog</b>")
        page.locator("select[name=size]").select_option("1080x1080")
        page.locator("select[name=fps]").select_option("25")
        page.locator("#files").set_input_files([*files, words, broken])
        expect(
            page.get_by_text("This makes 3 shots, captions from the file of words, one bed.")
        ).to_be_visible()
        page.get_by_role("button", name="Make the project").click()
        expect(page.get_by_role("heading", name="with remarks")).to_be_visible(timeout=30_000)
        expect(
            page.get_by_role("listitem").filter(has_text="not-a-video.mp4: this is not a video")
        ).to_be_visible()
        expect(
            page.get_by_role("listitem").filter(has_text="ferry.srt, line 9: no time line")
        ).to_be_visible()
        expect(page.get_by_role("link", name="Open it")).to_be_focused()
        page.keyboard.press("Enter")

        expect(page.locator("#page .shot")).to_have_count(2)
        expect(page.locator("header b").first).to_have_text("The ferry <b>& fog</b>")
        expect(page.locator(".voice.state-unvoiced")).to_have_count(2)
        page.keyboard.press("v")
        expect(page.locator("#notice")).to_contain_text("2 made, 0 kept, 0 failed")
        page.keyboard.press("f")
        expect(page.locator("#proposal")).to_be_visible()
        page.keyboard.press("a")
        expect(page.locator("#notice")).to_contain_text("Fit accepted")
        page.keyboard.press("7")
        page.locator("#wants-video").uncheck()
        page.locator("#export").click()
        expect(page.locator("#files-made a")).to_have_count(4)
        page.close()


def test_what_cannot_be_made_is_said_where_it_was_asked(
    tmp_path: Path, open_page: Callable[[str], Page]
) -> None:
    empty = tmp_path / "empty.mp4"
    empty.touch()
    with served(tmp_path / "data") as address:
        page = open_page(f"{address}/new")
        page.get_by_label("Name", exact=True).fill("Nothing")
        page.locator("#files").set_input_files([empty])
        page.get_by_role("button", name="Make the project").click()
        expect(page.get_by_role("alert")).to_contain_text("empty.mp4: the file is empty", timeout=15_000)
        expect(page.get_by_label("Name", exact=True)).to_have_value("Nothing")
        page.goto(f"{address}/projects/none")
        expect(page.get_by_text("There is no project none")).to_be_visible()
        page.close()

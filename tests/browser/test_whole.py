"""The piece as a whole: what it is can be changed, pictures and music come in at any time, words alone make
one."""

import re
from collections.abc import Callable
from pathlib import Path

import av
import numpy as np
import pyloudnorm
import pytest
from playwright.sync_api import Page, expect

from fox_cadence.media.ingest import read_sound
from tests.browser.application import at_rest, served
from tests.media import files


def test_what_the_piece_is_can_be_changed_each_as_one_step(page: Page) -> None:
    page.locator("#piece-open").click()
    page.locator("#piece-name").fill("Foam")
    page.locator("#piece-name").press("Tab")
    expect(page.locator(".topbar b").first).to_have_text("Foam")
    page.locator("#piece-shape").select_option("1080x1350")
    expect(page.locator("#notice")).to_contain_text("Frame 1080 × 1350")
    page.locator("#piece-width").fill("1001")
    page.locator("#piece-width").press("Tab")
    expect(page.locator("#notice")).to_contain_text("Frame 1000 × 1350, made even")
    page.locator("#piece-rate").select_option("25")
    expect(page.locator("#notice")).to_contain_text(
        re.compile(r"25 frames a second, cuts and captions moved by at most \d+ ms")
    )
    page.locator("#piece-language").select_option("es")
    expect(page.locator("#notice")).to_contain_text("Language Spanish")
    page.locator("#piece-longest").fill("60")
    page.locator("#piece-longest").press("Tab")
    expect(page.locator(".topbar")).to_contain_text("of 1:00.00 allowed")
    page.locator("#piece-past-end").select_option("repeat")
    expect(page.locator("#notice")).to_contain_text("after the end of its clip")
    page.locator("#piece-commercial").check()
    for _ in range(8):
        page.get_by_role("button", name="Undo", exact=True).click()
    expect(page.locator(".topbar b").first).to_have_text("Low tide at Marrow Bay")
    expect(page.locator("#piece-rate")).to_have_value("30")
    expect(page.locator("#piece-width")).to_have_value("1080")
    page.locator("#piece-width").fill("9")
    page.locator("#piece-width").press("Tab")
    expect(page.locator("#notice")).to_contain_text("width: it must be at least 64")


def test_pictures_a_colour_and_a_bed_come_in_and_go(page: Page, tmp_path: Path) -> None:
    page.locator("[data-pass=picture]").click()
    expect(page.locator("[data-pass=picture]")).to_contain_text("9 shots")
    files.still(tmp_path / "rock.png")
    expect(page.locator("#add-plain")).to_be_in_viewport()
    page.locator(".shot").last.click()
    page.locator("#add-pictures").set_input_files([tmp_path / "rock.png"])
    expect(page.locator("#notice")).to_contain_text("Added 1 shot")
    expect(page.locator("[data-pass=picture]")).to_contain_text("10 shots")
    page.locator("#add-plain").click()
    expect(page.locator("#notice")).to_contain_text("Shot 10 added, Plain colour")
    (tmp_path / "bad.mp4").write_text("no film")
    page.locator("#add-pictures").set_input_files([tmp_path / "bad.mp4"])
    expect(page.locator("#notice")).to_contain_text("none of the files could be used: bad.mp4")

    page.locator("[data-pass=sound]").click()
    page.locator("[data-sound-desk=beds]").click()
    page.locator("#remove-bed").click()
    expect(page.locator("[data-pass=sound]")).to_contain_text("no bed")
    page.locator("#add-bed").set_input_files([files.with_cover(tmp_path / "waves.mp3")])
    expect(page.locator("#bed-name")).to_have_text("waves.mp3")
    expect(page.locator("[data-pass=sound]")).to_contain_text("bed ducks")


def test_after_a_tick_the_keys_go_on_working(page: Page) -> None:
    page.locator("[data-pass=export]").click()
    page.locator("#wants-sound").uncheck()
    page.keyboard.press("2")
    expect(page.locator("[data-pass=words]")).to_have_attribute("aria-current", "true")
    page.locator("[data-pass=export]").click()
    page.locator("#wants-sound").focus()
    page.keyboard.press("Space")  # the box takes this one
    expect(page.locator("#wants-sound")).to_be_checked()
    expect(page.locator("#play")).to_have_text("Play")


def test_voices_are_found_by_whole_words_and_a_language_that_is_typed_is_looked_for(page: Page) -> None:
    page.locator("[data-pass=cast]").click()
    search = page.get_by_label("Search the voices")
    search.fill("man")
    shown = page.locator(".voices li").all_inner_texts()
    assert shown
    assert all("woman" not in text.split(";")[0] for text in shown)
    search.fill("spanish")  # while the filter stands on English
    expect(page.locator('.voices li[data-voice="ines"]')).to_be_visible()


def test_captions_that_overlap_are_all_shown_as_they_are_exported(page: Page) -> None:
    page.locator("[data-pass=words]").click()
    project = page.url.rsplit("/", 1)[1]
    answer = page.request.get(f"{page.url.split('/projects')[0]}/api/projects/{project}/timeline").json()
    one, other = answer["captions"][:2]
    assert (one["shot"], other["shot"]) == tuple(shot["id"] for shot in answer["shots"][:2])
    second = answer["shots"][0]["length"] - answer["shots"][0]["transition"] + other["in_frame"]
    times = {
        "kind": "caption_times",
        "caption_id": one["id"],
        "in_frame": one["in_frame"],
        "out_frame": second + 30,
    }
    body = {"based_on": answer["revision"], "edits": [times]}
    page.request.post(f"{page.url.split('/projects')[0]}/api/projects/{project}/edits", data=body)
    page.reload()
    expect(page.locator("#page .shot").first).to_be_visible()
    page.locator(f'.caption[data-caption="{other["id"]}"]').click()
    expect(page.locator("#overlay")).to_have_attribute(
        "aria-label", f"On the screen: {one['text']}; {other['text']}"
    )
    expect(page.locator("#overlay > g")).to_have_count(2)


def test_captions_past_the_end_and_signs_that_cannot_be_drawn_are_said(page: Page) -> None:
    page.locator("[data-pass=words]").click()
    page.locator('script-text[data-kind="shown"]').first.fill("The tide 𐍐 goes out.")
    page.keyboard.press("Escape")
    expect(page.locator("[data-pass=lettering]")).to_contain_text("to look at")
    page.locator("[data-pass=lettering]").click()
    expect(page.locator("#undrawn")).to_contain_text("𐍐")
    expect(page.locator(".proof-card.broken").first).to_contain_text("can't draw 𐍐")
    page.locator("[data-pass=picture]").click()
    page.locator(".shot").last.click()
    page.locator("#shot-length").fill("30")
    page.locator("#shot-length").press("Tab")
    expect(page.locator("[data-pass=fit]")).to_contain_text("past the end")
    page.locator("#fit").click()
    expect(page.locator("#accept")).to_be_enabled()  # the last shot is held for its words
    page.locator("#accept").click()
    expect(page.locator("[data-pass=fit]")).not_to_contain_text("past the end")


def test_what_is_typed_into_a_field_stays_while_lengths_become_known(page: Page) -> None:
    page.locator("[data-pass=words]").click()
    words = page.locator('script-text[data-kind="shown"]').first
    words.fill("The tide goes out again, and again, and nobody minds it any more.")
    page.keyboard.press("Escape")
    page.locator("[data-pass=picture]").click()
    page.locator(".shot").last.click()
    with page.expect_response(lambda answer: answer.url.endswith("/timeline")):  # the new words' length
        page.locator("#shot-length").fill("47")
    at_rest(page)
    expect(page.locator("#shot-length")).to_have_value("47")
    page.locator("#shot-length").press("Tab")
    expect(page.locator("[data-pass=picture]")).not_to_contain_text("38.9 s")


@pytest.mark.long
def test_words_alone_become_a_video_as_loud_as_it_should_be(
    tmp_path: Path, open_page: Callable[[str], Page]
) -> None:
    with served(tmp_path / "data") as address:
        page = open_page(f"{address}/new")
        page.locator("input[name=name]").fill("The lamp")
        page.locator("textarea[name=pasted]").fill(
            "The lamp goes out.\nKEEPER: It was never lit.\nNobody minds.\n"
        )
        expect(page.locator("#words-length")).to_contain_text("3 lines, about")
        expect(page.locator("#words-length")).to_contain_text("the words get plain colours")
        page.locator("select[name=size]").select_option("1080x1080")
        page.get_by_role("button", name="Make the project").click()
        expect(page.locator("#page .shot").first).to_be_visible()
        page.locator("#voice-open").click()
        expect(page.locator("#notice")).to_contain_text("3 made")
        page.locator("#fit").click()
        page.locator("#accept").click()
        expect(page.locator("#notice")).to_contain_text("Fit accepted")
        page.locator("[data-pass=export]").click()
        page.locator("#export").click()
        expect(page.locator("#files-made")).to_contain_text("the-lamp.mp4", timeout=60_000)
        expect(page.locator("#files-made .loudness").first).to_be_attached()
        with page.expect_download() as download:
            page.locator("#files-made").get_by_role("link", name="the-lamp.mp4").click()
        video = tmp_path / "the-lamp.mp4"
        download.value.save_as(video)
        said = page.locator("#files-made tr", has_text="the-lamp.mp4").locator(".loudness").inner_text()
    sound = read_sound(video)
    assert sound is not None
    heard = pyloudnorm.Meter(48_000).integrated_loudness(sound.astype(np.float64))
    assert abs(heard + 14) < 0.4
    assert abs(float(said.split(" LUFS")[0].replace("−", "-")) - heard) < 0.2
    with av.open(str(video)) as opened:
        assert (opened.streams.video[0].width, opened.streams.video[0].height) == (1080, 1080)

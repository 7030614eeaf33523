"""What a new user does with the sample project, from the sheet to the files, through the real interface."""

import io
import re
import wave
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, expect

from fox_cadence.actions.measuring import measure_video
from fox_cadence.actions.workspace import Workspace
from tests.browser.application import served

Opener = Callable[[str], Page]


def notice(page: Page) -> str:
    expect(page.locator("#notice")).to_be_visible()
    return page.locator("#notice").inner_text()


def choose_line(page: Page, number: int) -> None:
    page.locator(f'.voice[data-line="l{number}"]').first.click()


def test_the_sheet_shows_every_line_in_its_state(page: Page) -> None:
    for state, count in (("spills", 1), ("unvoiced", 1), ("floats", 1)):
        assert page.locator(f".voice.state-{state}").count() <= count
        button = page.get_by_role("button", name=re.compile(rf"^{count} {state}"))
        button.click()
        expect(page.locator(f".voice.chosen.state-{state}")).to_be_visible()
    assert page.locator(".cut").count() >= 4
    page.locator(".voice.state-unvoiced").hover()
    label = page.locator(".voice-label", has_text="unvoiced")
    expect(label).to_contain_text(re.compile(r"\d\.\d\d s of 2\.55 s"))


def test_the_caption_of_the_line_that_opens_is_drawn_and_follows_the_choice(page: Page) -> None:
    drawn = page.locator("#overlay path")
    expect(drawn.first).to_be_attached()
    expect(page.locator("#overlay")).to_have_attribute("aria-label", re.compile("Turn a starfish over"))
    page.locator('.voice[data-line="l9"]').click()
    expect(page.locator("#overlay")).to_have_attribute("aria-label", re.compile("Then the sea"))
    expect(drawn.first).to_be_attached()


def test_voice_fit_accept_undo_and_play(page: Page) -> None:
    page.locator("#voice-open").click()
    assert "1 made, 9 kept, 0 failed" in notice(page)
    expect(page.locator("#voice-open")).to_have_text("All voiced")

    page.locator("#fit").click()
    expect(page.locator("#proposal")).to_be_visible()
    assert page.locator(".ghost-voice").count() > 3
    lengths = page.locator(".shot-label .mono")
    before = lengths.all_inner_texts()
    page.locator("#accept").click()
    expect(page.locator("#notice")).to_contain_text("Fit accepted")
    miss = re.search(r"off by ([\d.]+) ms", notice(page))
    assert miss is not None
    assert float(miss.group(1)) <= 5
    assert lengths.all_inner_texts() != before
    page.get_by_role("button", name="Undo").click()
    expect(lengths).to_have_text(before)
    assert "Undone: Fit accepted" in notice(page)

    page.locator("#play").click()
    expect(page.locator("#play")).to_have_text("Stop")
    page.wait_for_function(
        "() => parseFloat(document.querySelector('#time span').innerText.split(':')[2]) > 5"
    )
    page.keyboard.press("k")
    expect(page.locator("#play")).to_have_text("Play")


def test_changed_words_go_stale_and_are_brought_up_to_date_in_one_action(page: Page) -> None:
    page.locator('.caption[data-caption="c1"]').dblclick()
    field = page.locator(".caption textarea")
    field.fill("Twice a day, the sea goes out of Marrow Bay.")
    field.press("Enter")
    expect(page.locator(".voice.state-stale")).to_have_count(1)
    expect(page.locator("#voice-open")).to_have_text("Voice 2 open lines")

    with page.expect_response(re.compile("/lines/l1/sound.wav")) as heard:
        page.keyboard.press("h")
    assert heard.value.ok
    page.locator("#voice-open").click()
    assert "0 failed" in notice(page)
    expect(page.locator(".voice.state-stale")).to_have_count(0)


def test_words_are_replaced_everywhere_after_every_place_was_seen(page: Page) -> None:
    page.keyboard.press("2")
    expect(page.locator("#amount")).to_contain_text("of the piece left")
    page.locator("[data-words=find]").click()
    page.locator("#find").fill("the sea")
    expect(page.locator("#found")).to_have_text("Found in 2 places.")
    expect(page.locator("mark")).to_have_count(2)
    page.get_by_role("button", name="Caption 8").click()
    expect(page.locator('.srow[data-line="l9"]')).to_have_class(re.compile("chosen"))
    page.locator("#replace-by").fill("the tide")
    page.locator("#replace").click()
    expect(page.locator(".slength.state-stale")).to_have_count(2)
    expect(page.locator("#found")).to_have_text("Found nowhere.")
    page.get_by_role("button", name="Undo").click()
    expect(page.locator(".slength.state-stale")).to_have_count(0)


def test_shots_and_captions_change_by_typing_and_by_dragging(page: Page) -> None:
    page.keyboard.press("1")
    page.locator('#picture-page [data-shot="s2"] .shot-label').click()
    page.locator("#shot-length").fill("130")
    page.locator("#shot-length").press("Enter")
    expect(page.locator('#picture-page [data-shot="s2"] .shot-label .mono')).to_have_text("4.33 s")

    handle = page.locator('#picture-page [data-cut="s2"]')
    box = handle.bounding_box()
    assert box is not None
    x, y = box["x"] + 40, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y - 28, steps=4)
    expect(page.locator(".drag-chip:visible")).to_contain_text("shot 2:")
    page.mouse.up()
    expect(page.locator('#picture-page [data-shot="s2"] .shot-label .mono')).not_to_have_text("4.33 s")
    page.keyboard.press("Control+z")
    expect(page.locator('#picture-page [data-shot="s2"] .shot-label .mono')).to_have_text("4.33 s")

    page.keyboard.press("4")
    choose_line(page, 2)
    page.keyboard.press("2")
    page.locator("[data-words=line]").click()
    page.locator(".frame-out").fill("230")
    page.locator(".frame-out").press("Enter")
    expect(page.locator(".frame-out")).to_have_value("230")
    page.locator(".lock-caption").click()
    expect(page.locator(".lock-caption")).to_have_text("Unlock")
    page.keyboard.press("4")
    expect(page.locator('.caption[data-caption="c2"]')).to_have_attribute("aria-label", re.compile("to 230"))
    expect(page.locator('.caption[data-caption="c2"] .lock')).to_be_visible()


def test_a_refused_change_says_why_and_changes_nothing(page: Page) -> None:
    page.keyboard.press("1")
    page.locator('#picture-page [data-shot="s2"] .shot-label').click()
    page.locator("#shot-length").fill("9000")
    page.locator("#shot-length").press("Enter")
    assert "frames" in notice(page)
    expect(page.locator('#picture-page [data-shot="s2"] .shot-label .mono')).to_have_text("4.00 s")


def test_another_voice_for_a_role_makes_its_lines_stale(page: Page) -> None:
    page.keyboard.press("3")
    page.locator("[data-cast=roles]").click()
    page.get_by_label("Voice of limpet").select_option("corin")
    expect(page.locator("#who-says .state-ink-stale")).to_have_count(1)


def test_two_windows_on_one_project_tell_of_a_clash(demo_data: Path, open_page: Opener) -> None:
    with served(demo_data) as address:
        one, two = (open_page(f"{address}/projects/marrow-bay") for _ in range(2))
        for window in (one, two):
            expect(window.locator("#page .shot").first).to_be_visible()
        for window in (one, two):
            choose_line(window, 1)
            window.keyboard.press("2")
            window.locator("[data-words=line]").click()
        one.locator(".lock-caption").click()
        expect(one.locator(".lock-caption")).to_have_text("Unlock")
        two.locator(".frame-out").fill("90")
        two.locator(".frame-out").press("Enter")
        assert "another window" in notice(two)
        expect(two.locator(".lock-caption")).to_have_text("Unlock")


def test_export_makes_files_that_are_in_sync(demo_data: Path, open_page: Opener) -> None:
    with Workspace(demo_data) as workspace:  # a small frame: the same code, in a fifth of the time
        head = workspace.head("marrow-bay")
        small = head.project.changed(width=432, height=768)
        workspace.projects.commit("marrow-bay", head.revision, small, "Small frame")
    with served(demo_data) as address:
        page = open_page(f"{address}/projects/marrow-bay")
        page.locator("#voice-open").click()
        expect(page.locator("#voice-open")).to_have_text("All voiced")
        page.keyboard.press("7")
        page.locator("#export").click()
        expect(page.locator("#files-made a")).to_have_count(5, timeout=120_000)
        files: dict[str, bytes] = {}
        for link in page.locator("#files-made a").all():
            with page.expect_download() as download:
                link.click()
            files[link.inner_text()] = Path(download.value.path()).read_bytes()
        video = demo_data / "seen.mp4"
        video.write_bytes(files["low-tide-at-marrow-bay.mp4"])
    assert files["low-tide-at-marrow-bay.vtt"].startswith(b"WEBVTT")
    assert b"Twice a day, the sea" in files["low-tide-at-marrow-bay.srt"]
    with Workspace(demo_data) as workspace:
        report = measure_video(workspace, video, "marrow-bay")
    assert report.in_sync, report.as_text()
    for name in ("mix", "narration"):
        with wave.open(io.BytesIO(files[f"low-tide-at-marrow-bay-{name}.wav"])) as sound:
            assert sound.getframerate() == 48000
            assert sound.getnframes() == report.frames * 1600

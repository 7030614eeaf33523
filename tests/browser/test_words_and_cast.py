"""Chains through the passes Words and Cast, as a user goes through them."""

import re
import subprocess
import sys
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from fox_cadence.core.takes import VoicingRequest
from fox_cadence.media.audio import wav_bytes
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.takes import make_take
from tests.browser.application import served


def line(page: Page, line_id: str) -> None:
    page.locator(f'.voice[data-line="{line_id}"]').click()


def timeline(page: Page) -> dict[str, Any]:
    return dict(page.request.get(page.url.replace("/projects/", "/api/projects/") + "/timeline").json())


def test_a_line_is_directed_by_keyboard_and_heard(page: Page) -> None:
    page.keyboard.press("ArrowDown")
    line(page, "l1")
    page.keyboard.press("n")
    first = page.locator('#direct-words [data-word="0"]')
    first.focus()
    for word in (1, 2):
        page.keyboard.press("ArrowRight")
        expect(page.locator(f'#direct-words [data-word="{word}"]')).to_be_focused()
    page.locator("#direct-pause").fill("0.45")
    page.locator("#set-pause").click()
    expect(page.locator(".dafter").filter(has_text="0.45 s")).to_be_visible()
    page.locator('#direct-words [data-word="2"]').focus()
    for _ in range(3):
        page.keyboard.press("ArrowRight")
    page.keyboard.press("Shift+ArrowRight")
    page.keyboard.press("e")
    expect(page.locator("#marks")).to_contain_text("“leaves Marrow” with moderate emphasis")
    expect(page.locator('.srow[data-line="l1"] .slength')).to_contain_text("stale")
    with page.expect_response(re.compile(r"/lines/l1/sound\.wav")) as heard:
        page.keyboard.press("h")
    assert heard.value.ok
    page.keyboard.press("v")
    expect(page.locator("#voice-open")).to_have_text("All voiced")
    take = timeline(page)["lines"][0]
    rest = next(rest for rest in take["rests"] if rest["written"])
    assert abs(rest["end_s"] - rest["start_s"] - 0.45) < 0.005


def test_a_pronunciation_is_heard_then_set_for_every_line(page: Page) -> None:
    line(page, "l1")
    page.keyboard.press("n")
    page.locator('#direct-words [data-word="6"]').click()
    page.locator("#said-as").fill("mar oh")
    with page.expect_response(re.compile(r"/words\.wav\?.*spelled=mar")) as heard:
        page.locator("#hear-said").click()
    assert heard.value.ok
    page.locator("#set-lexicon").click()
    expect(page.locator('#direct-words [data-word="6"]')).to_contain_text("mar oh")
    page.locator("[data-words=lexicon]").click()
    expect(page.locator("#lexicon")).to_contain_text("1 place in 1 line")
    page.locator("#entry-written").fill("sea")
    page.locator("#entry-said").fill("123abc")
    page.locator("#entry-kind").select_option("ipa")
    page.locator("#add-entry").click()
    expect(page.locator("#notice")).to_contain_text("is no sign of the International Phonetic Alphabet")
    expect(page.locator("#entry-said")).to_have_value("123abc")


def test_punctuation_is_proved_before_it_is_said(page: Page) -> None:
    line(page, "l2")
    page.keyboard.press("n")
    page.locator("[data-words=punctuate]").click()
    page.locator("#punctuate").click()
    expect(page.locator("#proof")).to_contain_text("All 7 words are there")
    page.locator("#punctuated").fill("What it forgets it keeps!")
    expect(page.locator("#proof")).to_contain_text("lost: in, pools.")
    expect(page.locator("#use-punctuated")).to_be_disabled()
    page.locator("#punctuated").fill("What it forgets; it keeps, in pools.")
    expect(page.locator("#proof")).to_contain_text("none added")
    page.locator("#use-punctuated").click()
    expect(page.locator('.srow[data-line="l2"] .slength')).to_contain_text("stale")
    assert timeline(page)["lines"][1]["said"] == "What it forgets; it keeps, in pools."


def test_ways_are_compared_one_is_kept_and_an_old_take_is_brought_back(page: Page) -> None:
    line(page, "l2")
    page.keyboard.press("3")
    page.locator("[data-cast=line]").click()
    page.locator("#compare-styles").click()
    expect(page.locator("#ways tr")).to_have_count(6, timeout=60_000)
    page.locator("#play-ways").click()
    expect(page.locator("#play-ways")).to_have_text("Stop")
    page.locator("#ways").get_by_role("button", name="Grave", exact=True).click()
    expect(page.locator("#ways").get_by_role("button", name="Grave", exact=True)).to_have_attribute(
        "aria-pressed", "true"
    )
    page.get_by_role("button", name="Keep Grave").click()
    expect(page.locator('[data-style="grave"]')).to_have_attribute("aria-pressed", "true")
    expect(page.locator("#unable")).to_contain_text(
        "Grave asks for a narrower pitch range; this voice can’t change its own"
    )
    page.locator("[data-cast=takes]").click()
    takes = page.locator("#takes > li")
    expect(takes).to_have_count(6)
    first = takes.filter(has=page.get_by_role("button", name="Choose")).last
    first.get_by_role("button", name="Choose").click()
    expect(page.locator('#who-says [data-line="l2"]')).not_to_contain_text("stale")
    page.locator("[data-cast=line]").click()
    expect(page.locator("#as-role")).to_be_hidden()


def test_a_delivery_is_kept_and_used_for_everything(page: Page) -> None:
    line(page, "l2")
    page.keyboard.press("3")
    page.locator("[data-cast=line]").click()
    page.locator('[data-style="hushed"]').click()
    page.locator("#delivery-name").fill("night voice")
    page.locator("#save-delivery").click()
    page.locator("#delivery-where").select_option("all")
    page.get_by_label("Use night voice").click()
    expect(page.locator("#voice-open")).to_have_text(re.compile(r"Voice 10 open lines"))
    assert {role["style"] for role in timeline(page)["roles"]} == {"hushed"}


def test_words_that_change_are_brought_up_to_date_and_kept_in_step(page: Page) -> None:
    page.keyboard.press("3")
    page.locator("[data-cast=coverage]").click()
    expect(page.locator("#coverage tr").first).to_contain_text("1 unvoiced")
    page.get_by_label("Voice missing lines in The whole piece").click()
    expect(page.locator("#coverage tr").first).to_contain_text("all voiced")
    page.locator("#in-step").check()
    page.keyboard.press("2")
    page.locator('.srow[data-line="l9"] script-text[data-kind="shown"]').fill(
        "Then the sea wants its things."
    )
    page.keyboard.press("Escape")
    length = page.locator('.srow[data-line="l9"] .slength')
    expect(length).to_contain_text("stale")
    expect(page.locator("#voice-open")).to_have_text("All voiced", timeout=20_000)
    expect(length).not_to_contain_text("stale")
    asked: list[str] = []
    page.on("request", lambda request: asked.append(request.url))
    page.clock.install()
    page.get_by_role("button", name="Undo").click()
    expect(length).to_contain_text("stale")
    page.clock.run_for(10_000)
    expect(length).to_contain_text("stale")
    assert not [url for url in asked if url.endswith("/voice")], "what was undone is not voiced by itself"


def test_a_script_is_looked_over_brought_in_and_voiced(page: Page) -> None:
    page.keyboard.press("2")
    page.locator("[data-words=script]").click()
    page.locator("#pasted").fill(
        "NARRATOR: Twice a day, the sea leaves Marrow Bay.\nCRAB: I like it here.\n???"
    )
    expect(page.locator("#plan")).to_contain_text("1 as they are, 1 new, 9 removed")
    expect(page.locator("#plan")).to_contain_text("New in the cast: crab")
    expect(page.locator("#plan")).to_contain_text("line 3: '???' has nothing to say")
    page.locator("#bring-words").click()
    expect(page.locator("#notice")).to_contain_text("Brought in: 2 lines")
    expect(page.locator('.srow[data-line="l1"] .slength')).not_to_contain_text(re.compile("stale|unvoiced"))
    page.keyboard.press("Escape")
    page.locator("#voice-open").click()
    expect(page.locator("#voice-open")).to_have_text("All voiced")
    page.get_by_role("button", name="Undo").click()
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("#script .srow[data-line]")).to_have_count(10)


def spoken(folder: Path) -> Path:
    """Line 2 as if a person had said it into a microphone."""
    voice = voice_by_id("wren")
    assert voice is not None
    engines = Engines()
    request = VoicingRequest(
        text="What it forgets, it keeps in pools.", voice_id="wren", pace=1, pitch_semitones=0
    )
    _, sound = make_take(engines.of(voice), voice, request)
    engines.close()
    quiet = np.random.default_rng(1).normal(0, 0.0008, len(sound) + 60_000).astype(np.float32)
    path = folder / "line two.wav"
    path.write_bytes(wav_bytes(np.pad(sound, 30_000) + quiet))
    return path


def test_a_recorded_take_comes_in_and_its_sound_goes_out(page: Page, tmp_path: Path) -> None:
    line(page, "l2")
    page.keyboard.press("3")
    page.locator("[data-cast=record]").click()
    page.locator("#recording-file").set_input_files(spoken(tmp_path))
    expect(page.locator("#recorded")).to_contain_text(
        "All words were found as they are written", timeout=60_000
    )
    expect(page.locator('#who-says [data-line="l2"]')).to_contain_text("recorded")
    page.locator("[data-cast=takes]").click()
    expect(page.locator("#takes > li").first).to_contain_text("recorded")
    page.get_by_label("Choose line 4").click()
    page.locator("[data-cast=record]").click()
    page.locator("#recording-file").set_input_files(tmp_path / "line two.wav")
    expect(page.locator("#notice")).to_contain_text("does not seem to say", timeout=60_000)
    page.locator("[data-cast=coverage]").click()
    page.locator("#sound-format").select_option("mp3")
    page.locator("#sound-all").click()
    expect(page.locator("#notice")).to_contain_text("Made 9 files: low-tide-at-marrow-bay-narrator-01.mp3")


def test_a_microphone_that_is_refused_is_said_so(page: Page) -> None:
    line(page, "l2")
    page.keyboard.press("3")
    page.locator("[data-cast=record]").click()
    page.locator("#record").click()
    expect(page.locator("#notice")).to_contain_text("microphone")
    expect(page.locator("#record")).to_be_visible()


@pytest.mark.alone
def test_a_line_is_recorded_with_count_in_level_and_a_second_attempt_kept_apart(
    demo_data: Path, tmp_path: Path
) -> None:
    file = spoken(tmp_path)
    with served(demo_data) as address:
        program = [sys.executable, "-m", "tests.browser.microphone", address, str(file)]
        made = subprocess.run(program, capture_output=True, text=True, timeout=120, check=False)
    assert made.returncode == 0, made.stderr
    # the file goes round and round, so the attempt holds the line and a part of it again: a line, or another
    # text
    assert "Line 2" in made.stdout or "does not seem to say" in made.stdout

"""Each pass has its own surface; what is chosen, the moment and the borders stay from one to the next."""

import re
from collections.abc import Callable
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.browser.application import served


def test_borders_are_dragged_by_pointer_and_keys_and_remembered(page: Page) -> None:
    right = page.locator(".right")
    before = right.bounding_box()
    handle = page.locator("#divide-right").bounding_box()
    assert before is not None
    assert handle is not None
    page.mouse.move(handle["x"], 500)
    page.mouse.down()
    page.mouse.move(handle["x"] - 90, 500, steps=5)
    page.mouse.up()
    wide = right.bounding_box()
    assert wide is not None
    assert abs(wide["width"] - before["width"] - 90) < 3
    frame = page.locator("#divide-frame")
    frame.focus()
    for _ in range(4):
        page.keyboard.press("ArrowUp")
    stage = page.locator(".stage").bounding_box()
    page.reload()
    expect(page.locator("#page .shot").first).to_be_visible()
    assert right.bounding_box() == wide
    assert page.locator(".stage").bounding_box() == stage
    page.locator("#divide-right").dblclick()
    now = right.bounding_box()
    assert now is not None
    assert abs(now["width"] - before["width"]) < 2


def test_a_pass_turns_to_its_surface_at_the_chosen_line(page: Page) -> None:
    page.locator('.voice[data-line="l9"]').click()
    time = page.locator("#time").inner_text()
    for key, surface, chosen in (
        ("2", "Script", '.srow.chosen[data-line="l9"]'),
        ("3", "Voices", '#who-says .chosen[data-line="l9"]'),
        ("5", "Proof sheet", '.proof-card.chosen[data-caption="c9"]'),
        ("6", "Levels", '.level-speech.chosen[data-line="l9"]'),
        ("7", "Docket", "#export"),
        ("4", "Sheet", '.voice.chosen[data-line="l9"]'),
    ):
        page.keyboard.press(key)
        expect(page.locator("#surface")).to_have_attribute("aria-label", surface)
        expect(page.locator(chosen)).to_be_in_viewport()
        assert page.locator("#time").inner_text() == time


def test_the_shortlist_says_how_the_piece_would_stand_before_anything_is_voiced(page: Page) -> None:
    page.keyboard.press("3")
    rows = page.locator("#shortlist tbody tr")
    expect(rows).to_have_count(1)
    expect(rows.first).to_contain_text("In use")
    page.get_by_label("List, put on the shortlist: Orla").click()
    expect(rows).to_have_count(2)
    orla = page.locator('#shortlist [data-voice="orla"]')
    expect(orla.locator(".signs i")).to_have_count(9)
    expect(orla).to_contain_text(re.compile(r"\d\d\.\d\d s"))
    page.get_by_role("button", name="limpet", exact=True).click()
    expect(page.locator("#shortlist thead")).to_contain_text("1 line, after a fit")
    page.get_by_label("Cast Orla now").click()
    expect(page.locator("#notice")).to_contain_text("1 made", timeout=30_000)
    expect(page.locator('#who-says [data-line="l5"]')).to_contain_text("Orla")


def test_a_voice_is_found_on_the_map_by_pointing_and_heard_by_a_click(page: Page) -> None:
    page.keyboard.press("3")
    dots = page.locator(".voice-dot.natural")
    expect(dots).to_have_count(30)
    page.get_by_label("Women or men").select_option("woman")
    women = page.locator('[aria-label="Women or men"] option:checked').inner_text()
    expect(page.locator("[data-map-voice]")).to_have_count(int(women.split("(")[1].rstrip(")")))
    expect(page.locator(".voice-dot.man")).to_have_count(0)
    page.locator("[data-map-voice=en-maren]").hover()
    expect(page.locator(".voice-map figcaption")).to_contain_text(
        re.compile(r"Maren Britain, woman, calm\.\s+1[78]\d Hz, spread [\d.]+ semitones")
    )
    page.get_by_label("Choose line 8").click()  # a short one: a natural voice takes as long as it speaks
    sample = re.compile(r"/api/voices/en-maren/sample\.wav\?project=")
    with page.expect_response(sample, timeout=60_000) as heard:
        page.locator("[data-map-voice=en-maren]").focus()
        page.keyboard.press("Enter")
    assert heard.value.ok


def test_voices_inside_a_loop_are_listed_and_stand_with_known_lengths(page: Page) -> None:
    page.keyboard.press("3")
    field = page.locator(".voice-map svg").bounding_box()
    deep = page.locator("[data-map-voice=en-gideon] .voice-shape").bounding_box()
    assert field is not None
    assert deep is not None
    x, y = deep["x"] + deep["width"] / 2, deep["y"] + deep["height"] / 2
    page.mouse.move(x - 25, y - 20)
    page.mouse.down()
    for dx, dy in ((25, -20), (25, 20), (-25, 20)):
        page.mouse.move(x + dx, y + dy, steps=4)
    expect(page.locator(".voice-loop")).to_be_attached()
    page.mouse.up()
    row = page.locator('#shortlist [data-voice="en-gideon"]')
    expect(row).to_contain_text(re.compile(r"(?<!≈)\d\d\.\d\d s"), timeout=30_000)  # nothing is voiced
    expect(page.locator(".voice-loop")).to_have_count(0)
    expect(page.locator("[data-map-voice=en-gideon]")).to_have_class(re.compile("listed"))
    page.keyboard.press("Control+z")
    expect(row).to_have_count(0)


def test_a_voice_is_treated_heard_with_and_without_changed_and_kept(page: Page) -> None:
    page.locator('.voice[data-line="l1"]').click()
    page.keyboard.press("6")
    page.locator("[data-sound-desk=treatment]").click()
    page.locator('[data-treatment="Close"]').click()
    expect(page.locator("#stages li")).to_have_count(5)
    page.locator("#measure-treatment").click()
    expect(page.locator('#stages [data-stage="compressor"]')).to_contain_text("here: down by")
    expect(page.locator("#treatment-plot polyline")).to_have_count(3)
    page.locator("#hear-treated").click()
    expect(page.locator("#play")).to_have_text("Stop")
    page.locator("#hear-plain").click()
    expect(page.locator("#play")).to_have_text("Play", timeout=30_000)
    page.get_by_label("evener, to 1 in").fill("6")
    page.get_by_label("evener, to 1 in").press("Enter")
    expect(page.locator('[data-treatment="Close"]')).to_have_attribute("aria-pressed", "false")
    page.locator("#add-stage").select_option("room")
    expect(page.locator("#stages li")).to_have_count(6)
    page.get_by_label("Earlier: room").click()
    expect(page.locator("#stages li").nth(4)).to_have_attribute("data-stage", "room")
    page.locator("#treat-as").fill("Cave")
    page.locator("#keep-treatment").click()
    expect(page.locator('[data-treatment="Cave"]')).to_have_attribute("aria-pressed", "true")
    page.locator("[data-treat-for=line]").click()
    page.locator('[data-treatment=""]').click()
    expect(page.locator("#treat-as-role")).to_be_visible()
    expect(page.locator("#stages li")).to_have_count(0)
    page.locator("#treat-as-role").click()
    expect(page.locator("#stages li")).to_have_count(6)


def test_a_blend_is_mixed_kept_and_cast_and_the_piece_is_heard_in_draft(page: Page) -> None:
    page.keyboard.press("3")
    page.get_by_label("Choose line 8").click()
    page.locator("#begin-blend").click()
    page.get_by_label("Voice 1 of the blend").select_option("en-maren")
    page.get_by_label("Voice 2 of the blend").select_option("en-quill")
    page.get_by_label("Share of voice 1 in percent").fill("70")
    expect(page.locator("#blend")).to_contain_text("30 %")
    page.locator("#keep-blend").click()
    expect(page.locator("#notice")).to_contain_text("Give the blend a name")
    page.locator("#blend-name").fill("Heron")
    page.locator("#keep-blend").click()
    expect(page.locator("#shortlist")).to_contain_text("Heron")
    page.locator("[data-cast=roles]").click()
    # the limpet has one line; a role that is given another voice has nothing of it yet
    page.get_by_label("Voice of limpet").select_option(label="Heron")
    row = page.locator('#who-says [data-line="l5"]')
    expect(row).to_contain_text("in draft: Wren")
    page.locator("#play").click()
    expect(page.locator("#notice")).to_contain_text("heard in draft, by Wren")
    page.locator("#play").click()
    page.reload()
    page.keyboard.press("3")
    page.locator("[data-cast=roles]").click()
    expect(page.get_by_label("Voice of limpet")).to_have_value("mix-en-maren-70-en-quill-30")
    expect(page.get_by_label("Voice of narrator")).to_have_value("wren")


@pytest.mark.long
def test_what_is_heard_in_draft_is_finished_while_one_listens(page: Page) -> None:
    page.keyboard.press("3")
    page.get_by_label("Choose line 6").click()  # the limpet has one line
    page.get_by_role("button", name="limpet", exact=True).click()
    page.locator("[data-cast=roles]").click()
    page.get_by_label("Voice of limpet").select_option("en-finch")
    row = page.locator('#who-says [data-line="l5"]')
    expect(row).to_contain_text("in draft: ")
    page.locator("[data-cast=coverage]").click()
    page.get_by_label("Keep speech up to date").check()
    page.locator("#play").click()
    expect(row).not_to_contain_text("in draft", timeout=60_000)
    expect(row).not_to_contain_text("unvoiced")


def test_a_role_is_recast_and_fitted_with_nothing_voiced_and_then_voiced_once(page: Page) -> None:
    page.keyboard.press("3")
    page.locator("[data-cast=roles]").click()
    page.get_by_label("Voice of narrator").select_option("orla")
    expect(page.locator("#voice-open")).to_have_text("Voice 9 open lines")
    page.keyboard.press("4")
    page.keyboard.press("f")
    expect(page.locator("#accept")).to_be_enabled()
    page.keyboard.press("a")
    expect(page.locator("#notice")).to_contain_text(
        "Fit accepted: 9 lines still to be voiced, at the lengths of this fit."
    )
    page.keyboard.press("v")
    expect(page.locator("#voice-open")).to_have_text("All voiced")
    standing = page.locator("[data-pass=fit]").inner_text()
    page.keyboard.press("f")  # there is nothing left to fit
    expect(page.locator("#proposal")).to_be_visible()
    page.keyboard.press("a")
    expect(page.locator("#notice")).to_contain_text("Fit accepted: 0 lines voiced")
    expect(page.locator("[data-pass=fit]")).to_have_text(standing, use_inner_text=True)


def test_how_long_a_job_will_take_is_told_from_how_it_went(page: Page) -> None:
    told = page.evaluate(
        """async () => {
          const { leftOf } = await import("/static/scripts/piece/work.js");
          const job = { id: "j", kind: "", note: "Voicing", total: 40, done: 0, result: {} };
          return [[0, 0], [0, 9], [2, 10], [10, 20], [39, 78], [40, 80]].map(([done, at]) =>
            leftOf({ ...job, done }, at));
        }"""
    )
    assert told == ["", "", "about 3 min left", "about 60 s left", "", ""]


def test_the_melody_of_a_line_is_drawn_and_as_a_style_would_have_it(page: Page) -> None:
    page.keyboard.press("3")
    page.get_by_label("Choose line 1", exact=True).click()
    page.locator("[data-cast=line]").click()
    tune = page.locator("#tune")
    expect(tune).to_contain_text("Melody of line 1")
    assert page.locator(".tune-measured").get_attribute("d")
    page.locator("[data-style=grave]").hover()
    expect(tune).to_contain_text("dashed: grave, as it would be")
    assert page.locator(".tune-would").get_attribute("d")
    page.get_by_label("Choose line 8").click()  # it has no sound yet
    expect(tune).to_contain_text("voice this line")


def test_a_delivery_is_slid_and_its_melody_seen_before_it_is_let_go(page: Page) -> None:
    page.keyboard.press("3")
    page.get_by_label("Choose line 1", exact=True).click()
    page.locator("[data-cast=roles]").click()
    pitch = page.get_by_label("Pitch of narrator, to slide")
    slide = pitch.bounding_box()
    assert slide is not None
    page.mouse.move(slide["x"] + slide["width"] / 2, slide["y"] + slide["height"] / 2)
    page.mouse.down()
    page.mouse.move(slide["x"] + slide["width"] / 4, slide["y"] + slide["height"] / 2, steps=4)
    expect(page.locator("#tune")).to_contain_text("dashed: semitones -6, as it would be")
    expect(page.locator('#who-says [data-line="l1"]')).not_to_contain_text("stale")
    page.mouse.up()
    expect(page.locator('#who-says [data-line="l1"]')).to_contain_text("stale")
    expect(page.get_by_label("Pitch of narrator, semitones")).to_have_value("-6")
    pitch.press("ArrowRight")
    expect(page.get_by_label("Pitch of narrator, semitones")).to_have_value("-5")


def test_a_caption_is_chosen_on_the_proof_sheet_and_seen_in_the_frame(page: Page) -> None:
    page.keyboard.press("5")
    expect(page.locator(".proof-card[data-caption]")).to_have_count(8)
    expect(page.locator(".proof-card[data-title]")).to_have_count(1)
    expect(page.locator(".proof-card svg path").first).to_be_attached()
    page.locator('.proof-card[data-caption="c3"] button').click()
    expect(page.locator("#overlay")).to_have_attribute("aria-label", re.compile("An anemone"))
    page.keyboard.press("2")
    expect(page.locator(".srow.chosen")).to_have_attribute("data-line", "l3")


@pytest.mark.long
def test_the_video_is_made_and_its_proof_is_drawn(small_demo: Path, open_page: Callable[[str], Page]) -> None:
    with served(small_demo) as address:
        page = open_page(f"{address}/projects/marrow-bay")
        expect(page.locator("#welcome")).to_contain_text("Make line 7 fit")
        page.locator("#welcome").get_by_role("button", name="Make the video").click()
        expect(page.locator("#prove")).to_be_disabled()
        for other in ("sound", "captions"):
            page.locator(f"#wants-{other}").uncheck()
        page.locator("#prove-after").check()
        page.locator("#export").click()
        expect(page.locator("#verdict")).to_have_text(
            "low-tide-at-marrow-bay.mp4 is in sync: 1167 frames, as planned.", timeout=120_000
        )
        expect(page.locator("#proof")).to_contain_text("8 of 8")
        expect(page.locator(".proof-speech")).to_have_count(9)
        expect(page.locator("#watch")).to_be_visible()
        page.locator("#welcome").get_by_role("button", name="Close").click()
        page.reload()
        expect(page.locator("#page .shot").first).to_be_visible()
        expect(page.locator("#welcome")).to_be_hidden()


def test_projects_are_found_ordered_and_put_into_series(
    demo_data: Path, open_page: Callable[[str], Page]
) -> None:
    with served(demo_data) as address:
        page = open_page(f"{address}/")
        rows = page.locator(".projects tbody tr")
        expect(rows).to_have_count(3)
        expect(rows.filter(has_text="Low tide")).to_contain_text("1 unvoiced, 1 spilling")
        page.locator("#find-project").fill("spanish")
        expect(rows).to_have_count(1)
        page.locator("#find-project").fill("")
        page.get_by_role("button", name="Name", exact=True).click()
        expect(rows.first).to_contain_text("Bajamar")
        series = page.get_by_label("Series of Low tide at Marrow Bay")
        series.fill("Tide pools")
        series.press("Enter")
        expect(page.get_by_role("heading", name="Tide pools")).to_be_visible()
        page.reload()
        expect(page.locator("#projects")).to_contain_text("Low tide at Marrow Bay")
        page.get_by_role("button", name="New one like it: Bajamar").click()
        expect(page.locator('script-text[data-kind="draft"]')).to_be_focused()
        page.keyboard.press("Escape")
        page.keyboard.press("4")
        page.get_by_role("button", name="Write the script").click()
        expect(page.locator('script-text[data-kind="draft"]')).to_be_visible()


def test_the_samples_are_offered_where_there_is_no_project(
    tmp_path: Path, open_page: Callable[[str], Page]
) -> None:
    with served(tmp_path / "data") as address:
        page = open_page(f"{address}/")
        expect(page.locator("#no-projects")).to_contain_text("There is no project yet")
        expect(page.locator("#make-samples")).to_be_enabled()

"""What surrounds the fit: the other passes, the keys, night and day, narrow and wide windows."""

import re

import pytest
from playwright.sync_api import Page, Route, expect

from tests.browser.application import at_rest


@pytest.mark.parametrize("width", [1024, 1240, 1280, 1920])
def test_nothing_runs_over_at_any_width(page: Page, width: int) -> None:
    page.set_viewport_size({"width": width, "height": 800})
    page.keyboard.press("f")
    expect(page.locator("#proposal")).to_be_visible()
    at_rest(page)
    assert page.evaluate("document.scrollingElement.scrollWidth") <= width
    left = page.locator(".left").bounding_box()
    assert left is not None
    labels = [box for label in page.locator(".voice-label").all() if (box := label.bounding_box())]
    ghosts = [box for ghost in page.locator(".ghost-voice").all() if (box := ghost.bounding_box())]
    assert labels
    for label in labels:
        assert label["width"] >= 100
        assert label["x"] + label["width"] <= left["x"] + left["width"]
        for ghost in ghosts:
            apart = ghost["x"] + ghost["width"] <= label["x"] or label["x"] + label["width"] <= ghost["x"]
            assert (
                apart
                or ghost["y"] > label["y"] + label["height"]
                or label["y"] > ghost["y"] + ghost["height"]
            )
    for button in ("Undo", "Fit everything"):
        box = page.get_by_role("button", name=button, exact=True).bounding_box()
        assert box is not None
        assert box["x"] + box["width"] <= width
    for remedy in page.locator("#remedies tr").all()[:3]:
        box = remedy.bounding_box()
        assert box is None or box["x"] + box["width"] <= width


@pytest.mark.parametrize("width", [1024, 1280])
def test_no_desk_of_words_and_cast_runs_over(page: Page, width: int) -> None:
    page.set_viewport_size({"width": width, "height": 800})
    over = "() => { const d = document.querySelector('#desk'); return d.scrollWidth - d.clientWidth }"
    words = ["line", "direct", "script", "lexicon", "find"]
    desks = [("2", "words", words), ("3", "cast", ["voices", "roles", "line", "takes", "record", "coverage"])]
    for key, kind, names in desks:
        page.keyboard.press(key)
        for name in names:
            page.locator(f"[data-{kind}={name}]").click()
            expect(page.locator("#desk h2:visible").first).to_be_visible()
            if name == "line" and kind == "cast":
                page.locator("#compare-styles").click()
                expect(page.locator("#ways tr")).to_have_count(6, timeout=60_000)
            assert page.evaluate(over) <= 0, (kind, name)


def test_the_list_of_keys_opens_and_closes_by_key(page: Page) -> None:
    keys = page.get_by_role("dialog", name="Keys")
    expect(keys).to_be_hidden()
    page.keyboard.press("?")
    expect(keys).to_be_visible()
    expect(keys).to_contain_text("Flip between now and the proposal")
    page.keyboard.press("Escape")
    expect(keys).to_be_hidden()


def test_night_is_kept_and_is_not_day(page: Page) -> None:
    def light() -> float:
        """Of the writing, which is dark by day."""
        colour = page.evaluate("getComputedStyle(document.querySelector('.brand')).color")
        return sum(float(part) for part in re.findall(r"[\d.]+", colour)[:3])

    day = light()
    page.get_by_role("button", name="Night", exact=True).click()
    night = light()
    page.reload()
    expect(page.locator("#page .shot").first).to_be_visible()
    assert light() == night > day


def test_a_role_is_added_directed_and_heard(page: Page) -> None:
    page.keyboard.press("3")
    page.locator("[data-cast=roles]").click()
    page.get_by_label("Name of a new role").fill("crab")
    page.get_by_role("button", name="Add role").click()
    expect(page.get_by_label("Pace of crab, times the pace of the voice")).to_have_value("1")
    page.get_by_label("Choose line 8").click()
    page.keyboard.press("2")
    page.locator("[data-words=line]").click()
    page.locator("#line-role").select_option("crab")
    expect(page.locator('.srow[data-line="l7"]')).to_have_class(re.compile("role-2"))
    page.keyboard.press("3")
    page.get_by_label("Pitch of limpet, semitones").fill("-2")
    page.get_by_label("Pitch of limpet, semitones").press("Enter")
    expect(page.locator('#who-says [data-line="l5"]')).to_contain_text("stale")
    with page.expect_response(re.compile(r"/sample\.wav")) as heard:
        page.get_by_role("button", name="Hear limpet").click()
    assert heard.value.ok


def test_a_pitch_out_of_reach_is_refused_where_it_was_typed(page: Page) -> None:
    page.keyboard.press("3")
    page.locator("[data-cast=roles]").click()
    page.get_by_label("Pitch of limpet, semitones").fill("14")
    page.get_by_label("Pitch of limpet, semitones").press("Enter")
    expect(page.locator("#notice")).to_contain_text("pitch semitones: it may be at most 12")
    expect(page.locator("#who-says .state-ink-stale")).to_have_count(0)


def test_another_style_letters_every_caption(page: Page) -> None:
    page.locator('.voice[data-line="l6"]').click()
    before = page.locator("#overlay").inner_html()
    page.keyboard.press("5")
    page.locator('[data-style-id="ledger"]').click()
    expect(page.locator("#overlay")).not_to_have_attribute("aria-label", "No words on the screen")
    page.wait_for_function("before => document.querySelector('#overlay').innerHTML !== before", arg=before)
    page.keyboard.press("Control+z")
    expect(page.locator("#notice")).to_contain_text("Undone: Caption style")


def test_the_loudness_of_the_mix_is_measured_and_follows_the_bed(page: Page) -> None:
    page.keyboard.press("6")
    expect(page.locator(".stage").get_by_text(re.compile(r"−?-?1[34]\.\d LUFS"))).to_be_visible()
    page.locator("[data-sound-desk=beds]").click()
    page.get_by_label("Duck under speech by, dB").fill("3")
    page.get_by_label("Duck under speech by, dB").press("Enter")
    expect(page.locator('[data-pass="sound"]')).to_contain_text("bed ducks 3 dB")


def test_a_dissolve_is_typed_drawn_and_taken_back(page: Page) -> None:
    page.locator('#page [data-shot="s7"] .shot-label').click()
    page.keyboard.press("1")
    expect(page.locator("#shot-length")).to_be_visible()
    frames = page.locator("#transition-frames")
    frames.fill("12")
    frames.press("Enter")
    expect(page.locator("#picture-page .dissolve")).to_have_count(1)
    expect(page.locator('#picture-page [data-shot="s7"].shot')).to_contain_text("dissolves 12")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("#picture-page .dissolve")).to_have_count(0)


def test_a_proposal_opens_at_its_top_wherever_the_desk_was_scrolled(page: Page) -> None:
    page.locator("#remedies tr").last.scroll_into_view_if_needed()
    assert page.locator("#desk").evaluate("desk => desk.scrollTop") > 0
    page.keyboard.press("f")
    expect(page.locator("#accept")).to_be_in_viewport()
    rows = page.locator("#changes tr").all_inner_texts()
    assert rows
    assert not [row for row in rows if "0.00 s" in row]


def test_a_natural_voice_is_found_heard_and_cast_in_one_action(page: Page) -> None:
    page.keyboard.press("3")
    voices = page.locator(".voices li")
    everybody = voices.count()
    page.get_by_label("Natural", exact=True).check()
    page.get_by_label("Women or men").select_option("man")
    expect(voices.first).to_contain_text("Holt")
    expect(voices.first).to_contain_text("natural")
    assert 10 < voices.count() < everybody
    page.get_by_label("Search the voices").fill("nobody at all")
    expect(page.get_by_text("No voice matches")).to_be_visible()
    page.get_by_label("Search the voices").fill("")
    page.get_by_label("Women or men").select_option("woman")
    assert 0 < voices.count() < everybody
    page.get_by_label("Women or men").select_option("man")
    with page.expect_response(re.compile(r"/api/voices/holt/sample\.wav\?project=")) as heard:
        page.get_by_label("Hear your line said by Holt").click()
    assert heard.value.ok
    expect(page.get_by_text("“Cast” gives narrator another voice")).to_contain_text("9 lines")
    page.get_by_label("Cast Holt", exact=True).click()
    # one was heard
    expect(page.locator("#notice")).to_contain_text("Voices: 8 made, 2 kept, 0 failed", timeout=60_000)
    expect(page.get_by_label("Cast Holt", exact=True)).to_have_attribute("aria-disabled", "true")
    expect(page.get_by_label("Cast Holt", exact=True)).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.locator("#notice")).to_contain_text("Holt is the voice of narrator already")
    expect(page.locator("#who-says .state-ink-stale, #who-says .state-ink-unvoiced")).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("#notice")).to_contain_text("Undone: Voice of narrator")
    expect(page.locator("#who-says .state-ink-stale")).to_have_count(
        0
    )  # the takes went with the voice, in one step


def test_a_key_pressed_while_the_piece_is_on_its_way_is_not_lost(page: Page) -> None:
    def late(route: Route) -> None:
        page.wait_for_timeout(600)
        route.continue_()

    page.route("**/api/projects/*", late)
    page.reload()
    page.keyboard.press("3")
    expect(page.locator("[data-cast=roles]")).to_be_visible()

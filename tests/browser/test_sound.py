"""Sound in the browser: levels dragged, a bed cut to the piece, effects that stay with a cut, voices
changed."""

import re

from playwright.sync_api import Page, Route, expect


def to_sound(page: Page, desk: str) -> None:
    page.keyboard.press("6")
    page.locator(f"[data-sound-desk={desk}]").click()


def test_a_level_is_dragged_and_typed_and_heard_in_the_mix(page: Page) -> None:
    to_sound(page, "beds")
    page.locator("#flat-levels").click()
    expect(page.locator(".level-point")).to_have_count(0)
    line = page.locator("[data-level=b1]")
    expect(line).to_be_attached()
    page.locator("#add-level-point").click()
    point = page.locator(".level-point")
    expect(point).to_have_count(1)
    expect(point).to_have_attribute("aria-label", re.compile("0.0 dB"))
    box = point.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 5, box["y"] + 5)
    page.mouse.down()
    page.mouse.move(box["x"] - 15, box["y"] + 25, steps=4)
    expect(page.locator(".level-chip").first).to_contain_text("dB")
    page.mouse.up()
    expect(point).to_have_attribute("aria-label", re.compile(r"-1\d\.\d dB"))
    point.focus()
    page.keyboard.press("ArrowRight")
    page.keyboard.press("Delete")
    expect(point).to_have_count(0)
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(point).to_have_count(1)


def test_music_is_chosen_by_words_cut_to_the_piece_and_known_to_the_fit(page: Page) -> None:
    to_sound(page, "beds")
    page.locator("#sound-words").fill("gentle boats")
    row = page.locator('[data-sound="bed-paper-boats"]')
    row.locator("[data-lay=instead]").click()
    expect(page.locator("#bed-name")).to_have_text("Paper boats")
    page.locator("#cut-bed").click()
    expect(page.locator("#notice")).to_contain_text("Cut by bars, with")
    expect(page.locator("#bed-desk")).to_contain_text("its ending is heard at the end")
    expect(page.locator("#bed-desk")).to_contain_text("76 beats a minute")
    page.locator("#duck-for-words").click()
    expect(page.locator("#notice")).to_contain_text("words understood 0.9")
    page.locator("#bed-beats").click()
    expect(page.locator("#notice")).to_contain_text("of them are known to the fit")
    page.locator("#bed-as-it-is").click()
    expect(page.locator("#bed-as-it-is")).to_be_hidden()


def test_an_effect_on_a_cut_goes_along_with_it(page: Page) -> None:
    page.locator('.voice[data-line="l4"]').first.click()
    to_sound(page, "effects")
    page.locator("#effect-where").select_option("cut")
    page.locator("#sound-words").fill("pop")
    page.locator('[data-sound="effect-pop"] [data-lay=effect]').click()
    block = page.locator(".effect-block", has_text="Pop")
    expect(block).to_be_visible()
    before = block.bounding_box()
    page.keyboard.press("Escape")
    page.locator("[data-sound-desk=mix]").focus()
    page.keyboard.press("4")
    page.evaluate(
        """async () => {
          const address = location.pathname.replace("/projects/", "/api/projects/");
          const now = await (await fetch(`${address}/timeline`)).json();
          const shot = now.shots[1];
          const edit = { kind: "shot_length", shot_id: shot.id, length_frames: shot.length + 30 };
          await fetch(`${address}/edits`, { method: "POST", headers: { "content-type": "application/json" },
            body: JSON.stringify({ based_on: now.revision, edit }) });
        }"""
    )
    page.reload()
    expect(page.locator("#page .shot").first).to_be_visible()
    page.keyboard.press("6")
    after = page.locator(".effect-block", has_text="Pop").bounding_box()
    scroll = page.evaluate("document.querySelector('#sound-page-scroller').scrollTop")
    assert before is not None
    assert after is not None
    assert after["y"] + scroll > before["y"]  # a second further down the page
    page.locator(".effect-block", has_text="Pop").focus()
    page.keyboard.press("Delete")
    expect(page.locator(".effect-block", has_text="Pop")).to_have_count(0)


def test_a_line_is_sung_and_what_is_no_note_is_named(page: Page) -> None:
    page.locator('.voice[data-line="l3"]').first.click()
    to_sound(page, "sing")
    page.locator("#tune-choice").select_option("typed")
    page.locator("#tune-notes").fill("c d h")
    page.locator("#sing-line").click()
    expect(page.locator("#notice")).to_contain_text("“h” is no note")
    page.locator("#tune-notes").fill("c e g e:2")
    page.locator("#sing-line").click()
    expect(page.locator("#notice")).to_contain_text("Sung")
    expect(page.get_by_role("button", name="Undo", exact=True)).to_have_attribute("title", "Line sung, Typed")


def test_columns_are_muted_and_made_solo_and_that_is_said(page: Page) -> None:
    to_sound(page, "mix")
    expect(page.locator("#mix-lufs")).to_contain_text("-14.")
    page.get_by_role("button", name="Solo: speech").click()
    expect(page.locator("#mix-warnings")).to_contain_text("something is solo")
    expect(page.locator("#mix-over")).to_contain_text("nothing under it")
    page.get_by_role("button", name="Hear everything").click()
    expect(page.locator("#mix-over")).to_contain_text("dB")
    page.get_by_label("Level of beds, dB").fill("-4")
    page.get_by_label("Level of beds, dB").press("Enter")
    expect(page.get_by_label("Level of beds, dB")).to_have_value("-4")
    page.locator('[data-aim="-16"]').click()
    expect(page.locator("#mix-lufs")).to_contain_text("-16.")
    page.locator("[data-sound-desk=own]").click()
    page.get_by_label("Duck shot 1 under speech").check()
    expect(page.get_by_label("Duck shot 1 under speech")).to_be_checked()


def test_a_voice_gets_another_throat_and_is_compared_while_a_key_is_held(page: Page) -> None:
    page.locator('.voice[data-line="l1"]').click()
    to_sound(page, "treatment")
    page.locator('[data-treatment="Lighthouse giant"]').click()
    expect(page.locator('#stages [data-stage="pitch"]')).to_be_visible()
    page.locator("#compare-treated").click()
    expect(page.locator("#hold-without")).to_be_visible()
    page.locator("#hold-without").focus()
    page.keyboard.down("x")
    expect(page.locator("#hold-without")).to_have_class(re.compile("btn-dark"))
    page.keyboard.up("x")
    expect(page.locator("#hold-without")).not_to_have_class(re.compile("btn-dark"))
    page.locator("#compare-treated").click()
    page.locator("#treat-too").select_option(label="limpet")
    expect(page.locator("#notice")).to_be_hidden()
    page.locator("#treat-as").fill("Keeper")
    page.locator("#keep-treatment-for-all").click()
    expect(page.locator('[data-treatment="Keeper"]')).to_have_attribute("aria-pressed", "true")
    page.get_by_label("No longer keep Keeper in all projects").click()
    expect(page.locator('[data-treatment="Keeper"]')).to_have_count(0)


def test_a_change_is_heard_at_once_and_the_whole_follows(page: Page) -> None:
    """What is played right after a change is a part of its own: heard though the whole is held back here."""
    to_sound(page, "beds")
    parts: list[str] = []
    wholes: list[Route] = []

    def asked(route: Route) -> None:
        if "at_once=true" in route.request.url:
            parts.append(route.request.url)
            route.continue_()
        else:
            wholes.append(route)

    page.route("**/mix.wav?*", asked)
    page.get_by_label("Against speech, dB").fill("-14")
    page.get_by_label("Against speech, dB").press("Enter")
    expect(page.locator("#notice")).to_be_hidden()
    page.locator("#play").click()
    expect(page.locator("#play")).to_have_text("Stop")
    page.wait_for_function("() => !document.querySelector('#time').innerText.startsWith('0:00:00')")
    assert len(parts) == 1
    for _ in range(100):  # asked for meanwhile
        if wholes:
            break
        page.wait_for_timeout(100)
    assert wholes
    for whole in wholes:
        whole.continue_()
    page.unroute("**/mix.wav?*")
    page.locator("#play").click()
    expect(page.locator("#play")).to_have_text("Play")


def test_an_effect_is_dragged_typed_and_held_to_a_word(page: Page) -> None:
    page.locator('.voice[data-line="l3"]').first.click()
    to_sound(page, "effects")
    block = page.locator('.effect-block[data-effect="e1"]')
    block.scroll_into_view_if_needed()
    box = block.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 30, box["y"] + 12)
    page.mouse.down()
    page.mouse.move(box["x"] + 30, box["y"] + 40, steps=4)
    expect(page.locator(".level-chip:visible")).to_contain_text("0:0")
    page.mouse.up()
    held = page.locator("#effect-list tr").first
    expect(held).to_contain_text("s into shot 2")
    page.get_by_label("Level of Surge in dB").fill("-20")
    page.get_by_label("Level of Surge in dB").press("Enter")
    block.click()
    page.locator("#effect-where").select_option("word")
    page.locator("#hold-effect").click()
    expect(held).to_contain_text("of line 3")
    expect(page.get_by_label("Level of Surge in dB")).to_have_value("-20")

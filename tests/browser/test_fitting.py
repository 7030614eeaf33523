"""The fit through the real interface: remedies, drags followed live, what is heard and accepted, by hand and
by key."""

import re

from playwright.sync_api import Page, Route, expect


def test_a_line_that_spills_is_explained_and_cured_in_one_step(page: Page) -> None:
    expect(page.locator("#sum")).to_contain_text("Past the end of its window by")
    expect(page.locator("#why li").first).to_be_visible()
    rows = page.locator("#remedies tr")
    expect(rows.first).to_be_visible()
    assert rows.count() >= 3
    with page.expect_response(re.compile(r"/hear$")) as heard:
        rows.first.get_by_role("button", name="Hear").click()
    assert heard.value.ok
    assert heard.value.headers["content-type"] == "audio/wav"
    label = rows.first.locator("td").first.locator("span").first.inner_text()
    rows.first.get_by_role("button", name="Apply").click()
    expect(page.locator("#changes tr").first).to_be_visible()
    expect(page.locator(".ghost-spills")).to_have_count(0)
    page.locator("#accept").click()
    expect(page.locator("#notice")).to_contain_text("Fit accepted")
    expect(page.locator('.voice[data-line="l6"]')).not_to_have_class(re.compile("state-spills"))
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    expect(page.locator("#notice")).to_contain_text(f"Undone: {label[:20]}")
    expect(page.locator('.voice[data-line="l6"]')).to_have_class(re.compile("state-spills"))


def test_a_drag_is_followed_by_the_proposal_and_escape_gives_it_back(page: Page) -> None:
    handle = page.locator('[data-cut="s4"]')
    handle.scroll_into_view_if_needed()
    box = handle.bounding_box()
    assert box is not None
    x, y = box["x"] + 40, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y - 24, steps=5)
    expect(page.locator(".drag-chip")).to_contain_text("would spill")
    assert page.locator(".ghost-cut").count() >= 1
    page.keyboard.press("Escape")
    page.mouse.up()
    expect(page.locator(".ghost-cut")).to_have_count(0)
    expect(page.locator('[data-shot="s4"] .shot-label .mono')).to_have_text("4.20 s")
    assert page.get_by_role("button", name="Undo").get_attribute("title") == "Who gives way"


def test_now_and_the_proposal_are_flipped_and_part_of_it_left_as_it_is(page: Page) -> None:
    page.keyboard.press("f")
    first = page.locator("#changes tr").first
    expect(first).to_be_visible()
    page.keyboard.press("b")
    expect(page.get_by_text("This is the proposal.")).to_be_visible()
    with page.expect_response(re.compile(r"mix\.wav\?preview=")) as heard:
        page.keyboard.press(" ")
    assert heard.value.ok
    expect(page.locator("#play")).to_have_text("Stop")
    page.keyboard.press("b")
    expect(page.get_by_text("This is the proposal.")).to_be_hidden()
    expect(page.locator("#play")).to_have_text("Stop")
    page.keyboard.press("k")

    text = page.locator("#changes tr", has_text=re.compile(r"Shot \d")).first.locator("td").first.inner_text()
    page.get_by_role("button", name=f"Keep as it is: {text}").click()
    shot = text.split(",")[0]
    expect(page.locator("#changes").get_by_text(f"{shot} stays as it is")).to_be_visible()
    expect(page.locator("#changes").get_by_text(text, exact=True)).to_have_count(0)
    page.locator("#accept").click()
    expect(page.locator("#notice")).to_contain_text("Fit accepted")


def test_the_effect_of_a_house_limit_is_said_while_it_is_typed(page: Page) -> None:
    page.locator("[data-desk=house]").click()
    expect(page.locator("#house-effect")).to_contain_text("1 spills")
    page.locator("#house-fastest_pace").fill("1.35")
    expect(page.locator("#house-effect")).to_contain_text("With this: 0 spill")
    page.keyboard.press("Escape")


def test_wishes_that_contradict_each_other_are_named_and_let_go(page: Page) -> None:
    page.locator("[data-desk=house]").click()
    page.locator("#longest").fill("30")
    page.locator("#longest").press("Enter")
    page.locator("#fit").click()
    conflict = page.locator("#conflict")
    expect(conflict).to_contain_text("the piece may last no longer than 30.00 s")
    expect(conflict).to_contain_text("shot 1 is locked")
    page.locator("#let-go").click()
    expect(page.locator("#proposal")).to_be_visible()
    expect(page.locator("#conflict")).to_have_count(0)


def test_a_fit_asked_for_while_a_change_is_on_its_way_waits_for_it(page: Page) -> None:
    def late(route: Route) -> None:
        page.wait_for_timeout(800)
        route.continue_()

    page.route("**/edits", late)
    page.locator("[data-desk=house]").click()
    page.locator("#house-fastest_pace").fill("1.12")
    page.locator("#house-fastest_pace").press("Enter")
    page.locator("#fit").click()
    expect(page.locator("#changes")).to_contain_text("×1.12")
    expect(page.locator("#proposal")).to_be_visible()


def test_every_time_can_be_changed_by_keyboard_alone(page: Page) -> None:
    page.locator('[data-cut="s7"]').focus()
    page.keyboard.press("ArrowDown")
    expect(page.locator('[data-cut="s7"]')).to_have_attribute("aria-valuetext", "85 frames")
    expect(page.locator('[data-cut="s7"]')).to_be_focused()
    page.keyboard.press("Shift+ArrowUp")
    expect(page.locator('[data-cut="s7"]')).to_have_attribute("aria-valuetext", "75 frames")

    edge = page.locator('[data-edge="out"][data-caption="c9"]')
    edge.focus()
    before = int(edge.get_attribute("aria-valuenow") or "")
    page.keyboard.press("ArrowDown")
    expect(edge).to_have_attribute("aria-valuenow", str(before + 1))

    line = page.locator('.voice[data-line="l9"]')
    line.focus()
    said = line.get_attribute("aria-label") or ""
    assert re.match(r"Line 10, narrator, floats", said)
    page.keyboard.press("Shift+ArrowDown")
    expect(page.locator("#said")).to_contain_text("line 10 starts")

    page.locator('.voice[data-line="l6"]').focus()
    page.keyboard.press("Enter")
    rest = page.locator(".rest").first
    rest.focus()
    page.keyboard.press("ArrowDown")
    expect(page.locator("#said")).to_contain_text("pause after")
    expect(page.locator(".rest.written")).to_have_count(1)


def test_a_word_is_held_to_a_cut_and_the_sound_keeps_it_there(page: Page) -> None:
    page.locator('.voice[data-line="l9"]').click()
    page.locator("[data-desk=line]").click()
    page.get_by_role("button", name="sea", exact=True).click()
    page.locator("#sync-shot").select_option("s9")
    page.get_by_label("Frame of that shot").fill("40")
    page.locator("#hold").click()
    expect(page.locator(".sync")).to_contain_text("sea")
    page.keyboard.press("f")
    page.locator("#accept").click()
    expect(page.locator("#notice")).to_contain_text("Fit accepted")
    address = page.url.replace("/projects/", "/api/projects/") + "/timeline"
    timeline = page.request.get(address).json()
    line = next(item for item in timeline["lines"] if item["id"] == "l9")
    shot = timeline["shots"][8]
    word = next(word for word in line["words"] if word[2] == "sea")
    assert line["first_shot"] == shot["id"]  # from whose start its times are counted
    assert abs(word[0] - 40 / 30) < 0.005


def test_the_estimate_follows_every_keystroke(page: Page) -> None:
    page.locator('.caption[data-caption="c5"]').dblclick()
    field, chip = page.locator(".caption textarea"), page.locator(".estimate-chip")
    field.press_sequentially(" And then it rained for days.")
    expect(chip).to_contain_text(re.compile(r"\d\.\d\d s (\(±\d+ %\) )?of \d\.\d\d s"))
    field.fill(
        "Home is a groove that I have been grinding into this rock since before your boats had any names at "
        "all."
    )
    expect(chip).to_contain_text(re.compile(r"words? too many"))
    field.fill("Home.")
    expect(chip).to_contain_text("more words")


def test_a_long_caption_is_cut_at_its_phrases(page: Page) -> None:
    page.locator('.voice[data-line="l6"]').click()
    page.keyboard.press("2")
    page.locator("[data-words=line]").click()
    page.get_by_role("button", name="Split into captions").click()
    parts = page.locator('script-text[data-kind="shown"][data-line="l6"]')
    expect(parts).to_have_count(2)
    page.keyboard.press("Control+z")
    expect(parts).to_have_count(1)

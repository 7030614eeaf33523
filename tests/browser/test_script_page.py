"""The script as a page: written by keyboard from nothing, changed like any text, followed by all else."""

import itertools
import re
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Locator, Page, expect

from tests.browser.application import served

ROWS = """[...document.querySelectorAll('#script .srow')].map((row) =>
  [...row.querySelectorAll('script-text')].map((field) => field.text).filter(Boolean).join(' | '))"""


def rows(page: Page) -> list[str]:
    found: list[str] = page.evaluate(ROWS)
    return found


def expect_rows(page: Page, start: int, wanted: list[str]) -> None:
    """The rows from one on, as soon as they are so."""
    page.wait_for_function(
        f"([start, wanted]) => {{ const now = {ROWS}.slice(start, start + wanted.length);"
        " return JSON.stringify(now) === JSON.stringify(wanted); }",
        arg=[start, wanted],
    )


def shown(page: Page, line: str) -> Locator:
    return page.locator(f'.srow[data-line="{line}"] script-text[data-kind="shown"]')


def put_caret(page: Page, line: str, at: int) -> None:
    shown(page, line).click()
    page.evaluate(f"document.activeElement.caret = {at}")


def open_words(page: Page) -> None:
    page.keyboard.press("2")
    expect(page.locator("#script .srow").first).to_be_visible()


def test_a_whole_script_is_written_by_keyboard_alone_and_heard(
    tmp_path: Path, open_page: Callable[[str], Page]
) -> None:
    with served(tmp_path / "data") as address:
        page = open_page(f"{address}/new")
        page.get_by_label("Name", exact=True).fill("The lamp")
        page.keyboard.press("Enter")
        draft = page.locator('script-text[data-kind="draft"]')
        expect(draft).to_be_focused()
        page.keyboard.type("# Evening")
        page.keyboard.press("Enter")
        page.keyboard.type("The lamp goes round.")
        page.keyboard.press("Enter")
        page.keyboard.type("KEEPER: I let it.")
        page.keyboard.press("Enter")
        page.keyboard.type("Nobody counts.")
        page.keyboard.press("Escape")
        expect_rows(page, 0, ["Evening", "The lamp goes round.", "I let it.", "Nobody counts."])
        expect(page.locator('.srow[data-line="l3"]')).to_be_focused()
        expect(page.locator('.srow[data-line="l2"] select')).to_have_value("r2")
        expect(page.locator(".pass[data-pass=words]")).to_contain_text("3 unvoiced")
        with page.expect_response("**/lines/l3/sound.wav*") as heard:
            page.keyboard.press("h")
        assert heard.value.body()[:4] == b"RIFF"
        page.keyboard.press("v")
        expect(page.locator("#voice-open")).to_have_text("All voiced", timeout=60_000)
        page.keyboard.press("4")
        expect(page.locator("#page .voice")).to_have_count(3)
        expect(page.locator('.voice[data-line="l3"]')).to_have_class(
            re.compile("role-1 state-(sits|floats) chosen")
        )


def test_enter_cuts_backspace_joins_and_each_is_one_step(page: Page) -> None:
    open_words(page)
    put_caret(page, "l2", len("What it forgets,"))
    page.keyboard.press("Enter")
    expect_rows(page, 1, ["What it forgets,", "it keeps in pools."])
    expect(page.locator("script-text:focus")).to_have_attribute("data-line", "l11")
    page.keyboard.type("And ")
    page.keyboard.press("Home")
    page.keyboard.press("Backspace")
    expect_rows(page, 1, ["What it forgets, And it keeps in pools."])
    assert page.evaluate("document.activeElement.caret") == len("What it forgets, ")
    page.keyboard.press("Control+z")
    expect_rows(page, 1, ["What it forgets,", "it keeps in pools."])
    page.keyboard.press("Control+z")
    expect_rows(page, 1, ["What it forgets, it keeps in pools."])
    page.keyboard.press("Control+Shift+z")
    expect_rows(page, 1, ["What it forgets,", "it keeps in pools."])


def test_arrows_walk_the_column_and_tab_goes_to_what_is_said(page: Page) -> None:
    open_words(page)
    put_caret(page, "l2", 3)
    page.keyboard.press("ArrowDown")
    expect(shown(page, "l3")).to_be_focused()
    page.evaluate("document.activeElement.caret = 0")
    page.keyboard.press("ArrowLeft")
    expect(shown(page, "l2")).to_be_focused()
    page.keyboard.press("Tab")
    said = page.locator('.srow[data-line="l2"] script-text[data-kind="said"]')
    expect(said).to_be_focused()
    expect(said).to_have_text("What it forgets, it keeps in pools.")
    page.keyboard.press("End")
    page.keyboard.type(" For ever.")
    page.keyboard.press("Escape")
    expect(said).to_have_text("What it forgets, it keeps in pools. For ever.")
    expect(page.get_by_role("button", name="Undo")).to_have_attribute("title", "Spoken words of line 2")


def test_each_row_has_its_own_place(page: Page) -> None:
    open_words(page)
    expect(page.locator(".srow.over")).to_have_count(1)  # a line that is too long stands as any other
    bottoms = page.evaluate(
        "[...document.querySelectorAll('#script .srow')].map((row) => row.getBoundingClientRect())"
        ".map(({ top, bottom }) => [top, bottom])"
    )
    assert all(above[1] <= below[0] + 1 for above, below in itertools.pairwise(bottoms)), bottoms


def test_several_paragraphs_are_pasted_as_lines_in_one_step(page: Page) -> None:
    open_words(page)
    before = rows(page)
    put_caret(page, "l2", len("What it "))
    page.evaluate(
        """() => { const data = new DataTransfer();
        data.setData('text/plain', 'takes,\\n\\nLIMPET: it holds.\\nWhat it ');
        document.activeElement.dispatchEvent(new ClipboardEvent('paste',
          { clipboardData: data, bubbles: true, cancelable: true })); }"""
    )
    expect_rows(page, 1, ["What it takes,", "it holds.", "What it forgets, it keeps in pools."])
    expect(page.locator('.srow[data-line="l11"] select')).to_have_value("r2")
    page.keyboard.press("Control+z")
    expect_rows(page, 0, before[:3])


def test_chosen_words_are_stressed_paused_after_and_seen_in_the_text(page: Page) -> None:
    open_words(page)
    shown(page, "l4").click()
    page.evaluate(
        """() => { const [node] = document.activeElement.place(0);
        document.getSelection().setBaseAndExtent(node, 2, node, 13); }"""
    )
    strip = page.locator("#strip")
    expect(strip.locator("b")).to_have_text("hermit crab")
    strip.get_by_role("button", name="Stress").click()
    said = page.locator('.srow[data-line="l4"] script-text[data-kind="said"]')
    expect(said.locator(".weight-moderate")).to_have_text(["hermit", "crab"])
    strip.get_by_role("button", name="Pause after").click()
    expect(said.locator(".script-sign")).to_have_text("0.30 s")
    with page.expect_response("**/lines/l4/words.wav?first=1&end=3*"):
        strip.get_by_role("button", name="Hear").click()
    strip.get_by_role("button", name="Sounds like").click()
    expect(page.locator("#said-as")).to_be_focused()


def test_lines_and_sections_move_by_keys_and_by_dragging(page: Page) -> None:
    open_words(page)
    put_caret(page, "l2", 5)
    page.keyboard.press("Alt+ArrowDown")
    expect_rows(
        page,
        1,
        ["An anemone closes like a fist when a shadow crosses it.", "What it forgets, it keeps in pools."],
    )
    expect(shown(page, "l2")).to_be_focused()
    page.keyboard.press("Control+z")
    expect_rows(page, 1, ["What it forgets, it keeps in pools."])
    grip = page.locator('.srow[data-line="l1"] [data-grip]').bounding_box()
    target = page.locator('.srow[data-line="l3"]').bounding_box()
    assert grip is not None
    assert target is not None
    page.mouse.move(grip["x"] + 10, grip["y"] + 10)
    page.mouse.down()
    page.mouse.move(grip["x"] + 10, target["y"] + target["height"] - 4, steps=8)
    page.mouse.up()
    expect_rows(page, 2, ["Twice a day, the sea leaves Marrow Bay."])
    expect(page.get_by_role("button", name="Undo")).to_have_attribute("title", "Line 1 moved")


def test_each_keystroke_tells_how_long_the_line_would_be(page: Page) -> None:
    open_words(page)
    length = page.locator('.srow[data-line="l2"] .slength')
    expect(length).to_contain_text("1.98 of 3.55 s")
    put_caret(page, "l2", 0)
    page.keyboard.type("In the long and patient dark between the tides of two days, ")
    expect(length).to_contain_text("too many")
    expect(length).to_contain_text("spills")
    page.keyboard.press("Escape")
    expect(length).to_contain_text("stale")


def test_what_is_typed_stands_in_every_pass_and_the_choice_stays(page: Page) -> None:
    open_words(page)
    put_caret(page, "l5", 0)
    page.keyboard.type("Oh. ")
    page.keyboard.press("Escape")
    for key, found in (
        ("4", '#page .caption[data-line="l5"]'),
        ("3", '#who-says [data-line="l5"]'),
        ("5", '.proof-card[data-caption="c5"] button'),
    ):
        page.keyboard.press(key)
        place = page.locator(found)
        if key == "5":
            expect(place).to_have_attribute("aria-pressed", "true")
            expect(place).to_have_attribute(
                "aria-label", "Caption 5: Oh. Home is a groove. I ground it to fit."
            )
        else:
            expect(place).to_contain_text("Oh. Home is a groove.")
            expect(place).to_have_class(re.compile("chosen"))
    time = page.locator("#time").inner_text()
    page.keyboard.press("2")
    expect(page.locator('.srow[data-line="l5"]')).to_have_class(re.compile("chosen"))
    assert page.locator("#time").inner_text() == time

"""The shelf and filling from it, as an editor uses them: found by words, seen before use, laid, kept,
filled."""

from collections.abc import Callable
from pathlib import Path

import pytest
from playwright.sync_api import Page, Route, expect

from tests.browser.application import served

SCRIPT = """# The keeper

Every evening the keeper climbs the lighthouse and lights the lamp.

# Tea

He makes a cup of tea. The clock says it is late.
"""


def room(page: Page) -> None:
    page.keyboard.press("1")
    expect(page.locator(".shelf-clips button").first).to_be_visible()


def test_a_picture_is_found_by_words_seen_and_laid(page: Page) -> None:
    room(page)
    page.locator('#picture-page [data-shot="s3"] .shot-label').click()
    page.get_by_label("Words of a clip").fill("lighthouse")
    tile = page.locator('.shelf-clips [data-item="sea-lighthouse"]')
    expect(page.locator(".shelf-clips li")).to_have_count(1)
    first = tile.locator("img").get_attribute("src")
    tile.hover()
    expect(page.locator(".shelf-about")).to_contain_text(
        "CC0-1.0, drawn by Fox Cadence; commercial use allowed"
    )
    expect(tile.locator("img")).not_to_have_attribute("src", str(first))
    tile.click()
    expect(page.locator("#notice")).to_contain_text("Lighthouse laid as shot 4")
    expect(page.locator('#picture-page [data-shot="s10"] .shot-label')).to_contain_text("Lighthouse")
    page.locator("header").get_by_role("button", name="Undo").click()
    expect(page.locator('#picture-page [data-shot="s10"]')).to_have_count(0)


def test_the_words_of_a_line_are_offered_and_backgrounds_take_the_colours(page: Page) -> None:
    room(page)
    page.locator('#picture-page [data-line="l6"]').first.click()
    expect(page.locator("#line-words")).to_contain_text("from line 7: turn, starfish")
    page.locator("#line-words").click()
    expect(page.locator(".shelf-clips [data-item]").first).to_contain_text("starfish")
    page.get_by_label("Words of a clip").fill("")
    page.locator('[data-wish="kind"]').select_option("background")
    dots = page.locator('.shelf-clips [data-item="ground-dots"] img')
    expect(dots).to_be_visible()
    before = dots.get_attribute("src")
    page.locator('[data-colour="1"]').fill("#aa2200")
    expect(dots).not_to_have_attribute("src", str(before))


def test_the_words_of_the_line_chosen_before_are_not_offered_for_the_next(page: Page) -> None:
    """Until the words of the chosen line are there, the button still says the line it has words of."""
    room(page)
    page.locator('#picture-page [data-line="l2"]').first.click()
    button = page.locator("#line-words")
    expect(button).to_contain_text("from line 2")
    expect(button).to_be_enabled()
    held: list[Route] = []
    page.route("**/shelf?*", lambda route: held.append(route))
    with page.expect_request("**/shelf?*"):
        page.locator('#picture-page [data-line="l7"]').first.click()
    expect(button).to_be_disabled()
    expect(button).to_contain_text("from line 2")
    for route in held:
        route.continue_()
    expect(button).to_be_enabled()
    expect(button).to_contain_text("from line 8")


def test_a_clip_is_kept_for_all_projects(page: Page) -> None:
    room(page)
    page.locator('[data-wish="source"]').select_option("piece")
    page.locator(".shelf-clips [data-item]").filter(has_text="crab").hover()
    page.locator("#keep-open").click()
    page.get_by_label("Words it is found by").fill("pincers claw red")
    page.get_by_label("Licence", exact=True).fill("our own")
    page.get_by_label("commercial use allowed").uncheck()
    page.locator(".shelf-form").get_by_role("button", name="Keep").click()
    page.get_by_label("Words of a clip").fill("pincer")
    expect(page.locator(".shelf-clips li")).to_have_count(1)
    page.locator(".shelf-clips [data-item]").hover()
    expect(page.locator(".shelf-about")).to_contain_text("our own; not for commercial use")
    page.locator("#keep-end").click()
    expect(page.locator("#notice")).to_contain_text("Taken off your shelf")
    expect(page.locator(".shelf-clips li")).to_have_count(0)


def test_a_line_is_filled_looked_over_changed_and_undone(page: Page) -> None:
    room(page)
    page.locator('#picture-page [data-line="l2"]').first.click()
    page.locator("#fill-open").click()
    page.locator("#fill-plan").click()
    shots = page.locator("#fill-panel tbody tr")
    expect(shots).to_have_count(1)
    title = shots.first.locator("b").inner_text()
    shots.first.locator(".fill-others button").first.click()
    expect(shots.first.locator("b")).not_to_have_text(title)
    chosen = shots.first.locator("b").inner_text()
    before = page.locator("header").inner_text()
    page.locator("#fill-accept").click()
    expect(page.locator("#notice")).to_contain_text("1 shot laid. Undo takes all of them back.")
    expect(page.locator('#picture-page [data-shot="s2"] .shot-label')).to_contain_text(chosen)
    page.locator("header").get_by_role("button", name="Undo").click()
    expect(page.locator('#picture-page [data-shot="s2"] .shot-label')).to_contain_text("Rocks")
    assert before


@pytest.mark.long
def test_words_alone_become_a_piece_that_can_be_watched(
    tmp_path: Path, open_page: Callable[[str], Page]
) -> None:
    words = tmp_path / "keeper.md"
    words.write_text(SCRIPT)
    with served(tmp_path / "data") as address:
        page = open_page(f"{address}/new")
        page.get_by_label("Name", exact=True).fill("The keeper")
        page.locator("select[name=size]").select_option("1080x1080")
        page.locator("#files").set_input_files([words])
        page.get_by_label("Words alone: finish the piece").check()
        page.get_by_role("button", name="Make the project").click()
        page.wait_for_url("**/projects/*", timeout=240_000)
        expect(page.locator("#page .shot").first).to_be_visible()
        expect(page.locator("#voice-open")).to_have_text("All voiced")
        page.keyboard.press("1")
        labels = page.locator("#picture-page .shot-label")
        expect(labels.first).to_contain_text("Lighthouse")
        expect(page.locator('.pass[data-pass="fit"]')).not_to_contain_text("spills")

"""The docket: from choice to proof, rows of one's own, and dockets that are kept."""

from collections.abc import Callable
from pathlib import Path

import pytest
from playwright.sync_api import Page, Route, expect

from tests.browser.application import served
from tests.media import files


@pytest.mark.long
def test_a_square_video_is_chosen_made_and_proven(small_demo: Path, open_page: Callable[[str], Page]) -> None:
    with served(small_demo) as address:
        page = open_page(f"{address}/projects/marrow-bay")
        page.locator("#welcome").get_by_role("button", name="Close").click()
        page.keyboard.press("7")
        for row in ("video", "sound", "captions"):
            page.locator(f"#wants-{row}").uncheck()
        expect(page.locator("#wants-captions")).not_to_be_checked()  # and does not vanish under the hand
        page.locator("#all-rows").click()
        square = page.locator('[data-product="square"]')
        square.get_by_role("button", name="Square video").click()
        expect(page.locator("#row-title")).to_have_text("Square video")
        expect(square).to_contain_text("216 × 216")
        page.locator("#wants-square").check()
        page.locator("#wants-stems").check()
        page.locator("#prove-after").check()
        page.get_by_role("button", name="Make 2 of them").click()
        # each row says what was found in it, and the chosen one shows it: the last whose box was ticked
        stems = page.locator('[data-product="stems"]')
        expect(square.get_by_text("in sync", exact=True)).to_be_visible(timeout=300_000)
        expect(stems.get_by_text("in sync", exact=True)).to_be_visible(timeout=60_000)
        expect(stems).to_contain_text("low-tide-at-marrow-bay-stems-mix.wav")
        expect(stems).to_contain_text("more")
        expect(page.locator("#verdict")).to_have_text(
            "low-tide-at-marrow-bay-stems-mix.wav is in sync, as planned."
        )
        expect(square.get_by_role("link")).to_have_text("low-tide-at-marrow-bay-square.mp4")
        square.get_by_role("button", name="Square video", exact=True).click()
        expect(page.locator("#verdict")).to_have_text(
            "low-tide-at-marrow-bay-square.mp4 is in sync: 1167 frames, as planned."
        )
        with page.expect_download() as download:
            page.get_by_role("link", name="low-tide-at-marrow-bay-square-mp4-proof.html").click()
        assert "in sync" in Path(download.value.path()).read_text()
        # what is made of another row leaves these where they are
        page.locator("#wants-square").uncheck()
        page.locator("#wants-stems").uncheck()
        page.locator("#wants-cues").check()
        page.locator("#wants-captions").check()
        page.get_by_role("button", name="Make 2 of them").click()
        expect(page.locator('[data-product="cues"]')).to_contain_text("low-tide-at-marrow-bay-cues.csv")
        expect(page.locator("#verdict")).to_have_text("low-tide-at-marrow-bay.srt is in sync, as planned.")
        expect(page.locator("#proof")).to_contain_text("16 of 16")
        expect(square.get_by_role("link")).to_have_count(1)
        # one row alone is made again, of what the piece is by now
        page.get_by_role("button", name="Undo").click()
        cues = page.locator('[data-product="cues"]')
        expect(cues).to_contain_text("of revision")
        cues.get_by_role("button", name="Make it again").click()
        expect(cues).not_to_contain_text("of revision")
        expect(page.locator('[data-product="captions"]')).to_contain_text("of revision")
        page.close()


def test_a_row_is_doubled_set_kept_and_taken_again(page: Page) -> None:
    page.keyboard.press("7")
    page.locator("#all-rows").click()
    loop = page.locator('[data-product="gif"]')
    loop.get_by_role("button", name="Loop").click()
    page.locator("#row-double").click()
    expect(page.locator("#row-title")).to_have_text("Gif 2")
    second = page.locator('[data-product="gif-2"]')
    expect(page.locator("#wants-gif-2")).to_be_checked()
    settings = page.locator("#row-settings")
    settings.get_by_role("button", name="WebP, silent").click()
    page.locator("#row-from").fill("2")
    page.locator("#row-from").press("Tab")
    page.locator("#row-to").fill("3")
    page.locator("#row-to").press("Tab")
    expect(second).to_contain_text("WebP silent")
    expect(settings).to_contain_text("a part")
    settings.get_by_role("button", name="other", exact=True).click()
    page.locator("#row-width").fill("641")
    page.locator("#row-width").press("Tab")
    expect(page.locator("#notice")).to_contain_text("must be even numbers")
    expect(page.locator("#row-width")).not_to_have_value("641")
    page.locator("#kept-name").fill("Teasers")
    page.locator("#keep-docket").click()
    expect(page.locator("#notice")).to_contain_text("Kept as “Teasers” for all projects")
    page.locator("#row-remove").click()
    expect(second).to_have_count(0)
    page.reload()
    expect(page.locator("#page .shot").first).to_be_visible()
    page.keyboard.press("7")
    expect(second).to_have_count(0)
    page.locator("#take-docket").select_option("Teasers")
    expect(second).to_have_count(1)
    second.get_by_role("button", name="Gif 2").press("Enter")
    expect(page.locator("#row-title")).to_be_focused()  # its settings are one key away, and so is the row
    page.keyboard.press("Escape")
    expect(second.get_by_role("button", name="Gif 2")).to_be_focused()
    expect(page.locator("#row-settings")).to_contain_text("the whole piece")  # a part is one piece's own
    page.locator('[data-forget="Teasers"]').click()
    expect(page.locator("#notice")).to_contain_text("“Teasers” is no longer kept")
    expect(page.locator("#take-docket")).to_be_hidden()


@pytest.mark.long
def test_what_stands_under_the_finished_video_does_not_move_when_it_is_known(
    small_demo: Path, open_page: Callable[[str], Page]
) -> None:
    with served(small_demo) as address:
        page = open_page(f"{address}/projects/marrow-bay")
        held: list[Route] = []
        page.route("**/*look.mp4", lambda route: held.append(route))
        page.locator("#welcome").get_by_role("button", name="Close").click()
        page.keyboard.press("7")
        for row in ("video", "sound", "captions"):
            page.locator(f"#wants-{row}").uncheck()
        page.locator("#all-rows").click()
        page.locator("#wants-look").check()
        page.locator("#export").click()
        watch = page.locator("#watch")
        expect(watch).to_be_visible(timeout=300_000)
        before = watch.bounding_box()
        for route in held:
            route.continue_()
        expect(watch).to_have_js_property("videoWidth", 216)
        after = watch.bounding_box()
        assert before is not None
        assert after is not None
        assert before["height"] == after["height"]
        page.close()


def test_two_projects_are_made_in_a_batch_and_kept_the_second_time(page: Page, tmp_path: Path) -> None:
    address = page.url.split("/projects")[0]
    page.goto(f"{address}/")
    page.get_by_role("link", name="Batch").click()
    expect(page.locator("#begin-batch")).to_be_disabled()
    projects = page.locator("#batch-projects li")
    for name in ("Low tide", "Bajamar"):
        projects.filter(has_text=name).get_by_role("checkbox").check()
    for product in ("Captions", "Cue sheet"):
        page.get_by_label(product, exact=True).check()
    page.get_by_label("voice open lines first").uncheck()
    page.locator("#batch-prove").check()
    page.get_by_text("Parts of one work").click()
    page.get_by_label("Title").fill("Marrow Bay")
    (tmp_path / "words.png").write_text("no picture")
    page.locator("#work-cover").set_input_files(tmp_path / "words.png")
    expect(page.locator("#batch-message")).to_contain_text("words.png")
    page.locator("#work-cover").set_input_files(files.still(tmp_path / "pool.png", size=(640, 400)))
    shown = page.locator("#cover-shown")
    expect(shown).to_be_visible()
    expect(page.locator("#batch-message")).to_be_hidden()
    assert shown.evaluate("async (image) => { await image.decode(); return image.naturalWidth; }") == 640
    with page.expect_download() as download:
        page.locator("#write-batch").click()
    written = Path(download.value.path()).read_text()
    assert 'products = ["captions", "cues"]' in written
    assert 'cover_hash = "' in written
    page.get_by_role("button", name="No cover").click()
    expect(shown).to_be_hidden()
    begin = page.locator("#begin-batch")
    expect(begin).to_have_text("Make them for 2 projects")
    begin.click()
    expect(page.locator("#batch-counts")).to_have_text("4 made", timeout=120_000)
    captions = page.locator("#batch-table tbody tr").filter(has_text="Bajamar").filter(has_text="Captions")
    expect(captions).to_contain_text("made, in sync")
    with page.expect_download() as made:
        captions.get_by_role("link", name=".srt").click()
    assert "-->" in Path(made.value.path()).read_text()
    begin.click()
    expect(page.locator("#batch-counts")).to_have_text("4 there already")
    page.reload()
    expect(page.locator("#batch-counts")).to_have_text("4 there already")

"""The picture room: shots beside their clips, moved, cut, slipped and laid in from the shelf."""

import re
from pathlib import Path

import numpy as np
import pytest
from playwright.sync_api import Locator, Page, expect

from tests.media import files
from tests.media.joins import film, scene

SHOTS = "#picture-page .shot"


@pytest.fixture
def room(page: Page) -> Page:
    page.keyboard.press("1")
    expect(page.locator(SHOTS).first).to_be_visible()
    return page


def box(found: Locator) -> tuple[float, float, float, float]:
    found.scroll_into_view_if_needed()
    at = found.bounding_box()
    assert at is not None
    return at["x"], at["y"], at["width"], at["height"]


def drag(page: Page, start: tuple[float, float], end: tuple[float, float]) -> None:
    page.mouse.move(*start)
    page.mouse.down()
    page.mouse.move((start[0] + end[0]) / 2, (start[1] + end[1]) / 2)
    page.mouse.move(*end)
    page.mouse.up()


def names(page: Page) -> list[str]:
    page.locator("#picture-page-scroller").evaluate("e => e.scrollTo(0, 0)")
    found: list[str] = page.evaluate("""async () => {
        const project = document.querySelector("[data-project]").dataset.project;
        const told = await (await fetch(`/api/projects/${project}/timeline`)).json();
        return told.shots.map((shot) => shot.name);
    }""")
    return found


def notice(page: Page, words: str) -> None:
    expect(page.locator("#notice")).to_contain_text(words)


def test_the_part_of_a_clip_is_moved_and_cut_on_its_strip(room: Page) -> None:
    window = room.get_by_label("Part of its clip in shot 2")
    x, y, width, height = box(window)
    drag(room, (x + width / 2, y + height / 2), (x + width / 2 + 30, y + height / 2))
    notice(room, "Part of its clip in shot 2")
    begins = int(window.get_attribute("aria-valuenow") or 0)
    assert begins > 15
    expect(room.locator("#shot-length")).to_have_count(1)
    x, y, width, height = box(window)
    drag(room, (x + width - 3, y + height / 2), (x + width - 43, y + height / 2))
    expect(room.locator(SHOTS).nth(1)).not_to_contain_text("4.00 s")
    assert window.get_attribute("aria-valuenow") == str(begins)
    window.focus()
    room.keyboard.press("ArrowRight")
    expect(window).to_have_attribute("aria-valuenow", str(begins + 1))
    room.keyboard.press("Control+z")
    expect(window).to_have_attribute("aria-valuenow", str(begins))
    locked = room.get_by_label("Part of its clip in shot 1")
    locked.focus()
    room.keyboard.press("ArrowRight")
    notice(room, "Shot 1 is locked")


def test_a_shot_is_dragged_to_another_place_and_its_words_come_along(room: Page) -> None:
    x, y, width, height = box(room.locator('#picture-page [data-shot="s3"] .shot-label'))
    _, top, _, tall = box(room.locator('#picture-page [data-shot="s2"].shot'))
    drag(room, (x + width / 2, y + height / 2), (x + width / 2, top + tall * 0.2))
    notice(room, "Shot 3 moved to place 2")
    assert names(room)[:3] == ["Bay", "Anemone", "Rocks"]
    room.keyboard.press("2")
    expect(room.locator(".srow").nth(1)).to_contain_text("An anemone")
    room.keyboard.press("1")
    room.locator('#picture-page [data-shot="s3"] .shot-label').focus()
    room.keyboard.press("Alt+ArrowDown")
    notice(room, "Shot 2 moved to place 3")
    assert names(room)[:3] == ["Bay", "Rocks", "Anemone"]


def test_a_shot_is_split_where_one_stands_frozen_slowed_and_joined(room: Page) -> None:
    room.locator('#picture-page [data-shot="s2"] .shot-label').click()
    room.keyboard.press("u")
    notice(room, "The shot begins here")
    for _ in range(10):
        room.keyboard.press("ArrowRight")
    room.keyboard.press("u")
    notice(room, "Shot 2 split at frame 10")
    expect(room.locator("[data-pass=picture]")).to_contain_text("10 shots")
    room.locator("#join-shots").click()
    notice(room, "Shots 2 and 3 joined")
    expect(room.locator("[data-pass=picture]")).to_contain_text("9 shots, 38.9 s")
    room.locator("#freeze-frames").fill("45")
    room.locator("#freeze-here").click()
    notice(room, "Frame 10 of shot 2 frozen")
    expect(room.locator("[data-pass=picture]")).to_contain_text("11 shots, 40.4 s")
    expect(room.locator("#picture-page .shot-name", has_text="held")).to_have_count(1)
    room.keyboard.press("Control+z")
    expect(room.locator("[data-pass=picture]")).to_contain_text("9 shots")
    room.locator("#shot-speed").fill("80")
    room.locator("#shot-speed").press("Enter")
    expect(room.locator("#picture-page")).to_contain_text("at 80 % of its speed")
    expect(room.locator("[data-pass=picture]")).to_contain_text("39.9 s")


def test_what_becomes_of_the_time_of_a_deleted_shot_is_asked_once(room: Page) -> None:
    room.locator('#picture-page [data-shot="s2"] .shot-label').click()
    room.locator("#delete-shot").click()
    room.get_by_role("button", name="A plain colour stays").click()
    notice(room, "Picture of shot 2 deleted, its time kept")
    expect(room.locator("[data-pass=picture]")).to_contain_text("9 shots, 38.9 s")
    expect(room.locator("#picture-page")).to_contain_text("a plain colour")
    room.get_by_role("button", name="Ask again").click()
    room.locator('#picture-page [data-shot="s3"] .shot-label').click()
    room.locator("#delete-shot").click()
    room.get_by_role("button", name="What follows moves up").click()
    expect(room.locator("[data-pass=picture]")).to_contain_text("8 shots, 35.7 s")
    room.locator('#picture-page [data-shot="s4"] .shot-label').click()
    room.locator("#delete-shot").click()  # remembered
    expect(room.locator("[data-pass=picture]")).to_contain_text("7 shots")


def test_a_shot_becomes_the_next_in_a_way_that_is_chosen(room: Page) -> None:
    room.locator('#picture-page [data-shot="s2"] .shot-label').click()
    room.locator("[data-transition=push]").click()
    notice(room, "Shot 2 becomes the next in 15 frames, push")
    expect(room.locator(".join")).to_have_text("push, 15 frames")
    room.locator("#transition-frames").fill("8")
    room.locator("#transition-frames").press("Tab")
    expect(room.locator(".join")).to_have_text("push, 8 frames")
    room.get_by_role("button", name="At every cut").click()
    notice(room, "Every cut: push in 8 frames")
    expect(room.locator(".join")).to_have_count(8)
    room.locator("#transition-frames").fill("500")
    room.locator("#transition-frames").press("Tab")
    notice(room, "Fewer frames would do")
    expect(room.locator(".join").nth(1)).to_have_text("push, 8 frames")


def test_the_room_keeps_to_its_side_in_a_small_window(room: Page) -> None:
    room.set_viewport_size({"width": 1024, "height": 768})
    border = room.locator(".right").bounding_box()
    assert border is not None
    for part in (".shelf", "#picture-page", ".shelf-adds"):
        x, _, width, _ = box(room.locator(part))
        assert x + width <= border["x"] + 1, part


def test_clips_come_to_the_shelf_and_from_there_between_shots(room: Page, tmp_path: Path) -> None:
    film = files.video(tmp_path / "heron.mp4", 1.5)
    room.locator("#shelf-files").set_input_files([film, files.still(tmp_path / "gull.png")])
    notice(room, "Added 2 clips to the shelf")
    shelf = room.locator(".shelf")
    expect(shelf).to_contain_text("heron")
    expect(room.locator("[data-pass=picture]")).to_contain_text("9 shots")
    shelf.get_by_label("Words of a clip").fill("heron")
    expect(shelf.locator("[data-clip]")).to_have_count(1)
    expect(shelf.locator("[data-clip]")).to_contain_text("not used")
    room.locator(SHOTS).first.scroll_into_view_if_needed()
    shelf.locator("[data-clip]").drag_to(
        room.locator('#picture-page [data-shot="s1"].shot'), target_position={"x": 20, "y": 6}
    )
    notice(room, "Shot 1 added, heron")
    assert names(room)[:2] == ["heron", "Bay"]
    expect(shelf.locator("[data-clip]")).not_to_contain_text("not used")


def test_a_long_video_becomes_shots_where_its_picture_changes(room: Page, tmp_path: Path) -> None:
    rng = np.random.default_rng(5)
    footage = np.concatenate([scene(rng, length, "pan") for length in (40, 50, 35, 45)])
    room.locator('#picture-page [data-shot="s2"] .shot-label').click()
    room.locator("#add-pictures").set_input_files([film(tmp_path / "long.mp4", footage, 30)])
    notice(room, "Added 1 shot")
    room.locator(SHOTS, has_text="long").locator(".shot-label").click()
    room.locator("#find-cuts").click()
    notice(room, "3 changes of picture found")
    found = room.locator("#found-cuts tr")
    expect(found).to_have_count(3)
    expect(room.locator(".material-cut")).to_have_count(3)
    found.nth(1).locator("input").uncheck()
    expect(room.locator(".material-cut.off")).to_have_count(1)
    found.nth(2).get_by_role("button", name="See it").click()
    expect(room.locator("#make-shots")).to_have_text("Make 3 shots of it")
    room.locator("#make-shots").click()
    notice(room, "3 shots made of shot 3")
    expect(room.locator("[data-pass=picture]")).to_contain_text("12 shots")
    expect(room.locator(SHOTS, has_text="2.83 s")).to_have_count(1)  # 50 and 35 frames stay one
    room.keyboard.press("Control+z")
    expect(room.locator("[data-pass=picture]")).to_contain_text("10 shots")


def test_what_a_change_of_the_picture_does_to_the_fit_is_said_at_once(room: Page) -> None:
    room.locator('#picture-page [data-shot="s4"] .shot-label').click()
    room.locator("#shot-length").fill("108")
    room.locator("#shot-length").press("Tab")
    expect(room.locator("#notice")).to_contain_text(re.compile(r"line 4 now spills \d\.\d\d s"))

"""Adjustments on the page: what the preview shows is what is exported; set, compared, copied, undone."""

import re
from collections.abc import Callable
from pathlib import Path

import av
import numpy as np
import pytest
from playwright.sync_api import Page, expect

from fox_cadence.core.adjustment import Adjustment, table_of
from fox_cadence.core.framing import PLAIN, Framing
from fox_cadence.core.looks import LOOKS, shipped_look
from fox_cadence.core.overlay import Laid
from fox_cadence.media.adjuster import Adjuster
from fox_cadence.media.framer import Framer
from fox_cadence.media.overlay_paint import paint_laid
from fox_cadence.media.plates import blend
from fox_cadence.media.render import plain_colour
from fox_cadence.web.answers.rows import adjustment_json, framing_json, laid_json
from tests.browser.test_framing import as_rgb, from_page, in_page
from tests.media.joins import smooth
from tests.media.test_cube import written

FRAME = (360, 640)
KINDS = {
    "exposure and contrast": Adjustment(exposure=0.5, contrast=1.2),
    "white and saturation": Adjustment(warmth=30, tint=-15, saturation=1.3),
    "a look": Adjustment(look="slack-water", look_share=0.8),
    "sharpness": Adjustment(sharpness=1.0),
    "vignette": Adjustment(vignette=0.7),
    "on a colour": Adjustment(exposure=-0.7),
}


@pytest.mark.parametrize("kind", list(KINDS))
def test_the_preview_shows_what_is_exported(page: Page, kind: str) -> None:
    adjustment = KINDS[kind]
    framing = Framing(fit="colour", colour="#c0a080") if kind == "on a colour" else Framing()
    picture = np.clip(smooth(np.random.default_rng(5), 640, 360, 20), 0, 255).astype(np.uint8)
    shown = page.evaluate(
        """async ([data, framing, adjustment, frame]) => {
            const { drawShot } = await import("/static/scripts/frame/shot_picture.js");
            const { Colours, coloursKey } = await import("/static/scripts/frame/adjusting.js");
            const bytes = Uint8ClampedArray.from(atob(data), (sign) => sign.charCodeAt(0));
            const image = await createImageBitmap(new ImageData(bytes, frame[0], frame[1]));
            const canvas = document.createElement("canvas");
            [canvas.width, canvas.height] = frame;
            const context = canvas.getContext("2d");
            const key = coloursKey(adjustment);
            const table = await new Promise((come) => {
                const colours = new Colours(() => come(colours.get(key)));
                const there = colours.get(key);
                if (there || !key) come(there);
            });
            drawShot(context, image, frame, { framing, adjustment }, 0.5, table);
            const drawn = context.getImageData(0, 0, frame[0], frame[1]).data;
            let text = "";
            for (const value of drawn) text += String.fromCharCode(value);
            return btoa(text);
        }""",
        [
            in_page(picture),
            framing_json(framing),
            adjustment_json(adjustment),
            list(FRAME),
        ],
    )
    there = from_page(shown)
    look = shipped_look(adjustment.look)
    adjuster = Adjuster(adjustment, table_of(adjustment, look.table() if look else None))
    ground = plain_colour(framing.colour, *FRAME)
    frame = av.VideoFrame.from_ndarray(picture, format="rgb24")
    planes = Framer(*FRAME, framing, ground, adjuster).planes(frame, 0.5)
    made = as_rgb(planes)
    off = np.abs(there.astype(int) - made.astype(int))
    high, wide = FRAME[1] // 40 * 40, FRAME[0] // 40 * 40
    blocks = off[:high, :wide].reshape(high // 40, 40, wide // 40, 40, 3).mean(axis=(1, 3, 4))
    print(f"{kind}: mean {off.mean():.2f}, worst block of 40 {blocks.max():.2f}")
    assert off.mean() < 3
    assert blocks.max() < 9


@pytest.mark.parametrize("picture", ["bent-arrow", "ring", "bubble", "oval"])
def test_what_is_laid_over_a_shot_looks_the_same_in_both(page: Page, picture: str) -> None:
    whole = picture == "oval"
    laid = Laid(
        id="o1", picture=picture, x=0.5 if whole else 0.4, y=0.5 if whole else 0.3, size=1 if whole else 0.6,
        turn=0 if whole else 24, opacity=0.8,
    )  # fmt: skip
    ground = np.full((FRAME[1], FRAME[0], 3), 120, np.uint8)
    planes = [
        np.array(plane)
        for plane in Framer(*FRAME, PLAIN, plain_colour("#000000", *FRAME)).planes(
            av.VideoFrame.from_ndarray(ground, format="rgb24"), 0
        )
    ]
    paint = paint_laid(laid, *FRAME)
    assert paint is not None
    blend((planes[0], planes[1], planes[2]), paint)
    made = as_rgb((planes[0], planes[1], planes[2]))
    drawn = page.evaluate(
        """async ([row, frame]) => {
            const { drawLaid } = await import("/static/scripts/frame/laid.js");
            const canvas = document.createElement("canvas");
            [canvas.width, canvas.height] = frame;
            const context = canvas.getContext("2d");
            context.fillStyle = "rgb(120, 120, 120)";
            context.fillRect(0, 0, ...frame);
            drawLaid(context, [row], 0.5);
            let text = "";
            for (const value of context.getImageData(0, 0, ...frame).data) text += String.fromCharCode(value);
            return btoa(text);
        }""",
        [laid_json(laid, FRAME[0] / FRAME[1]), list(FRAME)],
    )
    off = np.abs(from_page(drawn).astype(int) - made.astype(int))
    high, wide = FRAME[1] // 40 * 40, FRAME[0] // 40 * 40
    blocks = off[:high, :wide].reshape(high // 40, 40, wide // 40, 40, 3).mean(axis=(1, 3, 4))
    print(f"{picture}: mean {off.mean():.2f}, worst block of 40 {blocks.max():.2f}")
    assert off.mean() < 2
    assert blocks.max() < 9


def test_a_picture_is_laid_over_a_shot_moved_and_taken_off(page: Page) -> None:
    page.keyboard.press("1")
    page.locator('#picture-page [data-shot="s3"] .shot-label').click()
    was = middle_of_frame(page)
    page.get_by_label("Words of a clip").fill("disc point")
    page.locator('.shelf-clips [data-item="over-dot"]').click()
    expect(page.locator("#notice")).to_contain_text("Dot laid over shot 3")
    seen(page, lambda now: abs(now - was) > 4)
    size = page.get_by_label("Size of Dot", exact=True)
    size.fill("0.02")
    size.press("Enter")
    expect(page.locator("#laid")).to_contain_text("Dot")
    seen(page, lambda now: abs(now - was) < 2)
    page.locator("#laid").get_by_role("button", name="Take off").click()
    expect(page.locator("#laid")).to_be_hidden()
    seen(page, lambda now: now == was)


def test_a_shot_is_adjusted_compared_and_copied_to_another(page: Page, tmp_path: Path) -> None:
    page.keyboard.press("1")
    page.locator('#picture-page [data-shot="s6"] .shot-label').click()
    was = middle_of_frame(page)
    exposure = page.get_by_label("Exposure of the picture", exact=True)
    exposure.fill("-1.5")
    exposure.press("Enter")
    expect(page.locator("#notice")).to_contain_text("Adjustment of shot 6")
    seen(page, lambda now: now < was * 0.75)
    exposure.blur()
    page.keyboard.down("o")
    seen(page, lambda now: now == was)
    page.keyboard.up("o")
    seen(page, lambda now: now < was * 0.75)

    look = tmp_path / "Night dive.cube"
    look.write_bytes(written(LOOKS[4].table()))
    page.locator("#look-file").set_input_files(look)
    expect(page.locator("#look")).to_have_value(re.compile("^[0-9a-f]{64}$"))
    page.locator("#copy-adjustment").click()
    page.locator('#picture-page [data-shot="s3"] .shot-label').click()
    expect(exposure).to_have_value("0")
    page.locator("#apply-adjustment").click()
    expect(page.locator("#notice")).to_contain_text("Adjustment of shot 3")
    expect(exposure).to_have_value("-1.5")
    expect(page.locator("#look")).to_have_value(re.compile("^[0-9a-f]{64}$"))
    page.locator("#reset-adjustment").click()
    expect(exposure).to_have_value("0")
    for _ in range(5):
        page.locator("header").get_by_role("button", name="Undo").click()
    page.locator('#picture-page [data-shot="s6"] .shot-label').click()
    expect(exposure).to_have_value("0")
    seen(page, lambda now: now == was)

    broken = tmp_path / "No look.cube"
    broken.write_text("LUT_3D_SIZE 2\n0 0 0\n")
    page.locator("#look-file").set_input_files(broken)
    expect(page.locator("#notice")).to_contain_text("needs 8")


def middle_of_frame(page: Page) -> float:
    """How light the middle of the frame is, of 255."""
    found = page.locator(".framebox canvas").evaluate(
        """(canvas) => {
            const { data } = canvas.getContext("2d").getImageData(
                canvas.width / 4, canvas.height / 4, canvas.width / 2, canvas.height / 2);
            let sum = 0;
            for (let at = 0; at < data.length; at += 4) sum += data[at] + data[at + 1] + data[at + 2];
            return sum / data.length * 4 / 3;
        }"""
    )
    return float(found)


def seen(page: Page, right: Callable[[float], bool]) -> None:
    """Wait until the frame is as it should be."""
    for _ in range(60):
        if right(middle_of_frame(page)):
            return
        page.wait_for_timeout(100)
    pytest.fail(f"the frame is {middle_of_frame(page):.1f}")

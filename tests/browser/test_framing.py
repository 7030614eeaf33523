"""What the preview shows of framing and transitions is what is exported."""

import base64
from typing import Any

import av
import numpy as np
import pytest
from hypothesis import given, settings
from numpy.typing import NDArray
from playwright.sync_api import Page, expect

from fox_cadence.core.framing import PLAIN, Framing, view
from fox_cadence.core.transition import TRANSITIONS, TransitionKind
from fox_cadence.media.framer import Framer
from fox_cadence.media.picture import Planes
from fox_cadence.media.render import plain_colour
from fox_cadence.media.transitions import between
from fox_cadence.web.answers.rows import framing_json
from tests.core.test_framing import FRAMINGS
from tests.media.joins import smooth

FRAME = (360, 640)
KINDS: dict[str, dict[str, Any]] = {
    "fill": {"x": 0.3},
    "in": {"x": 0.7, "zoom": 1.4, "movement": "in", "amount": 0.2},
    "across": {"movement": "across", "amount": 0.3},
    "turned": {"turns": 1, "mirror": True, "x": 0.2, "y": 0.7},
    "colour": {"fit": "colour", "colour": "#b03020"},
    "blur": {"fit": "blur"},
    "blur, moving out": {"fit": "blur", "movement": "out", "amount": 0.3},
}


def test_the_page_has_the_same_numbers(page: Page) -> None:
    picture, frame = (1920, 1080), (1080, 1920)
    page.evaluate("async () => { window.framed = await import('/static/scripts/frame/framing.js'); }")

    @given(FRAMINGS)
    @settings(max_examples=120, deadline=None)
    def same(framing: Framing) -> None:
        there = page.evaluate(
            "([framing, ...sizes]) => [0, 0.3, 1].map((s) => window.framed.viewOf(framing, ...sizes, s))",
            [framing_json(framing), picture, frame],
        )
        for found, share in zip(there, (0, 0.3, 1), strict=True):
            ours = view(framing, picture, frame, share)
            numbers = [found[side] for side in ("left", "top", "width", "height")]
            assert numbers == pytest.approx([ours.left, ours.top, ours.width, ours.height], abs=1e-9)

    same()


@pytest.mark.parametrize("kind", list(KINDS))
def test_the_preview_shows_what_is_exported(page: Page, kind: str) -> None:
    framing, share = Framing.model_validate(KINDS[kind]), 0.6
    picture = np.clip(smooth(np.random.default_rng(4), 360, 640, 24), 0, 255).astype(np.uint8)
    shown = preview(page, picture, framing, share)
    made = exported(picture, framing, share)
    off = np.abs(shown.astype(int) - made.astype(int))
    blocks = (
        off[: FRAME[1] // 40 * 40].reshape(FRAME[1] // 40, 40, FRAME[0] // 40, 40, 3).mean(axis=(1, 3, 4))
    )
    print(f"{kind}: mean {off.mean():.2f}, worst block of 40 {blocks.max():.2f}")
    assert off.mean() < 3
    assert blocks.max() < 9


def preview(page: Page, picture: NDArray[np.uint8], framing: Framing, share: float) -> NDArray[np.uint8]:
    high, wide = picture.shape[:2]
    found = page.evaluate(
        """async ([data, wide, high, framing, frame, share]) => {
            const { drawFramed } = await import("/static/scripts/frame/framing.js");
            const bytes = Uint8ClampedArray.from(atob(data), (sign) => sign.charCodeAt(0));
            const image = await createImageBitmap(new ImageData(bytes, wide, high));
            const canvas = document.createElement("canvas");
            [canvas.width, canvas.height] = frame;
            const context = canvas.getContext("2d");
            drawFramed(context, image, [wide, high], framing, share);
            const drawn = context.getImageData(0, 0, frame[0], frame[1]).data;
            let text = "";
            for (const value of drawn) text += String.fromCharCode(value);
            return btoa(text);
        }""",
        [in_page(picture), wide, high, framing_json(framing), FRAME, share],
    )
    return from_page(found)


def in_page(picture: NDArray[np.uint8]) -> str:
    """A picture as the page is given it."""
    high, wide = picture.shape[:2]
    return base64.b64encode(np.dstack([picture, np.full((high, wide), 255, np.uint8)]).tobytes()).decode()


def from_page(drawn: str) -> NDArray[np.uint8]:
    """A frame that the page has drawn."""
    return np.frombuffer(base64.b64decode(drawn), np.uint8).reshape(FRAME[1], FRAME[0], 4)[..., :3]


def exported(picture: NDArray[np.uint8], framing: Framing, share: float) -> NDArray[np.uint8]:
    frame = av.VideoFrame.from_ndarray(picture, format="rgb24")
    return as_rgb(Framer(*FRAME, framing, plain_colour(framing.colour, *FRAME)).planes(frame, share))


def as_rgb(planes: Planes) -> NDArray[np.uint8]:
    """Planes of BT.709 in limited range as a screen shows them."""
    y, u, v = planes
    luma = (y.astype(float) - 16) / 219
    blue, red = ((plane.repeat(2, 0).repeat(2, 1).astype(float) - 128) / 224 for plane in (u, v))
    made = np.stack([luma + 1.5748 * red, luma - 0.1873 * blue - 0.4681 * red, luma + 1.8556 * blue], axis=2)
    return np.asarray(np.clip(np.rint(made * 255), 0, 255), np.uint8)


def test_a_picture_is_dragged_in_its_frame_zoomed_and_turned(page: Page) -> None:
    page.keyboard.press("1")
    page.locator('#picture-page [data-shot="s6"] .shot-label').click()
    page.locator("#desk [data-fit=blur]").click()
    expect(page.locator("#notice")).to_contain_text("Framing of shot 6")
    expect(page.locator("#desk [data-fit=blur]")).to_have_attribute("aria-pressed", "true")
    page.locator("#desk [data-fit=fill]").click()
    zoom = page.get_by_label("Zoom of the picture", exact=True)
    zoom.fill("2")
    zoom.press("Enter")
    expect(page.locator('#picture-page [data-shot="s6"].material')).to_contain_text("2.00 times as near")
    box = page.locator(".framebox").bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 3
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x - 20, y)
    page.mouse.move(x - 40, y)
    page.mouse.up()
    across = page.get_by_label("Across of the picture", exact=True)
    expect(across).not_to_have_value("0.5")
    expected = 0.5 + 40 / box["width"] / 2
    assert abs(float(across.input_value()) - expected) < 0.02
    page.locator("[data-movement=in]").click()
    page.locator("#turn-picture").click()  # at once: the first is not lost over it
    expect(page.locator("[data-movement=in]")).to_have_attribute("aria-pressed", "true")
    material = page.locator('#picture-page [data-shot="s6"].material')
    expect(material).to_contain_text("moves in")
    for _ in range(20):  # back to before the zoom, each step seen before the next
        if zoom.input_value() == "1":
            break
        page.keyboard.press("Control+z")
        page.wait_for_timeout(300)
    expect(page.locator("#desk [data-fit=fill]")).to_have_attribute("aria-pressed", "true")
    expect(zoom).to_have_value("1")


@pytest.mark.parametrize("kind", TRANSITIONS)
def test_a_transition_looks_the_same_in_both(page: Page, kind: TransitionKind) -> None:
    rng = np.random.default_rng(8)
    one, two = (np.clip(smooth(rng, FRAME[1], FRAME[0], 40), 0, 255).astype(np.uint8) for _ in range(2))
    colour = "#c03020"
    planes = [
        Framer(*FRAME, PLAIN, plain_colour(colour, *FRAME)).planes(
            av.VideoFrame.from_ndarray(each, format="rgb24"), 0
        )
        for each in (one, two)
    ]
    worst = 0.0
    for share in (0.25, 0.6):
        made = as_rgb(between(planes[0], planes[1], share, kind, plain_colour(colour, *FRAME)))
        drawn = page.evaluate(
            """async ([one, two, frame, share, kind, colour]) => {
                const { drawNext } = await import("/static/scripts/frame/transition.js");
                const canvases = [one, two].map((data) => {
                    const made = document.createElement("canvas");
                    [made.width, made.height] = frame;
                    const bytes = Uint8ClampedArray.from(atob(data), (sign) => sign.charCodeAt(0));
                    made.getContext("2d").putImageData(new ImageData(bytes, ...frame), 0, 0);
                    return made;
                });
                const context = canvases[0].getContext("2d");
                drawNext(context, canvases[1], share, kind, colour);
                const drawn = context.getImageData(0, 0, ...frame).data;
                let text = "";
                for (const value of drawn) text += String.fromCharCode(value);
                return btoa(text);
            }""",
            [*(in_page(each) for each in (one, two)), FRAME, share, kind, colour],
        )
        off = np.abs(from_page(drawn).astype(int) - made.astype(int))
        blocks = off.reshape(FRAME[1] // 40, 40, FRAME[0] // 40, 40, 3).mean(axis=(1, 3, 4))
        worst = max(worst, float(blocks.max()))
        assert off.mean() < 3
    print(f"{kind}: worst block of 40 {worst:.2f}")
    assert worst < 9


def test_the_proof_sheet_shows_a_picture_as_it_is_framed(page: Page) -> None:
    page.keyboard.press("1")
    page.locator('#picture-page [data-shot="s3"] .shot-label').click()
    page.locator("#desk [data-fit=colour]").click()
    expect(page.locator('#picture-page [data-shot="s3"].material')).to_contain_text("whole, on a colour")
    page.locator("#turn-picture").click()
    expect(page.locator("#notice")).to_contain_text("Framing of shot 3")
    page.keyboard.press("5")
    card = page.locator('.proof-card[data-caption="c3"] canvas')
    card.scroll_into_view_if_needed()
    ground = """(canvas) => [...canvas.getContext("2d").getImageData(4, 4, 1, 1).data].slice(0, 3).join()"""
    for _ in range(40):
        if card.evaluate(ground) == "32,48,44":  # a lying picture leaves the top of the frame to its colour
            break
        page.wait_for_timeout(250)
    assert card.evaluate(ground) == "32,48,44"
    middle = """(canvas) => [...canvas.getContext("2d").getImageData(
        canvas.width / 2, canvas.height / 2, 1, 1).data].slice(0, 3).join()"""
    assert card.evaluate(middle) != "32,48,44"

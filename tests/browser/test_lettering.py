"""The lettering room: what is shown is what is exported, and what an editor does there."""

import io
import re
from typing import Any

import numpy as np
import pytest
from numpy.typing import NDArray
from PIL import Image
from playwright.sync_api import Page, expect

from fox_cadence.core.lettering.drawing import CaptionDrawing, letter
from fox_cadence.core.lettering.motion import Moments, Shown, moments, shown_at
from fox_cadence.core.lettering.style import CaptionStyle, Movement
from fox_cadence.core.lettering.styles import STYLES, TITLES
from fox_cadence.core.screen import Screen, ScreenCaption
from fox_cadence.core.ticks import FrameRate
from fox_cadence.media.fonts import faces_for
from fox_cadence.media.render import CaptionPainter, plain_colour
from fox_cadence.web.answers.lettering import drawing_json, moments_json
from tests.core.lettering.test_drawing import SENTENCES

FRAME = (360, 640)
GROUND = "#46706f"
SPOKEN = [(4, 12), (12, 16), (16, 28), (28, 36), (38, 42), (42, 44), (44, 52), (52, 60)]
TEXT = "Turn a starfish over and it rights itself."
MOMENTS = (3, 14, 33, 62, 68)
MOVES = ("fade", "rise", "sink", "slide", "type", "unroll", "grow", "tilt", "settle")


@pytest.mark.parametrize("every", [6, pytest.param(1, marks=pytest.mark.long)])
def test_every_style_and_movement_looks_the_same_in_both(page: Page, every: int) -> None:
    """Ink pixels that differ by more than 32, at four moments each: at most 0.5 %."""
    cases = {style.id: style for style in (*STYLES, *TITLES)}
    for by in ("all", "line", "word"):
        cases |= {
            f"{kind} by {by}": STYLES[1].changed(
                comes=Movement(kind=kind, seconds=0.4, by=by), goes=Movement(kind=kind, seconds=0.3)
            )
            for kind in MOVES
        }
    cases |= {
        f"spoken: {spoken}": STYLES[5].changed(spoken=spoken)
        for spoken in ("none", "lit", "swell", "underline", "fill", "box")
    }
    worst: dict[str, float] = {}
    for name, style in list(cases.items())[::every]:
        drawing = drawn(style, TEXT, "en")
        when = moments(drawing, style, SPOKEN, 0, 70, FrameRate(numerator=30))
        worst[name] = max(differing(page, drawing, when, frame) for frame in MOMENTS)
        worst[f"{name}, in the video"] = in_the_video(page, drawing, when)
    print({name: round(100 * share, 3) for name, share in sorted(worst.items(), key=lambda item: -item[1])})
    assert max(worst.values()) <= 0.005


def test_every_script_looks_the_same_in_both(page: Page) -> None:
    style = STYLES[1].changed(comes=Movement(kind="type", seconds=0.5), spoken="fill")
    worst: dict[str, float] = {}
    for language, text in {**SENTENCES, "emoji": "Look 🦀 👍🏽 🌊 there"}.items():
        drawing = drawn(style, text, language if language != "emoji" else "en")
        spoken = [(4 + 4 * n, 8 + 4 * n) for n in range(len(drawing.words))]
        when = moments(drawing, style, spoken, 0, 70, FrameRate(numerator=30))
        worst[language] = max(differing(page, drawing, when, frame) for frame in (6, 22, 50))
    print({name: round(100 * share, 3) for name, share in worst.items()})
    assert max(worst.values()) <= 0.005


def drawn(style: CaptionStyle, text: str, language: str) -> CaptionDrawing:
    return letter(text, style, faces_for(style, language), *FRAME)


def differing(page: Page, drawing: CaptionDrawing, when: Moments, frame: int) -> float:
    """The share of the pixels with ink that the preview shows by more than 32 otherwise than the export."""
    seen = preview(page, drawing, when, frame)
    made = exported(drawing, shown_at(drawing, when, frame))
    ground = np.array([int(GROUND[at : at + 2], 16) for at in (1, 3, 5)])
    ink = np.abs(made.astype(int) - ground).max(axis=-1) > 8
    off = np.abs(seen.astype(int) - made.astype(int)).max(axis=-1) > 32
    return float(off.sum()) / max(200, int(ink.sum()))


def in_the_video(page: Page, drawing: CaptionDrawing, when: Moments) -> float:
    """The same, as frame after frame is painted into a video: by its luma, for its colours are halved."""
    words = (ScreenCaption("c", drawing, 0, 70, when),)
    painter = CaptionPainter(Screen(*FRAME, FrameRate(numerator=30), (), words))
    ground = plain_colour(GROUND, *FRAME)
    worst = 0.0
    for frame in range(max(MOMENTS) + 1):
        planes = ground[0].copy(), ground[1].copy(), ground[2].copy()
        painter.paint(planes, frame)
        if frame not in MOMENTS:
            continue
        luma = 16 + preview(page, drawing, when, frame) @ np.array([0.2126, 0.7152, 0.0722]) * 219 / 255
        ink = np.abs(planes[0].astype(float) - ground[0]) > 7
        off = np.abs(luma - planes[0]) > 32 * 219 / 255
        worst = max(worst, float(off.sum()) / max(200, int(ink.sum())))
    return worst


def preview(page: Page, drawing: CaptionDrawing, when: Moments, frame: int) -> NDArray[np.uint8]:
    page.evaluate(
        """async ([drawing, when, spoken, frame, size, ground]) => {
            const { drawWords } = await import("/static/scripts/frame/words_layer.js");
            const { learnMovements, shownAt } = await import("/static/scripts/frame/movement.js");
            await learnMovements();
            let holder = document.getElementById("shown-here");
            if (!holder) {
                holder = document.createElementNS("http://www.w3.org/2000/svg", "svg");
                holder.id = "shown-here";
                document.body.replaceChildren(holder);
            }
            holder.setAttribute("width", size[0]);
            holder.setAttribute("height", size[1]);
            for (const [name, value] of Object.entries(
                { position: "fixed", left: "0", top: "0", background: ground }))
                holder.style[name] = value;
            drawWords(holder, drawing, shownAt(drawing, when, spoken, frame, false));
        }""",
        [drawing_json(drawing), moments_json(when, 0), list(when.spoken), frame, FRAME, GROUND],
    )
    taken = page.screenshot(clip={"x": 0, "y": 0, "width": FRAME[0], "height": FRAME[1]})
    return np.asarray(Image.open(io.BytesIO(taken)).convert("RGB"))


def exported(drawing: CaptionDrawing, shown: Shown) -> NDArray[np.uint8]:
    import skia

    from fox_cadence.media.caption_paint import draw

    def rgb(code: str, opacity: float) -> int:
        red, green, blue = (int(code[at : at + 2], 16) for at in (1, 3, 5))
        return int(skia.Color(red, green, blue, round(opacity * 255)))

    surface = skia.Surface(*FRAME)
    canvas = surface.getCanvas()
    canvas.clear(rgb(GROUND, 1))
    draw(canvas, drawing, shown, rgb)
    image = surface.makeImageSnapshot().toarray(colorType=skia.kRGBA_8888_ColorType)
    return np.asarray(image[..., :3], np.uint8)


def api(page: Page) -> str:
    return f"/api/projects/{page.url.rsplit('/', 1)[1]}"


def lettering(page: Page) -> dict[str, Any]:
    found: dict[str, Any] = page.evaluate(f"async () => (await fetch('{api(page)}/timeline')).json()")
    return found


def open_room(page: Page) -> None:
    page.locator('[data-pass="lettering"]').click()
    expect(page.locator(".proof-card").first).to_be_visible()


def test_all_captions_are_restyled_and_the_sheet_changes(page: Page) -> None:
    open_room(page)
    words = page.locator(".proof-card .proof-words").first
    expect(words.locator("path").first).to_be_attached()
    before = words.inner_html()
    page.locator('[data-style-id="quarry"]').click()
    page.wait_for_function(
        "before => document.querySelector('.proof-card .proof-words').innerHTML !== before", arg=before
    )
    expect(page.locator('[data-pass="lettering"]')).to_contain_text("Quarry")
    page.locator('[data-scope="caption"]').click()
    page.locator('[data-ground="band"]').click()
    expect(page.locator("#drop-own-style")).to_be_visible()
    state = lettering(page)
    assert state["lettering"]["style"]["ground"]["kind"] == "blocks"
    own = [caption for caption in state["captions"] if caption["own_style"]]
    assert [each["own_style"]["ground"]["kind"] for each in own] == ["band"]
    page.locator("#all-alike").click()
    expect(page.locator("#all-alike")).to_be_hidden()
    page.keyboard.press("Control+z")
    expect(page.locator("#all-alike")).to_be_visible()


def test_a_caption_is_dragged_on_the_frame_and_snaps(page: Page) -> None:
    open_room(page)
    page.locator('[data-scope="caption"]').click()
    card = page.locator(".proof-card[data-caption]").first
    card.locator("button").click()
    caption = card.get_attribute("data-caption")
    expect(page.locator("#overlay path").first).to_be_attached()
    box = page.locator("#frame").bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] * 0.82
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 3, y - box["height"] * 0.2, steps=4)
    expect(page.locator("#guides line").first).to_be_attached()  # the middle, which it snaps to
    page.mouse.up()
    expect(page.locator("#place-free")).to_be_visible()
    place = next(each["place"] for each in lettering(page)["captions"] if each["id"] == caption)
    assert place["x"] == 0.5
    assert 0.6 < place["y"] < 0.72
    page.locator('[data-place="top"]').click()
    page.wait_for_function(
        f"async (id) => (await (await fetch('{api(page)}/timeline')).json())"
        ".captions.find((each) => each.id === id).place.hold === 'top'",
        arg=caption,
    )
    page.locator("#place-free").click()
    expect(page.locator("#place-free")).to_be_hidden()


def test_a_title_is_made_changed_said_and_taken_off(page: Page) -> None:
    open_room(page)
    page.locator("#new-title").fill("Low tide")
    page.locator("#add-title").click()
    card = page.locator('.proof-card[data-title="n2"]')
    expect(card).to_have_class("proof-card chosen")
    expect(page.locator("#overlay")).to_have_attribute("aria-label", re.compile("On the screen: Low tide"))
    page.locator("#title-text").fill("Low tide\nat Marrow Bay")
    page.locator("#title-text").press("Tab")
    expect(page.locator(".beside .said, .said").filter(has_text="at Marrow Bay").first).to_be_visible()
    page.locator('[data-style-id="placard"]').click()
    expect(page.locator('[data-style-id="placard"]')).to_have_attribute("aria-pressed", "true")
    lines = len(lettering(page)["lines"])
    page.locator("#say-title").click()
    page.wait_for_function(
        f"async (lines) => (await (await fetch('{api(page)}/timeline')).json()).lines.length === lines + 1",
        arg=lines,
    )
    card.locator("button").click()
    page.locator("#delete-title").click()
    expect(card).to_have_count(0)


def test_lines_are_broken_by_hand_and_a_caption_is_split_and_joined(page: Page) -> None:
    open_room(page)
    page.locator(".proof-card[data-caption]").first.locator("button").click()
    word = page.locator('.break-word[data-word="2"]')
    word.click()
    expect(page.locator("#free-breaks")).to_be_visible()
    expect(word).to_have_attribute("aria-pressed", "true")
    page.locator("#free-breaks").click()
    expect(page.locator("#free-breaks")).to_be_hidden()
    cards = page.locator(".proof-card[data-caption]").count()
    page.locator("#split-before").select_option("3")
    expect(page.locator(".proof-card[data-caption]")).to_have_count(cards + 1)
    page.locator(".proof-card[data-caption]").nth(1).locator("button").click()
    page.locator("#join-caption").click()
    expect(page.locator(".proof-card[data-caption]")).to_have_count(cards)


def test_words_are_typed_on_their_card_and_cards_are_walked_by_keys(page: Page) -> None:
    open_room(page)
    captions = page.locator(".proof-card[data-caption]")
    captions.nth(1).locator("button").focus()
    page.keyboard.press("ArrowRight")
    third = captions.nth(2)
    expect(third).to_have_class(re.compile("chosen"))
    page.keyboard.press("Enter")
    expect(third.locator(".proof-type")).to_be_focused()
    page.keyboard.type("An anemone closes.")
    page.keyboard.press("Enter")
    expect(third.locator("button")).to_have_attribute("aria-label", re.compile("An anemone closes"))
    expect(third.locator("button")).to_be_focused()
    page.keyboard.press("Enter")
    page.keyboard.type("Never kept")
    page.keyboard.press("Escape")
    expect(third.locator("button")).to_have_attribute("aria-label", re.compile("An anemone closes"))


def test_what_breaks_a_rule_is_marked_and_cured(page: Page) -> None:
    open_room(page)
    width = page.get_by_label("Width of the lines, per cent of the frame")
    width.fill("80")
    width.press("Tab")
    broken = page.locator('.proof-card.broken[data-caption="c3"]')
    expect(broken).to_contain_text("3 lines, 2 at most")
    expect(page.locator('[data-pass="lettering"] em')).to_contain_text("to look at")
    broken.locator("button").click()
    fault = page.locator('#proof-faults li[data-rule="lines"]')
    fault.locator("button").first.click()
    fault.locator("[data-cure]").first.click()
    expect(broken).to_have_count(0)


@pytest.mark.parametrize(("language", "text"), [("ja", SENTENCES["ja"]), ("ar", SENTENCES["ar"])])
def test_words_in_other_scripts_are_lettered_in_the_room(page: Page, language: str, text: str) -> None:
    """A caption in Japanese or Arabic, in the sample: drawn whole, each of its words by itself."""
    state = lettering(page)
    page.evaluate(
        """async ([to, revision, text]) => fetch(to, { method: "POST",
            headers: { "content-type": "application/json" }, body: JSON.stringify({ based_on: revision,
            edit: { kind: "caption_text", caption_id: "c1", text } }) })""",
        [f"{api(page)}/edits", state["revision"], text],
    )
    page.reload()
    open_room(page)
    card = page.locator('.proof-card[data-caption="c1"]')
    expect(card.locator(".proof-words path").first).to_be_attached()
    expect(card).not_to_contain_text("draw")
    lefts = card.locator(".proof-words path").evaluate_all(
        "(all) => all.map((one) => one.getBoundingClientRect().left)"
    )
    assert len(lefts) > 4
    words = lefts[1:]
    assert (words[0] > words[1]) == (language == "ar")

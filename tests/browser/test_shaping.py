"""Our shaping beside a second one: the browser's own text in the same font files, three sentences of each
script."""

import base64
import io

import numpy as np
import pytest
from numpy.typing import NDArray
from PIL import Image
from playwright.sync_api import Page

from fox_cadence.core.lettering.drawing import letter
from fox_cadence.core.lettering.style import CaptionStyle, Ground
from fox_cadence.core.outline import svg_data
from fox_cadence.media.fonts import faces_for
from tests.core.lettering.test_drawing import SENTENCES

SIZE_PX = 112
WIDE, HIGH = 4000, 300
MORE = {
    "en": ("The tide waits for nobody.", "Fluffy office affairs, 1928."),
    "ru": ("Краб смотрит из-под камня.", "Съешь ещё этих мягких булок."),
    "el": ("Ο κάβουρας κοιτάζει κάτω από την πέτρα.", "Η παλίρροια δεν περιμένει."),
    "ar": ("السرطان ينظر من تحت الصخرة.", "المَدُّ لا ينتظرُ أحدًا."),
    "he": ("הסרטן מביט מתחת לסלע.", "הגאות אינה מחכה לאיש."),
    "hi": ("केकड़ा चट्टान के नीचे से देखता है।", "ज्वार किसी की प्रतीक्षा नहीं करता।"),
    "bn": ("কাঁকড়া পাথরের নিচ থেকে তাকায়।", "জোয়ার কারও জন্য অপেক্ষা করে না।"),
    "ta": ("நண்டு பாறையின் அடியிலிருந்து பார்க்கிறது.", "அலை யாருக்கும் காத்திராது."),
    "th": ("ปูมองจากใต้ก้อนหิน", "น้ำขึ้นไม่รอใคร"),
    "ja": ("蟹が岩の下から見ている。", "潮は誰も待たない。"),
    "ko": ("게가 바위 밑에서 바라본다.", "물때는 아무도 기다리지 않는다."),
    "zh-Hans": ("螃蟹从石头下面看着。", "潮水不等人。"),
    "zh-Hant": ("螃蟹從石頭下面看著。", "潮水不等人。"),
    "vi": ("Con cua nhìn từ dưới tảng đá.", "Thủy triều không chờ ai."),
}
FILES = {
    "ar": "NotoSansArabic",
    "he": "NotoSansHebrew",
    "hi": "NotoSansDevanagari",
    "bn": "NotoSansBengali",
    "ta": "NotoSansTamil",
    "th": "NotoSansThai",
    "ja": "NotoSansJP",
    "ko": "NotoSansKR",
    "zh-Hans": "NotoSansSC",
    "zh-Hant": "NotoSansTC",
}


@pytest.mark.parametrize("language", SENTENCES)
def test_the_browser_sets_the_same_words_alike(page: Page, language: str) -> None:
    """Sentences of one face each: the same ink, but for rims and places of a pixel, and runs as long
    to a hundredth."""
    file = FILES.get(language, "NotoSans")
    for text in (SENTENCES[language], *MORE[language]):
        if language in ("ar", "he"):  # their faces have no Latin letters, and the browser would take its own
            text = " ".join("".join(sign for sign in text if sign in " " or sign > "\u0590").split())
        ours, width = set_by_us(page, text, language)
        theirs, their_width = set_by_browser(page, text, language, f"{file}_700Bold")
        assert width == pytest.approx(their_width, rel=0.01)
        same, either = cropped(ours, theirs)
        print(f"{language}: {same / either:.3f} {text}")
        assert same / either > 0.92


def set_by_us(page: Page, text: str, language: str) -> tuple[NDArray[np.bool_], float]:
    style = CaptionStyle(
        id="t",
        name="T",
        family="noto-sans",
        weight=700,
        size=SIZE_PX / HIGH,
        width=1,
        most_lines=1,
        ground=Ground(),
    )
    drawing = letter(text, style, faces_for(style, language), WIDE, HIGH)
    assert drawing.em == pytest.approx(SIZE_PX)
    path = "".join(svg_data(word.path, 2) for word in drawing.words)
    return ink(page, "(c, [path]) => c.fill(new Path2D(path))", [path]), drawing.block[2]


def set_by_browser(page: Page, text: str, language: str, file: str) -> tuple[NDArray[np.bool_], float]:
    page.evaluate(
        """async ([name]) => {
            const face = new FontFace(`check ${name}`, `url(/fonts/${name}.ttf)`);
            document.fonts.add(await face.load());
        }""",
        [file],
    )
    backwards = language in ("ar", "he")
    put = """(c, [text, font, lang, backwards]) => {
        c.font = font; c.lang = lang; c.direction = backwards ? "rtl" : "ltr"; c.textAlign = "center";
        c.fillText(text, c.canvas.width / 2, c.canvas.height * 0.6); return c.measureText(text).width; }"""
    arguments = [text, f"{SIZE_PX}px 'check {file}'", language, backwards]
    return ink(page, put, arguments), measured(page, put, arguments)


def ink(page: Page, put: str, arguments: list[object]) -> NDArray[np.bool_]:
    found = page.evaluate(
        f"""([wide, high, more]) => {{
            const canvas = document.createElement("canvas");
            [canvas.width, canvas.height] = [wide, high];
            ({put})(canvas.getContext("2d"), more);
            return canvas.toDataURL();
        }}""",
        [WIDE, HIGH, arguments],
    )
    data = base64.b64decode(found.partition(",")[2])
    return np.asarray(Image.open(io.BytesIO(data)))[..., 3] > 127


def measured(page: Page, put: str, arguments: list[object]) -> float:
    return float(
        page.evaluate(
            f"([more]) => ({put})(document.createElement('canvas').getContext('2d'), more)", [arguments]
        )
    )


def cropped(one: NDArray[np.bool_], other: NDArray[np.bool_]) -> tuple[int, int]:
    """Pixels with ink in both and in either, laid over each other where they fit best within two pixels."""
    first, second = (np.pad(trimmed(each), 3) for each in (one, other))
    high, wide = (max(a, b) for a, b in zip(first.shape, second.shape, strict=True))
    first = np.pad(first, ((0, high - first.shape[0]), (0, wide - first.shape[1])))
    second = np.pad(second, ((0, high - second.shape[0]), (0, wide - second.shape[1])))
    best = (0, 1)
    for dy in range(-2, 3):
        for dx in range(-2, 3):
            moved = np.roll(second, (dy, dx), (0, 1))
            same, either = int((first & moved).sum()), int((first | moved).sum())
            if same / either > best[0] / best[1]:
                best = (same, either)
    return best


def trimmed(picture: NDArray[np.bool_]) -> NDArray[np.bool_]:
    rows, columns = np.flatnonzero(picture.any(axis=1)), np.flatnonzero(picture.any(axis=0))
    return picture[rows[0] : rows[-1] + 1, columns[0] : columns[-1] + 1]

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.lettering import (
    STYLES,
    CaptionStyle,
    break_lines,
    drawn_words,
    letter,
    lit_schedule,
)
from fox_cadence.media.fonts import caption_face

FRAMES = [(1080, 1920), (1920, 1080), (720, 720)]
texts = st.lists(st.text("abcdefgiklmnoprstuéñßW", min_size=1, max_size=12), min_size=1, max_size=18)


@given(texts, st.floats(200, 1200))
def test_lines_hold_all_words_in_order_within_the_width(words: list[str], width: float) -> None:
    face = caption_face()
    lines = break_lines([f"{word} " for word in words], face, 60, width)
    assert [index for line in lines for index in line] == list(range(len(words)))
    for line in lines:
        assert len(line) == 1 or face.width(" ".join(words[i] for i in line)) * 60 <= width + 0.01


@given(texts)
def test_lines_are_as_few_as_fit_and_balanced(words: list[str]) -> None:
    """No other break into as many lines leaves the longest line shorter by more than a word's worth of
    squares."""
    face = caption_face()
    width = 700.0
    lines = break_lines([f"{word} " for word in words], face, 60, width)
    greedy = 1
    used = ""
    for word in words:
        joined = f"{used} {word}".strip()
        if used and face.width(joined) * 60 > width:
            greedy, used = greedy + 1, word
        else:
            used = joined
    assert len(lines) == greedy


def test_two_lines_are_of_like_length() -> None:
    face = caption_face()
    words = ["Turn", "a", "starfish", "over", "and", "it", "rights", "itself"]
    lines = break_lines([f"{word} " for word in words], face, 67, 885)
    widths = [face.width(" ".join(words[i] for i in line)) for line in lines]
    assert len(widths) == 2
    assert min(widths) / max(widths) > 0.8


@pytest.mark.parametrize("style", STYLES, ids=lambda style: style.id)
@pytest.mark.parametrize(("width", "height"), FRAMES)
def test_every_outline_lies_inside_the_box_and_the_frame(
    style: CaptionStyle, width: int, height: int
) -> None:
    drawing = letter(
        "An anemone closes like a fist when a shadow crosses it.", style, caption_face(), width, height
    )
    x, y, w, h = drawing.box
    assert all(value % 2 == 0 for value in drawing.box)
    assert x >= 0
    assert y >= 0
    assert x + w <= width
    assert y + h <= height
    for word in drawing.words:
        for _, values in word.path:
            assert all(x - 1 <= value <= x + w + 1 for value in values[::2])
            assert all(y - 1 <= value <= y + h + 1 for value in values[1::2])


def test_a_very_long_caption_is_set_smaller_until_it_fits() -> None:
    text = "under the weed the whole pool holds its breath and waits for the tide " * 3
    drawing = letter(text, STYLES[0], caption_face(), 1080, 1920)
    assert len(drawing.lines) <= 7
    assert drawing.box[1] > 0
    assert " ".join(drawing.lines) == " ".join(text.split())


def test_signs_the_font_lacks_are_named() -> None:
    assert letter("tide 潮", STYLES[0], caption_face(), 1080, 1920).missing == ("潮",)


def test_each_word_is_lit_from_the_frame_it_is_said() -> None:
    assert lit_schedule(3, [10, 14, 20], 8, 30) == ((8, None), (10, 0), (14, 1), (20, 2))
    assert lit_schedule(2, [4, 9], 8, 30) == ((8, 0), (9, 1))
    assert lit_schedule(3, [10, 14], 8, 30) == ((8, None),)


def test_words_without_spaces_between_are_set_next_to_one_another() -> None:
    text = "海は、マロウ湾から引いていく。"
    assert "".join(drawn_words(text)) == text
    assert len(drawn_words(text)) == 3
    drawing = letter(text, STYLES[0], caption_face(), 1080, 1920)
    assert "".join(drawing.lines) == text

import pytest
from bidi import algorithm
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.lettering.bidi import in_visual_order, levels
from fox_cadence.core.lettering.breaks import break_lines, divided
from fox_cadence.core.lettering.drawing import CaptionDrawing, drawn_words, letter
from fox_cadence.core.lettering.faces import UNSEEN
from fox_cadence.core.lettering.style import CaptionStyle, Place
from fox_cadence.core.lettering.styles import STYLES, TITLES
from fox_cadence.media.fonts import faces_for

FRAMES = [(1080, 1920), (1920, 1080), (720, 720)]
SENTENCES = {
    "en": "Turn a starfish over and it rights itself.",
    "ru": "Дважды в день море уходит из залива.",
    "el": "Δύο φορές τη μέρα η θάλασσα φεύγει.",
    "ar": "مرتين في اليوم يغادر البحر خليج 12 مارو.",
    "he": "פעמיים ביום הים עוזב את Marrow Bay 3.",
    "hi": "दिन में दो बार समुद्र खाड़ी छोड़ देता है।",
    "bn": "দিনে দুবার সমুদ্র উপসাগর ছেড়ে যায়।",
    "ta": "ஒரு நாளைக்கு இரண்டு முறை கடல் விலகுகிறது.",
    "th": "วันละสองครั้งทะเลออกจากอ่าว",
    "ja": "潮が引くと、マローベイの海は一日に二回離れていく。",
    "ko": "하루에 두 번 바다가 만을 떠난다.",
    "zh-Hans": "海水每天两次离开马罗湾，留下一片潮池。",
    "zh-Hant": "海水每天兩次離開馬羅灣，留下一片潮池。",
    "vi": "Hai lần một ngày, biển rời vịnh.",
}
texts = st.lists(st.text("abcdefgiklmnoprstuéñßW", min_size=1, max_size=12), min_size=1, max_size=18)


def drawn(text: str, style: CaptionStyle = STYLES[0], language: str = "en", **more: object) -> CaptionDrawing:
    return letter(text, style, faces_for(style, language), 1080, 1920, **more)  # type: ignore[arg-type]


def broken(words: list[str], width: float) -> list[list[int]]:
    face = faces_for(STYLES[0], "en").main
    widths = [face.width(word) * 60 for word in words]
    return break_lines(words, widths, [face.width(" ") * 60] * (len(words) - 1) + [0.0], width)


@given(texts, st.floats(200, 1200))
def test_lines_hold_all_words_in_order_within_the_width(words: list[str], width: float) -> None:
    face = faces_for(STYLES[0], "en").main
    lines = broken(words, width)
    assert [index for line in lines for index in line] == list(range(len(words)))
    for line in lines:
        wide = sum(face.width(words[i]) * 60 for i in line) + face.width(" ") * 60 * (len(line) - 1)
        assert len(line) == 1 or wide <= width + 0.01


@given(texts)
def test_lines_are_as_few_as_fit(words: list[str]) -> None:
    face = faces_for(STYLES[0], "en").main
    greedy, used = 1, -1.0
    for word in words:
        wide = face.width(word) * 60
        if used >= 0 and used + face.width(" ") * 60 + wide > 700.0:
            greedy, used = greedy + 1, wide
        else:
            used = wide if used < 0 else used + face.width(" ") * 60 + wide
    assert len(broken(words, 700.0)) == greedy


def test_two_lines_are_of_like_length_and_end_at_phrases() -> None:
    lines = drawn("Turn a starfish over and it rights itself").lines
    assert len(lines) == 2
    assert min(map(len, lines)) / max(map(len, lines)) > 0.75
    assert drawn("When the sea is gone, the pools begin to breathe.").lines[0].endswith("gone,")


@pytest.mark.parametrize("style", [*STYLES, *TITLES], ids=lambda style: style.id)
@pytest.mark.parametrize(("width", "height"), FRAMES)
def test_every_outline_lies_inside_the_box_and_the_frame(
    style: CaptionStyle, width: int, height: int
) -> None:
    text = "An anemone closes like a fist when a shadow crosses it."
    drawing = letter(
        text if not style.for_titles else "Low tide\nat Marrow Bay",
        style,
        faces_for(style, "en"),
        width,
        height,
    )
    x, y, w, h = drawing.box
    assert all(value % 2 == 0 for value in drawing.box)
    assert min(x, y, width - x - w, height - y - h) >= 0
    for path in (*(word.path for word in drawing.words), *(mark.path for mark in drawing.marks)):
        for _, values in path:
            assert all(max(0, x - 1) - 1 <= value <= x + w + 1 for value in values[::2])
            assert all(y - 1 <= value <= y + h + 1 for value in values[1::2])


def test_styles_differ_in_kind() -> None:
    """No two have the same ground, edge, way of coming and way of showing the spoken word."""
    for styles in (STYLES, TITLES):
        kinds = {(s.ground.kind, s.edge.kind, s.comes.kind, s.comes.by, s.spoken, s.family) for s in styles}
        assert len(kinds) == len(styles)
    assert len(STYLES) >= 12
    assert len(TITLES) >= 8


def test_a_very_long_caption_is_set_smaller_until_it_fits() -> None:
    text = "under the weed the whole pool holds its breath and waits for the tide " * 3
    drawing = drawn(text)
    assert len(drawing.lines) <= 7
    assert drawing.box[1] > 0
    assert " ".join(drawing.lines) == " ".join(text.split())


def test_two_thousand_characters_are_drawn_and_nothing_is_lost() -> None:
    text = "tide " * 400
    assert " ".join(drawn(text).lines).split() == text.split()


def test_a_word_that_no_line_holds_is_divided_and_lit_as_one() -> None:
    long = "tide-pools-of-the-bay-" * 12
    drawing = drawn(f"See {long} there")
    assert "".join("".join(drawing.lines).split()) == f"See{long}there"
    assert len(drawing.lines) > 2
    assert drawing.block[2] <= 0.9 * 1080 + 1
    assert drawing.of[0] == 0
    assert drawing.of[-1] == 2
    assert set(drawing.of) == {0, 1, 2}
    assert drawing.of_same_word(1, 2)
    assert not drawing.of_same_word(0, 1)
    solid = drawn("é" * 300)  # with nowhere to break by any rule
    assert solid.block[2] <= 0.9 * 1080 + 1
    assert sum(len(word.text) for word in solid.words) == 300


@pytest.mark.parametrize("language", SENTENCES)
def test_every_script_has_a_picture_and_as_many_words_as_are_lit(language: str) -> None:
    text = SENTENCES[language]
    drawing = drawn(text, language=language)
    assert drawing.missing == ()
    assert len(drawing.words) == len(drawn_words(text))
    assert all(word.path for word in drawing.words)
    assert "".join("".join(drawing.lines).split()) == "".join(text.split())
    for style in STYLES:
        assert letter(text, style, faces_for(style, language), 1080, 1920).missing == ()


@pytest.mark.parametrize("language", ["ar", "he"])
def test_the_first_word_of_a_text_from_right_to_left_stands_on_the_right(language: str) -> None:
    drawing = drawn(SENTENCES[language], language=language)
    assert drawing.backwards
    first_line = [word for word in drawing.words if word.line == 0]
    lefts = [word.box[0] for word in first_line]
    assert lefts == sorted(lefts, reverse=True)
    assert all(word.backwards for word in first_line)


def test_words_from_left_to_right_within_others_keep_their_order() -> None:
    drawing = drawn("את Marrow Bay", language="he")
    (_, marrow, bay) = drawing.words
    assert marrow.box[0] < bay.box[0] < drawing.words[0].box[0]


@given(st.text(st.sampled_from("abxyzבגדא 12٣٤.,-\u202b\u202c\u202a"), max_size=24))
def test_the_order_of_signs_is_that_of_the_library(text: str) -> None:
    """Levels and reordering together give what the library shows; signs of direction have no place."""
    mine, theirs = in_visual_order(list(text), levels(text)), algorithm.get_display(text)
    unseen = UNSEEN | {" "}  # spaces at the end of a line are left out before it is put in order
    assert [sign for sign in mine if sign not in unseen] == [sign for sign in theirs if sign not in unseen]


def test_bidi_controls_are_neither_drawn_nor_missed() -> None:
    plain, controlled = drawn("tide pool"), drawn("\u2067tide\u2069 \u202apool\u202c")
    assert controlled.missing == ()
    assert [len(word.path) for word in controlled.words] == [len(word.path) for word in plain.words]
    assert "\u2067" in UNSEEN


def test_signs_no_typeface_has_are_named() -> None:
    assert drawn("a rune \U00010350 here").missing == ("\U00010350",)


def test_emoji_are_drawn_in_colour_with_their_sequences() -> None:
    drawing = drawn("Look 👍🏽 and 👨‍👩‍👧 there")
    assert drawing.missing == ()
    assert [bool(word.pictures) for word in drawing.words] == [
        True,
        True,
        False,
    ]  # signs go with the word before
    only = drawn("🦀🌊")
    assert len(only.words) == 1
    assert len({picture.colour for picture in only.words[0].pictures}) > 2
    as_text, as_drawing = drawn("©"), drawn("©\ufe0f")
    assert not as_text.words[0].pictures
    assert as_drawing.words[0].pictures


def test_words_without_spaces_between_are_set_next_to_one_another() -> None:
    text = "海は、マロウ湾から引いていく。"
    assert "".join(drawn_words(text)) == text
    assert len(drawn_words(text)) == 3
    assert "".join(drawn(text, language="ja").lines) == text


def test_a_line_begins_where_the_editor_broke_it_and_where_a_title_is_written_so() -> None:
    text = "Turn a starfish over and it rights itself"
    assert drawn(text, breaks=(3,)).lines == ("Turn a starfish", "over and it rights itself")
    assert drawn(text, breaks=(3, 99)).lines == ("Turn a starfish", "over and it rights itself")
    assert drawn("Low tide\nat Marrow Bay", TITLES[0]).lines[0] == "Low tide"
    figure = next(style for style in TITLES if style.id == "number")
    number, words = drawn("12\nminutes", figure).words
    assert number.box[3] > 2 * words.box[3]


def test_capitals_spacing_and_sides_are_those_of_the_style() -> None:
    upper = STYLES[0].changed(case="upper")
    assert drawn("tide straße", upper).lines == ("TIDE STRASSE",)
    turkish = letter("ilık", upper, faces_for(upper, "tr"), 1080, 1920)
    assert turkish.lines == ("İLIK",)
    wide = STYLES[0].changed(letter_spacing=0.2)
    assert drawn("tide", wide).block[2] > drawn("tide").block[2]
    start = STYLES[0].changed(align="start", place=Place(x=0.1))
    assert drawn("tide", start).block[0] == pytest.approx(108)
    end = STYLES[0].changed(align="end", place=Place(x=0.9))
    assert sum(drawn("tide", end).block[::2]) == pytest.approx(972)


def test_lines_of_tall_scripts_do_not_touch() -> None:
    tight = STYLES[0].changed(line_height=0.8, width=0.4)
    drawing = drawn(SENTENCES["th"] + " " + SENTENCES["th"], tight, "th")
    bottoms: dict[int, float] = {}
    tops: dict[int, float] = {}
    for word in drawing.words:
        ys = [value for _, values in word.path for value in values[1::2]]
        tops[word.line] = min(tops.get(word.line, 9e9), *ys)
        bottoms[word.line] = max(bottoms.get(word.line, 0), *ys)
    assert len(tops) > 1
    assert all(bottoms[line] < tops[line + 1] for line in range(len(tops) - 1))


def test_a_word_is_divided_by_the_rules_of_its_script() -> None:
    assert divided("well-known") == ["well-", "known"]
    assert divided("tide") == ["tide"]

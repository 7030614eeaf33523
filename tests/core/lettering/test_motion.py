from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.lettering.drawing import CaptionDrawing, letter
from fox_cadence.core.lettering.motion import (
    HIDDEN,
    REST,
    at_rest,
    changed_parts,
    coming,
    divided,
    going,
    moments,
    pose_at,
    shown_at,
)
from fox_cadence.core.lettering.style import CaptionStyle, Movement, calmed
from fox_cadence.core.lettering.styles import STYLES, TITLES, style_by_id
from fox_cadence.core.ticks import FrameRate
from fox_cadence.media.fonts import faces_for

RATE = FrameRate(numerator=30)
TEXT = "Turn a starfish over and it rights itself."
SPOKEN = [(2, 8), (8, 10), (10, 22), (22, 30), (34, 38), (38, 40), (40, 52), (52, 60)]
EVERY = [*STYLES, *TITLES]


def drawn(style: CaptionStyle) -> CaptionDrawing:
    return letter(TEXT, style, faces_for(style, "en"), 1080, 1920)


@pytest.mark.parametrize("style", EVERY, ids=lambda style: style.id)
def test_words_come_rest_and_go_and_each_is_there_while_it_is_spoken(style: CaptionStyle) -> None:
    drawing = drawn(style)
    when = moments(drawing, style, SPOKEN, 0, 70, RATE)
    for frame in range(70):
        shown = shown_at(drawing, when, frame)
        word = shown.word
        if word is not None:
            assert shown.units[drawing.word_units[word]].alpha > 0
            assert SPOKEN[word][0] <= frame
    first, last = shown_at(drawing, when, 0), shown_at(drawing, when, 69)
    assert any(pose.alpha > 0 for pose in first.units) or style.comes.kind == "type"
    assert (last.whole is REST) == (style.goes.kind == "none")
    middle = shown_at(drawing, when, 60)
    assert all(pose == REST for pose in middle.units)
    if style.spoken == "none":
        assert middle.word is None


@pytest.mark.parametrize(
    "kind", ["fade", "rise", "sink", "slide", "type", "unroll", "grow", "tilt", "settle"]
)
def test_a_movement_ends_at_rest_and_begins_with_nothing(kind: str) -> None:
    for backwards in (False, True):
        row = coming(kind, backwards)
        assert row[-1] == REST
        assert row[0].alpha == 0 or row[0].seen == 0
        out = going(kind, backwards)
        assert out[0] == REST
        assert out[-1].alpha == 0 or out[-1].seen == 0


def test_texts_from_right_to_left_slide_the_other_way() -> None:
    assert coming("slide", False)[4].dx == -coming("slide", True)[4].dx < 0
    assert going("rise", False)[20].dy < 0 < coming("rise", False)[4].dy


@given(st.floats(0, 1.2))
def test_between_two_poses_is_a_straight_line(share: float) -> None:
    row = coming("grow", False)
    pose = pose_at(row, share)
    at = min(share, 1) * (len(row) - 1)
    near = row[int(at)], row[min(len(row) - 1, int(at) + 1)]
    assert min(p.scale for p in near) - 1e-9 <= pose.scale <= max(p.scale for p in near) + 1e-9


def test_what_is_typed_ends_after_a_sign_and_word_by_word_waits_for_the_voice() -> None:
    chalk = next(style for style in STYLES if style.id == "chalk")
    drawing = drawn(chalk)
    when = moments(drawing, chalk, SPOKEN, 0, 70, RATE)
    for frame in range(40):
        for pose, unit in zip(shown_at(drawing, when, frame).units[1:], drawing.units[1:], strict=True):
            assert pose.seen in (0.0, 1.0, *unit.edges)
    signal = next(style for style in STYLES if style.id == "signal")
    drawing = drawn(signal)
    when = moments(drawing, signal, SPOKEN, 0, 70, RATE)
    assert [first for first, _ in when.comes[2:]] == [begins for begins, _ in SPOKEN[1:]]
    assert shown_at(drawing, when, 5).units[3] == HIDDEN


def test_without_a_voice_words_come_one_after_the_other_and_none_is_lit() -> None:
    signal = next(style for style in STYLES if style.id == "signal")
    drawing = drawn(signal)
    when = moments(drawing, signal, (), 0, 70, RATE)
    firsts = [first for first, _ in when.comes[1:]]
    assert firsts == sorted(firsts)
    assert firsts[-1] < 70 * 0.6
    assert when.word_at(50) is None


def test_a_caption_of_two_frames_is_there_in_both() -> None:
    for style in EVERY:
        drawing = drawn(style)
        when = moments(drawing, style, (), 10, 12, RATE)
        assert any(pose.alpha > 0 for pose in shown_at(drawing, when, 11).units)


def test_calm_lettering_only_fades() -> None:
    for style in EVERY:
        calm = calmed(style)
        drawing = drawn(calm)
        when = moments(drawing, calm, SPOKEN, 0, 70, RATE)
        for frame in range(70):
            shown = shown_at(drawing, when, frame)
            for pose in (*shown.units, shown.whole, shown.swell):
                assert (pose.dx, pose.dy, pose.scale, pose.turn, pose.seen) == (0, 0, 1, 0, 1)


def test_only_what_will_look_otherwise_moves() -> None:
    plate = STYLES[0]
    drawing = drawn(plate)
    parts = divided(drawing, at_rest(drawing, 2))
    assert parts is not None
    assert parts[1].words == parts[1].marks == ()
    rising = plate.changed(comes=Movement(kind="rise", seconds=0.2))
    drawing = drawn(rising)
    when = moments(drawing, rising, (), 0, 60, RATE)
    rest = [divided(drawing, shown_at(drawing, when, frame)) for frame in (0, 5, 6, 30)]
    assert rest[:2] == [None, None]  # all of it moves
    assert all(each is not None and not each[1].words for each in rest[2:])


def test_what_looks_the_same_in_two_states_is_not_told_as_changed() -> None:
    lit = style_by_id("signal")
    drawing = drawn(lit)
    for word in range(len(drawing.words) - 1):
        one, other = at_rest(drawing, word), at_rest(drawing, word + 1)
        assert changed_parts(drawing, one, one) == ([], [])
        assert changed_parts(drawing, one, other) == ([word, word + 1], [])
    hidden = replace(at_rest(drawing), words=(0, 2))
    words, marks = changed_parts(drawing, at_rest(drawing), hidden)
    assert words == [n for n in range(len(drawing.words)) if n not in (0, 2)]
    assert marks == []

"""Rules of the proof sheet at their edges, and cures that are only offered when they cure."""

from dataclasses import replace

import pytest

from fox_cadence.core.edits import BreakLines, PlaceWords, SetCaptionTimes
from fox_cadence.core.house import HouseLimits
from fox_cadence.core.lettering.drawing import letter
from fox_cadence.core.lettering.placing import wanted_shift
from fox_cadence.core.lettering.style import CaptionStyle, Place
from fox_cadence.core.lettering.styles import STYLES
from fox_cadence.core.proofing import Cure, Proof, cures, faults
from fox_cadence.core.standing import ShownWords
from fox_cadence.core.ticks import FrameRate, seconds_to_ticks
from fox_cadence.media.fonts import faces_for

RATE, HOUSE, PLATE = FrameRate(numerator=30), HouseLimits(), STYLES[0]
Interest = tuple[tuple[float, float], ...]


def words(text: str = "Home is a groove.", frames: int = 90, style: CaptionStyle = PLATE) -> ShownWords:
    return ShownWords("c1", text, style, None, (), 0, frames, (), False)


def proof(shown: ShownWords, following: int | None = None, interest: Interest = ()) -> Proof:
    drawing = letter(shown.text, shown.style, faces_for(shown.style, "en"), 1080, 1920, shown.breaks)
    shift = wanted_shift(drawing, shown.style, shown.place)
    return Proof(shown, drawing, shift, interest, following, following or 300)


def rules(found: Proof, house: HouseLimits = HOUSE, ratio: float | None = 7.0) -> list[str]:
    return [fault.rule for fault in faults(found, house, RATE, lambda _: ratio)]


def cured(found: Proof, rule: str, ratio: float | None = 7.0) -> list[Cure]:
    (fault,) = [each for each in faults(found, HOUSE, RATE, lambda _: ratio) if each.rule == rule]

    def redraw(shown: ShownWords) -> Proof:
        return proof(shown, found.next_in, found.interest)

    return cures(fault, found, HOUSE, RATE, lambda _: ratio, redraw)


def test_a_caption_that_keeps_all_rules_has_no_fault() -> None:
    assert rules(proof(words())) == []


def test_the_reading_rate_is_that_of_the_house_to_the_frame() -> None:
    text = "x" * 40  # 2 s at 20 a second; a frame less is not yet too fast
    wide = PLATE.changed(size=0.03)
    house = HOUSE.changed(caption_line_characters=60)
    assert rules(proof(words(text, 59, wide)), house) == []
    assert rules(proof(words(text, 58, wide)), house) == ["rate"]


def test_too_short_and_a_flicker_are_told_and_cured_by_time() -> None:
    assert rules(proof(words("Yes.", 20))) == ["shortest"]
    assert rules(proof(words("Yes.", 24))) == []
    flicker = proof(words(frames=60), following=61)
    assert rules(flicker) == ["gap"]
    assert rules(proof(words(frames=60), following=60)) == []
    (cure,) = cured(flicker, "gap")
    assert cure.edit == SetCaptionTimes(caption_id="c1", in_frame=0, out_frame=61)
    (longer,) = cured(proof(words("Yes.", 20), following=100), "shortest")
    assert longer.text == "80 frames longer"
    assert cured(proof(words("Yes.", 20), following=22), "shortest") == []


def test_lines_and_characters_are_those_of_the_house_and_smaller_letters_cure_them() -> None:
    narrow = PLATE.changed(width=0.82)
    long = proof(words("An anemone closes like a fist when a shadow crosses it.", 120, narrow))
    assert rules(long) == ["lines"]
    offered = cured(long, "lines")
    assert offered
    for cure in offered:
        assert "2 lines of" in cure.text
    assert rules(long, HOUSE.changed(caption_lines=3)) == []
    tight = HOUSE.changed(caption_lines=3, caption_line_characters=12)
    assert rules(long, tight) == ["characters"]


def test_a_word_left_alone_is_told_and_other_breaks_cure_it() -> None:
    alone = proof(replace(words("The sea forgets nothing at all, so."), breaks=(6,)))
    assert "alone" in rules(alone)
    breaks = [cure.edit for cure in cured(alone, "alone") if isinstance(cure.edit, BreakLines)]
    assert breaks


def test_words_outside_the_safe_area_are_moved_just_into_it() -> None:
    low = proof(replace(words(), place=Place(y=0.985)))
    assert rules(low) == ["safe area"]
    (cure,) = cured(low, "safe area")
    assert isinstance(cure.edit, PlaceWords)
    assert cure.edit.place is not None
    assert cure.edit.place.y == pytest.approx(0.95, abs=0.001)
    assert cure.text.startswith("up by 3") or cure.text.startswith("up by 4")
    assert rules(proof(replace(words(), place=Place(y=0.95)))) == []


def test_hiding_what_matters_is_cured_by_the_nearer_way() -> None:
    hidden = proof(words(), interest=((0.5, 0.8),))
    assert rules(hidden) == ["covers"]
    (cure,) = cured(hidden, "covers")
    assert isinstance(cure.edit, PlaceWords)
    assert cure.edit.place is not None
    assert cure.edit.place.y != PLATE.place.y
    assert rules(proof(words(), interest=((0.5, 0.2),))) == []


def test_contrast_is_told_only_below_the_limit_and_cured_only_by_what_raises_it() -> None:
    plain = proof(words())
    assert rules(plain, ratio=4.46) == []
    assert rules(plain, ratio=4.4) == ["contrast"]
    assert rules(plain, ratio=None) == []
    assert cured(plain, "contrast", ratio=2.0) == []  # whatever is tried is measured as 2.0 too


def test_signs_without_a_picture_are_named() -> None:
    (fault,) = faults(proof(words("a rune \U00010350")), HOUSE, RATE, lambda _: 7.0)
    assert fault.text == "can't draw \U00010350"


def test_the_limits_are_part_of_the_house() -> None:
    assert HOUSE.caption_gap_ticks == seconds_to_ticks(0.08)
    assert HOUSE.least_contrast == 4.5

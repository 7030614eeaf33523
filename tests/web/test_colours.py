"""Words are legible in both themes, by the colours themselves (WCAG 2.2, 1.4.3 and 1.4.11): a walk through
every view by night would only find these pairs again."""

import itertools
import re
from pathlib import Path

import pytest

BASE = (Path(__file__).resolve().parents[2] / "styles" / "base.css").read_text()
THEMES = {"day": ":root {", "night": '[data-theme="night"] {'}
GROUNDS = ("paper", "card", "faint", "wash")
WORDS = ("ink", "soft", "alarm", "good", *(f"role-{number}" for number in range(6)))
TEXT, LINE = 4.5, 3.0


def colours(theme: str) -> dict[str, str]:
    block = BASE[BASE.index(THEMES[theme]) :]
    return dict(re.findall(r"--([a-z0-9-]+): (#[0-9a-f]{3,6});", block[: block.index("}")]))


def luminance(colour: str) -> float:
    digits = colour.lstrip("#")
    if len(digits) == 3:
        digits = "".join(2 * digit for digit in digits)
    parts = [int(digits[at : at + 2], 16) / 255 for at in (0, 2, 4)]
    red, green, blue = (c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in parts)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def contrast(one: str, other: str) -> float:
    low, high = sorted((luminance(one), luminance(other)))
    return (high + 0.05) / (low + 0.05)


@pytest.mark.parametrize("theme", THEMES)
def test_words_stand_out_from_every_ground_they_stand_on(theme: str) -> None:
    found = colours(theme)
    pairs = [*itertools.product(WORDS, GROUNDS), ("fox-ink", "fox"), ("paper", "ink"), ("ink", "hatch")]
    pairs += [("fox", "paper"), ("fox", "card")]  # it is for buttons, and for words where these are
    weak = {
        f"{word} on {ground}": round(contrast(found[word], found[ground]), 2)
        for word, ground in pairs
        if contrast(found[word], found[ground]) < TEXT
    }
    assert weak == {}


@pytest.mark.parametrize("theme", THEMES)
def test_borders_of_fields_are_seen(theme: str) -> None:
    found = colours(theme)
    assert min(contrast(found["edge"], found[ground]) for ground in ("paper", "card")) >= 2.2
    assert min(contrast(found["fox"], found[ground]) for ground in GROUNDS) >= LINE  # the focus


def test_both_themes_have_every_colour() -> None:
    assert colours("night").keys() == colours("day").keys()

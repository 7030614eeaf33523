"""Japanese and Mandarin as symbols: figures, words of two scripts, numbers that come back."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.voices.east_asian import (
    japanese_symbols,
    mandarin_number,
    mandarin_symbols,
    sentences_in,
)


def english(text: str) -> str:
    return f"<{text}>"


@pytest.mark.parametrize(
    ("text", "symbols"),
    [
        ("3月5日に12個見つけた。", "saŋɡaʦɨ iʦɨka ɲi ʥɨːɲi ko mʲiʦɨke ta."),
        ("私のFoxはかわいい。", "βataɕi no <Fox> βa kaβaii."),
        ("２０２６年、NHK。", "ɲi seɴ ɲiʥɨːɾokɯ neɴ, enɯeiʨikei."),
    ],
)
def test_japanese_is_read_with_its_figures_and_foreign_words(text: str, symbols: str) -> None:
    assert japanese_symbols(text, english) == symbols


@pytest.mark.parametrize(
    ("text", "symbols"),
    [
        ("海水离开。", "xai↓ʂwei↓ li↗kʰai→."),
        ("3.5%，2次。", "pai↓fə→nꭧɨ→sa→ntjɛ↓nu↓, lja↓ŋ ʦʰɨ↘."),
        ("2026年", "ɚ↘li↗ŋɚ↘ljou↘njɛ↗n"),
        ("Low Water 在《池》里", "<Low> <Water> ʦai↘ “ꭧʰɨ↗” li↓"),
    ],
)
def test_mandarin_is_read_with_its_tones_figures_and_foreign_words(text: str, symbols: str) -> None:
    made = mandarin_symbols(text, english)
    assert made.replace(" ", "") == symbols.replace(" ", "")
    assert len(made.split()) > 1 or "年" in text


VALUES = {sign: number for number, sign in enumerate("零一二三四五六七八九")}
UNITS = {"十": 10, "百": 100, "千": 1000}
MYRIADS = {"万": 10**4, "亿": 10**8, "兆": 10**12}


def value(said: str) -> int:
    """What a number in Chinese signs means."""
    total = group = digit = 0
    for sign in said:
        if sign in VALUES:
            digit = VALUES[sign]
        elif sign in UNITS:
            group += (digit or 1) * UNITS[sign]
            digit = 0
        else:
            total += (group + digit) * MYRIADS[sign]
            group = digit = 0
    return total + group + digit


@given(st.integers(0, 15).flatmap(lambda size: st.integers(0, 10**size)))
def test_a_number_in_chinese_means_what_it_was(number: int) -> None:
    said = mandarin_number(number)
    assert value(said) == number
    assert "零零" not in said
    assert number == 0 or not said.endswith("零")


def test_a_number_out_of_range_is_refused() -> None:
    with pytest.raises(ValueError, match="not said"):
        mandarin_number(10**16)


@given(st.lists(st.sampled_from(["一日。", "二！", "三", "Four. ", "3.5", "「五」。"]), max_size=8))
def test_sentences_lose_nothing(parts: list[str]) -> None:
    text = "".join(parts)
    assert re.sub(r"\s", "", "".join(sentences_in(text))) == re.sub(r"\s|(?<=。)」|(?<=！)」", "", text)

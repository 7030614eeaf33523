"""IPA in the signs an engine knows."""

from collections.abc import Mapping

HIBARI_SIGNS: Mapping[str, str] = {
    "dʒ": "ʤ", "tʃ": "ʧ", "aɪ": "I", "aʊ": "W", "eɪ": "A", "oʊ": "O", "əʊ": "O", "ɔɪ": "Y", "ɚ": "əɹ", "ɝ": "ɜɹ",
    "ɜːɹ": "ɜɹ", "r": "ɹ", "ɡ": "ɡ", "ː": "", "ɐ": "ə", "ɵ": "ə", "ɘ": "ə", "e": "ɛ", "o": "O", "ɬ": "l", "x": "k",
    "ʔ": "t", "c": "k", "ɲ": "nj", "a": "æ", "y": "u", "ø": "ɜ", "œ": "ɜ", "ʁ": "ɹ", "ɫ": "l", "ɨ": "ɪ", "ɒ": "ɑ",
    "ʍ": "w", "ç": "h", "β": "v", "ɣ": "ɡ", "ʎ": "lj", "̃": "", "̩": "", ".": "", "ʰ": "", "ˑ": "", "ɾ": "T",
}  # fmt: skip
"""American English as the model was taught it: one sign for a diphthong; the nearest sound for those it has
not."""


TIED_SIGNS: Mapping[str, str] = {
    "a^ɪ": "I", "a^ʊ": "W", "e^ɪ": "A", "o^ʊ": "O", "ə^ʊ": "Q", "ɔ^ɪ": "Y", "d^z": "ʣ", "d^ʒ": "ʤ", "t^s": "ʦ",
    "t^ʃ": "ʧ", "s^s": "S", "tʃ": "ʧ", "dʒ": "ʤ", "r.": "ɽ", "g": "ɡ", "^": "", "-": "",
}  # fmt: skip
"""Other languages than English as the model was taught them: one sign for what espeak-ng ties together."""


PLAIN_IPA: Mapping[str, str] = {
    "I": "aɪ", "W": "aʊ", "A": "eɪ", "O": "oʊ", "Q": "əʊ", "Y": "ɔɪ", "ʣ": "dz", "ʤ": "dʒ", "ʦ": "ts", "ʧ": "tʃ",
    "ʨ": "tɕ", "ꭧ": "ʈʂ", "S": "s", "T": "ɾ", "ᵊ": "ə", "ᵻ": "ɪ",
}  # fmt: skip
"""What single signs of the models mean: the two tables above, read the other way round."""


def rewritten(ipa: str, signs: Mapping[str, str]) -> str:
    """Replace signs, longer runs before shorter ones; what the table has not stays."""
    longest = max(map(len, signs))
    made: list[str] = []
    at = 0
    while at < len(ipa):
        for length in range(longest, 0, -1):
            run = ipa[at : at + length]
            if len(run) == length and run in signs:
                made.append(signs[run])
                at += length
                break
        else:
            made.append(ipa[at])
            at += 1
    return "".join(made)


_ESPEAK = (
    "p b t d k g f v T D s z S Z h m n N l r R w j i i: I e E a a: A: A aI aU eI oU OI O O: 0 V U u u: 3: 3 @ I2 tS dZ"
    " x C Q y y: Y Y: W X ? t# r/ l^ n^ J c q G B H i@ e@ U@ a# o e: o: E: E~ A~ O~ W~ o~ t[ d[ t. d. n. s. z. l. s; z;"
    " tS; ts S; l; A@"
)
ESPEAK_LETTERS = tuple(_ESPEAK.split(" "))
"""Letters of espeak-ng for phonemes (its docs/phonemes.md); which of them a voice has, and as what, is asked
of it."""

_NEAREST: Mapping[str, tuple[str, ...]] = {
    "ɹ": ("r", "ɾ", "ʁ"), "r": ("ɹ", "ɾ", "ʁ"), "ɾ": ("r", "ɹ"), "ʁ": ("r", "ɹ"), "ʀ": ("ʁ", "r"), "ɻ": ("ɹ", "r"),
    "ɐ": ("ə", "a"), "ɑ": ("ɑː", "a"), "ɑː": ("ɑ", "a"), "æ": ("a", "ɛ"), "a": ("ɑ", "æ"), "aː": ("ɑː", "a"),
    "ɒ": ("ɔ", "ɑ"), "ɔ": ("ɔː", "o", "ɒ"), "ɔː": ("ɔ", "o"), "o": ("oː", "ɔ", "əʊ", "oʊ"), "oː": ("o", "ɔː"),
    "oʊ": ("əʊ", "o"), "əʊ": ("oʊ", "o"), "e": ("eː", "ɛ", "eɪ"), "eː": ("e", "ɛ"), "ɛ": ("e",), "ɛː": ("ɛ",),
    "i": ("iː", "ɪ"), "iː": ("i",), "ɪ": ("i",), "ᵻ": ("ɪ", "i"), "ɨ": ("ɪ", "i"), "y": ("u", "i"), "yː": ("y", "uː"),
    "u": ("uː", "ʊ"), "uː": ("u",), "ʊ": ("u",), "ɯ": ("u",), "ʌ": ("ə", "a"), "ə": ("ɐ", "ɛ", "a"), "ɜː": ("ɜ", "ə"),
    "ɜ": ("ɜː", "ə"), "ɚ": ("ə",), "ɝ": ("ɜː", "ə"), "ø": ("œ", "ə"), "øː": ("ø",), "œ": ("ø", "ə"), "ɡ": ("g",),
    "ɫ": ("l",), "ʎ": ("l",), "ɭ": ("l",), "ɬ": ("l",), "ɲ": ("n",), "ɳ": ("n",), "ŋ": ("n",), "ɣ": ("ɡ",), "β": ("v",),
    "ʋ": ("v",), "v": ("ʋ", "w"), "ç": ("x", "h"), "x": ("h", "k"), "χ": ("x", "h"), "ɕ": ("ʃ",), "ʑ": ("ʒ",),
    "ʂ": ("ʃ",), "ʐ": ("ʒ",), "ʍ": ("w",), "ɥ": ("j",), "ʝ": ("j",), "c": ("k",), "ɟ": ("dʒ",), "q": ("k",),
    "ʈ": ("t",), "ɖ": ("d",), "ʔ": (), "θ": ("s",), "ð": ("d",), "ħ": ("h",), "ɦ": ("h",), "w": ("u",), "j": ("i",),
}  # fmt: skip
"""What stands in where a voice has not just the sound: the nearest on the chart first."""

_STRESS = {"ˈ": "'", "ˌ": ","}
_LEFT_OUT = set("ːˑʰʷʲˠˤⁿˡ̩̯̥̬̹̜̟̠̤̪̰̼̺̻̃̚˞.|")


class UnsoundedError(ValueError):
    """A voice has no sound for a sign, and none near it. Carries it."""

    def __init__(self, sign: str) -> None:
        super().__init__(sign)
        self.sign = sign


def letters_of(ipa: str, known: Mapping[str, str]) -> str:
    """IPA in the letters of espeak-ng.

    Args:
        known: letters by the sound they have in a voice.

    Raises:
        UnsoundedError: the voice has no such sound.
    """
    made: list[str] = []
    at = 0
    while at < len(ipa):
        if ipa[at] in _STRESS or ipa[at] == " ":
            made.append(_STRESS.get(ipa[at], " "))
            at += 1
            continue
        for length in (3, 2, 1):
            letter = _letter(ipa[at : at + length], known)
            if len(ipa) - at >= length and letter is not None:
                made.append(f"{letter}|")
                at += length
                break
        else:
            if ipa[at] not in _LEFT_OUT:
                raise UnsoundedError(ipa[at])
            at += 1
    return "".join(made).replace("| ", " ").rstrip("|")


def _letter(run: str, known: Mapping[str, str]) -> str | None:
    for each in (run, *_NEAREST.get(run, ())):
        if each in known:
            return known[each]
    return None

"""The International Phonetic Alphabet: which signs may stand in a pronunciation.

Source: the IPA chart of the International Phonetic Association (revised to 2020), with the tie bars left out
of what is spoken.
"""

_LETTERS = (
    "pbtdʈɖcɟkɡqɢʔmɱnɳɲŋɴʙrʀⱱɾɽɸβfvθðszʃʒʂʐçʝxɣχʁħʕhɦɬɮʋɹɻjɰlɭʎʟʘ"
    "ǀǃǂǁɓɗʄɠʛʍwɥʜʢʡɕʑɺɧiyɨʉɯuɪʏʊeøɘɵɤoəɛœɜɞʌɔæɐaɶɑɒɚɝɫᵻ"
)
_MARKS = "ˈˌːˑʰʷʲˠˤⁿˡ̩̯̥̬̹̜̟̠̤̪̰̼̺̻̃̚˞.|"
_TIES = "͜͡"
_ALIKE = {"g": "ɡ", "'": "ˈ", ":": "ː"}
"""Signs that are typed where the chart has another of the same look."""


class NotIpaError(ValueError):
    """A sign that is not of the alphabet. Carries it."""

    def __init__(self, sign: str) -> None:
        super().__init__(f"“{sign}” is no sign of the International Phonetic Alphabet")
        self.sign = sign


def checked_ipa(text: str) -> str:
    """A pronunciation with one space between words, without slashes, brackets and tie bars.

    Raises:
        NotIpaError: a sign is not of the alphabet, or nothing is left.
    """
    words = text.strip().strip("/[]").split()
    made: list[str] = []
    for word in words:
        signs = [_ALIKE.get(sign, sign) for sign in word if sign not in _TIES]
        for sign in signs:
            if sign not in _LETTERS and sign not in _MARKS:
                raise NotIpaError(sign)
        made.append("".join(signs))
    found = " ".join(made)
    if not any(sign in _LETTERS for sign in found):
        raise NotIpaError(text.strip() or " ")
    return found

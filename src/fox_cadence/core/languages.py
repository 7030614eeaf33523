"""Languages by their tags (BCP 47): what there is, and how those there are voices for are called."""

import re

LANGUAGES = {
    "en": "English", "cmn": "Chinese (Mandarin)", "hi": "Hindi", "es": "Spanish", "fr": "French", "ar": "Arabic",
    "bn": "Bengali", "pt": "Portuguese", "ru": "Russian", "ur": "Urdu", "de": "German", "it": "Italian",
    "nl": "Dutch", "sv": "Swedish", "nb": "Norwegian", "da": "Danish", "fi": "Finnish", "et": "Estonian",
    "lv": "Latvian", "lt": "Lithuanian", "pl": "Polish", "cs": "Czech", "sk": "Slovak", "hu": "Hungarian",
    "ro": "Romanian", "bg": "Bulgarian", "hr": "Croatian", "el": "Greek", "tr": "Turkish", "uk": "Ukrainian",
    "ca": "Catalan", "fa": "Persian", "ta": "Tamil", "sw": "Swahili", "id": "Indonesian", "vi": "Vietnamese",
    "ko": "Korean", "ja": "Japanese",
}  # fmt: skip
"""Languages by primary tag, the ten most spoken first."""

_TWO_LETTERS = frozenset(
    """aa ab ae af ak am an ar as av ay az ba be bg bh bi bm bn bo br bs ca ce ch co cr cs cu cv cy da de dv dz ee el en
    eo es et eu fa ff fi fj fo fr fy ga gd gl gn gu gv ha he hi ho hr ht hu hy hz ia id ie ig ii ik io is it iu ja jv ka
    kg ki kj kk kl km kn ko kr ks ku kv kw ky la lb lg li ln lo lt lu lv mg mh mi mk ml mn mr ms mt my na nb nd ne ng nl
    nn no nr nv ny oc oj om or os pa pi pl ps pt qu rm rn ro ru rw sa sc sd se sg si sk sl sm sn so sq sr ss st su sv sw
    ta te tg th ti tk tl tn to tr ts tt tw ty ug uk ur uz ve vi vo wa wo xh yi yo za zh zu""".split()
)
"""ISO 639-1, all of it."""

_TAG = re.compile(r"[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*")


_THREE_LETTERS = {
    "en": "eng", "cmn": "zho", "hi": "hin", "es": "spa", "fr": "fra", "ar": "ara", "bn": "ben", "pt": "por",
    "ru": "rus", "ur": "urd", "de": "deu", "it": "ita", "nl": "nld", "sv": "swe", "nb": "nob", "da": "dan",
    "fi": "fin", "et": "est", "lv": "lav", "lt": "lit", "pl": "pol", "cs": "ces", "sk": "slk", "hu": "hun",
    "ro": "ron", "bg": "bul", "hr": "hrv", "el": "ell", "tr": "tur", "uk": "ukr", "ca": "cat", "fa": "fas",
    "ta": "tam", "sw": "swa", "id": "ind", "vi": "vie", "ko": "kor", "ja": "jpn",
}  # fmt: skip
"""ISO 639-2/T, as media files name languages."""


def three_letters(tag: str) -> str:
    """A language as media files name it; "und" where it is none of ours."""
    return _THREE_LETTERS.get(primary(tag), "und")


def primary(tag: str) -> str:
    """The language of a tag without region or script."""
    return tag.lower().split("-")[0]


def is_language(tag: str) -> bool:
    """Whether a tag is well formed and its language exists."""
    return bool(_TAG.fullmatch(tag)) and (primary(tag) in _TWO_LETTERS or primary(tag) in LANGUAGES)


def language_name(tag: str) -> str:
    """What a language is called in English; the tag where we have no name."""
    return LANGUAGES.get(primary(tag), tag)

"""The words of captions: what is markup in them, what is shown and not said, who says them."""

import html
import re
import unicodedata

_TAG = re.compile(r"</?(?:b|i|u|s|font)(?:\s[^<>]*)?/?>|<\d[\d:.]*>|\{\\[^{}]*\}|\{/?[biu]\}", re.IGNORECASE)
"""What people mean as markup in SRT: bold, italic, underlined, struck, a font; times inside a cue; codes in
braces.

Everything else in angle brackets is text, such as <LAUGHING & WHOOPS!>.
"""

_ENTITY = re.compile(r"&(?:#\d{1,7}|#x[0-9a-fA-F]{1,6}|[a-zA-Z][a-zA-Z0-9]{1,31});")
_CODES = {r"\h": "\u00a0", r"\N": "\n", r"\n": "\n"}
_CODE = re.compile(r"\\[hNn]")

_BRACKETS = re.compile(r"\[[^\[\]]*\]|［[^［］]*］|【[^【】]*】")
_ROUND = re.compile(r"\(([^()]*)\)|（([^（）]*)）")
_MUSIC = re.compile(r"[♩♪♫♬🎵🎶]+")
_SMALLEST_DESCRIPTION = 2


def without_markup(text: str) -> str:
    """The words alone: markup taken out, entities and codes as the signs they mean, white space folded within
    lines."""
    plain = _CODE.sub(lambda found: _CODES[found[0]], _TAG.sub("", text))
    plain = _ENTITY.sub(lambda found: html.unescape(found[0]), plain)
    lines = [" ".join(line.split()) for line in plain.splitlines()]
    return "\n".join(line for line in lines if line)


def spoken_words(text: str) -> str:
    """What of a caption is spoken: without descriptions of sound in brackets, and without signs of music.

    Round brackets are a description where their words are all in capitals, or where they are the whole
    caption.
    """
    spoken = _MUSIC.sub(" ", _BRACKETS.sub(" ", text))
    whole = _ROUND.fullmatch(spoken.strip()) is not None
    spoken = _ROUND.sub(
        lambda found: " " if whole or _in_capitals(found[1] or found[2] or "") else found[0], spoken
    )
    lines = [" ".join(line.split()) for line in spoken.splitlines()]
    return "\n".join(line for line in lines if any(sign.isalnum() for sign in line))


def is_described(text: str) -> bool:
    """Whether a caption has something that is shown and not said."""
    return " ".join(spoken_words(text).split()) != " ".join(text.split())


def _in_capitals(text: str) -> bool:
    letters = [sign for sign in text if unicodedata.category(sign) in ("Lu", "Ll", "Lt")]
    return len(letters) >= _SMALLEST_DESCRIPTION and all(sign.isupper() for sign in letters)

"""Phonemes of espeak-ng in IPA, a tie between the signs of one sound; for the process of a neural voice."""

import ctypes
import re
from functools import lru_cache

import espeakng_loader

_SYNCHRONOUS, _DONT_EXIT, _UTF8 = 2, 0x8000, 1
_TIED_IPA = (ord("^") << 8) | 0x80 | 0x02
"""espeak-ng's speak_lib.h: bits 8 to 23 are the sign between, 0x80 makes it a tie, 0x02 asks for IPA."""

_PUNCTUATION = re.compile(r"(?<!\d)[.,:](?!\d)|(?<=\d)[.,:](?!\d)|[;!?…—–\"“”«»()।]+")
_FLAG = re.compile(r"\([^)]*\)")
"""Where espeak-ng turns to another language and back."""

_SIGN = {"…": "…", "–": "—", "«": "“", "»": "”", "।": "."}


@lru_cache(maxsize=1)
def _library() -> ctypes.CDLL:
    library = ctypes.CDLL(espeakng_loader.get_library_path())
    data = str(espeakng_loader.get_data_path()).encode()
    if library.espeak_Initialize(_SYNCHRONOUS, 0, data, _DONT_EXIT) <= 0:
        raise OSError("espeak-ng could not be initialised: its data was not found")
    library.espeak_TextToPhonemes.restype = ctypes.c_char_p
    return library


def tied_phonemes(text: str, voice: str) -> str:
    """The phonemes of a text, words apart by spaces, its punctuation where it stood.

    Args:
        voice: of espeak-ng, by its name there (`roa/es`).

    Raises:
        ValueError: espeak-ng has no such voice.
    """
    if _library().espeak_SetVoiceByName(voice.encode()) != 0:
        raise ValueError(f"espeak-ng has no voice {voice!r}")
    made: list[str] = []
    at = 0
    for found in _PUNCTUATION.finditer(text):
        made.append(_phonemes(text[at : found.start()]))
        made.append("".join(_SIGN.get(sign, sign) for sign in found.group()))
        if text[found.end() : found.end() + 1].isspace():
            made.append(" ")
        at = found.end()
    made.append(_phonemes(text[at:]))
    return "".join(made).strip()


def _phonemes(text: str) -> str:
    if not text.strip():
        return ""
    buffer = ctypes.create_string_buffer(text.encode())
    place = ctypes.c_void_p(ctypes.addressof(buffer))
    parts: list[str] = []
    while place.value:
        found = _library().espeak_TextToPhonemes(ctypes.byref(place), _UTF8, _TIED_IPA)
        parts.append(_FLAG.sub("", (found or b"").decode("utf-8", "replace")).strip())
    return " ".join(part for part in parts if part)

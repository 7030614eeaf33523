"""Bytes of a text file as text, whatever it was saved as.

UTF-8 and whatever has a byte order mark are known. The rest is guessed: languages in Latin letters by their
own letters, because they share most of their bytes and a guess by statistics takes one for another; all
others by charset-normalizer.
"""

import codecs
from collections.abc import Iterator

from fox_cadence.core.languages import primary
from fox_cadence.errors import InputError

_BOMS = (
    (codecs.BOM_UTF8, "utf-8-sig"),
    (codecs.BOM_UTF32_LE, "utf-32"),
    (codecs.BOM_UTF32_BE, "utf-32"),
    (codecs.BOM_UTF16_LE, "utf-16"),
    (codecs.BOM_UTF16_BE, "utf-16"),
)

ENCODINGS = {
    "utf-8": "UTF-8", "utf-16-le": "UTF-16", "utf-16-be": "UTF-16, big-endian",
    "cp1252": "Windows-1252 (Western Europe)", "cp1250": "Windows-1250 (Central Europe)",
    "cp1251": "Windows-1251 (Cyrillic)", "cp1253": "Windows-1253 (Greek)", "cp1254": "Windows-1254 (Turkish)",
    "cp1255": "Windows-1255 (Hebrew)", "cp1256": "Windows-1256 (Arabic)", "cp1257": "Windows-1257 (Baltic)",
    "cp1258": "Windows-1258 (Vietnamese)", "koi8_r": "KOI8-R (Russian)", "koi8_u": "KOI8-U (Ukrainian)",
    "iso8859_2": "ISO 8859-2", "iso8859_5": "ISO 8859-5", "iso8859_7": "ISO 8859-7",
    "iso8859_15": "ISO 8859-15",
    "cp437": "Code page 437", "cp850": "Code page 850", "cp866": "Code page 866 (Cyrillic)",
    "mac_roman": "Mac Roman",
    "cp932": "Shift JIS (Japanese)", "euc_jp": "EUC-JP (Japanese)", "gb18030": "GB 18030 (Chinese)",
    "big5": "Big5 (Chinese)", "cp949": "EUC-KR (Korean)", "tis_620": "TIS-620 (Thai)",
}  # fmt: skip
"""Encodings that can be named, as Python knows them and as they are called."""

_LETTERS: tuple[tuple[str, str, str], ...] = (
    ("cp1252", "en", "éèêëàâäáçñöôóïîíüúûœæ"), ("cp1252", "fr", "àâæçéèêëîïôœùûüÿ"), ("cp1252", "de", "äöüß"),
    ("cp1252", "es", "áéíñóúüºª"), ("cp1252", "it", "àèéìíîòóùúº"), ("cp1252", "pt", "áâãàçéêíóôõúüºª"),
    ("cp1252", "nl", "éèëïóöü"), ("cp1252", "sv", "åäöé"), ("cp1252", "nb", "æøåéòô"),
    ("cp1252", "da", "æøåé"),
    ("cp1252", "fi", "äöåéš"), ("cp1252", "ca", "àçèéíïòóúü"), ("cp1252", "is", "áðéíóúýþæö"),
    ("cp1250", "pl", "ąćęłńóśźż"), ("cp1250", "cs", "áčďéěíňóřšťúůýž"), ("cp1250", "sk", "áäčďéíĺľňóôŕšťúýž"),
    ("cp1250", "hu", "áéíóöőúüű"), ("cp1250", "ro", "ăâîşţ"), ("cp1250", "hr", "čćđšž"),
    ("cp1254", "tr", "çğıiöşüâîû"),
    ("cp1257", "lt", "ąčęėįšųūž"), ("cp1257", "lv", "āčēģīķļņšūž"), ("cp1257", "et", "äõöüšž"),
    ("cp850", "fr", "àâæçéèêëîïôùûüÿ"), ("cp850", "de", "äöüß"), ("cp850", "es", "áéíñóúü"),
    ("mac_roman", "fr", "àâæçéèêëîïôœùûüÿ"), ("mac_roman", "de", "äöüß"), ("iso8859_2", "pl", "ąćęłńóśźż"),
    ("iso8859_2", "cs", "áčďéěíňóřšťúůýž"), ("iso8859_2", "hu", "áéíóöőúüű"),
)  # fmt: skip
"""The letters beyond ASCII of languages in Latin letters, and the encoding their old files mostly are in."""

_BLOCKS = {"he": ("cp1255", "\u0590", "\u05ff"), "el": ("cp1253", "\u0370", "\u03ff"),
           "ar": ("cp1256", "\u0600", "\u06ff"), "fa": ("cp1256", "\u0600", "\u06ff"),
           "ur": ("cp1256", "\u0600", "\u06ff"), "th": ("tis_620", "\u0e00", "\u0e7f")}  # fmt: skip
"""Languages with one script and one usual encoding: taken where the language is known and the letters are of
it."""

_PUNCTUATION = "‘’‚“”„–—…•·«»‹›¿¡©®™°§¶£€¥½¼¾²×♪\xa0"
_MOST_ACCENTED = 0.66
"""Of the letters of a text in Latin letters, more than this are never beyond ASCII."""

_SAMPLE_BYTES = 200_000
_WIDE_SHARE = 0.3


def decode(data: bytes, encoding: str = "", language: str = "") -> tuple[str, str]:
    """Text with lines ending in a line feed, and a remark when the encoding had to be guessed or did not fit
    (else '').

    Args:
        encoding: one of `ENCODINGS`, named by the editor; '' guesses.
        language: the tag of the language it probably is in.

    Raises:
        InputError: an encoding of that name is not known.
    """
    text, remark = _named(data, encoding) if encoding else _found(data, language)
    if "\0" in text:
        text = text.replace("\0", "\ufffd")
        remark = remark or "it holds NUL characters, which were replaced"
    return text.replace("\r\n", "\n").replace("\r", "\n"), remark


def _named(data: bytes, encoding: str) -> tuple[str, str]:
    if encoding not in ENCODINGS:
        raise InputError(f"the encoding {encoding!r} is not one of {', '.join(ENCODINGS)}", "encoding")
    text = data.decode(encoding, errors="replace").removeprefix("\ufeff")
    lost = text.count("\ufffd")
    return text, f"{lost} signs are not {ENCODINGS[encoding]}; is it another encoding?" if lost else ""


def _found(data: bytes, language: str) -> tuple[str, str]:
    for mark, name in _BOMS:
        if data.startswith(mark):
            return data.decode(name, errors="replace"), ""
    if wide := _wide(data):
        return data.decode(wide, errors="replace"), _guessed(wide)
    try:
        return data.decode("utf-8"), ""
    except UnicodeDecodeError:
        pass
    damaged = data.decode("utf-8", errors="replace")
    lost, others = damaged.count("\ufffd"), sum(sign > "\x7f" for sign in damaged)
    if others > 20 * lost:
        return damaged, f"{lost} signs of it are damaged and were replaced"
    found = _by_block(data, language) or _by_letters(data, language) or _by_statistics(data) or "cp1252"
    text = data.decode(found, errors="replace")
    return text, _guessed(found)


def _guessed(encoding: str) -> str:
    return f"it is not UTF-8 and was read as {ENCODINGS[encoding]}; check the words, or name its encoding"


def _wide(data: bytes) -> str:
    """UTF-16 without its mark: in most languages every other byte of it is small, of most signs 0."""
    part = data[:_SAMPLE_BYTES]
    zeros = (part[::2].count(0), part[1::2].count(0))
    if len(part) < 4 or max(zeros) < _WIDE_SHARE * len(part) / 2:
        return ""
    return "utf-16-le" if zeros[1] > zeros[0] else "utf-16-be"


def _by_block(data: bytes, language: str) -> str:
    """The usual encoding of a language with a script of its own, where that makes nearly all signs its
    letters."""
    encoding, low, high = _BLOCKS.get(primary(language), ("", "", ""))
    if not encoding:
        return ""
    beyond = [
        sign for sign in data.decode(encoding, errors="replace") if sign > "\x7f" and sign not in _PUNCTUATION
    ]
    own = sum(low <= sign <= high for sign in beyond)
    return encoding if own > 0.95 * len(beyond) else ""


def _by_letters(data: bytes, language: str) -> str:
    """The encoding in which all letters are those of one language in Latin letters, the probable language
    first."""
    tag = primary(language)
    for encoding, _, letters in sorted(_LETTERS, key=lambda row: row[1] != tag):
        try:
            text = data.decode(encoding)
        except UnicodeDecodeError:
            continue
        beyond = [sign for sign in text.lower() if sign > "\x7f" and sign not in _PUNCTUATION]
        plain = sum("a" <= sign <= "z" for sign in text.lower())
        if set(beyond) <= set(letters) and len(beyond) <= _MOST_ACCENTED * (plain + len(beyond)):
            return encoding
    return ""


def _by_statistics(data: bytes) -> str:
    import charset_normalizer

    best = charset_normalizer.from_bytes(
        _words_only(data[:_SAMPLE_BYTES]), cp_isolation=list(_guessable())
    ).best()
    return best.encoding if best is not None else ""


def _guessable() -> Iterator[str]:
    yield from (name for name in ENCODINGS if not name.startswith("utf"))


def _words_only(data: bytes) -> bytes:
    """The lines that are not only figures and signs of ASCII: times and numbers say nothing of a language."""
    lines = [line for line in data.split(b"\n") if any(byte > 0x7F for byte in line)]
    return b"\n".join(lines) or data

"""Bytes of a text file as text, whatever it was saved as."""

import codecs

_BOMS = (
    (codecs.BOM_UTF8, "utf-8-sig"),
    (codecs.BOM_UTF32_LE, "utf-32"),
    (codecs.BOM_UTF32_BE, "utf-32"),
    (codecs.BOM_UTF16_LE, "utf-16"),
    (codecs.BOM_UTF16_BE, "utf-16"),
)


def decode(data: bytes) -> tuple[str, str]:
    """Text with lines ending in a line feed, and a remark when the encoding had to be guessed (else '')."""
    remark = ""
    for mark, name in _BOMS:
        if data.startswith(mark):
            text = data.decode(name, errors="replace")
            break
    else:
        try:
            text = data.decode("utf-8")
        except UnicodeDecodeError:
            text = data.decode("cp1252", errors="replace")
            remark = "it is not UTF-8 and was read as Windows-1252; check the accents"
    if "\0" in text:
        text = text.replace("\0", "\ufffd")
        remark = remark or "it holds NUL characters, which were replaced"
    return text.replace("\r\n", "\n").replace("\r", "\n"), remark

"""Captions as TTML: the text profile of IMSC 1.1 (W3C, TTML Profiles for Internet Media Subtitles and
Captions 1.1)."""

import re
from fractions import Fraction

from fox_cadence.core.ticks import TICKS_PER_SECOND
from fox_cadence.errors import InputError
from fox_cadence.formats.cues import Cue, clock
from fox_cadence.formats.xml_tree import Element, name_of, parse

_TT = "http://www.w3.org/ns/ttml"
_TTP, _TTS = f"{_TT}#parameter", f"{_TT}#styling"
_PROFILE = f"{_TT}/profile/imsc1.1/text"
_XML = "http://www.w3.org/XML/1998/namespace"
_CLOCK = re.compile(r"(\d{2,}):([0-5]\d):([0-5]\d(?:\.\d+)?)")
"""A time as TTML's clock-time is written with a fraction; frames and ticks are not read."""


def write(cues: list[Cue], language: str) -> bytes:
    """Cues as one region at the lower edge; lines as they are broken.

    Args:
        language: BCP 47.
    """
    from lxml import etree

    root = etree.Element(_tag("tt"), nsmap={None: _TT, "ttp": _TTP, "tts": _TTS})
    root.set(f"{{{_XML}}}lang", language)
    root.set(f"{{{_TTP}}}contentProfiles", _PROFILE)
    root.set(f"{{{_TTP}}}timeBase", "media")
    root.set(f"{{{_TTP}}}cellResolution", "32 15")
    head = etree.SubElement(root, _tag("head"))
    styling = etree.SubElement(head, _tag("styling"))
    style = etree.SubElement(styling, _tag("style"))
    style.set(f"{{{_XML}}}id", "words")
    for name, value in (
        ("color", "#ffffff"),
        ("backgroundColor", "#000000c0"),
        ("fontFamily", "proportionalSansSerif"),
        ("fontSize", "100%"),
        ("textAlign", "center"),
    ):
        style.set(f"{{{_TTS}}}{name}", value)
    region = etree.SubElement(etree.SubElement(head, _tag("layout")), _tag("region"))
    region.set(f"{{{_XML}}}id", "below")
    for name, value in (("origin", "10% 70%"), ("extent", "80% 20%"), ("displayAlign", "after")):
        region.set(f"{{{_TTS}}}{name}", value)
    division = etree.SubElement(etree.SubElement(root, _tag("body")), _tag("div"))
    for number, cue in enumerate(cues, 1):
        part = etree.SubElement(division, _tag("p"))
        part.set(f"{{{_XML}}}id", f"c{number}")
        part.set("region", "below")
        part.set("style", "words")
        part.set("begin", clock(cue.start_ticks or 0, "."))
        part.set("end", clock(cue.end_ticks or 0, "."))
        first, *others = [_plain(line) for line in cue.text.split("\n")]
        part.text = first
        for line in others:
            etree.SubElement(part, _tag("br")).tail = line
    written: bytes = etree.tostring(root, xml_declaration=True, encoding="UTF-8", pretty_print=True)
    return written


def read(data: bytes) -> tuple[Cue, ...]:
    """The cues of a document whose times stand at its paragraphs.

    Raises:
        InputError: it is no TTML, or a paragraph has no times.
    """
    try:
        root = parse(data.decode("utf-8"), "TTML")
    except UnicodeDecodeError as error:
        raise InputError("it is not UTF-8") from error
    if root.tag != _tag("tt"):
        raise InputError("its root is not that of TTML")
    return tuple(
        Cue(_words(part), _ticks(part, "begin"), _ticks(part, "end"), part.sourceline or 0)
        for part in root.iter(_tag("p"))
    )


def _words(part: Element) -> str:
    said = part.text or ""
    for inside in part:
        said += "\n" if name_of(inside) == "br" else _words(inside)
        said += inside.tail or ""
    return str(said)


def _ticks(part: Element, name: str) -> int:
    found = _CLOCK.fullmatch(part.get(name) or "")
    if found is None:
        raise InputError(f"a paragraph has no {name} that can be read", f"line {part.sourceline}")
    hours, minutes, seconds = found.groups()
    return round((int(hours) * 3600 + int(minutes) * 60 + Fraction(seconds)) * TICKS_PER_SECOND)


def _plain(text: str) -> str:
    """Text without signs that XML can't hold."""
    return "".join(sign for sign in text if sign >= " " or sign == "\t")


def _tag(name: str) -> str:
    return f"{{{_TT}}}{name}"

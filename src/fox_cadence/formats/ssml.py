"""SSML 1.1 (W3C Recommendation, 7 September 2010), in and out: its elements become our marks and back.

Nothing it points to is ever opened: sounds and lexicons are reported and left out.
"""

import math
import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from xml.sax.saxutils import escape, quoteattr

from fox_cadence.core.ipa import NotIpaError, checked_ipa
from fox_cadence.core.languages import is_language
from fox_cadence.core.lexicon import fits
from fox_cadence.core.marks import (
    BREATH_TICKS,
    Breath,
    Emphasis,
    EmphasisLevel,
    Mark,
    PauseMark,
    Pronunciation,
    SpanMark,
    over_words,
    written_pauses,
)
from fox_cadence.core.ticks import seconds_to_ticks, ticks_to_seconds
from fox_cadence.core.words import words_of
from fox_cadence.formats.cues import Cue, Problem, ReadResult
from fox_cadence.formats.xml_tree import Element, name_of, parse

_STRENGTHS = {"none": 0.0, "x-weak": 0.1, "weak": 0.2, "medium": 0.4, "strong": 0.7, "x-strong": 1.0}
_RATES = {"x-slow": 0.7, "slow": 0.85, "medium": 1.0, "default": 1.0, "fast": 1.15, "x-fast": 1.35}
_PITCHES = {"x-low": -4.0, "low": -2.0, "medium": 0.0, "default": 0.0, "high": 2.0, "x-high": 4.0}
_VOLUMES = {
    "silent": -24.0,
    "x-soft": -9.0,
    "soft": -4.0,
    "medium": 0.0,
    "default": 0.0,
    "loud": 4.0,
    "x-loud": 7.0,
}
_LEVELS: dict[str, EmphasisLevel] = {"strong": "strong", "moderate": "moderate", "reduced": "reduced"}
_LONGEST_PAUSE_S = 10.0
_BREATH = "breath"
"""The name of a <mark> that says the speaker breathes in: SSML has no breath of its own, and passes names
over."""
_MOST_DEPTH = 60
_LANGUAGE = "{http://www.w3.org/XML/1998/namespace}lang"
_PLAIN = {"speak", "p", "s", "token", "w", "lang", "desc", "metadata", "meta"}

_SAID_SO = frozenset({"cardinal", "number", "date", "time", "currency", "unit"})
"""What the voices say of figures by themselves (voices/spoken_forms.py)."""


@dataclass
class _Line:
    """A line in the making: its text, and marks by characters."""

    role: str
    text: str = ""
    over: list[tuple[str, int, int, Mark]] = field(default_factory=list)
    breaks: list[tuple[int, float]] = field(default_factory=list)
    breaths: list[int] = field(default_factory=list)


class _Reader:
    def __init__(self) -> None:
        self.lines: list[_Line] = []
        self.problems: list[Problem] = []

    def remark(self, element: Element, message: str) -> None:
        self.problems.append(Problem(f"line {element.sourceline or '?'}", message))

    def walk(self, element: Element, line: _Line, depth: int) -> _Line:
        """Read an element into a line; the line to go on with (a paragraph begins a new one)."""
        if depth > _MOST_DEPTH:
            self.remark(element, "its elements lie too deep inside one another; left out")
            return line
        name = name_of(element)
        if name in ("p", "s") and line.text.strip():
            line = self.begin(line.role)
        if name == "voice":
            role = str(element.get("name") or "").split(",")[0].strip().lower()
            if role and role != line.role:
                line = self.begin(role)
        start, own = len(line.text), line
        self.text(line, element.text, element)
        for child in element:
            line = self.child(child, line, depth)
            self.text(line, child.tail, child)
        self.close(element, name, own, start)
        if name in ("p", "voice") and line.text.strip():
            line = self.begin("" if name == "voice" else line.role)
        return line

    def child(self, child: Element, line: _Line, depth: int) -> _Line:
        name = name_of(child)
        if name == "break":
            line.breaks.append((len(line.text), self.seconds(child)))
            if line.text and not line.text.endswith(" "):
                line.text += " "
        elif name == "audio":
            self.remark(
                child, "it would play a sound from elsewhere, which is not opened; its words were taken"
            )
            return self.walk(child, line, depth + 1)
        elif name == "lexicon" or name == "lookup":
            self.remark(
                child, "it names a lexicon elsewhere, which is not opened; bring it in under Pronunciations"
            )
            return self.walk(child, line, depth + 1)
        elif name == "mark" and child.get("name") == _BREATH:
            line.breaths.append(len(line.text))
        elif name == "mark":
            self.remark(child, "a mark of the document has no meaning here; left out")
        elif name == "say-as":
            self.say_as(child)
            return self.walk(child, line, depth + 1)
        elif name in _PLAIN | {"emphasis", "prosody", "phoneme", "sub", "voice"}:
            return self.walk(child, line, depth + 1)
        elif name:
            self.remark(child, f"<{name}> is not known here; its words were taken")
            return self.walk(child, line, depth + 1)
        return line

    def say_as(self, element: Element) -> None:
        """What the element asks for is left out, unless the voices do just that by themselves."""
        wanted = str(element.get("interpret-as") or "").strip()
        if wanted not in _SAID_SO:
            named = f"as {wanted!r}" if wanted else "in a way it does not name"
            self.remark(
                element, f"it asks to be said {named}, which is left out; the words were taken as written"
            )

    def begin(self, role: str) -> _Line:
        self.lines.append(_Line(role))
        return self.lines[-1]

    def text(self, line: _Line, text: str | None, element: Element) -> None:
        if text:
            folded = re.sub(r"\s+", " ", text)
            line.text += folded.lstrip() if not line.text or line.text.endswith(" ") else folded

    def close(self, element: Element, name: str, line: _Line, start: int) -> None:
        """What an element did to the words it held."""
        end = len(line.text)
        if end <= start or not words_of(line.text[start:end]):
            return
        if name == "emphasis":
            level = _LEVELS.get(str(element.get("level") or "moderate"))
            if level:
                line.over.append((name, start, end, Emphasis(first_word=0, end_word=1, level=level)))
        elif name == "prosody":
            self.prosody(element, line, start, end)
        elif name in ("phoneme", "sub"):
            self.said(element, name, line, start, end)

    def said(self, element: Element, name: str, line: _Line, start: int, end: int) -> None:
        value = str(element.get("ph" if name == "phoneme" else "alias") or "").strip()
        if name == "phoneme" and str(element.get("alphabet") or "ipa").lower() != "ipa":
            return self.remark(
                element, "its pronunciation is in another alphabet than IPA; the word is said as written"
            )
        if not fits(len(words_of(line.text[start:end])), value):
            return self.remark(
                element, f"“{value}” has another number of words than what it stands for; left out"
            )
        try:
            ipa = checked_ipa(value) if name == "phoneme" else None
        except NotIpaError as error:
            return self.remark(element, f"{error}; the word is said as written")
        if ipa is None and not words_of(value):
            return self.remark(element, "its alias has no word in it; left out")
        around = element.getparent()
        language = str(around.get(_LANGUAGE, "")) if around is not None and name_of(around) == "lang" else ""
        mark = Pronunciation(
            first_word=0,
            end_word=1,
            ipa=ipa,
            spelled=None if ipa else value,
            language=language if ipa and is_language(language) else None,
        )
        line.over.append((name, start, end, mark))
        return None

    def prosody(self, element: Element, line: _Line, start: int, end: int) -> None:
        try:
            mark = SpanMark(
                first_word=0,
                end_word=1,
                pace=_rate(str(element.get("rate") or "medium")),
                pitch_semitones=_pitch(str(element.get("pitch") or "medium")),
                gain_db=_volume(str(element.get("volume") or "medium")),
            )
        except ValueError as error:
            self.remark(element, f"{error}; left out")
            return
        if (mark.pace, mark.pitch_semitones, mark.gain_db) != (1, 0, 0):
            line.over.append(("prosody", start, end, mark))

    def seconds(self, element: Element) -> float:
        given = str(element.get("time") or "").strip()
        match = re.fullmatch(r"\+?(\d+(?:\.\d+)?)(ms|s)", given)
        if not match:
            if given:
                self.remark(element, f"the time {given!r} can't be read; a pause of 0.40 s was set")
            return _STRENGTHS.get(str(element.get("strength") or "medium"), 0.4)
        seconds = float(match[1]) / (1000 if match[2] == "ms" else 1)
        if seconds > _LONGEST_PAUSE_S:
            self.remark(element, f"a pause of {given} was cut to {_LONGEST_PAUSE_S:.0f} s")
        return min(seconds, _LONGEST_PAUSE_S)


def read(text: str) -> ReadResult:
    """A document as cues with marks: paragraphs and sentences are lines, voices by name are roles.

    Raises:
        InputError: it is no SSML.
    """
    root = parse(text, "SSML")
    reader = _Reader()
    if name_of(root) != "speak":
        reader.remark(root, "the document does not begin with <speak>; its words were taken all the same")
    reader.walk(root, reader.begin(""), 0)
    cues: list[Cue] = []
    for line in reader.lines:
        if words_of(line.text):
            lead = len(line.text) - len(line.text.lstrip())
            cues.append(Cue(line.text.strip(), role=line.role, marks=tuple(_marks(line, lead))))
    return ReadResult(tuple(cues), tuple(reader.problems))


def _marks(line: _Line, lead: int) -> Iterable[Mark]:
    words = words_of(line.text)

    def between(at: int) -> int | None:
        """The word a place comes after, when another word follows."""
        before = sum(word.start < at for word in words) - 1
        return before if 0 <= before < len(words) - 1 else None

    breathed = {before for at in line.breaths if (before := between(at)) is not None}
    yield from (Breath(after_word=before) for before in sorted(breathed))
    for at, seconds in line.breaks:
        before, ticks = between(at), seconds_to_ticks(seconds)
        # the breath makes that pause
        if before is not None and not (before in breathed and ticks == BREATH_TICKS):
            yield PauseMark(after_word=before, ticks=ticks)
    for _, start, end, mark in line.over:
        under = [n for n, word in enumerate(words) if word.start < end and start < word.end_exclusive]
        if under:
            yield mark.changed(first_word=under[0], end_word=under[-1] + 1)


def _number(text: str) -> float:
    try:
        value = float(text)
    except ValueError:
        raise ValueError(f"the value {text!r} can't be read") from None
    if not math.isfinite(value):
        raise ValueError(f"the value {text!r} can't be read")
    return value


def _rate(text: str) -> float:
    if text in _RATES:
        return _RATES[text]
    if text.endswith("%"):
        value = _number(text[:-1]) / 100
        return _within(1 + value if text[0] in "+-" else value, 0.5, 2)
    return _within(_number(text), 0.5, 2)


def _pitch(text: str) -> float:
    if text in _PITCHES:
        return _PITCHES[text]
    if text.endswith("st"):
        return _within(_number(text[:-2]), -12, 12)
    if text.endswith("%"):
        factor = 1 + _number(text[:-1]) / 100
        return _within(12 * math.log2(max(factor, 0.1)), -12, 12)
    raise ValueError(f"the pitch {text!r} can't be read (semitones and percent can)")


def _volume(text: str) -> float:
    if text in _VOLUMES:
        return _VOLUMES[text]
    if text.endswith("dB"):
        return _within(_number(text[:-2]), -24, 12)
    raise ValueError(f"the volume {text!r} can't be read (decibels can)")


def _within(value: float, low: float, high: float) -> float:
    return round(min(max(value, low), high), 4)


@dataclass(frozen=True, slots=True)
class SpokenLine:
    """A line to write: who says it, its words, its marks (those over words are cut where they cross)."""

    role: str
    text: str
    marks: Sequence[Mark]


def write(lines: Sequence[SpokenLine], language: str) -> str:
    """A document with a paragraph for each line."""
    body = "\n".join(
        f"  <voice name={quoteattr(line.role)}><p>{_written(line)}</p></voice>"
        for line in lines
        if words_of(line.text)
    )
    head = f'<speak version="1.1" xmlns="http://www.w3.org/2001/10/synthesis" xml:lang={quoteattr(language)}>'
    return f'<?xml version="1.0" encoding="UTF-8"?>\n{head}\n{body}\n</speak>\n'


def _written(line: SpokenLine) -> str:
    words = words_of(line.text)
    pauses = written_pauses(line.marks)
    breaths = {mark.after_word for mark in line.marks if isinstance(mark, Breath)}
    parts: list[str] = []
    for number, word in enumerate(words):
        until = words[number + 1].start if number + 1 < len(words) else len(line.text)
        made = _word(line, number, word.text)
        gap = line.text[word.end_exclusive : until]
        if number in pauses and number + 1 < len(words):
            breath = f'<mark name="{_BREATH}"/>' if number in breaths else ""
            gap = f'{gap.rstrip()}<break time="{round(ticks_to_seconds(pauses[number]) * 1000)}ms"/>{breath} '
        parts.append(made + (gap if "<" in gap else escape(gap)))
    return "".join(parts)


def _word(line: SpokenLine, number: int, text: str) -> str:
    """One word with the elements around it: written word by word, so that marks that cross stay
    well-formed."""
    made = escape(text)
    for mark in over_words(line.marks, Pronunciation):
        if mark.first_word <= number < mark.end_word:
            said = (mark.ipa or mark.spelled or "").split()
            each = said[number - mark.first_word] if mark.end_word - mark.first_word > 1 else " ".join(said)
            if mark.ipa:
                made = f'<phoneme alphabet="ipa" ph={quoteattr(each)}>{made}</phoneme>'
                if mark.language:
                    made = f"<lang xml:lang={quoteattr(mark.language)}>{made}</lang>"
            else:
                made = f"<sub alias={quoteattr(each)}>{made}</sub>"
    for emphasis in over_words(line.marks, Emphasis):
        if emphasis.first_word <= number < emphasis.end_word:
            made = f'<emphasis level="{emphasis.level}">{made}</emphasis>'
    for span in over_words(line.marks, SpanMark):
        if span.first_word <= number < span.end_word:
            made = (
                f'<prosody rate="{span.pace * 100:g}%" pitch="{span.pitch_semitones:+g}st" '
                f'volume="{span.gain_db:+g}dB">{made}</prosody>'
            )
    return made

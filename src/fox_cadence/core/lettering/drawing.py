"""A caption or title as a drawing: one description that the page shows as SVG and the export paints with the
same outlines."""

import itertools
import unicodedata
from collections.abc import Sequence
from dataclasses import dataclass, replace

from fox_cadence.core.lettering.breaks import break_lines, divided
from fox_cadence.core.lettering.faces import UNSEEN, Faces
from fox_cadence.core.lettering.grounds import Box, Mark, grounds, grown, rounded
from fox_cadence.core.lettering.setting import DrawnWord, Set, ink_reach, line_width, place_line, set_words
from fox_cadence.core.lettering.style import CaptionStyle, MovementKind, SpokenKind
from fox_cadence.core.outline import Outline
from fox_cadence.core.words import pieces_of, words_of

_SMALLER = 0.9
_MOST_STEPS = 7
_APART = 0.05
"""Ink of one line stays so far from that of the next, in units of the font's size."""
_SHADOW = ((0.35, 0.2), (0.9, 0.16), (1.7, 0.1))
_GLOW = ((0.5, 0.3), (1.0, 0.2), (1.7, 0.14), (2.6, 0.08))
"""Lines around the letters that make a soft edge: their width against that of the edge, and their opacity."""
_SHADOW_DROP = 0.45


@dataclass(frozen=True, slots=True)
class EdgeLine:
    """A line around every letter, under all of them; filled instead where `width` is 0."""

    colour: str
    opacity: float
    width: float
    dx: float
    dy: float


@dataclass(frozen=True, slots=True)
class Unit:
    """What comes in as one. `box` holds it, and turns and grows about its middle; `edges` are shares of its
    width at which it can end while it is typed."""

    box: Box
    edges: tuple[float, ...]
    backwards: bool


@dataclass(frozen=True, slots=True)
class CaptionDrawing:
    """Words in a frame of `width` x `height` pixels, at rest.

    `box` is x, y, width, height of all its ink, whole pixels; `block` that of the words. Units come in one
    after the other: unit 0 is what belongs to the whole block, `word_units` tell with which each word comes.
    `em` is the size of the font in pixels. `of` are the numbers of the words that are drawn, in which a word
    that no line holds stands for each of its parts.
    """

    width: int
    height: int
    box: tuple[int, int, int, int]
    block: Box
    lines: tuple[str, ...]
    marks: tuple[Mark, ...]
    edges: tuple[EdgeLine, ...]
    words: tuple[DrawnWord, ...]
    units: tuple[Unit, ...]
    word_units: tuple[int, ...]
    ink: str
    lit: str
    spoken: SpokenKind
    comes: MovementKind
    goes: MovementKind
    em: float
    backwards: bool
    missing: tuple[str, ...]
    of: tuple[int, ...] = ()

    def of_same_word(self, number: int, other: int | None) -> bool:
        """Whether two that are drawn are the same word, or parts of one."""
        return other is not None and (number == other or self.of[number] == self.of[other])


def spoken_mark(drawing: CaptionDrawing, number: int) -> Outline:
    """What is drawn behind or under a word while it is spoken; nothing where only its ink changes."""
    x, y, wide, high = drawing.words[number].box
    em = drawing.em
    if drawing.spoken == "box":
        return rounded(grown((x, y, wide, high), 0.14 * em, -0.08 * em), 0.12 * em)
    if drawing.spoken == "underline":
        return rounded((x, y + high - 0.14 * em, wide, 0.075 * em), 0.0)
    return ()


def drawn_words(text: str) -> list[str]:
    """The words of a caption as they are drawn, each with a space after it where one follows; signs that
    stand alone go with the word before them.

    There are as many as the text has words, so that each can be lit as it is spoken; where it has no word,
    its signs.
    """
    plain = " ".join(text.split())
    return pieces_of(plain) if words_of(plain) else [f"{sign} " for sign in plain.split()]


def letter(
    text: str,
    style: CaptionStyle,
    faces: Faces,
    width: int,
    height: int,
    breaks: Sequence[int] = (),
) -> CaptionDrawing:
    """Draw words into a frame.

    Long ones are set smaller, down to half the size, until they need no more than the style's lines.

    Args:
        breaks: the words before which the editor has begun a new line; those of a title stand in its text.
    """
    words = [_cased(word, style, faces.language) for word in drawn_words(text)]
    short = min(width, height)
    room = style.width * width
    size = style.size * short
    parts, of = _parts(words, faces, style, room / (size * _SMALLER**_MOST_STEPS))
    places = [of.index(number) for number in range(len(words))] + [len(parts)]
    paragraphs = [
        range(places[each.start], places[each.stop]) for each in _paragraphs(text, len(words), breaks)
    ]
    blocks = 2 * style.ground.reach / style.size if style.ground.kind == "blocks" else 0.0
    setting = set_words(parts, faces, style.letter_spacing, blocks)
    factors = [style.first_line if n == 0 and len(paragraphs) > 1 else 1.0 for n in range(len(paragraphs))]
    lines: list[tuple[list[int], float]] = []
    for _ in range(_MOST_STEPS + 1):
        lines = _lines(setting, paragraphs, factors, size, room, fixed=bool(breaks))
        wide = max((line_width(setting, line) * size * factor for line, factor in lines), default=0.0)
        if len(lines) <= max(style.most_lines, len(paragraphs)) and wide <= room + 0.01:
            break
        size *= _SMALLER
    return replace(_drawn(setting, lines, style, faces, size, (width, height), text), of=tuple(of))


def _parts(
    words: Sequence[str], faces: Faces, style: CaptionStyle, room: float
) -> tuple[list[str], list[int]]:
    """Words in parts that a line can hold, and the number of the word each part is of: nearly always the
    words themselves. One that is too long is divided by the rules of its script, and where those have none,
    anywhere.

    Args:
        room: of a line, in units of the font's size, when the letters are as small as they may become.
    """
    parts: list[str] = []
    of: list[int] = []
    for number, word in enumerate(words):
        made = [word] if _run(word, faces, style) <= room else _short_enough(word, faces, style, room)
        parts += made
        of += [number] * len(made)
    return parts, of


def _run(word: str, faces: Faces, style: CaptionStyle) -> float:
    return set_words([word], faces, style.letter_spacing).widths[0]


def _short_enough(word: str, faces: Faces, style: CaptionStyle, room: float) -> list[str]:
    found: list[str] = []
    for part in divided(word):
        rest = part
        while rest.strip() and _run(rest, faces, style) > room:
            signs = max(1, int(len(rest) * room / _run(rest, faces, style)))
            while signs < len(rest) and (unicodedata.combining(rest[signs]) or rest[signs] in UNSEEN):
                signs += 1  # a mark stays with its letter
            found.append(rest[:signs])
            rest = rest[signs:]
        found += [rest] if rest else []
    return found


def _cased(word: str, style: CaptionStyle, language: str) -> str:
    if style.case == "as written":
        return word
    if language.split("-")[0] in ("tr", "az"):
        word = word.replace("i", "İ") if style.case == "upper" else word.replace("I", "ı")
    return word.upper() if style.case == "upper" else word.lower()


def _paragraphs(text: str, count: int, breaks: Sequence[int]) -> list[range]:
    """Ranges of words that begin a new line: as the editor broke them, or as the text is written in lines."""
    if breaks:
        starts = sorted({0, *(place for place in breaks if 0 < place < count)})
    else:
        counts = [len(drawn_words(part)) for part in text.splitlines() if part.strip()]
        starts = [0, *itertools.accumulate(counts[:-1])] if sum(counts) == count else [0]
    return [range(a, b) for a, b in itertools.pairwise([*starts, count])]


def _lines(
    setting: Set,
    paragraphs: Sequence[range],
    factors: Sequence[float],
    size: float,
    room: float,
    fixed: bool,
) -> list[tuple[list[int], float]]:
    """Lines with their size against that of the font; `fixed` keeps each paragraph in one."""
    found: list[tuple[list[int], float]] = []
    for paragraph, factor in zip(paragraphs, factors, strict=True):
        if fixed:
            found.append((list(paragraph), factor))
            continue
        here = size * factor
        part = slice(paragraph.start, paragraph.stop)
        widths = [width * here for width in setting.widths[part]]
        gaps = [gap * here for gap in setting.gaps[part]]
        broken = break_lines(setting.words[part], widths, gaps, room)
        found += [([paragraph.start + word for word in line], factor) for line in broken]
    return found


def _drawn(
    setting: Set,
    lines: Sequence[tuple[list[int], float]],
    style: CaptionStyle,
    faces: Faces,
    size: float,
    frame: tuple[int, int],
    text: str,
) -> CaptionDrawing:
    width, height = frame
    short = min(frame)
    em = faces.main.ascent + faces.main.descent
    reaches = [ink_reach(setting, line) for line, _ in lines]
    up, down = (max((reach[side] for reach in reaches), default=0.0) for side in (0, 1))
    pitches = [max(style.line_height, up + down + _APART) * size * factor for _, factor in lines]
    block_height = sum(pitches)
    widths = [line_width(setting, line) * size * factor for line, factor in lines]
    widest = max(widths, default=0.0)
    left = _left(style, width, widest, setting.backwards)
    top = _top(style, height, block_height)
    words: list[DrawnWord] = []
    line_boxes: list[Box] = []
    at = top
    for number, ((line, factor), line_wide, pitch) in enumerate(zip(lines, widths, pitches, strict=True)):
        slack = widest - line_wide
        begins = style.align == "start"
        shift = slack / 2 if style.align == "middle" else slack if begins == setting.backwards else 0.0
        here = size * factor
        baseline = (pitch - em * here) / 2 + faces.main.ascent * here
        baseline = at + min(max(baseline, up * here), pitch - down * here)
        words += place_line(setting, line, faces, here, left + shift, baseline, (at, pitch), number)
        line_boxes.append((left + shift, at, line_wide, pitch))
        at += pitch
    block = (left, top, widest, block_height)
    units, line_units, word_units = _units(style, block, line_boxes, words, setting.backwards, short)
    marks = grounds(
        style, frame, block, line_boxes, [word.box for word in words], (line_units, word_units),
        setting.backwards,
    )  # fmt: skip
    return CaptionDrawing(
        width=width,
        height=height,
        box=_whole_box(_ink(words, marks, style, short), width, height),
        block=block,
        lines=tuple("".join(setting.words[word] for word in line).rstrip() for line, _ in lines),
        marks=marks,
        edges=_edges(style, short),
        words=tuple(words),
        units=units,
        word_units=word_units,
        ink=style.ink,
        lit=style.lit,
        spoken=style.spoken,
        comes=style.comes.kind,
        goes=style.goes.kind,
        em=size,
        backwards=setting.backwards,
        missing=faces.missing(text),
    )


def _left(style: CaptionStyle, width: int, widest: float, backwards: bool) -> float:
    """Where the block begins on the left; a text that runs from right to left is held on the other side."""
    x = style.place.x * width
    if style.align == "middle":
        return x - widest / 2
    if backwards:
        return width - x - widest if style.align == "start" else width - x
    return x if style.align == "start" else x - widest


def _top(style: CaptionStyle, height: int, block: float) -> float:
    y = style.place.y * height
    return {"top": y, "middle": y - block / 2, "bottom": y - block}[style.place.hold]


def _units(
    style: CaptionStyle,
    block: Box,
    lines: Sequence[Box],
    words: Sequence[DrawnWord],
    backwards: bool,
    short: int,
) -> tuple[tuple[Unit, ...], tuple[int, ...], tuple[int, ...]]:
    """Units, and with which each line and each word comes in."""
    reach = style.ground.reach * short if style.ground.kind != "none" else 0.0
    edge = style.edge.width * short * 2
    whole = Unit(grown(block, reach + edge, reach + edge), (), backwards)
    if style.comes.kind == "type" or style.comes.by == "word":
        own = tuple(Unit(grown(word.box, 0.0, edge), word.edges, word.backwards) for word in words)
        return (whole, *own), (0,) * len(lines), tuple(range(1, len(words) + 1))
    if style.comes.by == "line":
        own = tuple(Unit(grown(box, reach + edge, edge), (), backwards) for box in lines)
        return (whole, *own), tuple(range(1, len(lines) + 1)), tuple(word.line + 1 for word in words)
    return (whole,), (0,) * len(lines), (0,) * len(words)


def _edges(style: CaptionStyle, short: int) -> tuple[EdgeLine, ...]:
    edge, width = style.edge, style.edge.width * short
    if edge.kind == "contour":
        return (EdgeLine(edge.colour, 1.0, width, 0.0, 0.0),)
    if edge.kind == "copy":
        return (EdgeLine(edge.colour, 1.0, 0.0, width, width),)
    if edge.kind == "shadow":
        return tuple(
            EdgeLine(edge.colour, opacity, share * width, 0.0, _SHADOW_DROP * width)
            for share, opacity in _SHADOW
        )
    if edge.kind == "glow":
        return tuple(EdgeLine(edge.colour, opacity, share * width, 0.0, 0.0) for share, opacity in _GLOW)
    return ()


def _ink(words: Sequence[DrawnWord], marks: Sequence[Mark], style: CaptionStyle, short: int) -> Box:
    reach = style.edge.width * short * 1.5 + style.size * short * 0.12 + 2
    lefts: list[float] = []
    tops: list[float] = []
    for word in words:
        for path in (word.path, *(picture.path for picture in word.pictures)):
            for _, values in path:
                lefts += values[::2]
                tops += values[1::2]
        lefts += (word.box[0], word.box[0] + word.box[2])
        tops += (word.box[1], word.box[1] + word.box[3])
    found = [(min(lefts) - reach, min(tops) - reach, max(lefts) + reach, max(tops) + reach)] if lefts else []
    for mark in marks:
        xs = [value for _, values in mark.path for value in values[::2]]
        ys = [value for _, values in mark.path for value in values[1::2]]
        by = mark.width / 2 + 1
        found.append((min(xs) - by, min(ys) - by, max(xs) + by, max(ys) + by))
    if not found:
        return (0.0, 0.0, 0.0, 0.0)
    left, top = min(each[0] for each in found), min(each[1] for each in found)
    return left, top, max(each[2] for each in found), max(each[3] for each in found)


def _whole_box(box: Box, width: int, height: int) -> tuple[int, int, int, int]:
    """The box (left, top, right, bottom) on even pixels inside the frame: chroma is stored for pairs of
    pixels."""
    left = max(0, int(box[0]) // 2 * 2)
    top = max(0, int(box[1]) // 2 * 2)
    right = min(width, -(-int(box[2] + 1) // 2) * 2)
    bottom = min(height, -(-int(box[3] + 1) // 2) * 2)
    return left, top, max(0, right - left), max(0, bottom - top)

"""Words set into lines: each with its outlines, in the faces and directions its signs ask for."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from fox_cadence.core.lettering.bidi import in_visual_order, levels
from fox_cadence.core.lettering.faces import EMOJI_UNITS, Face, Faces, Picture
from fox_cadence.core.lettering.grounds import Box
from fox_cadence.core.outline import Command, Outline

_UNDECIDED = ("Zyyy", "Zinh", "Zzzz")
_SPACED = frozenset(("Latn", "Cyrl", "Grek", "Hebr", "Hani", "Hira", "Kana", "Hang", "Zyyy"))
"""Scripts whose letters may be set apart; in others they join."""
_EMOJI_EM, _EMOJI_ADVANCE, _EMOJI_DROP = 1.12, 1.2, 0.2


@dataclass(frozen=True, slots=True)
class DrawnWord:
    """A word in pixels of the frame. `box` is the room it takes in its line; `edges` are the shares of it
    after which its signs end, from where it begins: the right where it runs `backwards`."""

    text: str
    path: Outline
    pictures: tuple[Picture, ...]
    box: Box
    edges: tuple[float, ...]
    backwards: bool
    line: int


@dataclass(frozen=True, slots=True)
class _Run:
    """A part of one word (or the space after it) in one face, script and direction."""

    word: int
    text: str
    level: int
    face: Face | None
    """None for an emoji."""
    spacing: float
    advance: float
    """Of all of it, in units of the font's size."""
    drawn: bool


@dataclass(frozen=True, slots=True)
class Set:
    """Words as runs, with the widths of all words and of the spaces after them in units of the font's
    size."""

    words: tuple[str, ...]
    runs: tuple[tuple[_Run, ...], ...]
    widths: tuple[float, ...]
    gaps: tuple[float, ...]
    backwards: bool


def set_words(words: Sequence[str], faces: Faces, spacing: float, between: float = 0.0) -> Set:
    """Divide words into runs and measure them.

    Args:
        words: each with a space after it where one follows.
        spacing: between letters, in units of the font's size.
        between: what the spaces between words are wider than the typeface has them.
    """
    text = "".join(words)
    found = levels(text)
    runs: list[tuple[_Run, ...]] = []
    at = 0
    for number, word in enumerate(words):
        runs.append(tuple(_runs_of(number, word, found[at : at + len(word)], faces, spacing, between)))
        at += len(word)
    return Set(
        tuple(words),
        tuple(runs),
        tuple(sum(run.advance for run in each if run.drawn) for each in runs),
        tuple(sum(run.advance for run in each if not run.drawn) for each in runs),
        min(found, default=0) == 1,
    )


def _runs_of(
    number: int, word: str, its_levels: Sequence[int], faces: Faces, spacing: float, between: float
) -> list[_Run]:
    bare = word.rstrip()
    runs: list[_Run] = []
    at = 0
    for part, is_emoji in faces.parts(bare):
        if is_emoji:
            runs.append(_Run(number, part, its_levels[at], None, 0.0, _EMOJI_ADVANCE, True))
            at += len(part)
            continue
        face = faces.face_for(part)
        for start, end, of_script in _same(part, its_levels[at : at + len(part)]):
            text, level = part[start:end], its_levels[at + start]
            apart = spacing if of_script in _SPACED else 0.0
            glyphs = face.shape(text, level % 2 == 1, faces.language)
            signs = len({glyph.cluster for glyph in glyphs})
            advance = sum(glyph.advance for glyph in glyphs) + apart * signs
            runs.append(_Run(number, text, level, face, apart, advance, True))
        at += len(part)
    if bare != word:
        level = its_levels[len(bare)]
        # the space is that of the letters before it: in a text of another script all of them come from there
        face = next((run.face for run in reversed(runs) if run.face and run.face.has(" ")), faces.main)
        runs.append(_Run(number, " ", level, face, 0.0, face.width(" ") + spacing + between, False))
    return runs


@lru_cache(maxsize=8000)
def _script_of(sign: str) -> str:
    from fontTools.unicodedata import script

    return str(script(sign))


def _same(text: str, its_levels: Sequence[int]) -> list[tuple[int, int, str]]:
    """Stretches of one script and level: (start, end, script); signs of no script go with those before
    them."""
    found: list[tuple[int, int, str]] = []
    start, now = 0, ""
    for place, sign in enumerate(text):
        own = _script_of(sign)
        own = "" if own in _UNDECIDED else own
        if place > start and (its_levels[place] != its_levels[start] or (own and now and own != now)):
            found.append((start, place, now or "Zyyy"))
            start, now = place, own
        now = now or own
    if text:
        found.append((start, len(text), now or "Zyyy"))
    return found


def line_width(setting: Set, line: Sequence[int]) -> float:
    """How far a line runs, in units of the font's size; the space at its end is not counted."""
    if not line:
        return 0.0
    return sum(setting.widths[word] + setting.gaps[word] for word in line) - setting.gaps[line[-1]]


def ink_reach(setting: Set, line: Sequence[int]) -> tuple[float, float]:
    """How far the ink of a line goes above and below its baseline, in units of the font's size."""
    above = below = 0.0
    for word in line:
        for run in setting.runs[word]:
            if run.face is None:
                above, below = max(above, _EMOJI_EM - _EMOJI_DROP), max(below, _EMOJI_DROP)
            elif run.drawn:
                up, down = _reach(run.face, run.text, run.level % 2 == 1)
                above, below = max(above, up), max(below, down)
    return above, below


@lru_cache(maxsize=8000)
def _reach(face: Face, text: str, backwards: bool) -> tuple[float, float]:
    above = below = 0.0
    for glyph in face.shape(text, backwards):
        ys = [y for _, values in face.outline(glyph.id) for y in values[1::2]]
        if ys:
            above = max(above, max(ys) / face.units + glyph.dy)
            below = max(below, -min(ys) / face.units - glyph.dy)
    return above, below


def place_line(
    setting: Set,
    line: Sequence[int],
    faces: Faces,
    size: float,
    x: float,
    baseline: float,
    room: tuple[float, float],
    number: int,
) -> list[DrawnWord]:
    """The words of a line, drawn.

    Args:
        size: of the font, in pixels.
        x: where the line begins on the left.
        room: top and height of the line.
        number: of the line.
    """
    runs = [run for word in line for run in setting.runs[word]]
    if runs and not runs[-1].drawn:
        runs.pop()
    at = x
    paths: dict[int, list[Command]] = {word: [] for word in line}
    pictures: dict[int, list[Picture]] = {word: [] for word in line}
    spans: dict[int, list[float]] = {word: [] for word in line}
    ends: dict[int, list[float]] = {word: [] for word in line}
    for run in in_visual_order(runs, [run.level for run in runs]):
        start = at
        at += run.advance * size
        if not run.drawn:
            continue
        spans[run.word] += [start, at]
        if run.face is None:
            pictures[run.word] += _placed_emoji(faces.emoji(run.text), size, start, baseline)
            ends[run.word].append(start if run.level % 2 else at)
        else:
            path, its_ends = _outline(run, faces.language, size, start, baseline)
            paths[run.word] += path
            ends[run.word] += its_ends
    drawn: list[DrawnWord] = []
    for word in line:
        left, right = min(spans[word], default=x), max(spans[word], default=x)
        level = next((run.level for run in setting.runs[word] if run.drawn), 0)
        wide = max(right - left, 1e-6)
        edges = {round(((right - end) if level % 2 else (end - left)) / wide, 4) for end in ends[word]}
        box = (left, room[0], right - left, room[1])
        drawn.append(
            DrawnWord(
                setting.words[word].rstrip(),
                tuple(paths[word]),
                tuple(pictures[word]),
                box,
                tuple(sorted(edge for edge in edges if edge > 0)),
                level % 2 == 1,
                number,
            )
        )
    return drawn


def _outline(
    run: _Run, language: str, size: float, x: float, baseline: float
) -> tuple[list[Command], list[float]]:
    """The outline of a run, and where each of its signs ends on the side it runs to."""
    assert run.face is not None
    face, scale = run.face, size / run.face.units
    path: list[Command] = []
    ends: list[float] = []
    glyphs = face.shape(run.text, run.level % 2 == 1, language)
    for place, glyph in enumerate(glyphs):
        at_x, at_y = x + glyph.dx * size, baseline - glyph.dy * size
        for name, values in face.outline(glyph.id):
            placed = tuple(
                at_x + value * scale if number % 2 == 0 else at_y - value * scale
                for number, value in enumerate(values)
            )
            path.append((name, placed))
        start = x
        x += glyph.advance * size
        following = glyphs[place + 1].cluster if place + 1 < len(glyphs) else None
        if following != glyph.cluster:
            x += run.spacing * size
        if run.level % 2:
            if place == 0 or glyphs[place - 1].cluster != glyph.cluster:
                ends.append(start)
        elif following != glyph.cluster:
            ends.append(x)
    return path, ends


def _placed_emoji(drawing: Sequence[Picture], size: float, x: float, baseline: float) -> list[Picture]:
    scale = size * _EMOJI_EM / EMOJI_UNITS
    left = x + (_EMOJI_ADVANCE - _EMOJI_EM) / 2 * size
    top = baseline - (_EMOJI_EM - _EMOJI_DROP) * size
    return [
        Picture(
            shape.colour,
            shape.opacity,
            tuple(
                (
                    name,
                    tuple(
                        left + value * scale if number % 2 == 0 else top + value * scale
                        for number, value in enumerate(values)
                    ),
                )
                for name, values in shape.path
            ),
            shape.even_odd,
        )
        for shape in drawing
    ]

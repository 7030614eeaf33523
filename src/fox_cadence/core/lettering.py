"""A caption as a drawing: one description that the browser shows as SVG and the renderer paints with the same
outlines.

Text is shaped with HarfBuzz; the drawing holds the glyph outlines of each word in pixels of the frame. Nobody
lays text out a second time, so what is exported is what was shown.
"""

from dataclasses import dataclass
from functools import lru_cache

import uharfbuzz as hb

from fox_cadence.core.outline import Command, Outline, svg_data
from fox_cadence.core.words import pieces_of, words_of


@dataclass(frozen=True, slots=True)
class CaptionStyle:
    """How captions look. Sizes as shares of the shorter side of the frame, so that they hold in every frame
    shape.

    `baseline` is where the block's bottom stands, as a share of the frame's height. Colours are #rrggbb.
    """

    id: str
    name: str
    size: float
    line_height: float
    width: float
    bottom: float
    fill: str
    lit: str
    stroke: str | None
    stroke_width: float
    plate: str | None
    plate_opacity: float
    padding: float
    most_lines: int


STYLES: tuple[CaptionStyle, ...] = (
    CaptionStyle(
        id="plate", name="Plate", size=0.062, line_height=1.22, width=0.82, bottom=0.86, fill="#ffffff",
        lit="#f6c35b",
        stroke=None, stroke_width=0, plate="#17211d", plate_opacity=0.86, padding=0.032, most_lines=4,
    ),
    CaptionStyle(
        id="contour", name="Contour", size=0.074, line_height=1.16, width=0.86, bottom=0.85, fill="#ffffff",
        lit="#ffd98a", stroke="#17211d", stroke_width=0.013, plate=None, plate_opacity=0, padding=0.02,
        most_lines=4,
    ),
)  # fmt: skip


def style_by_id(style_id: str) -> CaptionStyle:
    """The style of that id, the first where there is none."""
    return next((style for style in STYLES if style.id == style_id), STYLES[0])


@dataclass(frozen=True, slots=True)
class Plate:
    x: float
    y: float
    width: float
    height: float
    radius: float
    colour: str
    opacity: float


@dataclass(frozen=True, slots=True)
class DrawnWord:
    """Outlines of one word, in pixels of the frame."""

    text: str
    path: Outline

    @property
    def svg(self) -> str:
        """Its outline as the data of an SVG path."""
        return svg_data(self.path, 2)


@dataclass(frozen=True, slots=True)
class CaptionDrawing:
    """A caption in a frame of `width` x `height` pixels; `box` is x, y, width, height of all its ink, whole
    pixels."""

    width: int
    height: int
    box: tuple[int, int, int, int]
    lines: tuple[str, ...]
    plate: Plate | None
    words: tuple[DrawnWord, ...]
    fill: str
    lit: str
    stroke: str | None
    stroke_width: float
    missing: tuple[str, ...]


class Face:
    """A typeface for lettering, made from the bytes of a font file."""

    def __init__(self, data: bytes) -> None:
        self._font = hb.Font(hb.Face(data))
        self.units = self._font.face.upem
        extents = self._font.get_font_extents("ltr")
        self.ascent = extents.ascender / self.units
        self.descent = -extents.descender / self.units
        self._outline = lru_cache(maxsize=2000)(self._draw)

    def shape(self, text: str) -> list[tuple[int, float, float, float]]:
        """Glyphs of a text: id, advance, x and y offset, in units of the font size."""
        buffer = hb.Buffer()
        buffer.add_str(text)
        buffer.guess_segment_properties()
        hb.shape(self._font, buffer)
        scale = 1 / self.units
        return [
            (info.codepoint, place.x_advance * scale, place.x_offset * scale, place.y_offset * scale)
            for info, place in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True)
        ]

    @lru_cache(maxsize=4000)  # noqa: B019 - faces live as long as the application
    def width(self, text: str) -> float:
        """How far a text runs, in units of the font's size."""
        return sum(advance for _, advance, _, _ in self.shape(text))

    def has(self, sign: str) -> bool:
        """Whether the face can draw a sign."""
        return self._font.get_nominal_glyph(ord(sign)) not in (None, 0)

    def outline(self, glyph: int) -> Outline:
        """Outline of a glyph in font units, y up."""
        return self._outline(glyph)

    def _draw(self, glyph: int) -> Outline:
        commands: list[Command] = []
        functions = hb.DrawFuncs()
        functions.set_move_to_func(lambda x, y, _: commands.append(("M", (x, y))))
        functions.set_line_to_func(lambda x, y, _: commands.append(("L", (x, y))))
        functions.set_quadratic_to_func(lambda a, b, x, y, _: commands.append(("Q", (a, b, x, y))))
        functions.set_cubic_to_func(lambda a, b, c, d, x, y, _: commands.append(("C", (a, b, c, d, x, y))))
        functions.set_close_path_func(lambda _: commands.append(("Z", ())))
        self._font.draw_glyph(glyph, functions, None)
        return tuple(commands)


def break_lines(words: list[str], face: Face, size: float, width: float) -> list[list[int]]:
    """Balanced lines: as few as fit the width, then the breaks that leave the least squared slack.

    Args:
        words: each with a space after it where one follows.

    Returns the word numbers of each line. A word wider than the width stands alone.
    """
    if not words:
        return []
    space = face.width(" ") * size
    widths = [face.width(word.rstrip()) * size for word in words]
    gaps = [space if word.endswith(" ") else 0.0 for word in words]
    total = sum(widths) + sum(gaps[:-1])
    greedy = 1
    used = 0.0
    for position, one in enumerate(widths):
        before = gaps[position - 1] if position else 0.0
        if position and used + before + one > width:
            greedy += 1
            used = one
        else:
            used += before + one
    ideal = total / greedy
    # fewest lines, least slack, where the last line starts
    best: list[tuple[int, float, int]] = [(0, 0.0, 0)]
    for end in range(1, len(words) + 1):
        length = -gaps[end - 1]
        found: tuple[int, float, int] | None = None
        for start in range(end - 1, -1, -1):
            length += widths[start] + gaps[start]
            if length > width and start < end - 1:
                break
            count, slack, _ = best[start]
            made = (count + 1, slack + (length - ideal) ** 2, start)
            if found is None or made < found:
                found = made
        assert found is not None
        best.append(found)
    lines: list[list[int]] = []
    end = len(words)
    while end > 0:
        start = best[end][2]
        lines.insert(0, list(range(start, end)))
        end = start
    return lines


def drawn_words(text: str) -> list[str]:
    """The words of a caption as they are drawn, each with a space after it where one follows; signs that
    stand alone go with the word before them.

    There are as many as the text has words, so that each can be lit as it is spoken; where it has no word,
    its signs.
    """
    plain = " ".join(text.split())
    return pieces_of(plain) if words_of(plain) else [f"{sign} " for sign in plain.split()]


def _line_text(words: list[str], line: list[int]) -> str:
    return "".join(words[i] for i in line).rstrip()


_UNSEEN = frozenset("\u200b\u200c\u200d\u2060\ufe0e\ufe0f\u00ad") | {
    chr(code) for code in range(0x202A, 0x202F)
}
"""Signs that have no picture and need none: joiners, directions, ways to draw the sign before them."""


@lru_cache(maxsize=20_000)
def missing_signs(text: str, face: Face) -> tuple[str, ...]:
    """Signs of a caption that the typeface has no picture for."""
    return tuple(
        sorted({sign for sign in text if not sign.isspace() and sign not in _UNSEEN and not face.has(sign)})
    )


def letter(text: str, style: CaptionStyle, face: Face, width: int, height: int) -> CaptionDrawing:
    """Draw a caption into a frame.

    Long captions are set smaller, down to half the size, until they need no more than the style's lines.
    """
    words = drawn_words(text)
    short = min(width, height)
    room = style.width * width
    size = style.size * short
    lines = break_lines(words, face, size, room)
    for _ in range(7):
        wide = max((face.width(_line_text(words, line)) * size for line in lines), default=0)
        if len(lines) <= style.most_lines and wide <= room:
            break
        size *= 0.9
        lines = break_lines(words, face, size, room)
    pitch = size * style.line_height
    padding = style.padding * short
    block = pitch * len(lines)
    bottom = style.bottom * height
    top = bottom - block
    drawn: list[DrawnWord] = []
    widest = 0.0
    for number, line in enumerate(lines):
        line_width = face.width(_line_text(words, line)) * size
        widest = max(widest, line_width)
        x = (width - line_width) / 2
        baseline = (
            top + number * pitch + (pitch - (face.ascent + face.descent) * size) / 2 + face.ascent * size
        )
        for word in (words[i] for i in line):
            bare = word.rstrip()
            drawn.append(DrawnWord(bare, _outline(face, bare, size, x, baseline)))
            x += (face.width(bare) + (face.width(" ") if word != bare else 0.0)) * size
    plate = None
    left, right = (width - widest) / 2 - padding, (width + widest) / 2 + padding
    if style.plate and lines:
        plate = Plate(
            left,
            top - padding * 0.6,
            right - left,
            block + padding * 1.2,
            padding * 0.5,
            style.plate,
            style.plate_opacity,
        )
    ink = style.stroke_width * short + 2
    box = _whole_box((left - ink, top - padding - ink, right + ink, bottom + padding + ink), width, height)
    return CaptionDrawing(
        width, height, box, tuple(_line_text(words, line) for line in lines), plate, tuple(drawn),
        style.fill, style.lit, style.stroke, style.stroke_width * short, missing_signs(text, face),
    )  # fmt: skip


def _outline(face: Face, text: str, size: float, x: float, baseline: float) -> Outline:
    scale = size / face.units
    path: list[Command] = []
    for glyph, advance, dx, dy in face.shape(text):
        at_x, at_y = x + dx * size, baseline - dy * size
        for name, values in face.outline(glyph):
            placed = tuple(
                at_x + value * scale if number % 2 == 0 else at_y - value * scale
                for number, value in enumerate(values)
            )
            path.append((name, placed))
        x += advance * size
    return tuple(path)


def _whole_box(box: tuple[float, float, float, float], width: int, height: int) -> tuple[int, int, int, int]:
    """The box on even pixels inside the frame: chroma is stored for pairs of pixels."""
    left = max(0, int(box[0]) // 2 * 2)
    top = max(0, int(box[1]) // 2 * 2)
    right = min(width, -(-int(box[2] + 1) // 2) * 2)
    bottom = min(height, -(-int(box[3] + 1) // 2) * 2)
    return left, top, max(0, right - left), max(0, bottom - top)


def lit_schedule(
    shown_words: int, spoken_frames: list[int], in_frame: int, out_frame: int
) -> tuple[tuple[int, int | None], ...]:
    """Which word of a caption is lit from which frame on: pairs (frame, word or None), the first at the in
    frame.

    `spoken_frames` are the frames at which the caption's words begin; when their number differs from the
    words shown nothing is lit, because nobody could say which word is being spoken.
    """
    if shown_words != len(spoken_frames) or not spoken_frames:
        return ((in_frame, None),)
    steps: list[tuple[int, int | None]] = [(in_frame, None)]
    for word, frame in enumerate(spoken_frames):
        at = min(max(frame, in_frame), out_frame)
        if at == steps[-1][0]:
            steps[-1] = (at, word)
        else:
            steps.append((at, word))
    return tuple(steps)

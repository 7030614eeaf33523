"""Typefaces: one of them shapes text and gives its outlines; several stand in for one another where a sign
has no picture."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import lru_cache

from fox_cadence.core.outline import Command, Outline

UNSEEN = frozenset("\u200b\u200c\u200d\u2060\ufeff\ufe0e\ufe0f\u00ad") | {
    chr(code) for code in (*range(0x200E, 0x2010), *range(0x202A, 0x202F), *range(0x2066, 0x206A))
}
"""Signs that have no picture and need none: joiners, directions, ways to draw the sign before them."""


@dataclass(frozen=True, slots=True)
class Glyph:
    """A glyph of a shaped text, in units of the font's size; `cluster` is the place in the text of the first
    sign it stands for."""

    id: int
    cluster: int
    advance: float
    dx: float
    dy: float


class Face:
    """A typeface for lettering, made from the bytes of a font file."""

    def __init__(self, data: bytes) -> None:
        import uharfbuzz as hb

        self._font = hb.Font(hb.Face(data))
        self.units = self._font.face.upem
        extents = self._font.get_font_extents("ltr")
        self.ascent = extents.ascender / self.units
        self.descent = -extents.descender / self.units
        self._signs = frozenset(self._font.face.unicodes)
        self._outline = lru_cache(maxsize=2000)(self._draw)
        self.shape = lru_cache(maxsize=8000)(self._shape)

    def _shape(self, text: str, backwards: bool = False, language: str = "") -> tuple[Glyph, ...]:
        """The glyphs of a text of one script, from left to right.

        Args:
            backwards: it runs from right to left.
            language: BCP 47; '' leaves it open.
        """
        import uharfbuzz as hb

        buffer = hb.Buffer()
        buffer.add_str(text)
        buffer.guess_segment_properties()
        buffer.direction = "rtl" if backwards else "ltr"
        if language:
            buffer.language = language
        buffer.cluster_level = hb.BufferClusterLevel.MONOTONE_CHARACTERS
        hb.shape(self._font, buffer)
        scale = 1 / self.units
        return tuple(
            Glyph(
                info.codepoint,
                info.cluster,
                place.x_advance * scale,
                place.x_offset * scale,
                place.y_offset * scale,
            )
            for info, place in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True)
        )

    def width(self, text: str) -> float:
        """How far a text of one script runs, in units of the font's size."""
        return sum(glyph.advance for glyph in self.shape(text))

    def has(self, sign: str) -> bool:
        """Whether the face can draw a sign."""
        return ord(sign) in self._signs

    def lacks(self, text: str) -> tuple[str, ...]:
        """The signs of a text it has no picture for."""
        return tuple(
            sign for sign in text if not sign.isspace() and sign not in UNSEEN and not self.has(sign)
        )

    def outline(self, glyph: int) -> Outline:
        """Outline of a glyph in font units, y up."""
        return self._outline(glyph)

    def _draw(self, glyph: int) -> Outline:
        import uharfbuzz as hb

        commands: list[Command] = []
        functions = hb.DrawFuncs()
        functions.set_move_to_func(lambda x, y, _: commands.append(("M", (x, y))))
        functions.set_line_to_func(lambda x, y, _: commands.append(("L", (x, y))))
        functions.set_quadratic_to_func(lambda a, b, x, y, _: commands.append(("Q", (a, b, x, y))))
        functions.set_cubic_to_func(lambda a, b, c, d, x, y, _: commands.append(("C", (a, b, c, d, x, y))))
        functions.set_close_path_func(lambda _: commands.append(("Z", ())))
        self._font.draw_glyph(glyph, functions, None)
        return tuple(commands)


@dataclass(frozen=True, slots=True)
class Picture:
    """A coloured part of a drawing; `even_odd` tells how it is filled."""

    colour: str
    opacity: float
    path: Outline
    even_odd: bool = False


EMOJI_UNITS = 36.0
"""Emoji are drawn in a square of this side, y down."""


class Emoji:
    """Drawings of emoji by their signs.

    Args:
        drawings: of a sequence of signs, or None where there is none.
        longest: how many signs the longest sequence has.
        starts: the signs one may begin with.
    """

    def __init__(
        self,
        drawings: Callable[[str], tuple[Picture, ...] | None],
        longest: int,
        starts: Callable[[], frozenset[str]],
    ) -> None:
        self.drawing = drawings
        self._longest = longest
        self._starts = starts

    def at(self, text: str, place: int) -> str:
        """The longest emoji that begins at a place of a text; '' where none does.

        What is written as text (U+FE0E) is none, nor a digit or a sign that is only the beginning of one.
        """
        first = text[place]
        if ord(first) < 0x203C and first not in "©®" and "\u20e3" not in text[place : place + 3]:
            return ""  # a letter: the drawings need not be read to see that
        if first not in self._starts():
            return ""
        for length in range(min(self._longest, len(text) - place), 0, -1):
            part = text[place : place + length]
            if part[-1] == "\u200d":
                continue
            if self.drawing(part) is not None:
                return "" if text[place + length : place + length + 1] == "\ufe0e" else part
        return ""


class Faces:
    """A main typeface and those that stand in where it has no picture for a sign, in their order.

    Args:
        others: read when they are first needed.
        language: BCP 47; it decides shapes that differ between languages.
    """

    def __init__(
        self,
        main: Face,
        others: Sequence[Callable[[], Face]] = (),
        emoji: Emoji | None = None,
        language: str = "",
    ) -> None:
        self.main = main
        self.language = language
        self._others = others
        self._emoji = emoji
        self.face_for = lru_cache(maxsize=8000)(self._face_for)
        self.missing = lru_cache(maxsize=8000)(self._missing)

    def emoji_at(self, text: str, place: int) -> str:
        """The emoji that begins at a place of a text; '' where none does, nor where a sign that may be a
        letter or a drawing is in the typeface and not asked for as a drawing (U+FE0F)."""
        found = self._emoji.at(text, place) if self._emoji else ""
        return "" if len(found) == 1 and self.main.has(found) else found

    def emoji(self, signs: str) -> tuple[Picture, ...]:
        """The drawing of an emoji, in its own square."""
        return (self._emoji.drawing(signs) if self._emoji else None) or ()

    def _face_for(self, word: str) -> Face:
        """The first face that has all signs of a word, else the one that lacks the fewest: a word is never
        set in two faces where one can do it."""
        best, lacks = self.main, len(self.main.lacks(word))
        for other in self._others:
            if not lacks:
                break
            face = other()
            if (count := len(face.lacks(word))) < lacks:
                best, lacks = face, count
        return best

    def parts(self, word: str) -> list[tuple[str, bool]]:
        """A word as its emoji and what stands between them: pairs (signs, whether it is an emoji)."""
        parts: list[tuple[str, bool]] = []
        plain, at = "", 0
        while at < len(word):
            found = self.emoji_at(word, at)
            if not found:
                plain += word[at]
                at += 1
                continue
            if plain:
                parts.append((plain, False))
                plain = ""
            parts.append((found, True))
            at += len(found)
        return [*parts, (plain, False)] if plain else parts

    def _missing(self, text: str) -> tuple[str, ...]:
        """The signs of a text that neither a face nor an emoji has a picture for, each once."""
        found: set[str] = set()
        for word in text.split():
            for part, is_emoji in self.parts(word):
                if not is_emoji:
                    found.update(self.face_for(part).lacks(part))
        return tuple(sorted(found))

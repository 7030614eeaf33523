"""What the shelf ships: every picture drawn by our own code, with the words it is found by.

A painter is a function that paints one moment of its picture; it is entered here where it is written.
"""

from collections.abc import Callable
from dataclasses import dataclass
from importlib import import_module
from typing import Literal, TypeAlias

from fox_cadence.drawn.brush import Brush

Kind: TypeAlias = Literal["clip", "still", "background"]
Painter: TypeAlias = Callable[[Brush], None]

LICENCE = "CC0-1.0, drawn by Fox Cadence"
CLIP_S = 7.0
BACKGROUND_S = 12.0

_MODULES = ("sea", "land", "sky", "town", "indoors", "creatures", "ideas", "backgrounds")


@dataclass(frozen=True, slots=True)
class Drawn:
    """A picture of the shelf. `words` are what it shows and other words for it; `seconds` is 0 for a still.
    A background is painted in three colours, the others in their own."""

    id: str
    title: str
    subject: str
    words: str
    kind: Kind
    seconds: float
    paint: Painter


_ITEMS: dict[str, Drawn] = {}


def entered(
    item_id: str, title: str, subject: str, words: str, kind: Kind = "clip"
) -> Callable[[Painter], Painter]:
    """Enter a painter under an id that never changes."""

    def enter(paint: Painter) -> Painter:
        seconds = {"clip": CLIP_S, "still": 0.0, "background": BACKGROUND_S}[kind]
        _ITEMS[item_id] = Drawn(item_id, title, subject, words, kind, seconds, paint)
        return paint

    return enter


def catalogue() -> dict[str, Drawn]:
    """All pictures by id, those that belong together side by side, backgrounds last."""
    for name in _MODULES:
        import_module(f"fox_cadence.drawn.{name}")
    return dict(sorted(_ITEMS.items(), key=lambda each: each[1].kind == "background"))

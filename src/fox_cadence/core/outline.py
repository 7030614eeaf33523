"""Outlines as commands of a path: what captions and laid pictures are drawn with, in the page and in the
export."""

from typing import TypeAlias

Command: TypeAlias = tuple[str, tuple[float, ...]]
"""A path command of SVG (M, L, Q, C or Z) with absolute coordinates."""

Outline: TypeAlias = tuple[Command, ...]


def svg_data(outline: Outline, digits: int) -> str:
    """An outline as the data of an SVG path, rounded to so many digits after the point."""
    return "".join(f"{name}{' '.join(f'{value:.{digits}f}' for value in values)}" for name, values in outline)

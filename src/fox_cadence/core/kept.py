"""What was made of values that never change, kept for as long as it may be asked for again."""

from typing import Generic, TypeVar

K = TypeVar("K")
V = TypeVar("V")

_MOST = 20_000
"""Objects of a project of several thousand lines, and of the states it had before."""


class Kept(Generic[K, V]):
    """What was made last of each thing, as long as what else it was made from is the same.

    Things are known by being the very same objects, which they are from one revision to the next
    (store/projects.py), and from one timeline to the next (core/timeline_builder.py).
    """

    def __init__(self, most: int = _MOST) -> None:
        self._most = most
        self._made: dict[int, tuple[K, tuple[object, ...], V]] = {}

    def get(self, of: K, inputs: tuple[object, ...] = ()) -> V | None:
        """What was made of it and these inputs, if that was the last that was made of it."""
        known = self._made.get(id(of))
        return known[2] if known is not None and known[0] is of and known[1] == inputs else None

    def keep(self, of: K, inputs: tuple[object, ...], made: V) -> V:
        """Remember what was made; it is handed back."""
        if len(self._made) >= self._most:
            self._made.clear()
        self._made[id(of)] = (of, inputs, made)
        return made

"""Parts of an answer that stay the same from one edit to the next, made once."""

import threading
from collections.abc import Callable
from typing import Any, TypeVar

from cachetools import LRUCache

T = TypeVar("T")


class Memo:
    """What was made last for a name, as long as what it was made from is the same.

    An edit changes one object of a project; the others are the very objects they were (store/projects.py), so that
    comparing what a part was made from costs next to nothing.
    """

    def __init__(self, most: int = 20_000) -> None:
        self._made: LRUCache[tuple[str, ...], tuple[tuple[Any, ...], Any]] = LRUCache(most)
        self._lock = threading.Lock()

    def get(self, name: tuple[str, ...], inputs: tuple[Any, ...], make: Callable[[], T]) -> T:
        with self._lock:
            known = self._made.get(name)
        if known is not None and known[0] == inputs:
            found: T = known[1]
            return found
        made = make()
        with self._lock:
            self._made[name] = (inputs, made)
        return made

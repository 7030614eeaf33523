"""Things too large to keep for good, and asked for again soon: proposals, and projects as they would be."""

import secrets
import threading
from typing import Generic, TypeVar

from cachetools import LRUCache

from fox_cadence.errors import NotFoundError

T = TypeVar("T")


class AtHand(Generic[T]):
    """The newest few things of a kind, each under a key; for several threads.

    Args:
        most: how many are kept.
        gone: what to say of one that is no longer kept.
    """

    def __init__(self, most: int, gone: str) -> None:
        self._kept: LRUCache[str, T] = LRUCache(most)
        self._gone = gone
        self._lock = threading.Lock()

    def keep(self, thing: T, key: str = "") -> str:
        """Remember a thing under a key, a new one where none is given; the key to ask for it with."""
        key = key or secrets.token_hex(8)
        with self._lock:
            self._kept[key] = thing
        return key

    def find(self, key: str) -> T | None:
        """None once it is forgotten."""
        with self._lock:
            return self._kept.get(key)

    def get(self, key: str) -> T:
        """Raises NotFoundError once it is forgotten."""
        found = self.find(key)
        if found is None:
            raise NotFoundError(self._gone)
        return found

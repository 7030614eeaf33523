"""Things too large to keep for good, and asked for again soon: proposals, and projects as they would be."""

import secrets
from typing import Generic, TypeVar

from cachetools import LRUCache

from fox_cadence.errors import NotFoundError

T = TypeVar("T")


class AtHand(Generic[T]):
    """The newest few things of a kind, each under a key.

    Args:
        most: how many are kept.
        gone: what to say of one that is no longer kept.
    """

    def __init__(self, most: int, gone: str) -> None:
        self._kept: LRUCache[str, T] = LRUCache(most)
        self._gone = gone

    def keep(self, thing: T) -> str:
        """Remember a thing; the key to ask for it with."""
        key = secrets.token_hex(8)
        self._kept[key] = thing
        return key

    def get(self, key: str) -> T:
        """Raises NotFoundError once it is forgotten."""
        found = self._kept.get(key)
        if found is None:
            raise NotFoundError(self._gone)
        return found

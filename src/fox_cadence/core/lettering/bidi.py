"""In which direction each sign of a text runs: the Unicode bidirectional algorithm (UAX 9), by
python-bidi."""

import unicodedata
from collections.abc import Sequence
from functools import lru_cache
from typing import TypeVar

_BACKWARDS = frozenset(("R", "AL", "AN", "RLE", "RLO", "RLI"))
_ISOLATES = str.maketrans({"\u2066": "\u202a", "\u2067": "\u202b", "\u2068": "\u202a", "\u2069": "\u202c"})
"""The library knows embeddings and not isolates, which stand for nearly the same."""
T = TypeVar("T")


@lru_cache(maxsize=4000)
def levels(text: str) -> tuple[int, ...]:
    """The embedding level of each sign: even ones run from left to right, odd ones from right to left."""
    from bidi import algorithm

    if not any(unicodedata.bidirectional(sign) in _BACKWARDS for sign in text):
        return (0,) * len(text)
    known = text.translate(_ISOLATES)
    storage = algorithm.get_empty_storage()
    base = algorithm.get_base_level(known)
    storage["base_level"] = base
    storage["base_dir"] = ("L", "R")[base]
    algorithm.get_embedding_levels(known, storage)
    algorithm.explicit_embed_and_overrides(storage)
    algorithm.resolve_weak_types(storage)
    algorithm.resolve_neutral_types(storage, False)
    algorithm.resolve_implicit_levels(storage, False)
    resolved = iter(storage["chars"])
    found: list[int] = []
    for sign in known:
        if unicodedata.bidirectional(sign) in algorithm.X9_REMOVED:
            found.append(found[-1] if found else base)  # it has no place of its own
        else:
            found.append(next(resolved)["level"])
    return tuple(found)


def in_visual_order(items: Sequence[T], their_levels: Sequence[int]) -> list[T]:
    """Runs of one line as they stand from left to right (UAX 9, rule L2)."""
    order = list(range(len(items)))
    for level in range(max(their_levels, default=0), 0, -1):
        at = 0
        while at < len(order):
            end = at
            while end < len(order) and their_levels[order[end]] >= level:
                end += 1
            order[at:end] = order[at:end][::-1]
            at = max(end, at + 1)
    return [items[place] for place in order]

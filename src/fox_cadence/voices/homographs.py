"""English words that are written alike and said in two ways, where the voices' own dictionaries choose wrong.

Most of them the voices tell apart by themselves: of the fifty in `bench/homographs.py` the model's front end
has 44. What stands here is said so only where the words around leave no doubt.
"""

from collections.abc import Sequence

from fox_cadence.core.words import plain

_DOERS = frozenset({
    "i", "you", "we", "they", "who", "to", "will", "would", "can", "could", "shall", "should", "may", "might",
    "must", "cannot", "don't", "didn't", "won't", "can't", "let's", "please", "not", "also",
})  # fmt: skip
"""Before them a word that can be a verb is one."""

_BEING = frozenset({
    "am", "is", "are", "was", "were", "be", "been", "being", "feel", "feels", "felt", "seem", "seems",
    "seemed", "quite", "perfectly",
})  # fmt: skip

_VERBS = {"object": "əbˈdʒɛkt", "project": "pɹəˈdʒɛkt", "contract": "kənˈtɹækt", "subject": "səbˈdʒɛkt"}
_CONTENT = "kənˈtɛnt"


def said_otherwise(words: Sequence[str]) -> dict[int, str]:
    """The IPA of words that a dictionary would say in the wrong one of two ways, by their places."""
    bare = [plain(word) for word in words]
    found: dict[int, str] = {}
    for place, word in enumerate(bare):
        before = bare[place - 1] if place else ""
        after = bare[place + 1] if place + 1 < len(bare) else ""
        if word in _VERBS and before in _DOERS:
            found[place] = _VERBS[word]
        elif word == "content" and before in _BEING and after in ("with", "to", ""):
            found[place] = _CONTENT
    return found

"""Until when a review link opens its page, and for whom."""

from dataclasses import dataclass
from typing import Literal

Standing = Literal["open", "over", "used", "revoked"]


@dataclass(frozen=True, slots=True)
class Link:
    """What was agreed of a link; times as ISO 8601 in UTC, '' for none.

    `secret` is what its address ends with: who has it, has the link.
    `until` is when it ends, `once` that it opens in one browser only, `taken_at` when that one opened it.
    """

    id: str
    secret: str
    project_id: str
    revision: int
    file: str
    made_at: str
    until: str = ""
    once: bool = False
    password: bool = False
    taken_at: str = ""
    revoked_at: str = ""


def standing(link: Link, now: str, known: bool = False) -> Standing:
    """Whether a link opens its page at a time.

    Args:
        now: ISO 8601 in UTC, as the times of the link are, so that they compare as text.
        known: it is asked for by a browser that has opened it before.
    """
    if link.revoked_at:
        return "revoked"
    if link.until and now >= link.until:
        return "over"
    return "used" if link.once and link.taken_at and not known else "open"

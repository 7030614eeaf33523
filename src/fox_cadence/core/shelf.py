"""The shelf: clips and stills at hand, each with the words it is found by and what its licence allows."""

from typing import Literal, TypeAlias

from pydantic import Field

from fox_cadence.core.languages import primary
from fox_cadence.core.value import Value
from fox_cadence.core.words import words_of

Source: TypeAlias = Literal["piece", "own", "shipped"]
"""In this piece, kept by the user for all projects, or drawn by our own code."""

Shape: TypeAlias = Literal["any", "upright", "lying", "square"]
"""A drawn picture has any: it is drawn for the frame it is used in."""


LOOKS = 12
"""Moments of a clip at which it can be looked at before it is used."""


class ShelfItem(Value):
    """Something that can be laid: between shots, or (`over`) over one. `clip_hash` is None for what is still
    to be drawn; `seconds` is 0 for a still, `kept` that the user keeps it for all projects."""

    id: str
    title: str
    subject: str = ""
    words: str = ""
    kind: Literal["clip", "still", "background", "over"]
    seconds: float = 0.0
    shape: Shape = "any"
    source: Source
    licence: str = ""
    commercial: bool = True
    clip_hash: str | None = None
    sound: bool = False
    kept: bool = False


class Wish(Value):
    """What is looked for. `words` are looked up in another way; the rest has to hold."""

    words: str = Field("", max_length=500)
    source: Source | None = None
    kind: Literal["clip", "still", "background", "over"] | None = None
    shape: Literal["upright", "lying", "square"] | None = None
    longest_s: float | None = Field(None, gt=0)

    def holds(self, item: ShelfItem) -> bool:
        """Whether an item is what is looked for, its words left aside."""
        return (
            (self.source is None or item.source == self.source)
            and (self.kind is None or item.kind == self.kind)
            and (self.shape is None or item.shape in ("any", self.shape))
            and (self.longest_s is None or item.seconds <= self.longest_s)
        )


def shape_of(width: int, height: int) -> Shape:
    """The shape of a picture; nearly square is square."""
    ratio = width / height if height else 1.0
    return "square" if 0.9 < ratio < 1.1 else "upright" if ratio < 1 else "lying"


_LITTLE = {
    "en": """
        a about after again all also am an and another any are as at be because been before being but by can
        could did do does doing down each even ever every few first for from get go got had has have he her
        here him his how i if in into is it its just last let like made make many may me more most much must
        my never no not now of off on once one only or other our out over own same says see she should so some
        still such take than that the their them then there these they thing things this those through to too
        two under until up us very was way we well were what when where which while who whose why will with
        would you your
    """,
    "es": """
        a al algo antes aquí así aun aunque cada casi como con cual cuando de del desde donde dos el ella
        ellas ellos en entre era eres es esa ese eso esta este esto está están fue ha han hasta hay la las le
        les lo los más me mi mientras muy nada ni no nos o otra otro para pero poco por porque que quien se
        ser si sin sobre son su sus también te tiene toda todo tu un una uno unos y ya yo
    """,
}
"""Words that say nothing of a picture."""


def telling_words(text: str, language: str, most: int = 6) -> tuple[str, ...]:
    """The words of a text that may say what is to be seen, in their order, each once."""
    little = set(_LITTLE.get(primary(language), "").split())
    found: dict[str, None] = {}
    for word in words_of(text):
        plain = word.text.casefold().strip("'’.,;:!?…\"“”()«»¿¡—–-")
        if len(plain) > 2 and plain not in little and not plain.isdigit():
            found[plain] = None
    return tuple(found)[:most]

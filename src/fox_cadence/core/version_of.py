"""What a version knows of the piece it is a version of."""

from typing import Literal

from fox_cadence.core.value import Value


class Counterpart(Value):
    """Words of a version, by the id of their line or scene text, and the words of the first they stand for:
    those it had when they were written."""

    unit_id: str
    words: str


class VersionOf(Value):
    """The project a version belongs to. With `cuts` "first" its shots are as long as the first's, else they
    follow its own speech. With `shown` "first" the words on the screen stay the first's, and only what is
    said is in the other language."""

    project_id: str
    cuts: Literal["own", "first"] = "own"
    shown: Literal["own", "first"] = "own"
    counterparts: tuple[Counterpart, ...] = ()

"""The shapes of the JSON about what a fit proposes."""

from typing import Literal, NotRequired, TypedDict

from fox_cadence.web.answers.shapes import LinePlace, Row, SumJson


class ChangeJson(TypedDict):
    """A thing that a fit would change; `kind` is that of the thing."""

    kind: str
    id: str
    text: str
    seconds: float


class MissJson(TypedDict):
    rule: str
    object: str
    amount: float
    unit: str


class KeepJson(TypedDict):
    line_ids: list[str]
    shot_ids: list[str]


class LineThen(LinePlace):
    """A line as a fit would have it, with the sum that explains it where it is asked for."""

    sum: SumJson | None


class ShotThen(TypedDict):
    id: str
    length: int


class CaptionThen(TypedDict):
    id: str
    in_frame: int
    out_frame: int
    why: NotRequired[str]


class ThenJson(TypedDict):
    """What would be other rows of the tables, with the same names and counted from the same shots as
    theirs."""

    shots: list[ShotThen]
    captions: list[CaptionThen]
    lines: list[LineThen]


class ProposalJson(TypedDict):
    """What a fit would make of revision `revision`. `key` names it, to accept just this; '' for a trial."""

    key: str
    revision: int
    status: Literal["solved", "infeasible", "stopped"]
    reason: str
    conflict: list[str]
    outside: list[str]
    let_go: list[str]
    let_go_edits: list[Row]
    then: ThenJson
    changes: list[ChangeJson]
    misses: list[MissJson]

"""What the fit is about, in numbers: one array entry a shot, a line, a span or a caption; seconds as
floats."""

from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

Floats: TypeAlias = NDArray[np.float64]
Ints: TypeAlias = NDArray[np.int64]
Flags: TypeAlias = NDArray[np.bool_]


@dataclass(frozen=True)
class Shots:
    """Shots in order: wanted, shortest and longest length; `overlap` with the next; `weight` of a change.

    `anchors` are starts of shots (index, the number of shots for the end of the piece) that are bounded in
    the piece: `anchor_low` to `anchor_high`.
    """

    wanted: Floats
    shortest: Floats
    longest: Floats
    overlap: Floats
    voice_leads: Flags
    anchors: Ints
    anchor_low: Floats
    anchor_high: Floats

    def __len__(self) -> int:
        return len(self.wanted)


@dataclass(frozen=True)
class Lines:
    """Lines in script order.

    `first` is the first shot, `until` the shot past the last; `offset_min` the earliest start after the start
    of `first`; `end_margin` how long before the start of `until` the window ends (below 0 where it ends after
    it, as with a dissolve); `ideal` the wanted offset; `early_limit` and `late_limit` how far it may start
    before and run on after its window; `fixed_start` the offset of a locked line, else NaN. The windows of
    the lines `led` end with their last caption too, `led_out` after the start of `led_shot`. `pairs` (before,
    after) may not sound together and keep `gaps`. `spans` counts from `first_span`, one more entry than
    lines.
    """

    first: Ints
    until: Ints
    offset_min: Floats
    end_margin: Floats
    ideal: Floats
    early_limit: Floats
    late_limit: Floats
    fixed_start: Floats
    led: Ints
    led_shot: Ints
    led_out: Floats
    pairs: Ints
    gaps: Floats
    first_span: Ints

    def __len__(self) -> int:
        return len(self.first)


@dataclass(frozen=True)
class Spans:
    """Spans of lines: voiced length and natural pauses at natural pace, least pauses, written pauses.

    `adapts`: pace and pauses may change. `fixed_voiced`, `fixed_pauses`: of a locked line, else NaN.
    `neighbours`: pairs of spans whose paces should be alike.
    """

    line: Ints
    voiced: Floats
    pauses: Floats
    least_pauses: Floats
    written: Floats
    adapts: Flags
    fixed_voiced: Floats
    fixed_pauses: Floats
    neighbours: Ints

    def __len__(self) -> int:
        return len(self.line)


@dataclass(frozen=True)
class Syncs:
    """Words held to the picture: the start of `span` (the first of a line or a later one) at `offset` after
    `shot`."""

    span: Ints
    shot: Ints
    offset: Floats

    def __len__(self) -> int:
        return len(self.span)


@dataclass(frozen=True)
class WordEdges:
    """Begins or ends of words as linear functions of span lengths (core.speech.WordPosition), one a
    caption."""

    span: Ints
    voiced_share: Floats
    pause_share: Floats
    constant: Floats


@dataclass(frozen=True)
class Captions:
    """Captions that are spoken or whose times are given, in the order of time.

    `shot` they are counted from; `line` that speaks them (-1: nobody); `first_word` begins and `last_word`
    ends them (entries of silent ones mean nothing); `need` is how long they must be shown; `in_held`,
    `out_held` their given times, else NaN. `pairs` (before, after) are shown one after the other; two whose
    times are given are no pair.
    """

    shot: Ints
    line: Ints
    first_word: WordEdges
    last_word: WordEdges
    need: Floats
    in_held: Floats
    out_held: Floats
    pairs: Ints

    def __len__(self) -> int:
        return len(self.shot)


@dataclass(frozen=True)
class Limits:
    """House limits that hold for the whole piece.

    `shortest_total` is how long it must last for all words to be heard and shown in it, where its shots' own
    limits do not see to that (ending.py).
    """

    slowest: float
    fastest: float
    caption_lead: float
    caption_linger: float
    longest_total: float | None
    total_fixed: bool
    stretch: float
    shortest_total: float | None = None


@dataclass(frozen=True)
class FitProblem:
    """All of it. `frame_s` is the length of a frame."""

    frame_s: float
    shots: Shots
    lines: Lines
    spans: Spans
    syncs: Syncs
    captions: Captions
    limits: Limits

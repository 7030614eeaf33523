"""A timeline as other tools have it: one track of shots, and words with their times."""

from dataclasses import dataclass

from fox_cadence.core.adjustment import UNADJUSTED, Adjustment
from fox_cadence.core.framing import Framing
from fox_cadence.core.overlay import Laid
from fox_cadence.core.script_layout import Remark
from fox_cadence.core.ticks import FrameRate
from fox_cadence.core.transition import TransitionKind


@dataclass(frozen=True, slots=True)
class ShotThere:
    """A shot of a timeline. `media` is the name of its file, '' for none; `source_in_ticks` counts from
    the first frame of the file (`source_is_clock` that it may be the file's own timecode instead); `frames`
    of the piece; for `transition_frames` at its end it becomes the next. How it is framed, adjusted and laid
    over only our own files say."""

    name: str
    frames: int
    media: str = ""
    colour: str = "#000000"
    source_in_ticks: int = 0
    source_is_clock: bool = False
    speed_percent: int = 100
    transition_frames: int = 0
    transition_kind: TransitionKind = "dissolve"
    framing: Framing | None = None
    adjustment: Adjustment = UNADJUSTED
    laid: tuple[Laid, ...] = ()


@dataclass(frozen=True, slots=True)
class WordsThere:
    """Words of a timeline, with their times in ticks of the piece; `said` as in a `TimedText`."""

    text: str
    start_ticks: int
    end_ticks: int
    role: str = ""
    said: str | None = None


@dataclass(frozen=True, slots=True)
class TimelineThere:
    """A timeline that was read. `rate` and `size` are None where it does not say; remarks are what could not
    be taken as it is."""

    name: str
    shots: tuple[ShotThere, ...]
    words: tuple[WordsThere, ...] = ()
    rate: FrameRate | None = None
    size: tuple[int, int] | None = None
    remarks: tuple[Remark, ...] = ()

"""Clips and the shots that show them: frozen values. Times inside a shot are counted from its start."""

from typing import Annotated, Literal

from pydantic import Field

from fox_cadence.core.adjustment import UNADJUSTED, Adjustment
from fox_cadence.core.framing import PLAIN, Framing
from fox_cadence.core.overlay import MOST_LAID, Laid
from fox_cadence.core.transition import TransitionKind
from fox_cadence.core.value import Value

GiveWay = Literal["picture", "voice", "halfway"]
"""Who stays as it is: the picture leads, the voice leads, or both meet halfway."""

Share = Annotated[float, Field(ge=0, le=1)]
"""A part of a whole."""

PastClipEnd = Literal["hold", "repeat"]
"""What a shot shows that lasts longer than its clip: the clip's last frame, or the clip again."""


class Clip(Value):
    """A media file, known by the hash of its bytes (hexadecimal SHA-256). `length_ticks` is 0 for a still. A
    look is a table of colours for adjustments.

    `interest` is what matters in its picture, as shares from its left and its top.
    `remarks` say what had to be done to it, or what of it is missing. `meter` is the version of the loudness
    meter (media/audio.py) that measured it.
    """

    hash: str
    name: str
    kind: Literal["video", "still", "sound", "look"]
    width: int = 0
    height: int = 0
    length_ticks: int = 0
    has_sound: bool = False
    loudness_lufs: float = -70.0
    meter: int = 1
    remarks: tuple[str, ...] = ()
    interest: tuple[Share, Share] | None = None

    @property
    def framing(self) -> Framing:
        """How a new shot shows it: around what matters, where that is known."""
        return PLAIN if self.interest is None else PLAIN.changed(x=self.interest[0], y=self.interest[1])

    @property
    def has_picture(self) -> bool:
        """Whether a shot can show it."""
        return self.kind in ("still", "video")


class Shot(Value):
    """A stretch of picture between two cuts.

    `length_frames` is what the piece shows now; `wanted_frames` is what the editor asked for last. A fit
    moves the first and measures its cost against the second, so that fitting again changes nothing. For
    `transition_frames` at its end it becomes the next shot, which begins that much before this one ends, by
    its kind of transition; the colour is that of a dip. `on_beat` asks that the cut it begins with lies on a
    beat. `speed_percent` is how much of its clip passes in its time: 100 is the clip's own speed, 0 holds the
    frame it begins with. Its own sound may be `sound_ducked` under speech as beds are.
    """

    id: str
    name: str
    clip_hash: str | None = None
    colour: str = "#20302c"
    source_in_ticks: int = 0
    length_frames: int = Field(gt=0)
    wanted_frames: int = Field(gt=0)
    shortest_frames: int | None = None
    longest_frames: int | None = None
    locked: bool = False
    sound_gain_db: float = -12.0
    sound_muted: bool = False
    sound_ducked: bool = False
    sound_fade_in_ticks: int = Field(0, ge=0)
    sound_fade_out_ticks: int = Field(0, ge=0)
    give_way: GiveWay | None = None
    transition_frames: int = Field(0, ge=0)
    transition_kind: TransitionKind = "dissolve"
    transition_colour: str = "#000000"
    on_beat: bool = False
    speed_percent: int = Field(100, ge=0, le=400)
    framing: Framing = PLAIN
    adjustment: Adjustment = UNADJUSTED
    laid: tuple[Laid, ...] = Field((), max_length=MOST_LAID)

    @property
    def media(self) -> tuple[str, ...]:
        """The clips it is made of, by hash: what it shows, and its look where that is a file."""
        return tuple(each for each in (self.clip_hash, self.adjustment.look_hash) if each)

"""A bed: music under the narration, from which part of its clip, how long, how loud at which moment."""

from typing import Annotated

from pydantic import Field, model_validator

from fox_cadence.core.ticks import samples_to_ticks, seconds_to_ticks
from fox_cadence.core.value import Value

MOST_BEDS = 8
MOST_POINTS = 400
LEAST_PART_TICKS = seconds_to_ticks(0.1)
"""A shorter part of a clip would buzz where it is repeated."""

BedGain = Annotated[float, Field(ge=-60, le=6)]


class LevelPoint(Value):
    """A point of a level curve: so many ticks after the bed's start it is that much louder (dB)."""

    at_ticks: int = Field(ge=0)
    gain_db: float = Field(ge=-60, le=12)


class Stretch(Value):
    """Samples of a clip, the end exclusive, that are heard in one go."""

    start_sample: int = Field(ge=0)
    end_sample: int = Field(gt=0)

    @model_validator(mode="after")
    def _in_order(self) -> "Stretch":
        if self.end_sample <= self.start_sample:
            raise ValueError("a stretch ends before it begins")
        return self


class Bed(Value):
    """Music under the narration, all times in ticks.

    It is heard from `start_ticks` of the piece on, for `length_ticks` or to the end of the piece. Of its clip
    it plays the part from `source_in_ticks` to `source_out_ticks` (None: its end), and then again what lies
    between `loop_in_ticks` and `loop_out_ticks`, or all of the part. Where it was cut by bars, `stretches`
    are played instead, made for `cut_for_ticks`. `levels` are the points of its level curve. Under speech it
    is `duck_db` quieter; `duck_in_ms` and `duck_out_ms` are how long the way down and up takes.
    """

    id: str = "b1"
    clip_hash: str
    gain_db: BedGain = -10.0
    duck_db: float = Field(9.0, ge=0, le=40)
    duck_in_ms: int = Field(350, ge=10, le=3_000)
    duck_out_ms: int = Field(700, ge=10, le=6_000)
    fade_in_ticks: int = Field(seconds_to_ticks(0.5), ge=0)
    fade_out_ticks: int = Field(seconds_to_ticks(1.5), ge=0)
    start_ticks: int = Field(0, ge=0)
    length_ticks: int | None = Field(None, gt=0)
    source_in_ticks: int = Field(0, ge=0)
    source_out_ticks: int | None = Field(None, gt=0)
    loop_in_ticks: int | None = Field(None, ge=0)
    loop_out_ticks: int | None = Field(None, gt=0)
    levels: tuple[LevelPoint, ...] = Field((), max_length=MOST_POINTS)
    stretches: tuple[Stretch, ...] = Field((), max_length=1_000)
    cut_for_ticks: int | None = None

    @property
    def stretches_ticks(self) -> int:
        """How long what it was cut to lasts."""
        return samples_to_ticks(sum(each.end_sample - each.start_sample for each in self.stretches))

    def end_ticks(self, total_ticks: int) -> int:
        """Where it ends in a piece of that length, whether its clip is long enough or not."""
        if self.length_ticks is None:
            return total_ticks
        return min(total_ticks, self.start_ticks + self.length_ticks)

"""Exact time: whole ticks, frame rates and timecode.

One second is 705 600 000 ticks. Every common frame length (24 to 60 frames a second, the 1000/1001 rates too)
and every common sample length (8 to 192 kHz, 44.1 kHz too) is a whole number of ticks, so times add up
without rounding.
"""

from fractions import Fraction

from pydantic import BaseModel, ConfigDict

TICKS_PER_SECOND = 705_600_000
SAMPLE_RATE_HZ = 48_000
TICKS_PER_SAMPLE = TICKS_PER_SECOND // SAMPLE_RATE_HZ


def seconds_to_ticks(seconds: float | Fraction) -> int:
    """The nearest whole tick to a time in seconds."""
    if isinstance(seconds, Fraction):
        return round(seconds * TICKS_PER_SECOND)
    return round(seconds * TICKS_PER_SECOND)


def ticks_to_seconds(ticks: int) -> float:
    """Ticks as float seconds: for formats, the interface and the solver only."""
    return ticks / TICKS_PER_SECOND


def ticks_to_samples(ticks: int) -> int:
    """The nearest sample at 48 kHz, halves up."""
    return (2 * ticks + TICKS_PER_SAMPLE) // (2 * TICKS_PER_SAMPLE)


def samples_to_ticks(samples: int) -> int:
    """The exact time of a sample at 48 kHz."""
    return samples * TICKS_PER_SAMPLE


def to_sample_grid(ticks: int) -> int:
    """The nearest time that lies on a sample at 48 kHz."""
    return samples_to_ticks(ticks_to_samples(ticks))


class FrameRate(BaseModel):
    """Frames a second as an exact fraction, such as 30/1 or 30000/1001."""

    model_config = ConfigDict(frozen=True)

    numerator: int
    denominator: int = 1

    @property
    def frame_ticks(self) -> int:
        """Ticks of one frame; whole for every rate in `FRAME_RATES`."""
        return TICKS_PER_SECOND * self.denominator // self.numerator

    @property
    def fraction(self) -> Fraction:
        """Frames a second, exactly."""
        return Fraction(self.numerator, self.denominator)

    @property
    def label(self) -> str:
        """As an editor says it: 30 or 29.97."""
        return str(self.numerator) if self.denominator == 1 else f"{self.numerator / self.denominator:.2f}"

    def frames_floor(self, ticks: int) -> int:
        """Whole frames that fit into a time."""
        return ticks // self.frame_ticks

    def frames_ceil(self, ticks: int) -> int:
        """Whole frames that cover a time."""
        return -(-ticks // self.frame_ticks)

    def frames_nearest(self, ticks: int) -> int:
        """The nearest whole frame, halves up."""
        return (2 * ticks + self.frame_ticks) // (2 * self.frame_ticks)

    def seconds(self, frames: int) -> float:
        """How long a number of frames lasts."""
        return float(frames / self.fraction)

    def ticks(self, frames: int) -> int:
        """Length of a number of frames."""
        return frames * self.frame_ticks

    def timecode(self, frame: int) -> str:
        """Minutes, seconds and frames, counted without dropped numbers: 0:22:27."""
        base = -(-self.numerator // self.denominator)
        seconds, rest = divmod(frame, base)
        return f"{seconds // 60}:{seconds % 60:02d}:{rest:02d}"


FRAME_RATES: dict[str, FrameRate] = {
    "23.976": FrameRate(numerator=24000, denominator=1001),
    "24": FrameRate(numerator=24),
    "25": FrameRate(numerator=25),
    "29.97": FrameRate(numerator=30000, denominator=1001),
    "30": FrameRate(numerator=30),
    "50": FrameRate(numerator=50),
    "59.94": FrameRate(numerator=60000, denominator=1001),
    "60": FrameRate(numerator=60),
}


def frame_rate(name: str) -> FrameRate:
    """The rate an editor named.

    Raises:
        ValueError: the rate is not one of `FRAME_RATES`.
    """
    alias = {"23.98": "23.976", "24000/1001": "23.976", "30000/1001": "29.97", "60000/1001": "59.94"}
    found = FRAME_RATES.get(alias.get(name, name))
    if found is None:
        raise ValueError(f"frame rate {name!r} is not one of {', '.join(FRAME_RATES)}")
    return found

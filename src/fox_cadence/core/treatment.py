"""A treatment: how a voice is finished. Stages one after the other, each in plain numbers.

Levels are decibels against the loudness of the speech itself (takes come at `SPEECH_LUFS`, core/mix.py), so
that a treatment does the same to every voice; frequencies are in hertz.
"""

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from fox_cadence.core.value import Value

Hertz = Annotated[float, Field(ge=20, le=18_000)]
Gain = Annotated[float, Field(ge=-24, le=24)]
Share = Annotated[float, Field(ge=0, le=1)]

MOST_STAGES = 12


class HighPass(Value):
    """Takes away what is lower: rumble, thumps of a table."""

    kind: Literal["high_pass"] = "high_pass"
    hertz: Hertz = 80.0


class Bell(Value):
    """Lifts or lowers what lies around a frequency, so many octaves wide."""

    kind: Literal["bell"] = "bell"
    hertz: Hertz = 3_000.0
    gain_db: Gain = 3.0
    octaves: float = Field(1.0, ge=0.2, le=4)


class Shelf(Value):
    """Lifts or lowers all that is lower, or higher."""

    kind: Literal["shelf"] = "shelf"
    side: Literal["low", "high"] = "high"
    hertz: Hertz = 6_000.0
    gain_db: Gain = 3.0


class Compressor(Value):
    """Turns down what is louder than its threshold by a ratio, and all of it up again by what that cost."""

    kind: Literal["compressor"] = "compressor"
    threshold_db: float = Field(-6.0, ge=-40, le=20)
    ratio: float = Field(3.0, ge=1, le=20)
    attack_ms: float = Field(5.0, ge=0.5, le=100)
    release_ms: float = Field(120.0, ge=10, le=2_000)


class DeEsser(Value):
    """Turns down the sharp sounds, and only them, where they stand out."""

    kind: Literal["de_esser"] = "de_esser"
    hertz: float = Field(5_000.0, ge=3_000, le=9_000)
    threshold_db: float = Field(-14.0, ge=-40, le=10)
    most_db: float = Field(8.0, ge=0, le=24)


class Gate(Value):
    """Turns down what is quieter than its threshold: the room between the words."""

    kind: Literal["gate"] = "gate"
    threshold_db: float = Field(-30.0, ge=-60, le=0)
    most_db: float = Field(12.0, ge=0, le=60)
    release_ms: float = Field(150.0, ge=10, le=2_000)


class Warmth(Value):
    """Bends loud peaks round, which adds a little of what a valve or a tape adds."""

    kind: Literal["warmth"] = "warmth"
    drive_db: float = Field(6.0, ge=0, le=24)


class Pitch(Value):
    """Another throat: higher or lower by so many semitones, so many times as large, its melody wider or
    flatter. Every word keeps its time."""

    kind: Literal["pitch"] = "pitch"
    semitones: float = Field(0.0, ge=-12, le=12)
    size: float = Field(1.0, ge=0.7, le=1.45)
    melody: float = Field(1.0, ge=0, le=2)


class Room(Value):
    """A room around the voice: how long it rings, and how much of it is heard."""

    kind: Literal["room"] = "room"
    seconds: float = Field(0.5, ge=0.15, le=4)
    share: Share = 0.15


Stage = Annotated[
    HighPass | Bell | Shelf | Compressor | DeEsser | Gate | Warmth | Pitch | Room,
    Field(discriminator="kind"),
]


class Treatment(Value):
    """Stages in the order in which a voice passes them, under a name. Without stages it changes nothing."""

    name: str = Field("", max_length=60)
    stages: tuple[Stage, ...] = Field((), max_length=MOST_STAGES)


SHIPPED: tuple[Treatment, ...] = (
    Treatment(
        name="Clear",
        stages=(HighPass(hertz=85), Bell(hertz=280, gain_db=-2.5), Bell(hertz=3_400, gain_db=2.5), DeEsser()),
    ),
    Treatment(
        name="Close",
        stages=(
            HighPass(hertz=60), Shelf(side="low", hertz=180, gain_db=2.5),
            Compressor(threshold_db=-8, ratio=3.5), Shelf(hertz=9_000, gain_db=2), DeEsser(threshold_db=-16),
        ),
    ),
    Treatment(
        name="Even",
        stages=(HighPass(), Compressor(threshold_db=-12, ratio=4, attack_ms=3, release_ms=200)),
    ),
    Treatment(
        name="Warm",
        stages=(
            HighPass(hertz=60), Shelf(side="low", hertz=220, gain_db=2), Shelf(hertz=7_000, gain_db=-2),
            Warmth(drive_db=8),
        ),
    ),
    Treatment(
        name="Over the sea",
        stages=(
            HighPass(hertz=110), Bell(hertz=2_800, gain_db=4, octaves=1.4), Compressor(ratio=5), DeEsser(),
        ),
    ),
    Treatment(
        name="Hall",
        stages=(HighPass(hertz=90), Room(seconds=1.6, share=0.22)),
    ),
    Treatment(
        name="Small room",
        stages=(HighPass(hertz=80), Room(seconds=0.4, share=0.18)),
    ),
    Treatment(
        name="Harbour radio",
        stages=(
            HighPass(hertz=380), Shelf(hertz=3_200, gain_db=-22), Bell(hertz=1_500, gain_db=6, octaves=1.2),
            Warmth(drive_db=16), Compressor(threshold_db=-14, ratio=8, attack_ms=1, release_ms=80),
        ),
    ),
    Treatment(
        name="Old telephone",
        stages=(
            HighPass(hertz=420), HighPass(hertz=300), Shelf(hertz=2_900, gain_db=-24),
            Shelf(hertz=3_600, gain_db=-20), Bell(hertz=1_100, gain_db=5, octaves=0.8), Warmth(drive_db=12),
        ),
    ),
    Treatment(name="Higher", stages=(Pitch(semitones=3, size=0.97),)),
    Treatment(name="Lower", stages=(Pitch(semitones=-3, size=1.03),)),
    Treatment(name="Smaller", stages=(Pitch(semitones=4, size=0.82),)),
    Treatment(name="Larger", stages=(Pitch(semitones=-3.5, size=1.18),)),
    Treatment(
        name="Older",
        stages=(
            Pitch(semitones=-1.5, size=1.04, melody=0.75), Shelf(hertz=5_000, gain_db=-4), Warmth(drive_db=5),
        ),
    ),
    Treatment(
        name="Tide sprite",
        stages=(
            Pitch(semitones=7, size=0.76, melody=1.3), Shelf(hertz=6_000, gain_db=3),
            Room(seconds=0.3, share=0.1),
        ),
    ),
    Treatment(
        name="Lighthouse giant",
        stages=(
            Pitch(semitones=-6, size=1.35), Shelf(side="low", hertz=160, gain_db=3),
            Room(seconds=0.9, share=0.14),
        ),
    ),
    Treatment(
        name="Tin herald",
        stages=(
            Pitch(semitones=1, melody=0.0), HighPass(hertz=260), Bell(hertz=1_900, gain_db=6, octaves=0.7),
            Warmth(drive_db=18), Room(seconds=0.2, share=0.2),
        ),
    ),
)  # fmt: skip
"""The treatments that ship, drawn up from what each stage is for."""


def shipped(name: str) -> Treatment | None:
    """The treatment of that name that ships."""
    return next((each for each in SHIPPED if each.name.casefold() == name.casefold()), None)


@dataclass(frozen=True, slots=True)
class Setting:
    """A number of a stage as it is shown: what it is, in which unit, from where to where."""

    field: str
    label: str
    unit: str
    least: float
    most: float
    step: float


@dataclass(frozen=True, slots=True)
class StageKind:
    """A kind of stage in plain words, with its numbers."""

    kind: str
    name: str
    described: str
    settings: tuple[Setting, ...]


KINDS: tuple[StageKind, ...] = (
    StageKind(
        "high_pass", "high-pass", "takes away what is lower: rumble, thumps",
        (Setting("hertz", "below", "Hz", 20, 18_000, 5),),
    ),
    StageKind(
        "bell", "bell", "lifts or lowers what lies around a pitch",
        (
            Setting("hertz", "around", "Hz", 20, 18_000, 10), Setting("gain_db", "by", "dB", -24, 24, 0.5),
            Setting("octaves", "wide", "octaves", 0.2, 4, 0.1),
        ),
    ),
    StageKind(
        "shelf", "shelf", "lifts or lowers all that is lower, or higher",
        (Setting("hertz", "from", "Hz", 20, 18_000, 10), Setting("gain_db", "by", "dB", -24, 24, 0.5)),
    ),
    StageKind(
        "compressor", "evener", "turns loud words down, so that soft ones come nearer",
        (
            Setting("threshold_db", "over", "dB", -40, 20, 1), Setting("ratio", "to 1 in", "", 1, 20, 0.5),
            Setting("attack_ms", "in", "ms", 0.5, 100, 0.5),
            Setting("release_ms", "back in", "ms", 10, 2_000, 10),
        ),
    ),
    StageKind(
        "de_esser", "de-esser", "turns down sharp s and sh where they stand out",
        (
            Setting("hertz", "above", "Hz", 3_000, 9_000, 100),
            Setting("threshold_db", "over", "dB", -40, 10, 1),
            Setting("most_db", "at most", "dB", 0, 24, 1),
        ),
    ),
    StageKind(
        "gate", "gate", "turns down the room between the words",
        (
            Setting("threshold_db", "under", "dB", -60, 0, 1), Setting("most_db", "by", "dB", 0, 60, 1),
            Setting("release_ms", "in", "ms", 10, 2_000, 10),
        ),
    ),
    StageKind(
        "warmth", "warmth", "bends peaks round, as a tape does",
        (Setting("drive_db", "driven by", "dB", 0, 24, 1),),
    ),
    StageKind(
        "pitch", "throat", "another one: higher or lower, smaller or larger",
        (
            Setting("semitones", "by", "semitones", -12, 12, 0.5),
            Setting("size", "size", "of 1", 0.7, 1.45, 0.01),
            Setting("melody", "melody", "of 1", 0, 2, 0.05),
        ),
    ),
    StageKind(
        "room", "room", "puts walls around the voice",
        (Setting("seconds", "rings for", "s", 0.15, 4, 0.05), Setting("share", "heard", "of 1", 0, 1, 0.01)),
    ),
)  # fmt: skip
"""The kinds of stages in the order in which they are offered."""

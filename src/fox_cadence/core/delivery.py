"""How a role or a line is said: a style and what is set by hand, and what both come to.

A style is a recipe of what every engine can do: pace, pitch, pauses, loudness; and the range of the pitch
where an engine has a hold of it.
"""

from dataclasses import dataclass

from pydantic import Field

from fox_cadence.core.value import Value


class Delivery(Value):
    """Style and settings by hand. `pitch_range` is against the voice's own (1); gain stands in the mix."""

    style: str = "plain"
    pace: float = Field(1.0, ge=0.5, le=2)
    pitch_semitones: float = Field(0.0, ge=-12, le=12)
    pitch_range: float = Field(1.0, ge=0.2, le=2)
    gain_db: float = Field(0.0, ge=-24, le=12)


class SavedDelivery(Value):
    """A delivery under a name of the editor's."""

    id: str
    name: str = Field(min_length=1, max_length=60)
    delivery: Delivery


@dataclass(frozen=True, slots=True)
class Style:
    """What a style does to a voice: factors on pace, pitch range and natural pauses; semitones; decibels."""

    id: str
    name: str
    does: str
    pace: float = 1.0
    pitch_semitones: float = 0.0
    pitch_range: float = 1.0
    pauses: float = 1.0
    gain_db: float = 0.0


STYLES: tuple[Style, ...] = (
    Style("plain", "Plain", "the voice as it is"),
    Style(
        "calm",
        "Calm",
        "a little slower and lower, longer pauses, narrower pitch range",
        0.93,
        -0.6,
        0.8,
        1.25,
        -0.5,
    ),
    Style("bright", "Bright", "a little quicker and higher, wider pitch range", 1.05, 1.2, 1.3, 0.9, 0.5),
    Style("urgent", "Urgent", "quick, higher, short pauses, louder", 1.16, 0.8, 1.15, 0.55, 1.5),
    Style("hushed", "Hushed", "soft and slower, low, almost level pitch", 0.94, -1.2, 0.5, 1.15, -5.0),
    Style("grave", "Grave", "slow and low, long pauses", 0.88, -1.8, 0.7, 1.45, 0.0),
    Style("wry", "Wry", "level, with pauses that wait", 0.97, -0.3, 0.6, 1.6, 0.0),
    Style(
        "storyteller",
        "Storyteller",
        "unhurried, wide pitch range, pauses that carry",
        0.95,
        0.2,
        1.4,
        1.3,
        0.0,
    ),
)

_BY_ID = {style.id: style for style in STYLES}


def style_named(style_id: str) -> Style:
    """A style; the plain one where there is none of that id (a project of a newer version)."""
    return _BY_ID.get(style_id, STYLES[0])


@dataclass(frozen=True, slots=True)
class Manner:
    """What a delivery comes to: style and hand together."""

    pace: float
    pitch_semitones: float
    pitch_range: float
    pauses: float
    gain_db: float


def manner_of(delivery: Delivery) -> Manner:
    style = style_named(delivery.style)
    return Manner(
        round(delivery.pace * style.pace, 4),
        delivery.pitch_semitones + style.pitch_semitones,
        round(delivery.pitch_range * style.pitch_range, 4),
        style.pauses,
        delivery.gain_db + style.gain_db,
    )


def unable(delivery: Delivery, *, has_range: bool) -> str:
    """What a voice can't do of a delivery, in words; empty when it can do all of it."""
    manner = manner_of(delivery)
    if has_range or manner.pitch_range == 1:
        return ""
    name = style_named(delivery.style).name
    how = "a wider" if manner.pitch_range > 1 else "a narrower"
    whose = f"{name} asks for" if delivery.style != "plain" else "This asks for"
    return (
        f"{whose} {how} pitch range; this voice can’t change its own. Pace, pitch, pauses and loudness do "
        "follow."
    )

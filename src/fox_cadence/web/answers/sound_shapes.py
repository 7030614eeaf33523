"""The shapes in which beds, effects and the mix are told."""

from typing import Any, TypedDict


class BedJson(TypedDict):
    """A bed, all times in seconds. `length_s` is None where it goes to the end of the piece, the ends of its
    part and of its loop where they are that of its clip. `levels` are [second of the bed, decibels]. Where it
    was cut by bars, `cut_s` is how long that lasts and `cut_for_s` for which length it was found."""

    id: str
    clip_hash: str
    gain_db: float
    duck_db: float
    duck_in_ms: int
    duck_out_ms: int
    fade_in_s: float
    fade_out_s: float
    start_s: float
    length_s: float | None
    source_in_s: float
    source_out_s: float | None
    loop_in_s: float | None
    loop_out_s: float | None
    levels: list[tuple[float, float]]
    cut_s: float | None
    cut_for_s: float | None


class EffectJson(TypedDict):
    """A spot effect: from which second of the piece it is heard, and what it is held to."""

    id: str
    clip_hash: str
    start_s: float
    held: str
    shot: str
    line: str | None
    word: int
    title: str | None
    offset_s: float
    gain_db: float
    fade_in_s: float
    fade_out_s: float


class MixSettingsJson(TypedDict):
    aim_lufs: float
    peak_db: float
    speech_db: float
    bed_db: float
    own_db: float
    effects_db: float
    muted: list[str]
    solo: list[str]


class CureOfMixJson(TypedDict):
    text: str
    edits: list[dict[str, Any]]


class MixWarningJson(TypedDict):
    """Something in the mix that should be looked at, from a second of the piece on."""

    text: str
    at_s: float
    cures: list[CureOfMixJson]


class BedBeatsJson(TypedDict):
    """The music of a bed as it is heard in the piece: its beats and the beginnings of its bars in seconds of
    the piece, tempo and certainty, and its runs: second of the piece, second of its clip, how long."""

    bed: str
    tempo_bpm: float
    metre: int
    certainty: float
    beats: list[float]
    bars: list[float]
    runs: list[tuple[float, float, float]]
    duck: list[tuple[float, float]]


class SoundJson(TypedDict):
    """How the mix of a revision stands. `short_term` is the loudness of three seconds at each tenth of a
    second (LUFS), `over_db` how far speech stands over the rest, `understood` ESTOI."""

    revision: int
    lufs: float
    peak_db: float
    short_term: list[float]
    over_db: float | None
    understood: float | None
    lines_over: dict[str, float | None]
    warnings: list[MixWarningJson]
    beds: list[BedBeatsJson]


class SoundItemJson(TypedDict):
    """A sound of the shelf; `clip` is None for what is still to be played."""

    id: str
    title: str
    words: str
    kind: str
    seconds: float
    bpm: float
    source: str
    licence: str
    commercial: bool
    clip: str | None
    kept: bool
    used: bool


class SoundShelfJson(TypedDict):
    items: list[SoundItemJson]
    left_out: int

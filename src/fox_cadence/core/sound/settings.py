"""How all sounds of a piece are brought together: how loud the whole is to be, and each column of it."""

from typing import Annotated, Literal, TypeAlias

from pydantic import Field

from fox_cadence.core.value import Value

Column: TypeAlias = Literal["speech", "bed", "own", "effects"]
"""What is heard together: all voices, all beds, the shots' own sound, all spot effects."""

COLUMNS: tuple[Column, ...] = ("speech", "bed", "own", "effects")
ROLE = "role:"
"""A column of one role only is named by this and the role's id."""

ColumnGain = Annotated[float, Field(ge=-60, le=12)]


class MixSettings(Value):
    """The whole's loudness in LUFS and the true peak it stays under in dBTP; the level of each column in dB.

    `muted` and `solo` name columns, or roles as `role:` and their id. Where any is solo, only those are
    heard.
    """

    aim_lufs: float = Field(-14.0, ge=-40, le=-6)
    peak_db: float = Field(-1.0, ge=-12, le=-0.1)
    speech_db: ColumnGain = 0.0
    bed_db: ColumnGain = 0.0
    own_db: ColumnGain = 0.0
    effects_db: ColumnGain = 0.0
    muted: tuple[str, ...] = Field((), max_length=200)
    solo: tuple[str, ...] = Field((), max_length=200)

    def gain_db(self, column: Column) -> float:
        """The level of a column."""
        gain: float = getattr(self, f"{column}_db")
        return gain

    def heard(self, column: Column, role_id: str = "") -> bool:
        """Whether something is heard: neither it nor its column is muted, and it is solo where anything
        is."""
        names = {column, f"{ROLE}{role_id}"} if role_id else {column}
        return not names & set(self.muted) and (not self.solo or bool(names & set(self.solo)))

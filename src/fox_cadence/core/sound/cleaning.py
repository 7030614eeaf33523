"""What is taken out of a recording."""

from pydantic import Field

from fox_cadence.core.value import Value

ALL_DB = 60.0
"""By so many decibels and more it is taken away altogether."""


class Cleaning(Value):
    """What is taken away, and by how many decibels at most: noise (with hum and clicks) and the room; and
    whether what is too soft or too loud is brought nearer to the rest."""

    noise_db: float = Field(24.0, ge=0, le=ALL_DB)
    room_db: float = Field(0.0, ge=0, le=ALL_DB)
    even: bool = False

"""The docket: what is to be made of a piece, row by row, kept and used again."""

from fox_cadence.core.docket.rows import (
    BundleRow,
    CaptionsRow,
    CuesRow,
    Docket,
    InterchangeRow,
    LinesRow,
    Row,
    ScriptRow,
    SoundRow,
    StemsRow,
    Stretch,
    VideoRow,
)

__all__ = [
    "BundleRow",
    "CaptionsRow",
    "CuesRow",
    "Docket",
    "InterchangeRow",
    "LinesRow",
    "Row",
    "ScriptRow",
    "SoundRow",
    "StemsRow",
    "Stretch",
    "VideoRow",
]

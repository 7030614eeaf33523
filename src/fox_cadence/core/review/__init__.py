"""Review: what somebody else is shown of a finished revision, and what they say of it."""

from fox_cadence.core.review.link import Link, Standing, standing
from fox_cadence.core.review.moments import Moment, frame_now, moment_at
from fox_cadence.core.review.shown import Shown, ShownChapter, ShownCue, ShownLine, ShownShot

__all__ = [
    "Link",
    "Moment",
    "Shown",
    "ShownChapter",
    "ShownCue",
    "ShownLine",
    "ShownShot",
    "Standing",
    "frame_now",
    "moment_at",
    "standing",
]

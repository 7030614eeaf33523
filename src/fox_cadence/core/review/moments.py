"""Where a note on a finished revision stands in the piece as it is now.

A note is about what was seen, so it is held to its shot and goes where that goes; the time in the file would
be that of something else as soon as a cut before it has moved.
"""

from collections.abc import Mapping, Sequence

from fox_cadence.core.review.shown import ShownShot
from fox_cadence.core.value import Value


class Moment(Value):
    """A frame of a shot, counted from where the shot begins."""

    shot_id: str
    frame: int


def moment_at(shots: Sequence[ShownShot], frame: int) -> Moment | None:
    """The moment a frame of the piece is; None where there are no shots. Frames past the ends are those at
    the ends."""
    if not shots:
        return None
    shot = next((each for each in reversed(shots) if each.start_frame <= frame), shots[0])
    last = max(shot.start_frame, shot.end_frame - 1)
    return Moment(shot_id=shot.id, frame=min(max(frame, shot.start_frame), last) - shot.start_frame)


def frame_now(moment: Moment, shots: Mapping[str, ShownShot]) -> int | None:
    """The frame of the piece a moment is at now; None when its shot is gone. Where the shot has become
    shorter, its last."""
    shot = shots.get(moment.shot_id)
    if shot is None:
        return None
    return min(shot.start_frame + moment.frame, max(shot.start_frame, shot.end_frame - 1))

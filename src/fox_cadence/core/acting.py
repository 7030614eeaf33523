"""What the figures of a piece do in every frame: their mouths follow the takes of their role."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.figures.characters import drawn
from fox_cadence.core.figures.drawing import FigureDrawing, Pose, Standing, standing
from fox_cadence.core.figures.figure import Figure
from fox_cadence.core.figures.gestures import blinks, looks, nods
from fox_cadence.core.figures.mouth import mouths, pulls_of
from fox_cadence.core.takes import PhonemeTime, Take
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, TICKS_PER_SECOND
from fox_cadence.core.timeline import LineSpan, Timeline

_TICK_S = 1 / TICKS_PER_SECOND
_AROUND_S = 0.5
"""How long before and after its sound a line moves the mouth at most."""
_COMES_S, _STAYS_S, _BRIDGED_S, _FADE_S = 0.35, 0.6, 1.2, 0.2
"""A figure that is only seen while it speaks comes so long before, stays so long after, stays through gaps of
its lines up to so long, and takes so long to come and go."""

PhonemesOf: TypeAlias = Callable[[Take], Sequence[PhonemeTime]]
"""The phonemes of a take."""


def own_phonemes(take: Take) -> Sequence[PhonemeTime]:
    """Those a take was made with; takes made before they were kept have none."""
    return take.phonemes


@dataclass(frozen=True)
class Acted:
    """A figure with what it does in the frames [first, first + len(poses))."""

    figure: Figure
    drawing: FigureDrawing
    stands: Standing
    first: int
    poses: tuple[Pose, ...]

    def pose_at(self, frame: int) -> Pose | None:
        """What it does in a frame of the piece; None where it is not seen."""
        place = frame - self.first
        pose = self.poses[place] if 0 <= place < len(self.poses) else None
        return pose if pose is not None and pose.seen else None


def acted(
    timeline: Timeline, phonemes_of: PhonemesOf = own_phonemes, frames: tuple[int, int] | None = None
) -> tuple[Acted, ...]:
    """The figures of a piece in the order in which they are painted.

    Args:
        frames: the frames [first, end) wanted; None for all of the piece.
    """
    first, end = frames or (0, timeline.total_frames)
    project = timeline.project
    return tuple(
        Acted(
            figure,
            drawn(figure.character, figure.facing, figure.colours),
            standing(figure.x, figure.y, figure.size, (project.width, project.height)),
            first,
            _poses(timeline, figure, phonemes_of, first, max(first, end)),
        )
        for figure in project.figures
    )


def _poses(
    timeline: Timeline, figure: Figure, phonemes_of: PhonemesOf, first: int, end: int
) -> tuple[Pose, ...]:
    rate = timeline.project.rate
    middles = (np.arange(first, end) + 0.5) * rate.frame_ticks  # each frame is shown as it is in its middle
    moments_s = np.asarray(middles * _TICK_S, dtype=np.float64)
    until_s = timeline.total_ticks * _TICK_S
    spans = [span for span in timeline.lines if span.line.role_id == figure.role_id]
    speaking = [(span.start_ticks * _TICK_S, span.end_ticks * _TICK_S) for span in spans]
    made = np.zeros((len(moments_s), len(Pose._fields)))
    near = [
        span for span, (begin, stop) in zip(spans, speaking, strict=True) if _near(begin, stop, moments_s)
    ]
    for span in near:
        _speak(made, span, phonemes_of, moments_s)
    made[:, 5] = blinks(figure.id, moments_s, until_s)
    if not timeline.project.lettering.calm:
        made[:, 6] = nods(near, _TICK_S, moments_s)
        made[:, 7] = looks(figure.id, moments_s, until_s, speaking)
    made[:, 8] = _seen(moments_s, speaking) if figure.shown == "speaking" else 1.0
    return tuple(Pose(*(int(value) for value in row)) for row in np.rint(made * 100))


def _near(begin_s: float, end_s: float, moments_s: NDArray[np.float64]) -> bool:
    return bool(len(moments_s) and begin_s - _AROUND_S <= moments_s[-1] and moments_s[0] <= end_s + _AROUND_S)


def _speak(
    made: NDArray[np.float64], span: LineSpan, phonemes_of: PhonemesOf, moments_s: NDArray[np.float64]
) -> None:
    """Open the mouth for the sound of a line; where two lines sound at once, it is open for either."""
    take = span.take
    if take is None:
        return
    begins_s = span.sound_start_ticks * _TICK_S
    lasts_s = take.sample_count / SAMPLE_RATE_HZ
    low, high = np.searchsorted(moments_s, [begins_s - _AROUND_S, begins_s + lasts_s + _AROUND_S])
    found = mouths(pulls_of(take, phonemes_of(take)), moments_s[low:high] - begins_s)
    wider = found[:, 0] >= made[low:high, 0]
    made[low:high, : found.shape[1]][wider] = found[wider]


def _seen(moments_s: NDArray[np.float64], speaking_s: Sequence[tuple[float, float]]) -> NDArray[np.float64]:
    """How far a figure is seen that comes to speak and goes."""
    stretches: list[tuple[float, float]] = []
    for begin, end in sorted(speaking_s):
        if stretches and begin - stretches[-1][1] < _BRIDGED_S:
            stretches[-1] = (stretches[-1][0], max(end, stretches[-1][1]))
        else:
            stretches.append((begin, end))
    seen = np.zeros(len(moments_s))
    for begin, end in stretches:
        inside = np.minimum(moments_s - (begin - _COMES_S), end + _STAYS_S - moments_s)
        seen = np.maximum(seen, np.clip(inside / _FADE_S, 0, 1))
    return seen

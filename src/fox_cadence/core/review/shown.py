"""What a review page has beside the video: captions, chapters, transcript, all of the revision that was made.

Times are seconds of the file, which may be a part of the piece.
"""

from fox_cadence.core.docket.chapters import chapters_of
from fox_cadence.core.ticks import FrameRate
from fox_cadence.core.timeline import Timeline
from fox_cadence.core.value import Value


class ShownCue(Value):
    start_s: float
    end_s: float
    text: str


class ShownChapter(Value):
    title: str
    start_s: float


class ShownLine(Value):
    """A line of the transcript; `role` says who speaks."""

    role: str
    text: str
    start_s: float
    end_s: float


class ShownShot(Value):
    """A shot as it stood in the piece, in frames of the piece."""

    id: str
    name: str
    start_frame: int
    end_frame: int


class Shown(Value):
    """What is beside a finished video. `first_frame` is the frame of the piece the file begins with."""

    piece: str
    language: str
    rate: FrameRate
    width: int
    height: int
    first_frame: int
    seconds: float
    captions: tuple[ShownCue, ...]
    chapters: tuple[ShownChapter, ...]
    transcript: tuple[ShownLine, ...]
    shots: tuple[ShownShot, ...]

    def frame_at(self, at_s: float) -> int:
        """The frame of the piece at a time of the file."""
        return self.first_frame + int(at_s * float(self.rate.fraction) + 1e-6)


def shown_of(
    timeline: Timeline, captions: tuple[ShownCue, ...], size: tuple[int, int], first: int, last: int
) -> Shown:
    """What is shown beside a video of the frames [first, last) of a piece.

    Args:
        captions: those of the whole piece, in its own seconds, as the caption files have them.
    """
    project = timeline.project
    rate = project.rate
    begin, end = rate.seconds(first), rate.seconds(last)
    roles = {role.id: role.name for role in project.roles}
    several = len({span.line.role_id for span in timeline.lines}) > 1
    lines = [
        ShownLine(
            role=roles[span.line.role_id] if several else "",
            text=span.said,
            start_s=round(max(begin, start) - begin, 3),
            end_s=round(min(end, until) - begin, 3),
        )
        for span in timeline.lines
        if (start := rate.seconds(rate.frames_floor(span.start_ticks))) < end
        and (until := rate.seconds(rate.frames_ceil(span.end_ticks))) > begin
    ]
    cues = [
        ShownCue(start_s=max(cue.start_s, begin) - begin, end_s=min(cue.end_s, end) - begin, text=cue.text)
        for cue in captions
        if cue.start_s < end and cue.end_s > begin
    ]
    return Shown(
        piece=project.name,
        language=project.language,
        rate=rate,
        width=size[0],
        height=size[1],
        first_frame=first,
        seconds=end - begin,
        captions=tuple(cues),
        chapters=tuple(
            ShownChapter(title=each.title, start_s=rate.seconds(each.start_frame))
            for each in chapters_of(timeline, first, last)
        ),
        transcript=tuple(sorted(lines, key=lambda line: line.start_s)),
        shots=shots_of(timeline),
    )


def shots_of(timeline: Timeline) -> tuple[ShownShot, ...]:
    """The shots of a piece as they stand."""
    return tuple(
        ShownShot(
            id=span.shot.id, name=span.shot.name, start_frame=span.start_frame, end_frame=span.end_frame
        )
        for span in timeline.shots
    )

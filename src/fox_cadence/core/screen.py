"""What is on the screen in every frame: read by the player in the browser and by the renderer alike."""

from dataclasses import dataclass

from fox_cadence.core.adjustment import UNADJUSTED, Adjustment
from fox_cadence.core.framing import PLAIN, Framing
from fox_cadence.core.lettering import CaptionDrawing, Face, letter, lit_schedule, style_by_id
from fox_cadence.core.overlay import Laid
from fox_cadence.core.shot_limits import overlap_frames, repeats_after_ticks
from fox_cadence.core.ticks import FrameRate
from fox_cadence.core.timeline import CaptionSpan, LineSpan, Timeline
from fox_cadence.core.transition import TransitionKind


@dataclass(frozen=True, slots=True)
class ScreenShot:
    """Picture of the frames [start_frame, end_frame): a clip from `source_in_ticks` on, or a plain colour.

    In its first `fade_frames` the shot before it becomes this one, by a kind of transition. `speed_percent`
    of its time pass in the clip. Where `repeats_ticks` is above 0 the clip begins again after so much of the
    shot's time; else its last frame is held where it ends before the shot does.
    """

    clip_hash: str | None
    colour: str
    source_in_ticks: int
    start_frame: int
    end_frame: int
    fade_frames: int = 0
    repeats_ticks: int = 0
    speed_percent: int = 100
    framing: Framing = PLAIN
    adjustment: Adjustment = UNADJUSTED
    fade_kind: TransitionKind = "dissolve"
    fade_colour: str = "#000000"
    laid: tuple[Laid, ...] = ()

    def passed_at(self, frame: int) -> float:
        """How much of the shot has passed at one of its frames, 0 to 1."""
        return (frame - self.start_frame) / max(1, self.end_frame - self.start_frame - 1)

    def source_ticks(self, into: int) -> int:
        """Where its clip is, so long after the shot has begun (ticks)."""
        turn = into % self.repeats_ticks if self.repeats_ticks else into
        return self.source_in_ticks + turn * self.speed_percent // 100

    def share_at(self, frame: int) -> float:
        """How much of this shot is seen at a frame of it, 0 to 1: a dissolve runs in even steps."""
        into = frame - self.start_frame
        return 1.0 if into >= self.fade_frames else (into + 1) / (self.fade_frames + 1)


@dataclass(frozen=True, slots=True)
class ScreenCaption:
    """A drawing on the screen in the frames [in_frame, out_frame); `lit` as `lit_schedule` gives it."""

    caption_id: str
    drawing: CaptionDrawing
    in_frame: int
    out_frame: int
    lit: tuple[tuple[int, int | None], ...]

    def lit_at(self, frame: int) -> int | None:
        """The word that is lit at a frame of the piece, None where none is."""
        word: int | None = None
        for begins, lit in self.lit:
            if begins > frame:
                break
            word = lit
        return word


@dataclass(frozen=True, slots=True)
class Screen:
    """All pictures of a piece."""

    width: int
    height: int
    rate: FrameRate
    shots: tuple[ScreenShot, ...]
    captions: tuple[ScreenCaption, ...]

    @property
    def total_frames(self) -> int:
        """Length of the piece."""
        return self.shots[-1].end_frame if self.shots else 0


def lit_words(
    shown: CaptionSpan, span: LineSpan | None, drawn_words: int, rate: FrameRate
) -> tuple[tuple[int, int | None], ...]:
    """Which word of a caption is lit from which frame on, by the sound of its line."""
    begins: list[int] = []
    if span is not None and span.take is not None:
        times = span.word_times_ticks()[shown.words[0] : shown.words[1]]
        begins = [rate.frames_floor(start) for start, _ in times]
    return lit_schedule(drawn_words, begins, shown.in_frame, shown.out_frame)


def screen_of(timeline: Timeline, face: Face) -> Screen:
    """The screen of a timeline, its captions lettered in the project's style."""
    project = timeline.project
    style = style_by_id(project.caption_style)
    rate = project.rate
    spans = {span.line.id: span for span in timeline.lines}
    captions: list[ScreenCaption] = []
    for shown in timeline.captions:
        if not shown.caption.text.strip():
            continue
        drawing = letter(shown.caption.text, style, face, project.width, project.height)
        lit = lit_words(shown, spans.get(shown.line_id or ""), len(drawing.words), rate)
        captions.append(ScreenCaption(shown.caption.id, drawing, shown.in_frame, shown.out_frame, lit))
    fades = (0, *overlap_frames(project)[:-1])
    before = (None, *project.shots[:-1])
    shots = tuple(
        ScreenShot(
            s.shot.clip_hash,
            s.shot.colour,
            s.shot.source_in_ticks,
            s.start_frame,
            s.end_frame,
            fade,
            repeats_after_ticks(project, s.shot),
            s.shot.speed_percent,
            s.shot.framing,
            s.shot.adjustment,
            last.transition_kind if last else "dissolve",
            last.transition_colour if last else "#000000",
            s.shot.laid,
        )
        for s, fade, last in zip(timeline.shots, fades, before, strict=False)
    )
    return Screen(project.width, project.height, rate, shots, tuple(captions))

"""What is on the screen in every frame: read by the player in the browser and by the renderer alike."""

from dataclasses import dataclass

from fox_cadence.core.acting import Acted, PhonemesOf, acted, own_phonemes
from fox_cadence.core.adjustment import UNADJUSTED, Adjustment
from fox_cadence.core.framing import PLAIN, Framing
from fox_cadence.core.lettered import FacesOf
from fox_cadence.core.lettering.drawing import CaptionDrawing
from fox_cadence.core.lettering.motion import Moments, Shown, moments, shown_at
from fox_cadence.core.lettering.placing import placed
from fox_cadence.core.overlay import Laid
from fox_cadence.core.shot_limits import overlap_frames, repeats_after_ticks
from fox_cadence.core.standing import set_up, words_on_screen
from fox_cadence.core.ticks import FrameRate
from fox_cadence.core.timeline import Timeline
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
    """A caption or title on the screen in the frames [in_frame, out_frame), `shift` pixels from the place of
    its style, with the moments at which its parts move."""

    caption_id: str
    drawing: CaptionDrawing
    in_frame: int
    out_frame: int
    when: Moments
    shift: tuple[float, float] = (0.0, 0.0)

    @property
    def moving_frames(self) -> tuple[int, int]:
        """In how many frames it comes in, and goes out."""
        settled = max(first + frames for first, frames in self.when.comes)
        return settled - self.in_frame, self.when.goes[1]

    def shown_at(self, frame: int) -> Shown:
        """How it is shown in a frame of the piece."""
        return shown_at(self.drawing, self.when, frame)


@dataclass(frozen=True, slots=True)
class Screen:
    """All pictures of a piece."""

    width: int
    height: int
    rate: FrameRate
    shots: tuple[ScreenShot, ...]
    captions: tuple[ScreenCaption, ...]
    figures: tuple[Acted, ...] = ()

    @property
    def total_frames(self) -> int:
        """Length of the piece."""
        return self.shots[-1].end_frame if self.shots else 0


def screen_of(timeline: Timeline, faces_of: FacesOf, phonemes_of: PhonemesOf = own_phonemes) -> Screen:
    """The screen of a timeline, its captions and titles lettered in their styles, its figures speaking."""
    project = timeline.project
    rate = project.rate
    words = words_on_screen(timeline)
    standing = [set_up(timeline, each, faces_of) for each in words]
    captions = tuple(
        ScreenCaption(
            each.id,
            item.drawing,
            each.in_frame,
            each.out_frame,
            moments(item.drawing, each.style, each.spoken, each.in_frame, each.out_frame, rate),
            shift,
        )
        for each, item, shift in zip(words, standing, placed(standing), strict=True)
    )
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
    return Screen(project.width, project.height, rate, shots, captions, acted(timeline, phonemes_of))

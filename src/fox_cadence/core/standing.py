"""The words on the screen of a piece: which, in which style, when, and where they stand."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from fox_cadence.core.figures.characters import CHARACTERS
from fox_cadence.core.figures.drawing import BOX
from fox_cadence.core.framing import interest_in_frame
from fox_cadence.core.lettered import FacesOf, style_of, title_style
from fox_cadence.core.lettering.drawing import CaptionDrawing, letter
from fox_cadence.core.lettering.faces import Faces
from fox_cadence.core.lettering.placing import Standing, placed
from fox_cadence.core.lettering.style import CaptionStyle, Place
from fox_cadence.core.ticks import FrameRate
from fox_cadence.core.timeline import CaptionSpan, LineSpan, Timeline


@dataclass(frozen=True, slots=True)
class ShownWords:
    """A caption or title on the screen in the frames [in_frame, out_frame); `spoken` are the frames its words
    are spoken in, none where that is not known."""

    id: str
    text: str
    style: CaptionStyle
    place: Place | None
    breaks: tuple[int, ...]
    in_frame: int
    out_frame: int
    spoken: tuple[tuple[int, int], ...]
    is_title: bool

    @property
    def clear(self) -> bool:
        """Whether it is to keep clear of what matters in the picture."""
        return (self.place or self.style.place).clear


def spoken_frames(shown: CaptionSpan, span: LineSpan | None, rate: FrameRate) -> tuple[tuple[int, int], ...]:
    """The frames [begin, end) in which the words of a caption are spoken, by the sound of its line; none
    where it has none."""
    if span is None or span.take is None:
        return ()
    times = span.word_times_ticks()[shown.words[0] : shown.words[1]]
    return tuple((rate.frames_floor(start), rate.frames_ceil(end)) for start, end in times)


def words_on_screen(timeline: Timeline) -> list[ShownWords]:
    """All words on the screen: titles first, for captions make room for them."""
    project, rate = timeline.project, timeline.project.rate
    spans = {span.line.id: span for span in timeline.lines}
    found = [
        ShownWords(
            span.title.id,
            span.title.text,
            title_style(project, span.title),
            span.title.place,
            (),
            span.in_frame,
            span.out_frame,
            (),
            True,
        )
        for span in timeline.titles
        if span.title.text.strip() and span.in_frame < span.out_frame
    ]
    for shown in timeline.captions:
        caption = shown.caption
        if caption.text.strip():
            said = spans.get(shown.line_id or "")
            found.append(
                ShownWords(
                    caption.id,
                    caption.text,
                    style_of(project, caption, said.line if said else None),
                    caption.place,
                    caption.breaks,
                    shown.in_frame,
                    shown.out_frame,
                    spoken_frames(shown, said, rate),
                    False,
                )
            )
    return found


def set_up(timeline: Timeline, words: ShownWords, faces_of: FacesOf) -> Standing:
    """Words drawn, and where they are wanted."""
    project = timeline.project
    drawing = drawn(words.text, words.style, faces_of, (project.width, project.height), words.breaks)
    interest = interests(timeline, words.in_frame, words.out_frame) if words.clear else ()
    return Standing(drawing, words.style, words.place, words.in_frame, words.out_frame, interest)


def drawn(
    text: str, style: CaptionStyle, faces_of: FacesOf, frame: tuple[int, int], breaks: tuple[int, ...]
) -> CaptionDrawing:
    """A drawing, kept: it is asked for at every change of a piece."""
    return _kept(text, style, faces_of(style), frame, breaks)


@lru_cache(maxsize=400)
def _kept(
    text: str, style: CaptionStyle, faces: Faces, frame: tuple[int, int], breaks: tuple[int, ...]
) -> CaptionDrawing:
    return letter(text, style, faces, *frame, breaks)


def shifts(
    timeline: Timeline, words: Sequence[ShownWords], faces_of: FacesOf
) -> dict[str, tuple[float, float]]:
    """How far words are from the place of their style, in pixels, by id; those that stand there are left
    out. Only words that have a place of their own, that keep clear of something, or that are on the screen
    together with others are drawn for that."""
    together: set[str] = set()
    last: ShownWords | None = None
    for each in sorted(words, key=lambda item: item.in_frame):
        if last is not None and each.in_frame < last.out_frame:
            together |= {each.id, last.id}
        if last is None or each.out_frame > last.out_frame:
            last = each
    needed = [each for each in words if each.id in together or each.place is not None or each.clear]
    found = placed([set_up(timeline, each, faces_of) for each in needed])
    return {each.id: shift for each, shift in zip(needed, found, strict=True) if shift != (0.0, 0.0)}


def interests(timeline: Timeline, in_frame: int, out_frame: int) -> tuple[tuple[float, float], ...]:
    """Where in the frame (shares) what matters in the pictures is seen in some frames: at their first and
    last one and in the middle of each shot; and the eyes and mouths of figures. Pictures whose point of
    interest nobody has set have none."""
    project = timeline.project
    found = _faces(timeline, in_frame, out_frame)
    for span in timeline.shots:
        first, last = max(span.start_frame, in_frame), min(span.end_frame, out_frame) - 1
        clip = project.clips.get(span.shot.clip_hash or "")
        framing = span.shot.framing
        if first > last or clip is None or not clip.has_picture:
            continue
        if clip.interest is None and (framing.x, framing.y) == (0.5, 0.5):
            continue
        for frame in sorted({first, (first + last) // 2, last}):
            share = (frame - span.start_frame) / max(1, span.end_frame - span.start_frame - 1)
            picture, size = (clip.width, clip.height), (project.width, project.height)
            found.append(interest_in_frame(framing, picture, size, share))
    return tuple(found)


def _faces(timeline: Timeline, in_frame: int, out_frame: int) -> list[tuple[float, float]]:
    """The eyes and mouths of the figures seen in some frames: of one that is there only while it speaks,
    where it has a line then."""
    project = timeline.project
    ticks = project.rate.frame_ticks
    speaking = {
        span.line.role_id
        for span in timeline.lines
        if span.start_ticks < out_frame * ticks and in_frame * ticks < span.end_ticks
    }
    short = min(project.width, project.height)
    return [
        (figure.x, figure.y + (height / BOX[1] - 0.5) * figure.size * short / project.height)
        for figure in project.figures
        if figure.shown == "always" or figure.role_id in speaking
        for height in CHARACTERS[figure.character].face
    ]

"""Renders a screen and its sound to a video file, exact to the frame. Runs in the isolated process."""

import itertools
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import av
import numpy as np

from fox_cadence.core.adjustment import UNADJUSTED
from fox_cadence.core.lettering.motion import Shown, divided
from fox_cadence.core.screen import Screen, ScreenCaption, ScreenShot
from fox_cadence.media.adjuster import Adjuster
from fox_cadence.media.ahead import made_ahead
from fox_cadence.media.caption_paint import Layer, paint_onto
from fox_cadence.media.caption_plates import apart, prepare, repair
from fox_cadence.media.colours import adjusted_table
from fox_cadence.media.figure_paint import FigurePainter
from fox_cadence.media.framer import Framer
from fox_cadence.media.isolated import Progress
from fox_cadence.media.overlay_paint import paint_laid
from fox_cadence.media.picture import Planes, TimedFrame, open_media, planes_of, timed_frames
from fox_cadence.media.plates import Plate, blend, seen_through
from fox_cadence.media.proxies import frames_from
from fox_cadence.media.transitions import between
from fox_cadence.media.video_file import VideoFile, poster_picture
from fox_cadence.media.video_forms import VideoForm, opened

_REPORT_EVERY = 5
PACK_SUFFIX = ".pack"
_FARTHEST_EM = 2
"""No movement takes words farther from their place than this, in sizes of their letters."""


def render(
    screen: Screen,
    clip_files: dict[str, Path],
    sound_file: Path,
    target: Path,
    form: VideoForm,
    progress: Progress,
) -> None:
    """Write the video.

    Args:
        screen: what every frame shows.
        clip_files: where the original of each clip and look lies, by hash; or, of a clip, its small frames
            (media/proxies.py), for a look that need not be sharp.
        sound_file: WAV of the mix, 48 kHz stereo, as long as the frames that are written.
        target: file to write; the caller moves it to its final name.
        form: the kind of file, and which frames of the piece.
        progress: told frames done and in all.
    """
    rate, size = screen.rate.fraction, (screen.width, screen.height)
    last = last_frame(screen, form)
    total = last - form.first
    with opened(str(target), form) as output:
        file = VideoFile(output, form, size, rate, sound_file)
        for number, frame in enumerate(painted_frames(screen, clip_files, form.first, last)):
            frame.pts = number
            frame.time_base = 1 / rate
            packets = file.video.encode(frame)
            if number == form.poster:
                file.stand_for(poster_picture(frame))
            file.write(packets, number + 1)
            if number % _REPORT_EVERY == 0:
                progress(number, total)
        file.end(file.video.encode(None))
    progress(total, total)


def last_frame(screen: Screen, form: VideoForm) -> int:
    """The frame of the piece after the last that is written."""
    return screen.total_frames if form.last is None else min(form.last, screen.total_frames)


def painted_frames(
    screen: Screen, clip_files: dict[str, Path], first: int, last: int
) -> Iterator[av.VideoFrame]:
    """The frames [first, last) of a piece with all that is painted on them, each a frame of its own."""
    figures, painter = FigurePainter(screen.figures), CaptionPainter(screen)
    pictures = itertools.islice(_pictures(screen, clip_files, first), last - first)
    for number, planes in enumerate(made_ahead(pictures), first):
        frame = _own_frame(planes)
        figures.paint(planes_of(frame), number)
        painter.paint(planes_of(frame), number)
        yield frame


def _own_frame(planes: Planes) -> av.VideoFrame:
    """A frame of its own with these planes: the encoder keeps frames for a while, and pictures are held for
    several."""
    height, width = planes[0].shape
    frame = av.VideoFrame(width, height, "yuv420p")
    for target, plane in zip(planes_of(frame), planes, strict=True):
        target[:] = plane
    return frame


class CaptionPainter:
    """Paints the captions and titles of a frame; keeps of each how its words that stand were painted last."""

    def __init__(self, screen: Screen) -> None:
        self._captions = screen.captions
        self._standing: dict[tuple[str, Layer], tuple[Shown, Plate]] = {}

    def paint(self, planes: Planes, frame: int) -> None:
        """Paint all words of a frame of the piece, one caption over the other."""
        shown = [caption for caption in self._captions if caption.in_frame <= frame < caption.out_frame]
        names = {caption.caption_id for caption in shown}
        self._standing = {key: value for key, value in self._standing.items() if key[0] in names}
        for caption in shown:
            self._paint(planes, caption, caption.shown_at(frame))

    def _paint(self, planes: Planes, caption: ScreenCaption, how: Shown) -> None:
        drawing, shift = caption.drawing, caption.shift
        parts = divided(drawing, how)
        if parts is None:
            paint_onto(planes, drawing, how, shift)
            return
        stands, moves = parts
        still = not moves.words and not moves.marks
        with seen_through(planes, _room(caption, 0 if still else _FARTHEST_EM), how.whole.alpha):
            if apart(drawing, stands, moves):
                blend(planes, self._still(caption, stands, "all"))
                if not still:
                    paint_onto(planes, drawing, moves, shift)
                return
            # what moves comes over what is behind the words that stand, and under no letter of theirs
            for layer in ("behind", "ink"):
                blend(planes, self._still(caption, stands, layer))
                paint_onto(planes, drawing, moves, shift, layer)

    def _still(self, caption: ScreenCaption, how: Shown, layer: Layer) -> Plate:
        drawing, key = caption.drawing, (caption.caption_id, layer)
        if key not in self._standing:
            self._standing[key] = how, prepare(drawing, how, caption.shift, layer)
        before, plate = self._standing[key]
        if before != how:
            repair(plate, drawing, before, how, caption.shift, layer)
            self._standing[key] = how, plate
        return plate


def _room(caption: ScreenCaption, moved_em: int) -> tuple[int, int, int, int]:
    """Where in the frame a caption is painted at most whose parts move so far."""
    x, y, wide, high = caption.drawing.box
    by = 2 + round(moved_em * caption.drawing.em)
    left, top = round(x + caption.shift[0]) - by, round(y + caption.shift[1]) - by
    return left, top, wide + 2 * by, high + 2 * by


def _pictures(screen: Screen, clip_files: dict[str, Path], first: int) -> Iterator[Planes]:
    """The picture under the captions for each frame of the piece from one on, in order; two in one while one
    shot becomes the next."""
    under: Iterator[Planes] = iter(())
    begins = _shot_to_begin_with(screen, first)
    for number, shot in enumerate(screen.shots[begins:], begins):
        until = screen.shots[number + 1].start_frame if number + 1 < len(screen.shots) else shot.end_frame
        own = shot_pictures(screen, shot, clip_files)
        colour = plain_colour(shot.fade_colour, screen.width, screen.height)
        for frame in range(shot.start_frame, until):
            planes, share = next(own), shot.share_at(frame)
            if frame < first:
                if share < 1:
                    next(under, None)
                continue
            yield planes if share >= 1 else between(next(under), planes, share, shot.fade_kind, colour)
        under = own


def _shot_to_begin_with(screen: Screen, first: int) -> int:
    """The shot a frame is of, or the one before it that is still seen there."""
    number = max((n for n, shot in enumerate(screen.shots) if shot.start_frame <= first), default=0)
    return number - 1 if number and screen.shots[number].share_at(first) < 1 else number


def shot_pictures(screen: Screen, shot: ScreenShot, clip_files: dict[str, Path]) -> Iterator[Planes]:
    """The pictures of one shot from its first frame to its last."""
    painted = [(laid, paint_laid(laid, screen.width, screen.height)) for laid in shot.laid]
    if not painted:
        yield from _bare_pictures(screen, shot, clip_files)
        return
    for number, planes in enumerate(_bare_pictures(screen, shot, clip_files)):
        share = shot.passed_at(shot.start_frame + number)
        seen = [paint for laid, paint in painted if paint is not None and laid.seen_at(share)]
        if not seen:
            yield planes
            continue
        own = planes[0].copy(), planes[1].copy(), planes[2].copy()  # those given are kept for other frames
        for paint in seen:
            blend(own, paint)
        yield own


def _bare_pictures(screen: Screen, shot: ScreenShot, clip_files: dict[str, Path]) -> Iterator[Planes]:
    if shot.clip_hash is None:
        plain = plain_colour(shot.colour, screen.width, screen.height)
        for _ in range(shot.start_frame, shot.end_frame):
            yield plain
    else:
        yield from _clip_pictures(screen, shot, clip_files[shot.clip_hash], adjuster_of(shot, clip_files))


def adjuster_of(shot: ScreenShot, clip_files: dict[str, Path]) -> Adjuster | None:
    """What adjusts the pictures of a shot; None where they stay as they are."""
    if shot.adjustment == UNADJUSTED:
        return None
    look_hash = shot.adjustment.look_hash
    table = adjusted_table(shot.adjustment, clip_files[look_hash] if look_hash else None)
    return Adjuster(shot.adjustment, table)


def _clip_pictures(
    screen: Screen, shot: ScreenShot, path: Path, adjuster: Adjuster | None
) -> Iterator[Planes]:
    """For each frame the last picture of the clip that has begun by then; where it ends it holds, or begins
    again."""
    ground = plain_colour(shot.framing.colour, screen.width, screen.height)
    framer = Framer(screen.width, screen.height, shot.framing, ground, adjuster)
    number, count = 0, shot.end_frame - shot.start_frame
    repeats = shot.repeats_ticks or screen.rate.ticks(count)
    while number < count:
        turn = screen.rate.ticks(number) // repeats
        with _frames_of(path, shot.source_in_ticks) as source:
            current = next(source)
            upcoming = next(source, None)
            planes: Planes | None = None
            while number < count:
                into = screen.rate.ticks(number)
                if into // repeats != turn:
                    break  # and from the beginning of the clip again
                at = shot.source_ticks(into)
                while upcoming is not None and upcoming.ticks <= at:
                    current, upcoming, planes = upcoming, next(source, None), None
                if planes is None or framer.moves:
                    planes = framer.planes(current.frame, shot.passed_at(shot.start_frame + number))
                yield planes
                number += 1


@contextmanager
def _frames_of(path: Path, from_ticks: int) -> Iterator[Iterator[TimedFrame]]:
    """The frames of an original or of its small frames."""
    if path.suffix == PACK_SUFFIX:
        yield (TimedFrame(ticks, frame) for ticks, frame in frames_from(path, from_ticks))
    else:
        with open_media(path) as container:
            yield timed_frames(container, from_ticks)


def plain_colour(code: str, width: int, height: int) -> Planes:
    """A picture of one colour, #rrggbb, in BT.709 limited range."""
    red, green, blue = (int(code[i : i + 2], 16) / 255 for i in (1, 3, 5))
    luma = 0.2126 * red + 0.7152 * green + 0.0722 * blue
    y = round(16 + 219 * luma)
    u = round(128 + 224 * (blue - luma) / 1.8556)
    v = round(128 + 224 * (red - luma) / 1.5748)
    return (
        np.full((height, width), y, np.uint8),
        np.full((height // 2, width // 2), u, np.uint8),
        np.full((height // 2, width // 2), v, np.uint8),
    )

"""Videos and loops of a docket: the piece framed for their size, encoded, and kept under a size where one is
given."""

import tempfile
from collections.abc import Iterator, Mapping
from concurrent.futures import Future
from contextlib import contextmanager
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

from fox_cadence.actions.acting import phonemes_of
from fox_cadence.actions.making import Heard, Making
from fox_cadence.actions.making_words import caption_cues
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket import Stretch, VideoRow
from fox_cadence.core.docket.chapters import chapters_of
from fox_cadence.core.docket.segments import LOOK_SEGMENT_S, SEGMENT_S, segments_of
from fox_cadence.core.docket.sizes import VIDEO_SOUND_KBPS, video_kbps_for
from fox_cadence.core.languages import three_letters
from fox_cadence.core.screen import Screen, screen_of
from fox_cadence.core.ticks import ticks_to_samples
from fox_cadence.core.timeline import Timeline
from fox_cadence.errors import InputError, MediaError
from fox_cadence.formats.cues import milliseconds
from fox_cadence.jobs.hands import done_with
from fox_cadence.media.audio import Sound
from fox_cadence.media.ingest import PROXY, heard_of_file
from fox_cadence.media.isolated import run_isolated
from fox_cadence.media.mixdown import BLOCK, Mix, write_wav
from fox_cadence.media.video_forms import Mark, TrackCue, VideoForm

if TYPE_CHECKING:
    from fox_cadence.media.joining import Segment

_LEAST_KBPS = 40
_MOST_SENT_BYTES = 64 << 20
"""A video that is larger is joined where its file is to be, rather than be sent to and fro."""
_MOST_TRIES = 4
_SMALLER = 0.94
"""By how much the bits are cut for another try where a file came out too large."""


def screen(workspace: Workspace, timeline: Timeline) -> Screen:
    """What every frame of a timeline shows."""
    project = timeline.project
    return screen_of(timeline, workspace.faces_of(project), phonemes_of(workspace, project))


def in_frame(timeline: Timeline, size: tuple[int, int]) -> Timeline:
    """The same timeline in a frame of another size: framed anew around its points of interest."""
    width, height = size
    if (timeline.project.width, timeline.project.height) == size:
        return timeline
    return replace(timeline, project=timeline.project.changed(width=width, height=height))


def frames_of(part: Stretch, timeline: Timeline) -> tuple[int, int]:
    """The frames of a part of a piece.

    Raises:
        InputError: it has none.
    """
    first, last = part.within(timeline.total_frames)
    if last <= first:
        raise InputError(
            f"the part begins at frame {part.from_frame}, and the piece has {timeline.total_frames} frames"
        )
    return first, last


def make_video(making: Making, row: VideoRow) -> None:
    """Raises InputError, MediaError."""
    project = making.timeline.project
    size = row.size(project.width, project.height)
    timeline = in_frame(making.timeline, size)
    first, last = frames_of(row.part, timeline)
    shown = screen(making.workspace, timeline)
    if row.captions != "drawn":
        titles = {each.id for each in project.titles}
        shown = replace(shown, captions=tuple(c for c in shown.captions if c.caption_id in titles))
    files = _media(making, row.look)
    if row.loop:
        _make_loop(making, row, shown, files, (first, last))
        return
    form = VideoForm(
        container="webm" if row.file == "webm" else "mp4",
        codec=row.coded or "h264",
        quality=row.quality,
        look=row.look,
        first=first,
        last=last,
        poster=_poster(row, first, last),
        cues=_track(making, row, first, last),
        language=three_letters(project.language),
        chapters=marks_of(timeline, first, last),
        tags=making.tags(),
    )
    seconds = float((last - first) / timeline.project.rate.fraction)
    form = replace(form, kbps=_bits(row, seconds))
    suffix = f".{row.file}"
    with tempfile.TemporaryDirectory(dir=making.workspace.scratch) as scratch:
        sound = Path(scratch) / "mix.wav"

        def mix_sound() -> None:
            mixed = making.mixed()
            write_wav(sound, _blocks(mixed, *samples_of(timeline, first, last, mixed.total_samples)))

        segmented = making.segmented or row.look
        if not segmented:
            mix_sound()
        heard: list[Heard] = []
        name = making.name(row, suffix, size=size)
        with making.whole(name, row, heard.pop if segmented else None) as made:
            for _ in range(_MOST_TRIES):
                if segmented:
                    tasks = _begin_segments(making, row, shown, files, form)
                    with _ended_with(tasks):  # the sound is mixed while pictures are made
                        if not sound.is_file():
                            mix_sound()
                        heard[:] = [_join(making, row, shown, tasks, sound, made, form)]
                else:
                    _render(making, row, shown, files, sound, made, form)
                over = made.stat().st_size / (row.most_mb * 1_000_000) if row.most_mb is not None else 0
                if over <= 1:
                    break
                form = replace(form, kbps=int((form.kbps or 0) / over * _SMALLER))
                if form.kbps is None or form.kbps < _LEAST_KBPS:
                    raise _too_small(row, seconds)
            else:
                raise MediaError(
                    f"it could not be brought under {row.most_mb:g} MB in {_MOST_TRIES} tries; give it more "
                    "room, or a smaller frame"
                )


def _bits(row: VideoRow, seconds: float) -> int | None:
    if row.most_mb is None:
        return row.kbps
    kbps = video_kbps_for(row.most_mb, seconds, VIDEO_SOUND_KBPS)
    if kbps < _LEAST_KBPS:
        raise _too_small(row, seconds)
    return kbps


def _too_small(row: VideoRow, seconds: float) -> InputError:
    least = (VIDEO_SOUND_KBPS + _LEAST_KBPS) * seconds / 8_000 / 0.97
    return InputError(f"{row.most_mb:g} MB are too few for {seconds:.1f} s; it takes {least:.1f} MB at least")


def _render(
    making: Making,
    row: VideoRow,
    shown: Screen,
    files: Mapping[str, Path],
    sound: Path,
    target: Path,
    form: VideoForm,
) -> None:
    # it paints with a library that every start would wait for
    from fox_cadence.media.render import render

    run_isolated(
        render,
        shown,
        dict(files),
        sound,
        target,
        form,
        progress=making.progress(row, "rendering"),
        cancelled=lambda: making.watch.cancelled,
    )
    if not target.is_file():
        raise MediaError("The video was not written.")


def _begin_segments(
    making: Making, row: VideoRow, shown: Screen, files: Mapping[str, Path], form: VideoForm
) -> "list[Future[Segment]]":
    """Have the segments of a video made."""
    from fox_cadence.media.joining import SEGMENT_THREADS
    from fox_cadence.media.segments import render_segment

    form = replace(form, threads=SEGMENT_THREADS)
    first, last = form.first, form.last or shown.total_frames
    cuts = [shot.start_frame for shot in shown.shots]
    about_s = LOOK_SEGMENT_S if row.look else SEGMENT_S
    hands = making.workspace.hands
    return [
        hands.submit(
            render_segment,
            shown,
            _of_frames(shown, files, each),
            form,
            each,
            cancelled=lambda: making.watch.cancelled,
        )
        for each in segments_of(cuts, first, last, round(about_s * float(shown.rate.fraction)))
    ]


@contextmanager
def _ended_with(tasks: "list[Future[Segment]]") -> Iterator[None]:
    """Tasks that are not begun yet are let go of when what they are for fails."""
    try:
        yield
    finally:
        for task in tasks:
            task.cancel()


def _join(
    making: Making,
    row: VideoRow,
    shown: Screen,
    tasks: "list[Future[Segment]]",
    sound: Path,
    target: Path,
    form: VideoForm,
) -> Heard:
    """Wait for the segments of a video, and write it; what is heard of it."""
    from fox_cadence.media.joining import SEGMENT_THREADS, Segment, finish, join

    form = replace(form, threads=SEGMENT_THREADS)
    total, told = (form.last or shown.total_frames) - form.first, making.progress(row, "rendering")
    made: list[Segment] = []

    def came(segment: Segment) -> None:
        made.append(segment)
        told(sum(each.frames for each in made), total)

    def stopped() -> bool:
        return making.watch.cancelled

    done_with(tasks, came, stopped)
    made.sort(key=lambda each: each.first)
    size, rate = (shown.width, shown.height), shown.rate.fraction
    if sum(len(picture.data) for each in made for picture in each.pictures) > _MOST_SENT_BYTES:
        run_isolated(join, size, rate, made, sound, target, form, cancelled=stopped)
        found: Heard | None = run_isolated(heard_of_file, target, cancelled=stopped)
        return found or (None, None)
    whole = making.workspace.hands.run(finish, size, rate, made, sound, form, cancelled=stopped)
    target.write_bytes(whole.data)
    return whole.loudness, whole.seconds


def _of_frames(shown: Screen, files: Mapping[str, Path], frames: tuple[int, int]) -> dict[str, Path]:
    """The files that are seen in some frames."""
    seen = [shot for shot in shown.shots if shot.start_frame < frames[1] and shot.end_frame > frames[0]]
    named = {shot.clip_hash for shot in seen} | {shot.adjustment.look_hash for shot in seen}
    return {each: path for each, path in files.items() if each in named}


def _make_loop(
    making: Making, row: VideoRow, shown: Screen, files: Mapping[str, Path], frames: tuple[int, int]
) -> None:
    from fox_cadence.media.loops import render_loop

    name = making.name(row, f".{row.file}", size=(shown.width, shown.height))
    seconds = float((frames[1] - frames[0]) / shown.rate.fraction)
    with making.whole(name, row, lambda: (None, seconds)) as made:
        run_isolated(
            render_loop,
            shown,
            dict(files),
            made,
            row.file,
            frames,
            row.quality,
            progress=making.progress(row, "rendering"),
            cancelled=lambda: making.watch.cancelled,
        )


def _media(making: Making, small: bool) -> dict[str, Path]:
    """The files of clips and looks."""
    library, shots = making.workspace.library, making.timeline.shots
    clips = {span.shot.clip_hash for span in shots if span.shot.clip_hash}
    looks = {each for span in shots if (each := span.shot.adjustment.look_hash)}
    files = {each: library.clip_file(each, PROXY) if small else library.original(each) for each in clips}
    return files | {each: library.original(each) for each in looks}


def _poster(row: VideoRow, first: int, last: int) -> int | None:
    """Counted from the first frame that is written; only MP4 has room for one."""
    if row.poster_frame is None or row.file != "mp4":
        return None
    return min(max(row.poster_frame, first), last - 1) - first


def _track(making: Making, row: VideoRow, first: int, last: int) -> tuple[TrackCue, ...]:
    if row.captions != "track":
        return ()
    rate = making.timeline.project.rate
    begin, end = rate.ticks(first), rate.ticks(last)
    cues = caption_cues(making.timeline, making.workspace.faces_of(making.timeline.project))
    found = []
    for cue in cues:
        low, high = max(cue.start_ticks or 0, begin), min(cue.end_ticks or 0, end)
        if high > low:
            found.append(TrackCue(cue.text, milliseconds(low - begin), milliseconds(high - begin)))
    return tuple(found)


def marks_of(timeline: Timeline, first: int, last: int) -> tuple[Mark, ...]:
    """The chapters of a part of a piece, in seconds from its first frame."""
    rate = timeline.project.rate.fraction
    return tuple(
        Mark(each.title, float(each.start_frame / rate), float(each.end_frame / rate))
        for each in chapters_of(timeline, first, last)
    )


def samples_of(timeline: Timeline, first: int, last: int, total: int) -> tuple[int, int]:
    """The samples [start, end) of the frames [first, last)."""
    rate = timeline.project.rate
    end = total if last >= timeline.total_frames else min(total, ticks_to_samples(rate.ticks(last)))
    return min(ticks_to_samples(rate.ticks(first)), end), end


def _blocks(mixed: Mix, start: int, end: int) -> Iterator[Sound]:
    for at in range(start, end, BLOCK):
        yield mixed.read(at, min(BLOCK, end - at))

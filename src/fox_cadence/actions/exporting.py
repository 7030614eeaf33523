"""Exports: video, sound and captions, each whole under its final name or not there at all."""

import re
import tempfile
import threading
from collections import OrderedDict
from dataclasses import dataclass, replace
from pathlib import Path

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.mix import MixPlan, plan_mix
from fox_cadence.core.screen import Screen, screen_of
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, ticks_to_seconds
from fox_cadence.core.timeline import Timeline
from fox_cadence.errors import InputError, MediaError
from fox_cadence.formats import WRITERS, Cue
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.audio import Sound, read_wav, wav_bytes
from fox_cadence.media.fonts import caption_face
from fox_cadence.media.ingest import PROXY, SOUND
from fox_cadence.media.isolated import run_isolated
from fox_cadence.media.mixdown import Mix, mix_down
from fox_cadence.media.proxies import proxy_size
from fox_cadence.store.library import whole_file, write_safely


@dataclass(frozen=True, slots=True)
class Wanted:
    """`look` is a small video made fast, for checking and for sending round."""

    video: bool = True
    sound: bool = True
    captions: bool = True
    look: bool = False


def file_stem(name: str) -> str:
    """A project's name as a file name: letters and figures of any script, the rest as single hyphens.

    At most 120 bytes: file systems take 255, and endings and numbers come after it.
    """
    plain = re.sub(r"[^\w]+", "-", name.lower(), flags=re.UNICODE).strip("-_")
    return plain.encode()[:120].decode(errors="ignore").strip("-_") or "project"


def screen(timeline: Timeline) -> Screen:
    return screen_of(timeline, caption_face())


LONGEST_MIX_S = 30 * 60
"""A mix lies in memory whole, several times while it is levelled: half an hour takes about 4 GB."""


class _Mixes:
    """The newest mixes, as many as make half an hour together. One is made at a time, and only once.

    A plan names its sounds by their content, so that it says all there is to say of its mix.
    """

    def __init__(self) -> None:
        self._kept: OrderedDict[MixPlan, Mix] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, workspace: Workspace, plan: MixPlan) -> Mix:
        with self._lock:
            known = self._kept.pop(plan, None) or _mixed(workspace, plan)
            self._kept[plan] = known
            while len(self._kept) > 1 and self._samples() > LONGEST_MIX_S * SAMPLE_RATE_HZ:
                self._kept.popitem(last=False)
            while len(self._kept) > _MOST_MIXES:
                self._kept.popitem(last=False)
            return known

    def _samples(self) -> int:
        return sum(plan.total_samples for plan in self._kept)


_MOST_MIXES = 4
_mixes = _Mixes()


def mix(workspace: Workspace, timeline: Timeline) -> Mix:
    """The mix of a timeline; the last few are kept in memory.

    Raises:
        InputError: the piece is too long to be mixed.
        NotFoundError: a sound has vanished.
    """
    seconds = ticks_to_seconds(timeline.total_ticks)
    if seconds > LONGEST_MIX_S:
        raise InputError(
            f"The piece lasts {seconds / 60:.0f} minutes; up to {LONGEST_MIX_S // 60} can be played as a whole and "
            "exported. Each line can still be heard by itself."
        )
    return _mixes.get(workspace, plan_mix(timeline))


def _mixed(workspace: Workspace, plan: MixPlan) -> Mix:
    def take(sound_hash: str) -> Sound:
        return read_wav(workspace.library.take_sound(sound_hash))

    def clip(content_hash: str) -> Sound:
        return read_wav(workspace.library.clip_file(content_hash, SOUND))

    return mix_down(plan, take, clip)


def caption_cues(timeline: Timeline) -> list[Cue]:
    """The captions as cues, in the order of time, lines broken as on the screen."""
    rate = timeline.project.rate
    broken = {shown.caption_id: "\n".join(shown.drawing.lines) for shown in screen(timeline).captions}
    spans = sorted(timeline.captions, key=lambda span: (span.in_frame, span.out_frame))
    return [
        Cue(broken[span.caption.id], rate.ticks(span.in_frame), rate.ticks(span.out_frame))
        for span in spans
        if span.caption.id in broken
    ]


def export(
    workspace: Workspace, project_id: str, folder: Path, wanted: Wanted, watcher: Watcher | None = None
) -> list[Path]:
    """Write the files into a folder; the paths written.

    Raises:
        InputError: there is nothing to export, or the folder can't be written to.
        MediaError: rendering failed.
        CancelledError: the editor stopped it; no half-written file is left.
    """
    watch = watcher or Unwatched()
    project = workspace.head(project_id).project
    timeline = workspace.timeline(project)
    if timeline.total_frames == 0:
        raise InputError("There is no shot yet, so there is nothing to export.")
    try:
        folder.mkdir(parents=True, exist_ok=True)
        return _export(workspace, timeline, folder, wanted, watch)
    except OSError as error:
        raise InputError(f"{error.strerror or error}. Choose another folder or make room.", str(folder)) from error


def _export(workspace: Workspace, timeline: Timeline, folder: Path, wanted: Wanted, watch: Watcher) -> list[Path]:
    stem = file_stem(timeline.project.name)
    written: list[Path] = []
    if wanted.captions:
        cues = caption_cues(timeline)
        for suffix, write in WRITERS.items():
            written.append(_write(folder / f"{stem}{suffix}", write(cues).encode()))
    if wanted.sound or wanted.video or wanted.look:
        watch.report(0, 0, "Mixing the sound")
        mixed = mix(workspace, timeline)
        if wanted.sound:
            written.append(_write(folder / f"{stem}-mix.wav", wav_bytes(mixed.full)))
            written.append(_write(folder / f"{stem}-narration.wav", wav_bytes(mixed.narration_alone())))
        if wanted.video:
            files = {each: workspace.library.original(each) for each in _shown(timeline)}
            written.append(_video(workspace, screen(timeline), files, mixed, folder / f"{stem}.mp4", False, watch))
        if wanted.look:
            files = {each: workspace.library.clip_file(each, PROXY) for each in _shown(timeline)}
            small = screen(_small(timeline))
            written.append(_video(workspace, small, files, mixed, folder / f"{stem}-look.mp4", True, watch))
    return written


def _shown(timeline: Timeline) -> set[str]:
    return {span.shot.clip_hash for span in timeline.shots if span.shot.clip_hash}


def _small(timeline: Timeline) -> Timeline:
    """The same timeline in a small frame."""
    width, height = proxy_size(timeline.project.width, timeline.project.height)
    return replace(timeline, project=timeline.project.model_copy(update={"width": width, "height": height}))


def _video(
    workspace: Workspace, shown: Screen, files: dict[str, Path], mixed: Mix, target: Path, look: bool, watch: Watcher
) -> Path:
    from fox_cadence.media.render import render  # it paints with a library that every start would wait for

    with tempfile.TemporaryDirectory(dir=workspace.scratch) as scratch:
        sound = Path(scratch) / "mix.wav"
        sound.write_bytes(wav_bytes(mixed.full))
        with whole_file(target) as made:
            run_isolated(
                render,
                shown,
                files,
                sound,
                made,
                look,
                progress=lambda done, total: watch.report(done, total, "Rendering the video"),
                cancelled=lambda: watch.cancelled,
            )
            if not made.is_file():
                raise MediaError("The video was not written.")
    return target


def _write(target: Path, data: bytes) -> Path:
    write_safely(target, data)
    return target

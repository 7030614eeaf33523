"""Exports: video, sound and captions, each whole under its final name or not there at all."""

import re
import tempfile
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from fox_cadence.actions.acting import phonemes_of
from fox_cadence.actions.mixing import mix
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.lettered import FacesOf, missing_signs
from fox_cadence.core.numbers import numbered
from fox_cadence.core.outside import outside_of
from fox_cadence.core.screen import Screen, screen_of
from fox_cadence.core.standing import drawn, words_on_screen
from fox_cadence.core.timeline import Timeline
from fox_cadence.errors import CancelledError, FoxError, InputError, MediaError
from fox_cadence.formats import WRITERS, Cue
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.audio import Loudness, Sound
from fox_cadence.media.ingest import PROXY, loudness_of_file
from fox_cadence.media.isolated import run_isolated
from fox_cadence.media.mixdown import Mix, held_alone, write_wav
from fox_cadence.media.proxies import proxy_size
from fox_cadence.store.library import whole_file, write_safely


@dataclass(frozen=True, slots=True)
class Wanted:
    """`look` is a small video made fast, for checking and for sending round."""

    video: bool = True
    sound: bool = True
    captions: bool = True
    look: bool = False


@dataclass(frozen=True, slots=True)
class MadeFile:
    """A finished file of a product; `loudness` was measured of the file, None where it has no sound."""

    path: Path
    loudness: Loudness | None = None
    product: str = ""


@dataclass(frozen=True, slots=True)
class FailedProduct:
    """One of the things wanted that could not be made, and why; the others were."""

    product: str
    reason: str


@dataclass(frozen=True, slots=True)
class Exported:
    """What an export made. `notes` say what of the piece nobody will hear or see in the files, or not as
    written."""

    files: tuple[MadeFile, ...]
    failed: tuple[FailedProduct, ...] = ()
    notes: tuple[str, ...] = ()

    @property
    def paths(self) -> list[Path]:
        return [file.path for file in self.files]


def file_stem(name: str) -> str:
    """A project's name as a file name: letters and figures of any script, the rest as single hyphens.

    At most 120 bytes: file systems take 255, and endings and numbers come after it.
    """
    plain = re.sub(r"[^\w]+", "-", name.lower(), flags=re.UNICODE).strip("-_")
    return plain.encode()[:120].decode(errors="ignore").strip("-_") or "project"


def screen(workspace: Workspace, timeline: Timeline) -> Screen:
    project = timeline.project
    return screen_of(timeline, workspace.faces_of(project), phonemes_of(workspace, project))


_MOST_NAMED = 20


def caption_cues(timeline: Timeline, faces_of: FacesOf) -> list[Cue]:
    """The captions as they are shown, in the order of time, lines broken as on the screen.

    What of a caption lies after the end of the piece is not in them; `export_notes` says so.
    """
    rate, end = timeline.project.rate, timeline.total_frames
    size = timeline.project.width, timeline.project.height
    broken = {
        each.id: "\n".join(drawn(each.text, each.style, faces_of, size, each.breaks).lines)
        for each in words_on_screen(timeline)
        if not each.is_title
    }
    spans = sorted(timeline.captions, key=lambda span: (span.in_frame, span.out_frame))
    return [
        Cue(broken[span.caption.id], rate.ticks(span.in_frame), rate.ticks(min(span.out_frame, end)))
        for span in spans
        if span.caption.id in broken and span.in_frame < end
    ]


def export_notes(timeline: Timeline, faces_of: FacesOf) -> tuple[str, ...]:
    """What the files of a piece will not have, or not as it is written: said on the docket and beside the
    files."""
    notes = [f"{each.text}, so that part is not in the files" for each in outside_of(timeline)]
    project = timeline.project
    missing = missing_signs(project, faces_of)
    words = [(f"caption {number}", item.id) for number, item in enumerate(project.captions, 1)]
    words += [(f"title {number}", item.id) for number, item in enumerate(project.titles, 1)]
    notes += [
        f"{name} has signs that no typeface here can draw: {' '.join(missing[each])}"
        for name, each in words
        if each in missing
    ]
    silent = [number for number, span in enumerate(timeline.lines, 1) if span.take is None]
    if silent:
        notes.append(f"{numbered('line', silent, _MOST_NAMED)} had no voice yet")
    return tuple(notes)


def export(
    workspace: Workspace, project_id: str, folder: Path, wanted: Wanted, watcher: Watcher | None = None
) -> Exported:
    """Write the files into a folder. What can't be made is named with its reason; the rest is made all the
    same.

    Raises:
        InputError: there is nothing to export, or the folder can't be written to.
        FoxError: nothing of what was wanted could be made; the first reason.
        CancelledError: the editor stopped it; no half-written file is left.
    """
    watch = watcher or Unwatched()
    project = workspace.head(project_id).project
    timeline = workspace.timeline(project)
    if timeline.total_frames == 0:
        raise InputError("There is no shot yet, so there is nothing to export.")
    try:
        folder.mkdir(parents=True, exist_ok=True)
        return _Export(workspace, timeline, folder, watch).of(wanted)
    except OSError as error:
        raise InputError(
            f"{error.strerror or error}. Choose another folder or make room.", str(folder)
        ) from error


class _Export:
    """One export: the files of a timeline in a folder, product after product."""

    def __init__(self, workspace: Workspace, timeline: Timeline, folder: Path, watch: Watcher) -> None:
        self._workspace, self._timeline, self._folder, self._watch = workspace, timeline, folder, watch
        self._stem = file_stem(timeline.project.name)
        self._files: list[MadeFile] = []
        self._product = ""

    def of(self, wanted: Wanted) -> Exported:
        products = (
            ("captions", wanted.captions, self._captions),
            ("sound", wanted.sound, self._sound),
            ("video", wanted.video, self._video),
            ("quick look", wanted.look, self._look),
        )
        failed: list[tuple[str, FoxError]] = []
        for name, asked, make in products:
            if not asked:
                continue
            self._product = name
            try:
                make()
            except CancelledError:
                raise
            except FoxError as error:
                failed.append((name, error))
        if failed and not self._files:
            raise failed[0][1]
        notes = export_notes(self._timeline, self._workspace.faces_of(self._timeline.project))
        self._notes(notes)
        return Exported(
            tuple(self._files), tuple(FailedProduct(name, str(why)) for name, why in failed), notes
        )

    def _captions(self) -> None:
        cues = caption_cues(self._timeline, self._workspace.faces_of(self._timeline.project))
        for suffix, write in WRITERS.items():
            self._write(f"{self._stem}{suffix}", write(cues).encode())

    def _sound(self) -> None:
        mixed = self._mixed()
        self._write_sound(f"{self._stem}-mix.wav", mixed.blocks())
        self._write_sound(f"{self._stem}-narration.wav", held_alone(mixed, "speech"))

    def _video(self) -> None:
        library = self._workspace.library
        files = {each: library.original(each) for each in self._clips() | self._looks()}
        self._render(self._timeline, files, f"{self._stem}.mp4", look=False)

    def _look(self) -> None:
        library = self._workspace.library
        files = {each: library.clip_file(each, PROXY) for each in self._clips()}
        files |= {each: library.original(each) for each in self._looks()}
        self._render(_small(self._timeline), files, f"{self._stem}-look.mp4", look=True)

    def _notes(self, notes: Sequence[str]) -> None:
        """A text beside the files; where there is nothing to say any more, the one of an earlier export
        goes."""
        path = self._folder / f"{self._stem}-notes.txt"
        if notes:
            write_safely(path, "".join(f"- {note}\n" for note in notes).encode())
            self._files.append(MadeFile(path))
        else:
            path.unlink(missing_ok=True)

    def _mixed(self) -> Mix:
        return mix(self._workspace, self._timeline, self._watch)

    def _clips(self) -> set[str]:
        return {span.shot.clip_hash for span in self._timeline.shots if span.shot.clip_hash}

    def _looks(self) -> set[str]:
        return {each for span in self._timeline.shots if (each := span.shot.adjustment.look_hash)}

    def _render(self, timeline: Timeline, files: dict[str, Path], name: str, look: bool) -> None:
        # it paints with a library that every start would wait for
        from fox_cadence.media.render import (
            render,
        )

        mixed = self._mixed()
        target = self._folder / name
        with tempfile.TemporaryDirectory(dir=self._workspace.scratch) as scratch:
            sound = Path(scratch) / "mix.wav"
            write_wav(sound, mixed.blocks())
            with whole_file(target) as made:
                run_isolated(
                    render,
                    screen(self._workspace, timeline),
                    files,
                    sound,
                    made,
                    look,
                    progress=lambda done, total: self._watch.report(done, total, "Rendering the video"),
                    cancelled=lambda: self._watch.cancelled,
                )
                if not made.is_file():
                    raise MediaError("The video was not written.")
        self._files.append(MadeFile(target, self._loudness(target), self._product))

    def _write(self, name: str, data: bytes) -> None:
        path = self._folder / name
        write_safely(path, data)
        self._files.append(MadeFile(path, None, self._product))

    def _write_sound(self, name: str, blocks: Iterator[Sound]) -> None:
        path = self._folder / name
        with whole_file(path) as made:
            write_wav(made, blocks)
        self._files.append(MadeFile(path, self._loudness(path), self._product))

    def _loudness(self, path: Path) -> Loudness | None:
        """Of the finished file, decoded again: what was meant is not what was written until it has been
        heard."""
        self._watch.report(0, 0, f"Measuring {path.name}")
        found: Loudness | None = run_isolated(loudness_of_file, path, cancelled=lambda: self._watch.cancelled)
        return found


def _small(timeline: Timeline) -> Timeline:
    """The same timeline in a small frame."""
    width, height = proxy_size(timeline.project.width, timeline.project.height)
    return replace(timeline, project=timeline.project.changed(width=width, height=height))

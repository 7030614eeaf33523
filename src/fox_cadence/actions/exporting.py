"""Exports: the rows of a docket made one after the other, each file whole under its final name or not
there."""

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from fox_cadence.actions.bundling import write_bundle
from fox_cadence.actions.interchange import write_interchange
from fox_cadence.actions.line_sounds import export_lines
from fox_cadence.actions.making import MadeFile, Making
from fox_cadence.actions.making_sound import make_sound, make_stems
from fox_cadence.actions.making_video import make_video
from fox_cadence.actions.making_words import make_captions, make_cues, make_script
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket import BundleRow, Docket, InterchangeRow, LinesRow
from fox_cadence.core.docket.names import pattern_fault, stem
from fox_cadence.core.docket.work import Part
from fox_cadence.core.lettered import FacesOf, missing_signs
from fox_cadence.core.numbers import numbered
from fox_cadence.core.outside import outside_of
from fox_cadence.core.timeline import Timeline
from fox_cadence.errors import CancelledError, FoxError, InputError
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.store.library import write_safely

_MOST_NAMED = 20


@dataclass(frozen=True, slots=True)
class FailedProduct:
    """One of the rows that could not be made, and why; the others were."""

    product: str
    reason: str


@dataclass(frozen=True, slots=True)
class Exported:
    """What an export made, of which rows. `notes` say what of the piece nobody will hear or see in the files,
    or not as written."""

    files: tuple[MadeFile, ...]
    failed: tuple[FailedProduct, ...] = ()
    notes: tuple[str, ...] = ()
    rows: tuple[str, ...] = ()

    @property
    def paths(self) -> list[Path]:
        return [file.path for file in self.files]


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
    workspace: Workspace,
    project_id: str,
    folder: Path,
    docket: Docket,
    watcher: Watcher | None = None,
    told: Callable[[Exported], None] | None = None,
    segmented: bool = False,
    work: Part | None = None,
) -> Exported:
    """Make the wanted rows of a docket in a folder. What can't be made is named with its reason; the rest is
    made all the same.

    Args:
        told: what is made so far, after each row.
        segmented: videos are made in segments by the hands of the workspace, wherever these are; their bytes
            are others than those of a video made in one go, and the same wherever they were made.
        work: what the piece is a part of.

    Raises:
        InputError: there is nothing to export, the names can't be made, or the folder can't be written to.
        FoxError: nothing of what was wanted could be made; the first reason.
        CancelledError: the editor stopped it; no half-written file is left.
    """
    head = workspace.head(project_id)
    timeline = workspace.timeline(head.project)
    if timeline.total_frames == 0:
        raise InputError("There is no shot yet, so there is nothing to export.")
    if fault := pattern_fault(docket.pattern):
        raise InputError(fault, "names")
    watch = watcher or Unwatched()
    workspace.preparing.prepare_all(head.project.clips.values(), watch)
    making = Making(workspace, project_id, head.revision, timeline, folder, docket, watch, segmented, work)
    try:
        folder.mkdir(parents=True, exist_ok=True)
        return _exported(making, told)
    except OSError as error:
        raise InputError(
            f"{error.strerror or error}. Choose another folder or make room.", str(folder)
        ) from error


def _exported(making: Making, told: Callable[[Exported], None] | None) -> Exported:
    notes = export_notes(making.timeline, making.workspace.faces_of(making.timeline.project))
    failed: list[tuple[str, FoxError]] = []
    done: list[str] = []

    def so_far() -> Exported:
        return Exported(
            tuple(making.files),
            tuple(FailedProduct(name, str(why)) for name, why in failed),
            (*notes, *making.notes),
            tuple(done),
        )

    for row in sorted(making.docket.chosen, key=lambda row: row.kind == "video"):  # quick ones first
        before = len(making.files)
        try:
            _MAKERS[row.kind](making, row)
        except CancelledError:
            raise
        except FoxError as error:
            del making.files[before:]
            failed.append((row.name, error))
        done.append(row.name)
        if told is not None:
            told(so_far())
    if failed and not making.files:
        raise failed[0][1]
    _write_notes(making, (*notes, *making.notes))
    return so_far()


def _write_notes(making: Making, notes: tuple[str, ...]) -> None:
    """A text beside the files; where there is nothing to say any more, the one of an earlier export goes."""
    path = making.folder / f"{stem(making.timeline.project.name)}-notes.txt"
    if notes:
        write_safely(path, "".join(f"- {note}\n" for note in notes).encode())
        making.files.append(MadeFile(path))
    else:
        path.unlink(missing_ok=True)


def _make_lines(making: Making, row: LinesRow) -> None:
    lines = [line.id for line in making.timeline.project.lines]
    made = export_lines(making.workspace, making.project_id, making.folder, lines, row.file, making.watch)
    making.files += [MadeFile(each.path, product=row.name, seconds=each.seconds) for each in made]


def _make_interchange(making: Making, row: InterchangeRow) -> None:
    made = write_interchange(making.workspace, making.project_id, making.folder, making.name(row, ""))
    making.notes += [f"not in the timeline: {each}" for each in made.left_out]
    making.files += [MadeFile(path, product=row.name) for path in made.files]


def _make_bundle(making: Making, row: BundleRow) -> None:
    path = write_bundle(
        making.workspace, making.project_id, making.folder, making.watch, making.name(row, "")
    )
    making.files.append(MadeFile(path, product=row.name))


_MAKERS: dict[str, Callable[[Making, Any], None]] = {
    "video": make_video,
    "sound": make_sound,
    "stems": make_stems,
    "lines": _make_lines,
    "captions": make_captions,
    "cues": make_cues,
    "script": make_script,
    "interchange": _make_interchange,
    "bundle": _make_bundle,
}

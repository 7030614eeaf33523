"""The timeline out to other tools and in from them."""

import os
import shutil
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from fox_cadence.actions.bring_in import (
    MadeProject,
    MediaFile,
    NewProject,
    bring_in_all,
    check_new_project,
    clip_remarks,
    narrator,
)
from fox_cadence.actions.script_import import laid, with_roles
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.adjustment import UNADJUSTED
from fox_cadence.core.framing import PLAIN
from fox_cadence.core.interchange import ShotThere, TimelineThere
from fox_cadence.core.names import tidy_name
from fox_cadence.core.numbers import counted
from fox_cadence.core.overlay import MOST_LAID
from fox_cadence.core.project import Project
from fox_cadence.core.script_layout import Remark, TimedText
from fox_cadence.core.shot import Clip, Shot
from fox_cadence.core.ticks import TICKS_PER_SECOND, FrameRate
from fox_cadence.errors import InputError
from fox_cadence.formats.edl import read_edl, write_edl
from fox_cadence.jobs.runner import Watcher
from fox_cadence.media.ingest import LOOK_SUFFIX
from fox_cadence.store.library import hash_file, whole_file, write_safely
from fox_cadence.voices.catalogue import voice_for_language

SUFFIXES = (".otio", ".edl")
_MOST_FILES = 20_000
_HOUR = 3600 * TICKS_PER_SECOND


@dataclass(frozen=True, slots=True)
class Interchanged:
    """The files that were written, and what they can't carry."""

    files: tuple[Path, ...]
    left_out: tuple[str, ...]


def write_interchange(workspace: Workspace, project_id: str, folder: Path, name: str = "") -> Interchanged:
    """Write the timeline of a project as OTIO and EDL, with the files it names beside them in `media`.

    Args:
        name: of the files, without their endings; that of the project without it.

    Raises:
        InputError: there is nothing to write.
        NotFoundError: the file of a clip has vanished.
    """
    # a library that no other command has a use for
    from fox_cadence.formats.otio_write import write_otio

    project = workspace.head(project_id).project
    if not project.shots:
        raise InputError("there are no shots yet")
    timeline = workspace.timeline(project)
    used = {each for shot in project.shots for each in shot.media}
    names = _file_names(workspace, [project.clips[each] for each in sorted(used)])
    stem = name or tidy_name(project.name).replace("/", "-").strip(". ") or "timeline"
    folder.mkdir(parents=True, exist_ok=True)
    otio_file, edl_file = folder / f"{stem}.otio", folder / f"{stem}.edl"
    write_safely(otio_file, write_otio(timeline, names).encode())
    text, left_out = write_edl(timeline, names)
    write_safely(edl_file, text.encode())
    (folder / "media").mkdir(exist_ok=True)
    for content_hash, name in names.items():
        target = folder / "media" / name
        if not target.exists() or hash_file(target) != content_hash:
            with whole_file(target) as made:
                shutil.copyfile(workspace.library.original(content_hash), made)
    told = [f"EDL: {each}" for each in left_out]
    if any((shot.framing, shot.adjustment, shot.laid) != (PLAIN, UNADJUSTED, ()) for shot in project.shots):
        told.append("OTIO: how shots are framed, adjusted and laid over is in it for Fox Cadence alone")
    return Interchanged((otio_file, edl_file), tuple(told))


def _file_names(workspace: Workspace, clips: Iterable[Clip]) -> dict[str, str]:
    """A name of its own for each clip, with the ending of its file."""
    names: dict[str, str] = {}
    taken: set[str] = set()
    for clip in clips:
        suffix = workspace.library.original(clip.hash).suffix
        stem = Path(clip.name).stem if Path(clip.name).suffix.lower() == suffix else clip.name
        stem = "".join(sign if sign.isalnum() or sign in " -_" else "_" for sign in stem).strip() or "clip"
        name, number = f"{stem}{suffix}", 2
        while name.lower() in taken:
            name, number = f"{stem} {number}{suffix}", number + 1
        taken.add(name.lower())
        names[clip.hash] = name
    return names


def read_timeline(data: bytes, name: str, rate: FrameRate) -> TimelineThere:
    """A timeline from a file of one of the `SUFFIXES`. Raises InputError."""
    if Path(name).suffix.lower() == ".edl":
        return read_edl(data, name, rate)
    from fox_cadence.formats.otio_read import read_otio

    return read_otio(data, name)


def project_from_timeline(
    workspace: Workspace,
    wanted: NewProject,
    data: bytes,
    name: str,
    media: Sequence[MediaFile],
    watcher: Watcher | None = None,
) -> MadeProject:
    """Make a project of a timeline, its media found by name among some files.

    What is not found is a plain colour as long as its shot, and is remarked.

    Raises:
        InputError: the timeline can't be read; nothing was made.
        CancelledError: the editor stopped it.
    """
    check_new_project(wanted)
    there = read_timeline(data, name, wanted.rate)
    rate = there.rate or wanted.rate
    width, height = there.size or wanted.even_size
    files = {file.name.lower(): file for file in reversed(media)}
    files |= {Path(file.name).stem.lower(): file for file in reversed(media)} | files
    found = {shot.media: files.get(shot.media.lower()) for shot in there.shots if shot.media}
    needed = {file.name: file for file in found.values() if file is not None}
    if any(shot.adjustment.look_hash for shot in there.shots):
        needed |= {file.name: file for file in media if file.path.suffix.lower() == LOOK_SUFFIX}
    clips, refused = bring_in_all(workspace, list(needed.values()), watcher)
    by_name = {clip.name: clip for clip in clips}
    remarks = [*there.remarks, *refused, *clip_remarks(clips)]
    missing = sorted(name for name, file in found.items() if file is None)
    remarks += [
        Remark(each, "no file of this name was found; a plain colour stands for it") for each in missing
    ]
    shots: list[Shot] = []
    for number, shot in enumerate(there.shots, 1):
        file = found.get(shot.media)
        clip = by_name.get(file.name) if file is not None else None
        look = shot.adjustment.look_hash
        if look and look not in {each.hash for each in clips}:
            remarks.append(Remark(shot.name, "the file of its look was not found; it is shown without"))
            shot = replace(shot, adjustment=shot.adjustment.changed(look=""))
        shots.append(_shot(shot, clip, f"s{number}", rate, remarks))
    shots = _with_room(shots, remarks)
    project = Project(
        name=tidy_name(wanted.name) or tidy_name(there.name),
        width=width,
        height=height,
        rate=rate,
        language=wanted.language,
        clips={clip.hash: clip for clip in clips},
        shots=tuple(shots),
        roles=(narrator(voice_for_language(wanted.language)),),
    )
    texts = [
        TimedText(each.text, each.start_ticks, each.end_ticks, role=each.role, said=each.said)
        for each in there.words
    ]
    if texts:
        project, roles = with_roles(project, texts)
        project, laid_out = laid(workspace, project, texts, roles, "order")
        remarks += laid_out
    label = f"Brought in from {name}"
    return MadeProject(workspace.projects.create(project, label), tuple(remarks))


def _shot(shot: ShotThere, clip: Clip | None, shot_id: str, rate: FrameRate, remarks: list[Remark]) -> Shot:
    plain = Shot(
        id=shot_id,
        name=tidy_name(shot.name) or "Shot",
        colour=shot.colour,
        length_frames=shot.frames,
        wanted_frames=shot.frames,
        transition_frames=shot.transition_frames,
        transition_kind=shot.transition_kind,
        laid=shot.laid[:MOST_LAID],
    )
    if clip is None or not clip.has_picture:
        return plain
    shown = plain.changed(
        clip_hash=clip.hash, framing=shot.framing or clip.framing, adjustment=shot.adjustment
    )
    if clip.kind == "still":
        return shown
    begins = shot.source_in_ticks
    if shot.source_is_clock and begins >= clip.length_ticks:
        begins %= _HOUR  # timecodes of files often begin at a whole hour
    needed = rate.ticks(shot.frames) * shot.speed_percent // 100
    if begins + needed > clip.length_ticks + rate.frame_ticks:
        if begins >= clip.length_ticks:
            remarks.append(
                Remark(shot.name, "the file ends before the shot begins in it; it begins at its first frame")
            )
            begins = 0
        if begins + needed > clip.length_ticks + rate.frame_ticks:
            remarks.append(Remark(shot.name, "the file ends before the shot does; its last frame is held"))
    return shown.changed(source_in_ticks=begins, speed_percent=shot.speed_percent)


def _with_room(shots: list[Shot], remarks: list[Remark]) -> list[Shot]:
    """Transitions no longer than the shots beside them; the last shot has none."""
    made = list(shots)
    for place, shot in enumerate(made):
        following = made[place + 1] if place + 1 < len(made) else None
        into = made[place - 1].transition_frames if place else 0
        most = 0 if following is None else min(shot.length_frames - into, following.length_frames) - 1
        if shot.transition_frames > most:
            if shot.transition_frames:
                remarks.append(
                    Remark(shot.name, f"its transition was made {counted(max(0, most), 'frame')} long")
                )
            made[place] = shot.changed(transition_frames=max(0, most))
    return made


def media_in(folders: Sequence[Path]) -> list[MediaFile]:
    """Files in some folders and the folders in them, for finding media by name; what begins with a dot is
    left out. Raises InputError for what is no folder."""
    found: list[MediaFile] = []
    for folder in folders:
        if not folder.is_dir():
            raise InputError("there is no such folder", str(folder))
        for where, inner, names in os.walk(folder):
            inner[:] = sorted(each for each in inner if not each.startswith("."))
            found += [
                MediaFile(Path(where) / each, each) for each in sorted(names) if not each.startswith(".")
            ]
            if len(found) > _MOST_FILES:
                raise InputError(f"there are more than {_MOST_FILES:,} files in it", str(folder))
    return found

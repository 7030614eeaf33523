"""Bringing in pictures, music and words, and making a project of them."""

import tempfile
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from fox_cadence.actions.cutting import cut_apart, cuts_of_file
from fox_cadence.actions.script_import import Source, laid, offers_of, read_source, texts_of, with_roles
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.begun_like import begun_like
from fox_cadence.core.frame_size import LEAST_SIDE, MOST_SIDE, even
from fox_cadence.core.languages import is_language
from fox_cadence.core.lettered import missing_signs
from fox_cadence.core.names import tidy_name
from fox_cadence.core.project import Project, Role
from fox_cadence.core.script_layout import Remark, shots_for_words, shots_from_clips
from fox_cadence.core.shot import Clip
from fox_cadence.core.sound.bed import Bed
from fox_cadence.core.ticks import FrameRate
from fox_cadence.errors import InputError, MediaError
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.animation import SUFFIX, as_video, is_moving_still
from fox_cadence.media.fonts import faces_of
from fox_cadence.media.ingest import ingest
from fox_cadence.media.isolated import run_isolated
from fox_cadence.voices.catalogue import voice_for_language
from fox_cadence.voices.voice import Voice

LARGEST_MEDIA_BYTES = 4 << 30
LONGEST_NAME = 200
_MOST_NAMED = 12
MOVING_SUFFIXES = frozenset({".mp4", ".mov", ".m4v", ".mkv", ".webm", ".avi", ".mpg", ".ts", ".3gp"})


@dataclass(frozen=True, slots=True)
class MediaFile:
    """A file to bring in: where its bytes lie and the name it was given under.

    One that is `ours` lies in the data folder for this alone, and is moved instead of copied.
    """

    path: Path
    name: str
    ours: bool = False


@dataclass(frozen=True, slots=True)
class NewProject:
    """What the editor chose for a project of their own; `like` is a project whose cast, styles, lexicon and
    house limits it begins with; with `find_cuts` its videos become a shot for each of theirs."""

    name: str
    width: int
    height: int
    rate: FrameRate
    language: str = "en"
    like: str = ""
    find_cuts: bool = False

    @property
    def even_size(self) -> tuple[int, int]:
        """Width and height as they can be: video stores colour for pairs of pixels."""
        return even(self.width), even(self.height)


def bring_in_clip(
    workspace: Workspace, file: MediaFile, watcher: Watcher | None = None, faces: bool = True
) -> Clip:
    """Take a media file into the library; nothing is read twice.

    Args:
        faces: look for what matters in its picture; there is none in what is drawn.

    Raises:
        InputError: the file can't be used; names the file.
        CancelledError: the editor stopped it.
    """
    watch = watcher or Unwatched()

    def read(original: Path, content_hash: str, folder: Path) -> Clip:
        made = run_isolated(
            ingest,
            original,
            content_hash,
            file.name,
            folder,
            faces,
            progress=lambda done, total: watch.report(done, total, f"Reading {file.name}"),
            cancelled=lambda: watch.cancelled,
        )
        assert isinstance(made, Clip)
        return made

    try:
        if not file.path.is_file():
            raise InputError("there is no such file")
        size = file.path.stat().st_size
        if size == 0:
            raise InputError("the file is empty")
        if size > LARGEST_MEDIA_BYTES:
            raise InputError(f"the file has {size / 2**30:.1f} GiB; the most is {LARGEST_MEDIA_BYTES >> 30}")
        if is_moving_still(file.path):
            return _bring_in_moving_still(workspace, file, read, watch)
        return workspace.library.add_clip(
            file.path, file.name, Path(file.name).suffix.lower()[:8], read, file.ours
        )
    except InputError as error:
        raise InputError(str(error), file.name) from error


def _bring_in_moving_still(
    workspace: Workspace, file: MediaFile, read: Callable[[Path, str, Path], Clip], watch: Watcher
) -> Clip:
    """Its pictures made into a video, which is what is kept."""
    with tempfile.TemporaryDirectory(dir=workspace.scratch) as scratch:
        made = Path(scratch) / f"made{SUFFIX}"
        run_isolated(
            as_video,
            file.path,
            made,
            progress=lambda done, total: watch.report(done, total, f"Reading {file.name}"),
            cancelled=lambda: watch.cancelled,
        )
        clip = workspace.library.add_clip(made, file.name, SUFFIX, read, move=True)
    return clip.changed(remarks=(*clip.remarks, "its moving pictures were made into a video"))


def parse_size(text: str) -> tuple[int, int]:
    """'1080x1920' as width and height. Raises InputError."""
    parts = text.lower().replace("×", "x").split("x")
    if len(parts) != 2 or not all(part.strip().isdigit() for part in parts):
        raise InputError(f"{text!r} is not a size such as 1080x1920", "size")
    return int(parts[0]), int(parts[1])


def check_new_project(wanted: NewProject) -> None:
    """Raises InputError naming what can't be."""
    if not tidy_name(wanted.name):
        raise InputError("give the project a name", "name")
    if len(wanted.name) > LONGEST_NAME:
        raise InputError(f"it has {len(wanted.name)} characters; {LONGEST_NAME} is the most", "name")
    for side, length in (("width", wanted.width), ("height", wanted.height)):
        if not LEAST_SIDE <= length <= MOST_SIDE:
            raise InputError(f"{length} is not a number from {LEAST_SIDE} to {MOST_SIDE}", side)
    if not is_language(wanted.language):
        raise InputError(
            f"there is no language {wanted.language!r}; use a tag such as en or pt-BR", "language"
        )


@dataclass(frozen=True, slots=True)
class MadeProject:
    project_id: str
    remarks: tuple[Remark, ...]

    def as_json(self) -> dict[str, Any]:
        remarks = [{"place": remark.place, "message": remark.message} for remark in self.remarks]
        return {"project": self.project_id, "remarks": remarks}


def new_project(
    workspace: Workspace,
    wanted: NewProject,
    pictures: list[MediaFile],
    words: Source | None,
    watcher: Watcher | None = None,
) -> MadeProject:
    """Make a project: each video a shot, each still a held shot, the words laid on them, sound files the bed.

    Without pictures the words stand on plain colours, a shot for each section; without either the project
    is empty, to be written.

    Args:
        words: a file of words, or what was pasted.

    Raises:
        InputError: something can't be used; nothing was made.
    """
    check_new_project(wanted)
    remarks: list[Remark] = []
    read = read_source(words, wanted.language)[0] if words else None
    if words is not None and read is not None:
        remarks += [Remark(f"{words.name}, {item.place}", item.message) for item in read.problems]
        remarks += offers_of(read).remarks(words.choices)
    clips, refused = bring_in_all(workspace, pictures, watcher)
    remarks += refused
    shown = [clip for clip in clips if clip.has_picture]
    sounds = [clip for clip in clips if clip.kind == "sound"]
    music = sounds[0] if sounds else None
    remarks += clip_remarks(clips)
    remarks += [
        Remark(clip.name, "another file is the bed; this one is at hand under Sound") for clip in sounds[1:]
    ]
    if music is not None and Path(music.name).suffix.lower() in MOVING_SUFFIXES:
        remarks.append(Remark(music.name, "it has sound but no picture, so it became the bed"))
    if not shown and (_pictures_meant(pictures, clips) or (read is None and pictures)):
        why = "; ".join(f"{each.place}: {each.message}" for each in refused)
        text = "none of the files has a picture, so there is no shot to begin with"
        raise InputError(f"{text} ({why})" if why else text, "pictures")
    width, height = wanted.even_size
    if (width, height) != (wanted.width, wanted.height):
        text = f"{wanted.width} × {wanted.height} was made {width} × {height}: video needs even numbers"
        remarks.append(Remark("size", text))
    texts = texts_of(read, words.choices) if words and read else []
    shots = shots_from_clips(shown, wanted.rate) if shown else shots_for_words(texts, wanted.rate)
    project = Project(
        name=tidy_name(wanted.name),
        width=width,
        height=height,
        rate=wanted.rate,
        language=wanted.language,
        clips={clip.hash: clip for clip in clips},
        shots=shots,
        beds=(Bed(clip_hash=music.hash),) if music else (),
    )
    if wanted.find_cuts:
        videos = [clip.hash for clip in shown if clip.kind == "video"]
        project = cut_apart(
            project, {each: cuts_of_file(workspace.library.original(each), watcher) for each in videos}
        )
    project = project.changed(roles=(narrator(voice_for_language(wanted.language)),))
    if wanted.like:
        project = begun_like(project, workspace.head(wanted.like).project)
    if not shots:
        return MadeProject(workspace.projects.create(project, "Project made"), tuple(remarks))
    project, roles = with_roles(project, texts)
    project, laid_out = laid(workspace, project, texts, roles, "order" if shown else "section")
    # plain colours last as long as their words: there was no picture that was made longer for them
    if not shown:
        laid_out = tuple(remark for remark in laid_out if remark.place != "picture")
    remarks += undrawn_remarks(project)
    return MadeProject(workspace.projects.create(project, "Project made"), (*remarks, *laid_out))


def _pictures_meant(files: list[MediaFile], clips: list[Clip]) -> bool:
    """Whether some file was given for the picture: one that could not be used, or that is more than sound."""
    return len(clips) < len(files) or any(clip.has_picture for clip in clips)


def undrawn_remarks(project: Project) -> list[Remark]:
    """Captions with signs that their typeface can't draw, each named."""
    missing = missing_signs(project, faces_of(project.language))
    undrawn = [
        (number, missing[caption.id])
        for number, caption in enumerate(project.captions, 1)
        if caption.id in missing
    ]
    remarks = [
        Remark(
            f"caption {number}",
            f"no typeface here can draw {' '.join(signs)}; they would show as boxes",
        )
        for number, signs in undrawn[:_MOST_NAMED]
    ]
    if len(undrawn) > _MOST_NAMED:
        remarks.append(
            Remark("captions", f"and {len(undrawn) - _MOST_NAMED} more have signs that can't be drawn")
        )
    return remarks


def clip_remarks(clips: list[Clip]) -> list[Remark]:
    """What had to be done to files when they came in."""
    return [Remark(clip.name, text) for clip in clips for text in clip.remarks]


def narrator(voice: Voice) -> Role:
    return Role(id="r1", name="narrator", voice_id=voice.id)


def bring_in_all(
    workspace: Workspace, files: list[MediaFile], watcher: Watcher | None
) -> tuple[list[Clip], list[Remark]]:
    """Every file that can be used; the others are remarked with the reason."""
    clips: list[Clip] = []
    refused: list[Remark] = []
    for file in files:
        try:
            clips.append(bring_in_clip(workspace, file, watcher))
        except InputError as error:
            refused.append(Remark(file.name, str(error).removeprefix(f"{file.name}: ")))
        except MediaError as error:
            refused.append(Remark(file.name, str(error)))
    return clips, refused

"""A project into one file, and out of it on this or another machine: same words, same sound, same cuts."""

import re
import shutil
import tempfile
import wave
from collections.abc import Iterable
from importlib.metadata import version
from pathlib import Path

from pydantic import TypeAdapter, ValidationError

from fox_cadence.actions.bring_in import MadeProject, MediaFile, bring_in_clip
from fox_cadence.actions.own_fonts import bring_font
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket.names import stem
from fox_cadence.core.integrity import integrity_errors
from fox_cadence.core.lettered import own_fonts
from fox_cadence.core.project import Project
from fox_cadence.core.script_layout import Remark
from fox_cadence.core.shot import Clip
from fox_cadence.core.takes import Take
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.errors import InputError, MediaError
from fox_cadence.formats import bundle
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.store.library import whole_file
from fox_cadence.voices.catalogue import voice_by_id

_KEY = re.compile(r"[0-9a-f]{64}")
_TAKES: TypeAdapter[tuple[Take, ...]] = TypeAdapter(tuple[Take, ...])


def write_bundle(
    workspace: Workspace,
    project_id: str,
    folder: Path,
    watcher: Watcher | None = None,
    name: str = "",
) -> Path:
    """Write a project as it stands, with its media and all the takes its lines keep; the path of the file.

    Args:
        name: of the file, without its ending; that of the project without it.

    Raises:
        NotFoundError: a media file has vanished.
        InputError: the folder can't be written to.
        CancelledError: the editor stopped it; no half-written file is left.
    """
    watch = watcher or Unwatched()
    project = workspace.head(project_id).project
    takes = workspace.library.takes(take_ids(project)).values()
    packed = bundle.Packed(
        project=project.model_dump_json(),
        takes=_TAKES.dump_json(tuple(takes)).decode(),
        media={each: workspace.library.original(each) for each in project.clips},
        sounds={take.sound_hash: workspace.library.take_sound(take.sound_hash) for take in takes},
        fonts={
            each: file for each in own_fonts(project) if (file := workspace.own_fonts.folder / each).is_file()
        },
    )
    target = folder / f"{name or stem(project.name)}{bundle.SUFFIX}"
    total = len(packed.media) + len(packed.sounds) + len(packed.fonts)
    try:
        with whole_file(target) as made:
            for done in bundle.write(made, packed, f"fox-cadence {version('fox-cadence')}"):
                watch.report(done, total, "Packing")
    except OSError as error:
        raise InputError(
            f"{error.strerror or error}. Choose another folder or make room.", str(folder)
        ) from error
    return target


def take_ids(project: Project) -> set[str]:
    """The ids of all takes the lines of a project play or keep."""
    found: set[str | None] = set()
    for line in project.lines:
        found |= {line.take_id, *(kept.take_id for kept in line.takes)}
        found.add(line.placement.take_id if line.placement else None)
    return {each for each in found if each}


def bring_in_bundle(
    workspace: Workspace, path: Path, name: str, watcher: Watcher | None = None
) -> MadeProject:
    """Make a project of a bundle. What this version does not know in it is kept.

    Raises:
        InputError: it is no bundle, is damaged or could do harm; names the place. No project was made.
    """
    watch = watcher or Unwatched()
    scratch = Path(tempfile.mkdtemp(dir=workspace.scratch))
    try:
        with bundle.open_bundle(path) as packed:
            return _bring_in(workspace, packed, scratch, watch)
    except InputError as error:
        raise InputError(str(error), name) from error
    finally:
        shutil.rmtree(scratch, ignore_errors=True)


def _bring_in(workspace: Workspace, packed: bundle.Bundle, scratch: Path, watch: Watcher) -> MadeProject:
    free = shutil.disk_usage(workspace.folder).free
    if packed.bytes > free:
        raise InputError(
            f"it needs {packed.bytes / 2**20:,.0f} MiB and the disk has {free / 2**20:,.0f} left"
        )
    remarks = [Remark(each, "this version has no use for it; it was left out") for each in packed.unknown]
    if packed.version > bundle.VERSION:
        remarks.append(
            Remark("bundle", "a newer version made it; what this one does not know is kept, but not shown")
        )
    project = _project(packed)
    takes = _takes(packed)
    total = len(project.clips) + len(takes)
    for done, clip in enumerate(project.clips.values()):
        watch.report(done, total, f"Reading {clip.name}")
        remarks += _clip(workspace, packed, clip, scratch)
    for font_hash in sorted(own_fonts(project)):
        remarks += _font(workspace, packed, font_hash, scratch)
    wanted = take_ids(project)
    there: set[str] = set()
    for done, take in enumerate(takes, len(project.clips)):
        watch.report(done, total, "Taking in the voices")
        if take.id in wanted and _sound_is_right(packed, take, scratch / "sound.wav"):
            workspace.library.take_in(take, scratch / "sound.wav")
            there.add(take.id)
    lost = len(wanted - there)
    if lost:
        remarks.append(Remark("takes", f"the sound of {lost} is missing or damaged; voice these lines again"))
    absent = sorted({role.voice_id for role in project.roles if voice_by_id(role.voice_id) is None})
    remarks += [
        Remark(f"voice {each}", "it is not on this machine; its takes play, new ones need it")
        for each in absent
    ]
    watch.report(total, total)
    return MadeProject(workspace.projects.create(project, "Brought in from a bundle"), tuple(remarks))


def _project(packed: bundle.Bundle) -> Project:
    try:
        project = Project.model_validate_json(packed.text(bundle.PROJECT))
    except (ValidationError, ValueError, RecursionError) as error:
        raise InputError(_first(error), bundle.PROJECT) from error
    fault = next(integrity_errors(project), None)
    if fault is not None:
        raise InputError(fault, bundle.PROJECT)
    return project


def _takes(packed: bundle.Bundle) -> tuple[Take, ...]:
    try:
        takes = _TAKES.validate_json(packed.text(bundle.TAKES))
    except (ValidationError, ValueError, RecursionError) as error:
        raise InputError(_first(error), bundle.TAKES) from error
    for take in takes:
        times = [time for word in take.words for time in (word.start_sample, word.end_sample)]
        inside = all(0 <= time <= take.sample_count for time in times) and times == sorted(times)
        if not inside or not 0 <= take.onset_sample <= take.end_sample <= take.sample_count:
            raise InputError(f"the times of the take {take.id!r} lie outside its sound", bundle.TAKES)
        if (
            not _KEY.fullmatch(take.key)
            or take.id != take.key[:20]
            or (take.request is not None and take.request.key != take.key)
        ):
            raise InputError(f"the take {take.id!r} is not what it says it was made from", bundle.TAKES)
    return takes


def _first(error: Exception) -> str:
    """What is wrong first, and where in the document."""
    if not isinstance(error, ValidationError):
        return "it is no JSON that can be read"
    first = error.errors(include_url=False)[0]
    return f"{'.'.join(str(part) for part in first['loc']) or 'the document'}: {first['msg']}"


def _clip(workspace: Workspace, packed: bundle.Bundle, clip: Clip, scratch: Path) -> Iterable[Remark]:
    if workspace.library.clip(clip.hash) is not None and not workspace.library.missing_clips([clip.hash]):
        return
    if clip.hash not in packed.media:
        yield Remark(clip.name, "its file is missing in the bundle; point to it in Picture")
        return
    file = scratch / f"clip{packed.media[clip.hash]}"
    packed.media_to(clip.hash, file)
    try:
        bring_in_clip(
            workspace, MediaFile(file, f"{clip.name}{'' if Path(clip.name).suffix else file.suffix}")
        )
    except (InputError, MediaError) as error:
        yield Remark(clip.name, f"it can't be read ({error}); point to it in Picture")
    finally:
        file.unlink(missing_ok=True)


def _font(workspace: Workspace, packed: bundle.Bundle, font_hash: str, scratch: Path) -> Iterable[Remark]:
    if (workspace.own_fonts.folder / font_hash).is_file():
        return
    name = f"typeface {font_hash[:8]}"
    if font_hash not in packed.fonts:
        yield Remark(name, "its file is missing in the bundle; words are set in another typeface")
        return
    file = scratch / "font"
    packed.font_to(font_hash, file)
    try:
        bring_font(workspace, file, name)
    except InputError as error:
        yield Remark(name, f"it can't be read ({error}); words are set in another typeface")
    finally:
        file.unlink(missing_ok=True)


def _sound_is_right(packed: bundle.Bundle, take: Take, target: Path) -> bool:
    """Whether the sound of a take is in the bundle, whole, and as long as the take says."""
    if take.sound_hash not in packed.sounds:
        return False
    try:
        packed.sound_to(take.sound_hash, target)
        with wave.open(str(target), "rb") as sound:
            shape = (sound.getnchannels(), sound.getsampwidth(), sound.getframerate(), sound.getnframes())
    except (InputError, wave.Error, EOFError):
        return False
    return shape == (1, 2, SAMPLE_RATE_HZ, take.sample_count)

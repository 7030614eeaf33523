"""The docket of a project: what is wanted of it, how large that will be, and what became of it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from fox_cadence.actions.making_words import WRITERS, caption_cues
from fox_cadence.actions.mixing import planned
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket import (
    CaptionsRow,
    Docket,
    LinesRow,
    Row,
    SoundRow,
    StemsRow,
    Stretch,
    VideoRow,
)
from fox_cadence.core.docket.contents import stems_of
from fox_cadence.core.docket.shipped import PLAIN
from fox_cadence.core.docket.sizes import sound_bytes, video_bytes
from fox_cadence.core.names import tidy_name
from fox_cadence.core.numbers import counted
from fox_cadence.core.project import Project
from fox_cadence.core.timeline import Timeline
from fox_cadence.errors import FoxError, InputError, NotFoundError

_CODECS = {"h264": "H.264", "h265": "H.265", "vp9": "VP9", "av1": "AV1"}
_FILES = {"webm": "WebM", "webp": "WebP", "opus": "Opus", "vtt": "WebVTT", "txt": "plain text"}
"""What kinds of files are called that are not called by their endings."""
_CAPTIONS_ARE = {"drawn": "captions drawn in", "track": "captions as a track", "none": "without captions"}
_CONTENTS = {
    "mix": "the full mix", "speech": "the narration alone", "bed": "the beds", "own": "the shots’ own sound",
    "effects": "the effects",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Product:
    """A row as the docket shows it: as what, how long, and about how many bytes where that can be told."""

    name: str
    form: str
    seconds: float | None
    bytes: int | None


def docket_of(workspace: Workspace, project_id: str) -> Docket:
    """The docket of a project; the plain one where it has none of its own."""
    kept = workspace.results.docket(project_id, "wanted")
    return Docket.model_validate(kept) if kept else PLAIN


def keep_docket(workspace: Workspace, project_id: str, docket: Docket) -> None:
    """Keep what is wanted of a project."""
    workspace.results.keep_docket(project_id, "wanted", docket.model_dump())


def kept_docket(workspace: Workspace, name: str) -> Docket:
    """A docket that is kept for all projects, by its name.

    Raises:
        NotFoundError: there is none of that name.
    """
    for each in workspace.dockets.all():
        if each.name.casefold() == tidy_name(name).casefold():
            return each
    raise NotFoundError(f"No docket is kept under the name “{name}”.")


def keep_for_all(workspace: Workspace, name: str, docket: Docket) -> Docket:
    """Keep a docket under a name for other projects: without what belongs to this one alone.

    Raises:
        InputError: it has no name.
    """
    tidy = tidy_name(name)
    if not tidy:
        raise InputError("give it a name", "name")
    rows = tuple(_for_any(row) for row in docket.rows)
    kept = docket.changed(name=tidy[:60], rows=rows)
    workspace.dockets.keep(kept)
    return kept


def _for_any(row: Row) -> Row:
    """A row without parts, roles and lines of one piece."""
    if isinstance(row, VideoRow):
        return row.changed(part=Stretch(), poster_frame=None)
    if isinstance(row, SoundRow):
        of = tuple(each for each in row.of if ":" not in each) or ("mix",)
        return row.changed(part=Stretch(), of=of)
    return row.changed(part=Stretch()) if isinstance(row, StemsRow) else row


def rows_named(docket: Docket, names: Sequence[str]) -> Docket:
    """A docket with just the rows of some names wanted; rows of the plain one that it lacks are added.

    Raises:
        InputError: there is no row of a name.
    """
    plain = {row.name: row for row in PLAIN.rows}
    there = {row.name for row in docket.rows}
    for name in names:
        if name not in there and name not in plain:
            raise InputError(f"there is no product {name}; there are {', '.join(plain)}", "product")
    more = tuple(plain[name] for name in dict.fromkeys(names) if name not in there)
    return docket.changed(rows=(*docket.rows, *more)).wanting(set(names))


# what the rows come to


def products_of(
    workspace: Workspace, project_id: str, project: Project, docket: Docket | None = None
) -> list[Product]:
    """The rows of a docket for a project as it stands, in their order."""
    timeline = workspace.timeline(project)
    made = workspace.results.docket(project_id, "export")
    return [
        _product(workspace, timeline, row, made) for row in (docket or docket_of(workspace, project_id)).rows
    ]


def _product(workspace: Workspace, timeline: Timeline, row: Row, made: Mapping[str, Any]) -> Product:
    project = timeline.project
    part = getattr(row, "part", Stretch())
    first, last = part.within(timeline.total_frames)
    seconds = float((last - first) / project.rate.fraction)
    if isinstance(row, VideoRow):
        size = row.size(project.width, project.height)
        about = _as_before(made, row, seconds)
        if about is None and last > first:
            about = video_bytes(row, size, last - first, float(project.rate.fraction))
        return Product(row.name, _video_form(row, size, project), seconds, about)
    if isinstance(row, SoundRow):
        return Product(row.name, _sound_form(row, timeline), seconds, sound_bytes(row, seconds, len(row.of)))
    if isinstance(row, StemsRow):
        names = _stem_names(workspace, timeline)
        text = f"WAV 48 kHz, {row.bits} bit, summing to the mix: {', '.join(names) or 'nothing is heard yet'}"
        return Product(row.name, text, seconds, sound_bytes(row, seconds, len(names) + 1))
    if isinstance(row, CaptionsRow):
        files = " and ".join(", ".join(_called(each) for each in row.files).rsplit(", ", 1))
        more = ", every version" if row.versions else ""
        cues = counted(len(timeline.captions), "caption")
        return Product(row.name, f"{files}{more}, {cues}", None, _caption_bytes(workspace, timeline, row))
    if isinstance(row, LinesRow):
        spoken = sum(span.take is not None for span in timeline.lines)
        text = f"{row.file.upper()}, {counted(spoken, 'line')}, a file each, edges trimmed"
        return Product(row.name, text, None, None)
    return Product(row.name, _OTHERS[row.kind], None, None)


_OTHERS = {
    "cues": "a table (CSV) of what is said and shown when",
    "script": "the script as a document (DOCX)",
    "interchange": "OTIO and EDL for other tools, with the media they name",
    "bundle": "the whole project with its clips and takes, in one file",
}


def _called(file: str) -> str:
    return _FILES.get(file, file.upper())


def _video_form(row: VideoRow, size: tuple[int, int], project: Project) -> str:
    codec = _CODECS[row.coded] if row.coded else "silent"
    rate = "" if row.loop else f", {project.rate.label} fps"
    kind = "a quick look" if row.look else f"{_called(row.file)} {codec}"
    return f"{size[0]} × {size[1]}{rate}, {kind}, {_CAPTIONS_ARE[row.captions]}"


def _sound_form(row: SoundRow, timeline: Timeline) -> str:
    bits = f", {row.bits} bit{' float' if row.bits == 32 else ''}" if row.file in ("wav", "flac") else ""
    roles = {f"role:{role.id}": role.name for role in timeline.project.roles}
    lines = {f"line:{line.id}": f"line {n}" for n, line in enumerate(timeline.project.lines, 1)}
    names = [(_CONTENTS | roles | lines).get(each, "what is gone") for each in row.of]
    parts = [", chapters" if row.chapters else "", ", mono" if row.channels == 1 else ""]
    return f"{_called(row.file)} 48 kHz{bits}{''.join(parts)}: {' and '.join(names)}"


def _stem_names(workspace: Workspace, timeline: Timeline) -> list[str]:
    try:
        return [each.name for each in stems_of(planned(workspace, timeline), timeline)]
    except FoxError:
        return []  # what is wrong is said when they are made


def _caption_bytes(workspace: Workspace, timeline: Timeline, row: CaptionsRow) -> int | None:
    if timeline.total_frames == 0 or row.versions:
        return None
    cues = caption_cues(timeline, workspace.faces_of(timeline.project))
    return sum(len(WRITERS[kind](cues, timeline.project.language)) for kind in row.files)


def _as_before(made: Mapping[str, Any], row: VideoRow, seconds: float) -> int | None:
    """The size a video will have if it takes as many bytes a second as the last one of the same kind did."""
    before: Mapping[str, Any] = made.get("rows", {}).get(row.name, {})
    if not before or VideoRow.model_validate(before).changed(wanted=row.wanted) != row:
        return None
    size = sum(file["bytes"] for file in made.get("files", []) if file.get("product") == row.name)
    length = made.get("seconds", {}).get(row.name)
    return round(size / length * seconds) if size and length else None

"""The docket: what can be made of a project, how large it will be, and what became of it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from fox_cadence.actions.exporting import caption_cues
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.lettered import FacesOf
from fox_cadence.core.numbers import counted
from fox_cadence.core.project import Project
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, ticks_to_seconds
from fox_cadence.core.timeline import Timeline
from fox_cadence.formats import WRITERS
from fox_cadence.media.proxies import proxy_size

_WAV_BYTES_A_FRAME = 4
"""Two channels of 16 bits."""
_SOUND_FILES = 2


@dataclass(frozen=True, slots=True)
class Product:
    """Something that can be made: its name, as what, how long it is, and how many bytes it will have where
    that is known (of video only from one that was made before)."""

    name: str
    form: str
    seconds: float | None
    bytes: int | None


def products_of(workspace: Workspace, project_id: str, project: Project) -> list[Product]:
    """What can be made of a project as it stands, in the order of the docket."""
    timeline = workspace.timeline(project)
    before = workspace.results.docket(project_id, "export")
    length = ticks_to_seconds(timeline.total_ticks)
    width, height = proxy_size(project.width, project.height)
    size = f"{project.width} × {project.height}, {project.rate.label} fps, MP4 H.264, captions drawn in"
    cues = len(timeline.captions)
    spoken = sum(span.take is not None for span in timeline.lines)
    return [
        Product("video", size, length, _as_before(before, "video", length)),
        Product(
            "quick look",
            f"{width} × {height}, MP4, for checking",
            length,
            _as_before(before, "quick look", length),
        ),
        Product(
            "sound", "WAV 48 kHz, 16 bit: the full mix, and the narration alone", length, _wav_bytes(length)
        ),
        Product(
            "captions",
            f"SRT and WebVTT, {counted(cues, 'caption')}",
            None,
            _caption_bytes(timeline, workspace.faces_of(timeline.project)),
        ),
        Product("lines", f"{counted(spoken, 'line')}, a file each, edges trimmed", None, None),
        Product("timeline", "OTIO and EDL for other tools, with the media they name", None, None),
        Product("bundle", "the whole project with its clips and takes, in one file", None, None),
    ]


def _wav_bytes(seconds: float) -> int:
    return round(seconds * SAMPLE_RATE_HZ) * _WAV_BYTES_A_FRAME * _SOUND_FILES


def _caption_bytes(timeline: Timeline, faces_of: FacesOf) -> int | None:
    if timeline.total_frames == 0:
        return None
    cues = caption_cues(timeline, faces_of)
    return sum(len(write(cues).encode()) for write in WRITERS.values())


def _as_before(before: Mapping[str, Any], product: str, seconds: float) -> int | None:
    """The size a video will have if it takes as many bytes a second as the last one did."""
    files: Sequence[Mapping[str, Any]] = before.get("files", [])
    size = sum(file["bytes"] for file in files if file.get("product") == product)
    length = before.get("seconds")
    return round(size / length * seconds) if size and length else None

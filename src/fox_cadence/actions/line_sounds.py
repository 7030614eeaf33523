"""The sound of single lines, of a choice of them or of a role, as files: edges trimmed, named by role and
number."""

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Literal

import numpy as np

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.delivery import manner_of
from fox_cadence.core.docket.names import stem
from fox_cadence.core.mix import SPEECH_LUFS
from fox_cadence.core.project import Index, delivery_of, treatment_of
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.core.timeline import LineSpan
from fox_cadence.errors import InputError
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.audio import Sound, as_stereo, read_wav, wav_bytes
from fox_cadence.media.isolated import run_isolated
from fox_cadence.media.limiter import held_under
from fox_cadence.media.sound_files import encode_all
from fox_cadence.media.treating import treated
from fox_cadence.store.library import write_safely

Format = Literal["wav", "flac", "mp3"]

_CEILING_DB = -1.2
"""With what 16 bits and a gain that moves can add, the true peak stays under -1 dBTP."""
_AT_ONCE = 40


@dataclass(frozen=True, slots=True)
class LineFile:
    """The sound of a line as a file, and how long it is."""

    path: Path
    seconds: float


def export_lines(
    workspace: Workspace,
    project_id: str,
    folder: Path,
    line_ids: Sequence[str],
    kind: Format,
    watcher: Watcher | None = None,
) -> list[LineFile]:
    """Write a file for each line that has a sound; those without one are passed over.

    Raises:
        InputError: none of the lines has a sound, or the folder can't be written to.
    """
    watch = watcher or Unwatched()
    project = workspace.head(project_id).project
    index = Index(project)
    wanted = set(line_ids)
    spans = [
        (n, s) for n, s in enumerate(workspace.timeline(project).lines, 1) if s.line.id in wanted and s.take
    ]
    if not spans:
        raise InputError("None of these lines has a sound yet. Voice them first.")
    width = max(2, len(str(len(project.lines))))
    made: list[LineFile] = []
    try:
        folder.mkdir(parents=True, exist_ok=True)
        for start in range(0, len(spans), _AT_ONCE):
            watch.report(start, len(spans), f"Line {spans[start][0]}")
            part = spans[start : start + _AT_ONCE]
            sounds = [_heard(workspace, span, index) for _, span in part]
            files = (
                [wav_bytes(sound) for sound in sounds]
                if kind == "wav"
                else run_isolated(encode_all, sounds, kind)
            )
            for (number, span), sound, data in zip(part, sounds, files, strict=True):
                role = stem(index.roles[span.line.role_id].name)
                path = folder / f"{stem(project.name)}-{role}-{number:0{width}d}.{kind}"
                write_safely(path, data)
                made.append(LineFile(path, len(sound) / SAMPLE_RATE_HZ))
    except OSError as error:
        raise InputError(
            f"{error.strerror or error}. Choose another folder or make room.", str(folder)
        ) from error
    watch.report(len(spans), len(spans))
    return made


def _heard(workspace: Workspace, span: LineSpan, index: Index) -> Sound:
    """The take of a line, treated and at the level it has in the mix, trimmed; a room rings on."""
    assert span.take is not None
    sound = read_wav(workspace.library.take_sound(span.take.sound_hash))
    end = span.take.end_sample
    treatment = treatment_of(span.line, index)
    if treatment is not None:
        made = treated(span.take.sound_hash, sound, treatment).sound
        end += len(made) - len(sound)
        sound = made
    gain = SPEECH_LUFS - span.take.loudness_lufs + manner_of(delivery_of(span.line, index)).gain_db
    trimmed = trim(sound, span.take.onset_sample, end) * np.float32(10 ** (gain / 20))
    return held_under(as_stereo(trimmed), _CEILING_DB)[:, 0].copy()


def trim(sound: Sound, onset: int, end: int) -> Sound:
    """A take from its first sound to its last, with 5 ms to either side so that nothing clicks."""
    edge = 240
    return sound[max(0, onset - edge) : end + edge]

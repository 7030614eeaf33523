"""Cleaning recorded takes: each becomes a take of its own beside the one it was made from."""

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from fox_cadence.actions.sound_files import sound_of_file
from fox_cadence.actions.voicing import keep_takes
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.numbers import counted
from fox_cadence.core.project import KeptTake, kept_take
from fox_cadence.core.sound.cleaning import Cleaning
from fox_cadence.core.takes import Take
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.errors import InputError
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.audio import METER, Loudness, Sound, measure_loudness, read_wav, wav_bytes
from fox_cadence.media.cleaning import cleaned
from fox_cadence.media.isolated import run_isolated
from fox_cadence.store.library import write_safely

_SILENT, _SILENT_DB = 1e-10, -100.0


@dataclass(frozen=True, slots=True)
class CleanResult:
    """Of which lines the recording was cleaned, and by how many decibels the quiet between the words went
    down in the mean."""

    lines: tuple[str, ...]
    quieter_db: float


def clean_takes(
    workspace: Workspace,
    project_id: str,
    line_ids: Sequence[str],
    cleaning: Cleaning,
    watcher: Watcher | None = None,
) -> CleanResult:
    """Clean the recordings of lines; one undoable step. A take that was cleaned before is cleaned of its
    first one, which stays.

    Raises:
        InputError: none of them plays a recording.
        CancelledError: the editor stopped it; nothing was changed.
    """
    watch = watcher or Unwatched()
    project = workspace.head(project_id).project
    chosen = [line for line in project.lines if line.id in set(line_ids) and line.take_id]
    takes = workspace.library.takes([line.take_id or "" for line in chosen])
    recorded = [(line, takes[line.take_id or ""]) for line in chosen if takes[line.take_id or ""].recorded]
    if not recorded:
        raise InputError("no line that is chosen plays a recording", "line")
    made: dict[str, KeptTake] = {}
    quieter: list[float] = []
    for number, (line, take) in enumerate(recorded):
        watch.report(number, len(recorded), f"Cleaning line {project.lines.index(line) + 1}")
        first = take
        if take.cleaned_from is not None:
            first = workspace.library.takes([take.cleaned_from]).get(take.cleaned_from, take)
        new, down = _cleaned_take(workspace, first, cleaning, watch)
        quieter.append(down)
        made[line.id] = kept_take(project, line, new.id).changed(name=_called(cleaning), delivery=None)
    keep_takes(workspace, project_id, made, label=f"{counted(len(made), 'recording')} cleaned")
    watch.report(len(recorded), len(recorded))
    return CleanResult(tuple(made), round(sum(quieter) / len(quieter), 1))


def _called(cleaning: Cleaning) -> str:
    parts = [
        f"noise by {cleaning.noise_db:g} dB" if cleaning.noise_db else "",
        f"room by {cleaning.room_db:g} dB" if cleaning.room_db else "",
        "evened" if cleaning.even else "",
    ]
    return f"Cleaned: {', '.join(part for part in parts if part) or 'nothing'}"


def _cleaned_take(workspace: Workspace, take: Take, cleaning: Cleaning, watch: Watcher) -> tuple[Take, float]:
    sound = read_wav(workspace.library.take_sound(take.sound_hash))
    made = run_isolated(cleaned, sound, cleaning, cancelled=lambda: watch.cancelled)
    key = hashlib.sha256(f"cleaned {take.key} {cleaning.model_dump_json()}".encode()).hexdigest()
    new = take.changed(
        key=key,
        cleaned_from=take.id,
        loudness_lufs=round(measure_loudness(made, true_peak=False).integrated_lufs, 2),
        meter=METER,
    )
    kept = workspace.library.add_take(new, wav_bytes(made))
    speech = slice(take.onset_sample, take.end_sample)
    return kept, round(_floor_db(sound[speech]) - _floor_db(made[speech]), 1)


def _floor_db(sound: Sound) -> float:
    """The level under which a sound is for a tenth of its time, in dBFS; what is silent is left aside."""
    step = SAMPLE_RATE_HZ // 100
    count = len(sound) // step
    levels = np.square(sound[: count * step].astype(np.float64)).reshape(count, step).mean(axis=1)
    heard = levels[levels > _SILENT]
    return 10 * float(np.log10(np.percentile(heard, 10))) if len(heard) else _SILENT_DB


def clean_file(file: Path, cleaning: Cleaning, target: Path) -> tuple[Loudness, float]:
    """Clean a sound file, its channels brought together, into a WAV; how loud it is, and how many decibels
    the quiet in it went down.

    Raises:
        InputError: it can't be read, or nothing is to be heard in it.
    """
    sound = sound_of_file(file)
    made = run_isolated(cleaned, sound, cleaning)
    write_safely(target, wav_bytes(made))
    return measure_loudness(made), round(_floor_db(sound) - _floor_db(made), 1)

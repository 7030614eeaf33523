"""The melody of a line: its pitch over time as it was made, and as another delivery would have it."""

from dataclasses import dataclass

import numpy as np

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.delivery import Delivery, manner_of
from fox_cadence.core.project import Index, delivery_of
from fox_cadence.errors import InputError
from fox_cadence.media.audio import read_wav
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.melody import moved_pitch
from fox_cadence.voices.pitch_track import HOP_S, pitch_track


@dataclass(frozen=True, slots=True)
class Melody:
    """Points (seconds from the beginning of the speech, Hz; 0 where there is no pitch) as measured in the
    take and as they would be."""

    measured: tuple[tuple[float, float], ...]
    would_be: tuple[tuple[float, float], ...]


def melody_of(
    workspace: Workspace, project_id: str, line_id: str, delivery: Delivery | None = None
) -> Melody:
    """The melody of a line's take, and what a delivery would make of it.

    Raises:
        InputError: the line has no sound of its words as they stand.
    """
    project = workspace.head(project_id).project
    line = project.line(line_id)
    span = next(span for span in workspace.timeline(project).lines if span.line.id == line_id)
    take = span.take
    if take is None or span.stale:
        raise InputError("voice this line to see its melody", "line")
    sound = read_wav(workspace.library.take_sound(take.sound_hash))[take.onset_sample : take.end_sample]
    track = pitch_track(np.asarray(sound, np.float32))
    times = np.arange(len(track)) * HOP_S + HOP_S
    now = manner_of(delivery_of(line, Index(project)))
    then = manner_of(delivery) if delivery is not None else now
    voice = voice_by_id(take.voice_id)
    ranged = voice is not None and voice.has_range and not take.recorded
    spread = then.pitch_range / now.pitch_range if ranged else 1.0
    moved = moved_pitch(track.astype(np.float32), then.pitch_semitones - now.pitch_semitones, spread)
    slower = now.pace / then.pace
    would_be = _points(times * slower, moved) if delivery is not None else ()
    return Melody(_points(times, track), would_be)


def _points(times: np.ndarray, track: np.ndarray) -> tuple[tuple[float, float], ...]:
    return tuple((round(float(at), 3), round(float(hz), 1)) for at, hz in zip(times, track, strict=True))

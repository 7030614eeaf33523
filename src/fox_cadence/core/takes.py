"""A take: one sound of one line, with the time of every word. Never changed once made."""

import hashlib
import json

from fox_cadence.core.project import Line as LineObject
from fox_cadence.core.project import Project, Role, Value, said_text
from fox_cadence.core.ticks import samples_to_ticks


class WordTime(Value):
    """When a word is heard, in samples at 48 kHz from the start of the take's sound."""

    text: str
    start_sample: int
    end_sample: int


class Pause(Value):
    """A stretch of silence inside the speech, in samples at 48 kHz."""

    start_sample: int
    end_sample: int


class Take(Value):
    """One sound of one line.

    The speech runs from `onset_sample` (its first sound) to `end_sample` (just after its last). `pace` is the pace it
    was made at; `loudness_lufs` is measured over the take alone.
    """

    id: str
    key: str
    text: str
    voice_id: str
    pace: float
    sound_hash: str
    sample_count: int
    onset_sample: int
    end_sample: int
    words: tuple[WordTime, ...]
    pauses: tuple[Pause, ...]
    loudness_lufs: float

    @property
    def length_ticks(self) -> int:
        return samples_to_ticks(self.end_sample - self.onset_sample)

    @property
    def pause_ticks(self) -> tuple[int, ...]:
        return tuple(samples_to_ticks(pause.end_sample - pause.start_sample) for pause in self.pauses)

    @property
    def voiced_ticks(self) -> int:
        """Length of the speech without its inner pauses."""
        return self.length_ticks - sum(self.pause_ticks)


class VoicingRequest(Value):
    """All that a take's sound depends on. The same request is never voiced twice.

    `speech_samples` and `pause_samples` are set when the take must last an exact time: the whole from first to last
    sound, and how much of it is inner pauses.
    """

    text: str
    voice_id: str
    pace: float
    pitch_semitones: float
    speech_samples: int | None = None
    pause_samples: int | None = None

    @property
    def key(self) -> str:
        """A hash of the request, the name under which its take is kept."""
        text = json.dumps(self.model_dump(), sort_keys=True, ensure_ascii=True)
        return hashlib.sha256(text.encode()).hexdigest()


def natural_request(project: Project, line: LineObject) -> VoicingRequest:
    """What a line must be voiced from now, at the pace of its role's delivery."""
    role: Role = project.role(line.role_id)
    return VoicingRequest(
        text=said_text(project, line),
        voice_id=role.voice_id,
        pace=role.pace,
        pitch_semitones=role.pitch_semitones,
    )

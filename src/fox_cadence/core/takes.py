"""A take: one sound of one line, with the time of every word. Never changed once made."""

import hashlib
import json
from functools import lru_cache

from fox_cadence.core.marks import written_pauses
from fox_cadence.core.project import Index, Line, Project, said_text
from fox_cadence.core.ticks import samples_to_ticks, ticks_to_samples
from fox_cadence.core.value import Value
from fox_cadence.core.words import words_of


class WordTime(Value):
    """When a word is heard, in samples at 48 kHz from the start of the take's sound."""

    text: str
    start_sample: int
    end_sample: int


class Pause(Value):
    """A stretch of silence inside the speech, in samples at 48 kHz; `written` ones were asked for by a mark."""

    start_sample: int
    end_sample: int
    written: bool = False


class Take(Value):
    """One sound of one line.

    The speech runs from `onset_sample` (its first sound) to `end_sample` (just after its last). `pace` is the pace it
    was made at; `loudness_lufs` is measured over the take alone. `stretch` is the largest share by which a part of the
    sound was lengthened or shortened after the engine had made it.
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
    stretch: float = 0.0

    @property
    def length_ticks(self) -> int:
        return samples_to_ticks(self.end_sample - self.onset_sample)


class WrittenPause(Value):
    """A pause of a given length after a word (counted from 0)."""

    after_word: int
    samples: int


class SpanTarget(Value):
    """How long the words up to `end_word` (from the target before) must last: voiced part and each natural pause."""

    end_word: int
    voiced_samples: int
    pauses: tuple[int, ...] = ()


class VoicingRequest(Value):
    """All that a take's sound depends on. The same request is never voiced twice.

    `targets` are empty for a take at the natural pace, else they cover all words.
    """

    text: str
    voice_id: str
    pace: float
    pitch_semitones: float
    written: tuple[WrittenPause, ...] = ()
    targets: tuple[SpanTarget, ...] = ()

    @property
    def key(self) -> str:
        """A hash of the request, the name under which its take is kept."""
        text = json.dumps(self.model_dump(), sort_keys=True, ensure_ascii=True)
        return hashlib.sha256(text.encode()).hexdigest()


@lru_cache(maxsize=20_000)
def _natural(
    text: str, voice_id: str, pace: float, pitch_semitones: float, written: tuple[tuple[int, int], ...]
) -> tuple[VoicingRequest, str]:
    """A request and its key, kept: a timeline asks for those of every line each time it is built."""
    last = len(words_of(text)) - 1
    request = VoicingRequest(
        text=text,
        voice_id=voice_id,
        pace=pace,
        pitch_semitones=pitch_semitones,
        written=tuple(
            WrittenPause(after_word=word, samples=ticks_to_samples(ticks)) for word, ticks in written if word < last
        ),
    )
    return request, request.key


def natural_key(project: Project, line: Line, index: Index) -> str:
    """The key of what a line must be voiced from now."""
    return _natural(*_asked(project, line, index))[1]


def natural_request(project: Project, line: Line, index: Index | None = None) -> VoicingRequest:
    """What a line must be voiced from now, at the pace of its role's delivery."""
    return _natural(*_asked(project, line, index or Index(project)))[0]


def _asked(project: Project, line: Line, index: Index) -> tuple[str, str, float, float, tuple[tuple[int, int], ...]]:
    role = index.roles[line.role_id]
    written = tuple(sorted(written_pauses(line.marks).items())) if line.marks else ()
    return said_text(project, line, index), role.voice_id, role.pace, role.pitch_semitones, written

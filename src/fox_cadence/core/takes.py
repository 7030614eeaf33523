"""A take: one sound of one line, with the time of every word. Never changed once made."""

import hashlib
import itertools
import json
from collections.abc import Sequence
from functools import lru_cache

from fox_cadence.core.delivery import Manner, manner_of
from fox_cadence.core.marks import (
    Emphasis,
    EmphasisLevel,
    Mark,
    Pronunciation,
    SpanMark,
    SyncPoint,
    breaths,
    over_words,
    written_pauses,
)
from fox_cadence.core.project import Index, Line, Project, delivery_of, said_text, voice_of
from fox_cadence.core.ticks import samples_to_ticks, ticks_to_samples
from fox_cadence.core.value import Value
from fox_cadence.core.words import words_of


class WordTime(Value):
    """When a word is heard, in samples at 48 kHz from the start of the take's sound."""

    text: str
    start_sample: int
    end_sample: int


class PhonemeTime(Value):
    """When a sound of speech begins, in samples at 48 kHz from the start of the take's sound."""

    ipa: str
    start_sample: int


class Pause(Value):
    """A stretch of silence inside the speech, in samples at 48 kHz; `written` ones were asked for by a
    mark."""

    start_sample: int
    end_sample: int
    written: bool = False


class Take(Value):
    """One sound of one line.

    The speech runs from `onset_sample` (its first sound) to `end_sample` (just after its last). `pace` is the
    pace it was made at; `loudness_lufs` is measured over the take alone, by the loudness meter of version
    `meter`. `stretch` is the largest share by which a part of the sound was lengthened or shortened after the
    engine had made it. `request` is what it was made from; a recorded take has none, and its words are those
    that were heard; where it was cleaned, `cleaned_from` is the take it was cleaned of. Takes made before
    phonemes were kept have none.
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
    request: "VoicingRequest | None" = None
    recorded: bool = False
    cleaned_from: str | None = None
    meter: int = 1
    phonemes: tuple[PhonemeTime, ...] = ()

    @property
    def length_ticks(self) -> int:
        """Length of its sound."""
        return samples_to_ticks(self.end_sample - self.onset_sample)

    @property
    def paced(self) -> bool:
        """Whether it was made at the lengths of a fit; else it is a natural take."""
        return self.request is not None and bool(self.request.targets)

    @property
    def natural_key(self) -> str:
        """The key of the request it was made from, whatever lengths it was given."""
        if self.request is None or not self.request.targets:
            return self.key
        return self.request.changed(targets=()).key


class WrittenPause(Value):
    """A pause of a given length after a word (counted from 0)."""

    after_word: int
    samples: int


class SpanTarget(Value):
    """How long the words up to `end_word` (from the target before) must last: voiced part and each natural
    pause."""

    end_word: int
    voiced_samples: int
    pauses: tuple[int, ...] = ()


class ProsodySpan(Value):
    """Words [first, end) with a pace, pitch and loudness of their own, against the rest."""

    first_word: int
    end_word: int
    pace: float = 1.0
    pitch_semitones: float = 0.0
    gain_db: float = 0.0


class VoicingRequest(Value):
    """All that a take's sound depends on. The same request is never voiced twice.

    `targets` are empty for a take at the natural pace, else they cover all words. `pauses` is a factor on the
    natural pauses; `pronunciations` do not overlap and stand in order, and so do `touches`.
    """

    text: str
    voice_id: str
    pace: float
    pitch_semitones: float
    written: tuple[WrittenPause, ...] = ()
    targets: tuple[SpanTarget, ...] = ()
    pitch_range: float = 1.0
    pauses: float = 1.0
    pronunciations: tuple[Pronunciation, ...] = ()
    touches: tuple[ProsodySpan, ...] = ()
    breaths: tuple[int, ...] = ()

    @property
    def key(self) -> str:
        """A hash of the request, the name under which its take is kept.

        What came later than the first release counts only where it is used: takes made before keep their
        keys.
        """
        document = self.model_dump()
        for name in _LATER:
            if document[name] == type(self).model_fields[name].default:
                del document[name]
        text = json.dumps(document, sort_keys=True, ensure_ascii=True)
        return hashlib.sha256(text.encode()).hexdigest()


_LATER = ("pitch_range", "pauses", "pronunciations", "touches", "breaths")


@lru_cache(maxsize=20_000)
def _natural(
    text: str, voice_id: str, manner: Manner, marks: tuple[Mark, ...], from_lexicon: tuple[Pronunciation, ...]
) -> tuple[VoicingRequest, str]:
    """A request and its key, kept: a timeline asks for those of every line each time it is built."""
    last = len(words_of(text)) - 1
    own = over_words(marks, Pronunciation)
    request = VoicingRequest(
        text=text,
        voice_id=voice_id,
        pace=manner.pace,
        pitch_semitones=manner.pitch_semitones,
        written=tuple(
            WrittenPause(after_word=word, samples=ticks_to_samples(ticks))
            for word, ticks in sorted(written_pauses(marks).items())
            if word < last
        ),
        pitch_range=manner.pitch_range,
        pauses=manner.pauses,
        pronunciations=tuple(sorted((*own, *from_lexicon), key=lambda mark: mark.first_word)),
        touches=prosody_spans(marks, last + 1),
        breaths=tuple(word for word in breaths(marks) if word < last),
    )
    return request, request.key


def natural_key(project: Project, line: Line, index: Index) -> str:
    """The key of what a line must be voiced from now."""
    return _natural(*_asked(project, line, index))[1]


def natural_request(project: Project, line: Line, index: Index | None = None) -> VoicingRequest:
    """What a line must be voiced from now, at the pace of its delivery."""
    return _natural(*_asked(project, line, index or Index(project)))[0]


def _asked(
    project: Project, line: Line, index: Index
) -> tuple[str, str, Manner, tuple[Mark, ...], tuple[Pronunciation, ...]]:
    said = said_text(project, line, index)
    marks = tuple(mark for mark in line.marks if not isinstance(mark, SyncPoint))
    found = index.lexicon.pronunciations(said, over_words(marks, Pronunciation)) if index.lexicon else ()
    return said, voice_of(line, index), manner_of(delivery_of(line, index)), marks, tuple(found)


EMPHASIS: dict[EmphasisLevel, tuple[float, float, float]] = {
    "strong": (0.86, 1.6, 3.5),
    "moderate": (0.93, 0.9, 1.8),
    "reduced": (1.08, -0.8, -3.0),
}
"""Pace, semitones and decibels of each level: weight in speech is length, pitch and loudness together (D. B.
Fry, Experiments in the perception of stress, Language and Speech 1958)."""


def prosody_spans(marks: Sequence[Mark], words: int) -> tuple[ProsodySpan, ...]:
    """Emphases and spans as stretches of words that each have one pace, pitch and loudness."""
    weights = [(1.0, 0.0, 0.0)] * words
    own = [
        ((m.pace, m.pitch_semitones, m.gain_db), m.first_word, m.end_word)
        for m in over_words(marks, SpanMark)
    ]
    own += [(EMPHASIS[m.level], m.first_word, m.end_word) for m in over_words(marks, Emphasis)]
    for (pace, semitones, gain), first, end in own:
        for word in range(first, min(end, words)):
            was = weights[word]
            weights[word] = (round(was[0] * pace, 4), was[1] + semitones, was[2] + gain)
    found: list[ProsodySpan] = []
    for weight, group in itertools.groupby(range(words), key=lambda word: weights[word]):
        stretch = list(group)
        if weight != (1.0, 0.0, 0.0):
            found.append(
                ProsodySpan(
                    first_word=stretch[0],
                    end_word=stretch[-1] + 1,
                    pace=weight[0],
                    pitch_semitones=weight[1],
                    gain_db=weight[2],
                )
            )
    return tuple(found)

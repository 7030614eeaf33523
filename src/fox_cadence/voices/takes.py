"""From a voicing request to a take: speech at the wanted pace, rests set, length exact, words timed.

A take of exact length is put together span by span. For each span the engine reads the whole text at the pace
that lands on the span's length (engines speak faster better than stretched sound does); its voiced parts are
stretched by what is left, and its rests are given their lengths.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

import numpy as np

from fox_cadence.core.takes import (
    Pause,
    PhonemeTime,
    ProsodySpan,
    SpanTarget,
    Take,
    VoicingRequest,
    WordTime,
)
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.core.words import words_of
from fox_cadence.errors import EngineError
from fox_cadence.media.audio import METER, Sound, measure_loudness
from fox_cadence.voices.engine import Abilities, Engine
from fox_cadence.voices.prosody import breath_in, directed
from fox_cadence.voices.reading import Reading, Rest, foreseen, read
from fox_cadence.voices.speech_shape import CROSSFADE, Mono, faded, pause_of, stretch
from fox_cadence.voices.voice import Voice

EDGE_PAD = SAMPLE_RATE_HZ * 10 // 1000
MOST_STRETCH = 0.025
"""Sound is stretched by no more than this; what an engine can't reach natively is reported as another length.
"""

_GOOD_ENOUGH = 0.003
_MOST_ROUNDS = 3


def make_take(engine: Engine, voice: Voice, request: VoicingRequest) -> tuple[Take, Sound]:
    """Voice a request.

    Returns:
        The take, its `sound_hash` and `id` still empty, and its sound (mono, 48 kHz).

    Raises:
        EngineError: the engine failed, or there was nothing to say.
    """
    if not words_of(request.text):
        raise EngineError("There is nothing to say in this line: it has no letters or numbers.")

    limits = engine.abilities()
    touches = _left_to_sound(request.touches, limits)

    def read_at(pace: float, rests_after: set[int] | None) -> Reading:
        plain = read(engine, voice, request, pace, rests_after)
        return directed(plain, touches, request.pauses)

    unit = round(limits.unit_s * SAMPLE_RATE_HZ)
    return _put_together(_Maker(read_at, (limits.pace_min, limits.pace_max), request, unit=unit), request)


def foresee_take(engine: Engine, voice: Voice, request: VoicingRequest) -> Reading:
    """How a request will be said at its natural length: what `make_take` would read, without sound.

    Raises:
        EngineError: as `make_take`.
    """
    if not words_of(request.text):
        raise EngineError("There is nothing to say in this line: it has no letters or numbers.")
    plain = foreseen(engine, voice, request)
    return directed(plain, _left_to_sound(request.touches, engine.abilities()), request.pauses)


def _left_to_sound(touches: Sequence[ProsodySpan], abilities: Abilities) -> list[ProsodySpan]:
    """What an engine has not done of them by itself."""
    if not abilities.directed:
        return list(touches)
    return [touch.changed(pace=1.0, pitch_semitones=0.0) for touch in touches]


def assembled(reading: Reading, request: VoicingRequest, most_stretch: float) -> tuple[Take, Sound]:
    """A take at the lengths of a request from one reading there is, such as a recording."""
    return _put_together(_Maker(lambda pace, rests: reading, (1.0, 1.0), request, most_stretch), request)


def _put_together(maker: "_Maker", request: VoicingRequest) -> tuple[Take, Sound]:
    natural = maker.natural
    joined = _Joined()
    first = 0
    for target in request.targets or (None,):
        end_word = target.end_word if target else len(natural.words)
        maker.add_span(joined, first, end_word, target)
        first = end_word
    return _as_take(request, joined), joined.padded()


@dataclass
class _Joined:
    """The sound in the making, from the first sound on.

    `places` says where the voiced parts of the newest span went: from, until (in its reading) and place.
    `tail` is what its reading says next, to fade out under the next span.
    """

    parts: list[Mono] = field(default_factory=list)
    at: int = 0
    words: list[tuple[int, int]] = field(default_factory=list)
    rests: list[tuple[int, int, bool]] = field(default_factory=list)
    phonemes: list[tuple[str, int]] = field(default_factory=list)
    stretch: float = 0.0
    places: list[tuple[int, int, int]] = field(default_factory=list)
    factor: float = 1.0
    tail: Mono = field(default_factory=lambda: np.zeros(0, np.float32))

    def add(self, sound: Mono) -> None:
        # two readings meet in running speech: let the first one fade into the second
        if len(self.tail) and len(sound):
            count = min(len(self.tail), len(sound))
            ramp = np.linspace(0, 1, count, dtype=np.float32)
            sound = sound.copy()
            sound[:count] = self.tail[:count] * (1 - ramp) + sound[:count] * ramp
        self.tail = self.tail[:0]
        self.parts.append(sound)
        self.at += len(sound)

    def placed(self, sample: int, after: bool) -> int:
        """Where a sample of the newest span's reading stands; `after` puts it behind a rest that begins just
        there."""
        place = self.places[0][2]
        for number, (start, until, at) in enumerate(self.places):
            if number and (sample < start or (sample == start and not after)):
                break
            place = at + round((min(max(sample, start), until) - start) * self.factor)
        return place

    def padded(self) -> Mono:
        """All of it with silence at both ends, turned down where it is over full scale: takes are brought to
        one loudness in the mix, and what is cut off here nobody can bring back."""
        sound = np.pad(np.concatenate(self.parts), EDGE_PAD).astype(np.float32)
        peak = float(np.abs(sound).max(initial=0.0))
        return sound * np.float32(HIGHEST_PEAK / peak) if peak > HIGHEST_PEAK else sound


HIGHEST_PEAK = 0.98


class _Maker:
    """Makes the spans of one request; `read_at` reads at a pace, with rests after given words or those it
    finds. Within `unit` samples of a length it is not read again, the rest is stretched."""

    def __init__(
        self,
        read_at: Callable[[float, set[int] | None], Reading],
        paces: tuple[float, float],
        request: VoicingRequest,
        most_stretch: float = MOST_STRETCH,
        unit: int = 0,
    ) -> None:
        self._read_at, self._paces, self._request, self._most = read_at, paces, request, most_stretch
        self._unit = unit
        self.natural = natural = read_at(request.pace, None)
        self._breaths = set(request.breaths)
        self._written = {mark.after_word: mark.samples for mark in request.written}
        self._natural_rests = {rest.after_word for rest in natural.rests if not rest.written}

    def add_span(self, joined: _Joined, first: int, end_word: int, target: SpanTarget | None) -> None:
        """Add the words [first, end); without a target as they are read naturally."""
        reading = self.natural if target is None else self._near(first, end_word, target.voiced_samples)
        rests = reading.rests_of(first, end_word)
        planned = iter(target.pauses if target else ())
        lengths = [
            self._written[rest.after_word] if rest.written else next(planned, rest.end - rest.start)
            for rest in rests
        ]
        factor = 1.0
        if target is not None:
            have = max(1, reading.voiced(first, end_word))
            factor = min(max(target.voiced_samples / have, 1 - self._most), 1 + self._most)
            joined.stretch = max(joined.stretch, abs(factor - 1))
        _Layer(joined, reading, factor, self._breaths).lay(
            reading.span(first, end_word), list(zip(rests, lengths, strict=True))
        )
        for begin, end in reading.words[first:end_word]:
            start = joined.placed(begin, after=True)
            joined.words.append((start, max(start, joined.placed(end, after=False))))
        low, high = reading.span(first, end_word)
        for ipa, sample in reading.phonemes:
            if low <= sample < high:
                joined.phonemes.append((ipa, joined.placed(sample, after=True)))

    def _near(self, first: int, end_word: int, wanted: int) -> Reading:
        """A reading whose words [first, end) last nearly so long, by the engine's own pace."""
        if wanted <= 0:
            raise EngineError("The line would have to be shorter than its pauses.")
        best, pace = self.natural, self._request.pace
        for _ in range(_MOST_ROUNDS):
            have = best.voiced(first, end_word)
            ratio = have / wanted
            near = abs(have - wanted) <= self._unit and abs(ratio - 1) <= self._most
            if near or abs(ratio - 1) <= _GOOD_ENOUGH:
                break
            pace = min(max(pace * ratio, self._paces[0]), self._paces[1])
            made = self._read_at(pace, self._natural_rests)
            if abs(made.voiced(first, end_word) / wanted - 1) >= abs(ratio - 1):
                break
            best = made
        return best


class _Layer:
    """Lays the voiced parts and the rests of one span, one after the other."""

    def __init__(self, joined: _Joined, reading: Reading, factor: float, breaths: set[int]) -> None:
        self._joined, self._sound, self._factor, self._breaths = joined, reading.sound, factor, breaths
        spoken = reading.sound[reading.onset : reading.end].astype(np.float64)
        self._rms = float(np.sqrt(np.mean(spoken**2))) if len(spoken) else 0.0
        self._voiced = 0

    def lay(self, span: tuple[int, int], rests: list[tuple[Rest, int]]) -> None:
        joined = self._joined
        joined.places = []
        joined.factor = self._factor
        at, cut = span[0], False
        for rest, length in rests:
            cut_here = rest.start == rest.end and length > 0
            self._part(at, rest.start, cut, cut_here)
            if length:
                joined.rests.append((joined.at, joined.at + length, rest.written))
                pause = pause_of(self._sound[rest.start : rest.end], length)
                joined.add(breath_in(pause, self._rms) if rest.after_word in self._breaths else pause)
            at, cut = rest.end, cut_here
        self._part(at, span[1], cut, False)
        joined.tail = self._sound[span[1] : span[1] + CROSSFADE] if at < span[1] else joined.tail[:0]

    def _part(self, start: int, until: int, cut_before: bool, cut_after: bool) -> None:
        length = until - start
        size = round((self._voiced + length) * self._factor) - round(self._voiced * self._factor)
        self._voiced += length
        self._joined.places.append((start, until, self._joined.at))
        if size > 0:
            self._joined.add(faded(stretch(self._sound[start:until], size), cut_before, cut_after))


def _as_take(request: VoicingRequest, joined: _Joined) -> Take:
    sound = joined.padded()
    return Take(
        id="",
        key=request.key,
        text=request.text,
        voice_id=request.voice_id,
        pace=request.pace,
        sound_hash="",
        sample_count=len(sound),
        onset_sample=EDGE_PAD,
        end_sample=EDGE_PAD + joined.at,
        words=tuple(
            WordTime(text=word.text, start_sample=EDGE_PAD + start, end_sample=EDGE_PAD + min(end, joined.at))
            for word, (start, end) in zip(words_of(request.text), joined.words, strict=True)
        ),
        pauses=tuple(
            Pause(start_sample=EDGE_PAD + start, end_sample=EDGE_PAD + end, written=written)
            for start, end, written in joined.rests
        ),
        loudness_lufs=round(measure_loudness(sound, true_peak=False).integrated_lufs, 2),
        meter=METER,
        phonemes=tuple(
            PhonemeTime(ipa=ipa, start_sample=EDGE_PAD + min(at, joined.at)) for ipa, at in joined.phonemes
        ),
        stretch=round(joined.stretch, 5),
        request=request,
    )

"""One go of an engine at a text: its sound at 48 kHz, the words in it, and the rests between them."""

import itertools
from collections.abc import Iterable
from dataclasses import dataclass, replace

import numpy as np

from fox_cadence.core.takes import VoicingRequest
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.errors import EngineError
from fox_cadence.media.audio import resample
from fox_cadence.voices.catalogue import unread
from fox_cadence.voices.engine import Abilities, Engine, Outline, Speech, Touch, Utterance
from fox_cadence.voices.script import Script, script_of
from fox_cadence.voices.speech_shape import LEAST_PAUSE_S, Mono, Shape, find_shape, quietest_near, transposed
from fox_cadence.voices.voice import Voice

SEMITONE_PITCH_STEPS = 7
"""espeak-ng's pitch runs 0 to 99; about seven steps are a semitone (measured, docs/benchmarks.md)."""

_BORDER_REACH = SAMPLE_RATE_HZ * 25 // 1000

NO_SOUND: Mono = np.zeros(0, np.float32)


@dataclass(frozen=True, slots=True)
class Rest:
    """A rest between two words: the samples [start, end) of it in the sound; `written` where a mark asked for
    it."""

    after_word: int
    start: int
    end: int
    written: bool = False


@dataclass(frozen=True, slots=True)
class Reading:
    """Samples at 48 kHz: first and last sound, begin and end of each word, rests in order, the begin of each
    phoneme. One that is only foreseen has no sound."""

    sound: Mono
    onset: int
    end: int
    words: tuple[tuple[int, int], ...]
    rests: tuple[Rest, ...]
    phonemes: tuple[tuple[str, int], ...] = ()

    def span(self, first_word: int, end_word: int) -> tuple[int, int]:
        """The samples of the words [first, end): from the begin of the first to the begin of the one after
        the last."""
        start = self.words[first_word][0] if first_word else self.onset
        return start, self.words[end_word][0] if end_word < len(self.words) else self.end

    def voiced(self, first_word: int, end_word: int) -> int:
        """Length of those words without the rests in them."""
        start, until = self.span(first_word, end_word)
        return until - start - sum(rest.end - rest.start for rest in self.rests_of(first_word, end_word))

    def rests_of(self, first_word: int, end_word: int) -> list[Rest]:
        """The rests among those words, and the one after them."""
        return [rest for rest in self.rests if first_word <= rest.after_word < end_word]


def read(
    engine: Engine, voice: Voice, request: VoicingRequest, pace: float, rests_after: set[int] | None
) -> Reading:
    """Let an engine read a text at a pace, before anything inside the line is directed.

    Args:
        rests_after: words after which a rest is expected; None takes all that last at least 100 ms. Written
            ones are added where the request asks for them.

    Raises:
        EngineError: the engine failed or made no sound.
    """
    abilities = engine.abilities()
    script, utterance = _utterance(abilities, voice, request, pace)
    speech = engine.say(utterance)
    if not np.any(speech.samples):
        raise EngineError(_no_sound(voice, request.text))
    sound = resample(speech.samples, speech.rate_hz)
    if not abilities.pitch:
        sound = transposed(sound, request.pitch_semitones)
    shape = find_shape(sound, LEAST_PAUSE_S / 3)
    if shape.end <= shape.onset:
        raise EngineError(_no_sound(voice, request.text))
    words = _word_times(script, speech, shape)
    rests = _rests(sound, words, shape, rests_after, {mark.after_word for mark in request.written})
    return Reading(sound, shape.onset, shape.end, _out_of_rests(words, rests), rests, _phonemes(speech))


def foreseen(engine: Engine, voice: Voice, request: VoicingRequest) -> Reading:
    """A reading without its sound, from what the engine settles before it; read in full where only the sound
    tells.

    Raises:
        EngineError: as `read`.
    """
    script, utterance = _utterance(engine.abilities(), voice, request, request.pace)
    outline = engine.foresee(utterance)
    if outline is None:
        return replace(read(engine, voice, request, request.pace, None), sound=NO_SOUND)
    if not outline.runs:
        raise EngineError(_no_sound(voice, request.text))
    scale = SAMPLE_RATE_HZ / outline.rate_hz
    runs = [(round(start * scale), round(end * scale)) for start, end in outline.runs]
    least = round(LEAST_PAUSE_S / 3 * SAMPLE_RATE_HZ)
    gaps = ((end, start) for (_, end), (start, _) in itertools.pairwise(runs))
    shape = Shape(runs[0][0], runs[-1][1], tuple((a, b) for a, b in gaps if b - a >= least))
    words = _word_times(script, outline, shape)
    rests = _rests(NO_SOUND, words, shape, None, {mark.after_word for mark in request.written})
    return Reading(NO_SOUND, shape.onset, shape.end, _out_of_rests(words, rests), rests)


def _utterance(
    abilities: Abilities, voice: Voice, request: VoicingRequest, pace: float
) -> tuple[Script, Utterance]:
    """What an engine is to be given for a request."""
    script = script_of(request.text, voice.language, request.pronunciations)
    until = [*script.begins[1:], len(script.text)]
    touches = [
        Touch(script.begins[touch.first_word], until[touch.end_word - 1], touch.pace, touch.pitch_semitones)
        for touch in request.touches
        if touch.end_word <= len(until)
    ]
    return script, Utterance(
        text=script.text,
        voice=voice.engine_voice,
        pace=pace,
        pitch=voice.pitch + round(request.pitch_semitones * SEMITONE_PITCH_STEPS),
        liveliness=round(voice.liveliness * request.pitch_range),
        sounds=script.sounds,
        semitones=request.pitch_semitones if abilities.directed else 0.0,
        spread=request.pitch_range if abilities.directed else 1.0,
        touches=tuple(touches) if abilities.directed else (),
    )


_MOST_NAMED = 60


def _no_sound(voice: Voice, text: str) -> str:
    """Why a voice said nothing of a text, and what to do."""
    scripts, words = unread(voice, text)
    named = words or text.strip()
    shown = named if len(named) <= _MOST_NAMED else f"{named[:_MOST_NAMED]}…"
    why = f"it {scripts}. " if scripts else ""
    return (
        f"{voice.name} has no sound for “{shown}”: {why}Give the line to another voice, or change its words."
    )


def _rests(
    sound: Mono, words: list[tuple[int, int]], shape: Shape, expected: set[int] | None, written: Iterable[int]
) -> tuple[Rest, ...]:
    least = round(LEAST_PAUSE_S * SAMPLE_RATE_HZ)
    found: dict[int, Rest] = {}
    for start, end in shape.pauses:
        begun = [index for index, (begin, _) in enumerate(words) if begin < (start + end) // 2]
        rest = Rest(begun[-1] if begun else 0, start, end)
        if rest.after_word + 1 >= len(words):
            continue
        wanted = end - start >= least if expected is None else rest.after_word in expected
        known = found.get(rest.after_word)
        if wanted and (known is None or known.end - known.start < end - start):
            found[rest.after_word] = rest
    for word in set(written) | (expected or set()):
        if word + 1 >= len(words):
            continue
        if word not in found:
            place = words[word + 1][0]
            if len(sound):
                place = quietest_near(sound, place, _BORDER_REACH)
            found[word] = Rest(word, place, place)
    marked = set(written)
    return tuple(
        Rest(rest.after_word, rest.start, rest.end, rest.after_word in marked)
        for rest in sorted(found.values(), key=lambda rest: rest.start)
    )


def _out_of_rests(words: list[tuple[int, int]], rests: tuple[Rest, ...]) -> tuple[tuple[int, int], ...]:
    """Words end before the rest after them and begin after the rest before them."""
    moved = [list(word) for word in words]
    for rest in rests:
        here, following = moved[rest.after_word], moved[rest.after_word + 1]
        here[1] = max(here[0], min(here[1], rest.start))
        following[0] = max(following[0], rest.end) if following[0] < rest.end else following[0]
        if rest.start == rest.end:
            here[1], following[0] = max(here[0], rest.start), rest.end
        following[1] = max(following[1], following[0])
    return tuple((begin, end) for begin, end in moved)


def _phonemes(speech: Speech | Outline) -> tuple[tuple[str, int], ...]:
    """Phonemes with their begins at 48 kHz."""
    scale = SAMPLE_RATE_HZ / speech.rate_hz
    return tuple((ipa, round(sample * scale)) for ipa, sample in speech.phonemes)


def _word_times(script: Script, speech: Speech | Outline, shape: Shape) -> list[tuple[int, int]]:
    """Begin and end of each word. Words the engine gave no event for are placed at phoneme starts."""
    count = len(script.begins)
    scale = SAMPLE_RATE_HZ / speech.rate_hz
    found: dict[int, int] = {}
    for at, sample in speech.onsets:
        found.setdefault(script.word_at(at), round(sample * scale))
    found[0] = shape.onset
    phonemes = [sample for _, sample in _phonemes(speech)]
    starts: list[int] = []
    for index in range(count):
        if index in found:
            starts.append(found[index])
            continue
        before = max(i for i in found if i < index)
        after = min((i for i in found if i > index), default=count)
        begin, end = found[before], found.get(after, shape.end)
        letters = script.letters[before:after]
        guess = begin + (end - begin) * sum(letters[: index - before]) // sum(letters)
        near = [sample for sample in phonemes if begin < sample < end]
        starts.append(min(near, key=lambda sample: abs(sample - guess)) if near else guess)
    return _with_ends(starts, shape)


def _with_ends(starts: list[int], shape: Shape) -> list[tuple[int, int]]:
    """Keep starts in order and out of silences; a word ends where the next begins or the silence before it
    does."""
    ordered: list[int] = []
    for start in starts:
        start = min(max(start, shape.onset, ordered[-1] if ordered else 0), shape.end)
        for pause_start, pause_end in shape.pauses:
            if pause_start < start < pause_end:
                start = pause_end
        ordered.append(start)
    ends: list[int] = []
    for index, start in enumerate(ordered):
        end = ordered[index + 1] if index + 1 < len(ordered) else shape.end
        inside = [a for a, b in shape.pauses if start < a < end and b >= end - 1]
        ends.append(max(start, min([end, *inside])))
    return list(zip(ordered, ends, strict=True))

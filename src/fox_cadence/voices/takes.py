"""From a voicing request to a take: speech at the wanted pace, pauses set, length exact, words timed."""

import itertools
from dataclasses import dataclass

import numpy as np

from fox_cadence.core.takes import Pause, Take, VoicingRequest, WordTime
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.core.words import words_of
from fox_cadence.errors import EngineError
from fox_cadence.media.audio import Sound, measure_loudness, resample
from fox_cadence.voices.catalogue import Voice
from fox_cadence.voices.engine import Engine, Speech, Utterance
from fox_cadence.voices.speech_shape import Mono, Shape, find_shape, set_pauses, stretch

EDGE_PAD = SAMPLE_RATE_HZ * 10 // 1000
SEMITONE_PITCH_STEPS = 4
"""espeak-ng's pitch runs 0 to 99; about four steps are a semitone around the middle (measured, docs/benchmarks.md)."""

_GOOD_ENOUGH = 0.003
_MOST_ROUNDS = 3


@dataclass(frozen=True, slots=True)
class _Reading:
    """A sound cut to its speech, with its words and pauses; samples at 48 kHz."""

    sound: Mono
    shape: Shape
    words: tuple[tuple[int, int], ...]

    @property
    def paused(self) -> int:
        return sum(end - start for start, end in self.shape.pauses)

    @property
    def voiced(self) -> int:
        return self.shape.end - self.shape.onset - self.paused


def make_take(engine: Engine, voice: Voice, request: VoicingRequest) -> tuple[Take, Sound]:
    """Voice a request.

    Returns:
        The take, its `sound_hash` and `id` still empty, and its sound (mono, 48 kHz).

    Raises:
        EngineError: the engine failed, or there was nothing to say.
    """
    if not words_of(request.text):
        raise EngineError("There is nothing to say in this line: it has no letters or numbers.")
    reading = _read(engine, voice, request, request.pace)
    if request.speech_samples is not None:
        reading = _to_length(engine, voice, request, reading)
    return _as_take(request, reading), reading.sound


def _read(engine: Engine, voice: Voice, request: VoicingRequest, pace: float) -> _Reading:
    speech = engine.say(
        Utterance(
            text=request.text,
            voice=voice.engine_voice,
            pace=pace,
            pitch=voice.pitch + round(request.pitch_semitones * SEMITONE_PITCH_STEPS),
            liveliness=voice.liveliness,
        )
    )
    sound = resample(speech.samples, speech.rate_hz)
    shape = find_shape(sound)
    if shape.end <= shape.onset or not np.any(sound):
        raise EngineError("The voice made no sound for this line.")
    start = max(0, shape.onset - EDGE_PAD)
    end = min(len(sound), shape.end + EDGE_PAD)
    moved = Shape(shape.onset - start, shape.end - start, tuple((a - start, b - start) for a, b in shape.pauses))
    words = _word_times(request.text, speech, shape)
    return _Reading(sound[start:end], moved, tuple((a - start, b - start) for a, b in words))


def _to_length(engine: Engine, voice: Voice, request: VoicingRequest, natural: _Reading) -> _Reading:
    """Ask the engine for the pace that lands on the length, correct it, then set pauses and stretch what is left."""
    speech = request.speech_samples or 0
    natural_share = natural.paused / max(1, natural.paused + natural.voiced)
    pauses = request.pause_samples if request.pause_samples is not None else round(speech * natural_share)
    pace, best = request.pace, natural
    for _ in range(_MOST_ROUNDS):
        wanted = speech - (pauses if best.shape.pauses else 0)
        if wanted <= 0:
            raise EngineError("The line would have to be shorter than its pauses.")
        ratio = best.voiced / wanted
        if abs(ratio - 1) <= _GOOD_ENOUGH:
            break
        limits = engine.abilities()
        pace = min(max(pace * ratio, limits.pace_min), limits.pace_max)
        made = _read(engine, voice, request, pace)
        if abs(made.voiced / wanted - 1) >= abs(ratio - 1):
            break
        best = made
    return _exact(best, speech, pauses if best.shape.pauses else 0)


def _exact(reading: _Reading, speech: int, pauses: int) -> _Reading:
    """Stretch the voiced part and set the pauses so that first to last sound is `speech` samples, no more, no less."""
    body = reading.sound[reading.shape.onset : reading.shape.end]
    factor = (speech - pauses) / reading.voiced
    body = stretch(body, max(1, round(len(body) * factor)))
    ratio = len(body) / (reading.shape.end - reading.shape.onset)

    def scaled(sample: int) -> int:
        return min(len(body), max(0, round((sample - reading.shape.onset) * ratio)))

    old = tuple((scaled(start), scaled(end)) for start, end in reading.shape.pauses)
    have = [end - start for start, end in old]
    budget = speech - (len(body) - sum(have)) if old else 0
    lengths = _share(budget, have)
    made = set_pauses(body, old, tuple(lengths))
    made = np.pad(made, (0, max(0, speech - len(made))))[:speech]

    def moved(sample: int) -> int:
        """A place in the stretched sound, after its pauses were set."""
        at = scaled(sample)
        shift = 0
        for (start, end), wanted in zip(old, lengths, strict=True):
            if at >= end:
                shift += wanted - (end - start)
            elif at > start:
                return start + shift + min(at - start, wanted)
        return min(speech, at + shift)

    words = tuple((moved(start) + EDGE_PAD, moved(end) + EDGE_PAD) for start, end in reading.words)
    spans = tuple((moved(start) + EDGE_PAD, moved(end) + EDGE_PAD) for start, end in reading.shape.pauses)
    return _Reading(np.pad(made, EDGE_PAD).astype(np.float32), Shape(EDGE_PAD, EDGE_PAD + speech, spans), words)


def _share(total: int, weights: list[int]) -> list[int]:
    """Divide a total in proportion to weights into whole numbers that add up to it."""
    whole = sum(weights)
    if whole == 0:
        return [0] * len(weights)
    total = max(0, total)
    edges = [0]
    seen = 0
    for weight in weights:
        seen += weight
        edges.append(total * seen // whole)
    return [b - a for a, b in itertools.pairwise(edges)]


def _word_times(text: str, speech: Speech, shape: Shape) -> tuple[tuple[int, int], ...]:
    """Start and end of each word at 48 kHz. Words the engine gave no event for are placed at phoneme starts."""
    words = words_of(text)
    scale = SAMPLE_RATE_HZ / speech.rate_hz
    found: dict[int, int] = {}
    for at, sample in speech.onsets:
        for index, word in enumerate(words):
            if word.start <= at < word.end_exclusive:
                found.setdefault(index, round(sample * scale))
                break
    found.setdefault(0, shape.onset)
    phonemes = [round(sample * scale) for sample in speech.phonemes]
    starts: list[int] = []
    for index in range(len(words)):
        if index in found:
            starts.append(found[index])
            continue
        before = max(i for i in found if i < index)
        after = min((i for i in found if i > index), default=len(words))
        begin, end = found[before], found.get(after, shape.end)
        letters = [len(words[i].text) for i in range(before, after)]
        guess = begin + (end - begin) * sum(letters[: index - before]) // sum(letters)
        near = [sample for sample in phonemes if begin < sample < end]
        starts.append(min(near, key=lambda sample: abs(sample - guess)) if near else guess)
    return _with_ends(starts, shape)


def _with_ends(starts: list[int], shape: Shape) -> tuple[tuple[int, int], ...]:
    """Keep starts in order and out of pauses; a word ends where the next begins or the pause before it does."""
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
    return tuple(zip(ordered, ends, strict=True))


def _as_take(request: VoicingRequest, reading: _Reading) -> Take:
    return Take(
        id="",
        key=request.key,
        text=request.text,
        voice_id=request.voice_id,
        pace=request.pace,
        sound_hash="",
        sample_count=len(reading.sound),
        onset_sample=reading.shape.onset,
        end_sample=reading.shape.end,
        words=tuple(
            WordTime(text=word.text, start_sample=start, end_sample=end)
            for word, (start, end) in zip(words_of(request.text), reading.words, strict=True)
        ),
        pauses=tuple(Pause(start_sample=start, end_sample=end) for start, end in reading.shape.pauses),
        loudness_lufs=round(measure_loudness(reading.sound).integrated_lufs, 2),
    )

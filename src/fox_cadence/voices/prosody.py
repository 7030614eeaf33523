"""Direction inside a line: words with a pace, pitch and loudness of their own, and breaths.

Done on the sound, so that every engine can be directed alike: the words are cut out of the reading, stretched
and transposed, and laid back with crossfades; times of words and rests move along.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from fox_cadence.core.takes import ProsodySpan
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.voices.reading import Reading
from fox_cadence.voices.speech_shape import CROSSFADE, Mono, pause_of, stretch, transposed

_GAIN_RAMP = SAMPLE_RATE_HZ * 20 // 1000
_BREATH_DB = -22.0
_BREATH_S = 0.30


@dataclass(frozen=True, slots=True)
class _Piece:
    """Samples [start, end) of the reading that become `length` samples, moved by semitones."""

    start: int
    end: int
    length: int
    semitones: float = 0.0
    rest: bool = False


def directed(reading: Reading, touches: Sequence[ProsodySpan], pauses: float) -> Reading:
    """A reading with words at their own pace, pitch and loudness, and its natural rests `pauses` times as
    long."""
    if not touches and pauses == 1:
        return reading
    pieces = _pieces(reading, touches, pauses)
    if all(piece.length == piece.end - piece.start and not piece.semitones for piece in pieces):
        sound, edges = reading.sound, [(0, 0), (reading.end, reading.end)]
    else:
        edges = _edges(pieces)
        sound = _laid(reading.sound, pieces) if len(reading.sound) else reading.sound
    old, new = np.array(edges).T

    def moved(sample: int) -> int:
        return round(float(np.interp(sample, old, new)))

    made = Reading(
        sound,
        moved(reading.onset),
        moved(reading.end),
        tuple((moved(start), moved(end)) for start, end in reading.words),
        tuple(replace(rest, start=moved(rest.start), end=moved(rest.end)) for rest in reading.rests),
        tuple((ipa, moved(sample)) for ipa, sample in reading.phonemes),
    )
    gains = [
        (made.span(touch.first_word, touch.end_word), touch.gain_db) for touch in touches if touch.gain_db
    ]
    return replace(made, sound=_with_gains(made.sound, gains)) if gains and len(made.sound) else made


def _pieces(reading: Reading, touches: Sequence[ProsodySpan], pauses: float) -> list[_Piece]:
    """The reading cut at the borders of touches and rests, in order and without holes."""
    pace = [1.0] * len(reading.words)
    semitones = [0.0] * len(reading.words)
    for touch in touches:
        for word in range(touch.first_word, min(touch.end_word, len(pace))):
            pace[word], semitones[word] = touch.pace, touch.pitch_semitones
    rests = {rest.after_word: rest for rest in reading.rests}
    pieces = [_Piece(0, reading.onset, reading.onset)]
    at, first = reading.onset, 0
    for word in range(len(reading.words)):
        rest = rests.get(word)
        last = word + 1 == len(reading.words)
        same = not last and (pace[word + 1], semitones[word + 1]) == (pace[first], semitones[first])
        if rest is None and same:
            continue
        until = rest.start if rest else (reading.end if last else reading.words[word + 1][0])
        until = max(at, until)
        pieces.append(_Piece(at, until, round((until - at) / pace[first]), semitones[first]))
        at, first = until, word + 1
        if rest is not None and rest.end > at:
            length = rest.end - at
            pieces.append(_Piece(at, rest.end, length if rest.written else round(length * pauses), rest=True))
            at = rest.end
    left = max(0, len(reading.sound) - at)
    return [*pieces, _Piece(at, at + left, left)]


def _edges(pieces: Sequence[_Piece]) -> list[tuple[int, int]]:
    """Where the borders of pieces were and where they come to stand."""
    edges, at = [(0, 0)], 0
    for piece in pieces:
        at += piece.length
        edges.append((piece.end, at))
    return edges


def _laid(sound: Mono, pieces: Sequence[_Piece]) -> Mono:
    """Pieces laid one after the other with crossfades."""
    total = sum(piece.length for piece in pieces)
    made = np.zeros(total, np.float32)
    at = 0
    half = CROSSFADE // 2
    for piece in pieces:
        if piece.length > 0:
            before, after = (
                min(half, at, piece.start),
                min(half, total - at - piece.length, len(sound) - piece.end),
            )
            part = _made(sound[piece.start - before : piece.end + after], piece, before + after)
            _fade(part, 2 * before, 2 * after)
            made[at - before : at - before + len(part)] += part
        at += piece.length
    return made


def _made(part: Mono, piece: _Piece, margin: int) -> Mono:
    length = piece.length + margin
    if piece.rest:
        return pause_of(part, length).copy()
    moved = transposed(part, piece.semitones) if piece.semitones else part
    return stretch(moved, length).copy()


def _fade(part: Mono, begin: int, end: int) -> None:
    if 0 < begin <= len(part):
        part[:begin] *= np.linspace(0, 1, begin, dtype=np.float32)
    if 0 < end <= len(part):
        part[-end:] *= np.linspace(1, 0, end, dtype=np.float32)


def _with_gains(sound: Mono, gains: Sequence[tuple[tuple[int, int], float]]) -> Mono:
    level = np.zeros(len(sound), np.float32)
    for (start, end), decibels in gains:
        level[start:end] += decibels
    kernel = np.hanning(_GAIN_RAMP + 2)[1:-1]
    level = np.convolve(level, kernel / kernel.sum(), mode="same")
    made = sound * np.float32(10) ** (level / 20).astype(np.float32)
    peak = float(np.max(np.abs(made), initial=0.0))
    return np.asarray(made * np.float32(0.99 / peak) if peak > 0.99 else made, dtype=np.float32)


def breath_in(pause: Mono, speech_rms: float) -> Mono:
    """A pause with an intake of breath in it: noise of the mouth's band that swells and dies away."""
    length = min(len(pause), round(_BREATH_S * SAMPLE_RATE_HZ))
    if length < SAMPLE_RATE_HZ // 20:
        return pause
    noise = np.random.default_rng(7).standard_normal(length)
    spectrum = np.fft.rfft(noise)
    hertz = np.fft.rfftfreq(length, 1 / SAMPLE_RATE_HZ)
    spectrum *= np.exp(-(((np.log2(np.maximum(hertz, 1)) - np.log2(1900)) / 1.1) ** 2))
    swell = np.sin(np.linspace(0, np.pi, length) ** 1.15 / np.pi**0.15) ** 2
    shaped = np.fft.irfft(spectrum, length) * swell
    level = float(np.sqrt(np.mean(shaped**2))) or 1.0
    made = pause.copy()
    start = (len(pause) - length) // 2
    made[start : start + length] += (shaped * speech_rms * 10 ** (_BREATH_DB / 20) / level).astype(np.float32)
    return made

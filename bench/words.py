"""Times of words: our own against forced alignment of the same sound by pocketsphinx, on 24 lines an engine;
and set pauses against what was asked. Also how well words that were said otherwise are told in a recording.
"""

from dataclasses import dataclass

import numpy as np

from bench.clock import quantile
from bench.corpus import NARRATED
from fox_cadence.core.takes import Take, VoicingRequest, WrittenPause
from fox_cadence.core.words import plain, words_of
from fox_cadence.media.audio import Sound
from fox_cadence.media.isolated import no_progress
from fox_cadence.voices.alignment import OtherTextError, align_english
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.speech_shape import find_shape
from fox_cadence.voices.takes import make_take
from fox_cadence.voices.voice import Voice

VOICES = ("wren", "holt", "en-maren", "en-finch", "orla")
LINES = 24
ASKED_S = 0.35
SWAPPED = "lantern"
"""A word that stands in none of the lines."""


@dataclass(frozen=True)
class Measured:
    """Milliseconds: word begins off the alignment less their median, that median, pauses off what was
    asked."""

    off: list[float]
    constant: float
    pauses: list[float]
    told: tuple[int, int]
    false: tuple[int, int]


def rows() -> list[str]:
    engines = Engines()
    found = [
        "| voice | words | constant | off after it: median | p95 | set pauses, heard: off, median | within "
        "5 ms "
        "| words said otherwise told | words as written called doubtful |",
        "| --- | --- | --- | --- | --- | --- | --- | --- | --- |",
    ]
    try:
        for voice_id in VOICES:
            voice = voice_by_id(voice_id)
            assert voice is not None
            made = _measure(engines, voice)
            found.append(
                f"| {voice.name} ({voice.engine}) | {len(made.off)} | {made.constant:+.0f} ms "
                f"| {quantile(made.off, 0.5):.0f} ms | {quantile(made.off, 0.95):.0f} ms "
                f"| {quantile(made.pauses, 0.5):.0f} ms "
                f"| {sum(off <= 5.01 for off in made.pauses)} of {len(made.pauses)} "
                f"| {made.told[0]} of {made.told[1]} | {made.false[0]} of {made.false[1]} |"
            )
    finally:
        engines.close()
    return found


def _measure(engines: Engines, voice: Voice) -> Measured:
    raw: list[float] = []
    pauses: list[float] = []
    told = doubted = words = lines = 0
    for text in NARRATED[:LINES]:
        take, sound = _said(
            engines, voice, VoicingRequest(text=text, voice_id=voice.id, pace=1.0, pitch_semitones=0.0)
        )
        try:
            found = align_english(_room(sound), _spoken(text), {}, no_progress)
        except OtherTextError:
            doubted += len(take.words)
            words += len(take.words)
            continue
        raw += [
            (word.start_sample - (start - _EDGE)) / 48
            for (start, _), word in zip(found.words, take.words, strict=True)
        ]
        doubted += len(found.doubtful)
        words += len(take.words)
        if len(take.words) > 1:
            pauses.append(_pause_off(engines, voice, text))
        lines += 1
        told += _told(sound, text)
    constant = float(np.median(raw))
    return Measured([abs(each - constant) for each in raw], constant, pauses, (told, lines), (doubted, words))


_EDGE = 9600


def _room(sound: Sound) -> Sound:
    padded = np.pad(sound, _EDGE)
    return (padded + np.random.default_rng(2).normal(0, 0.0008, len(padded))).astype(np.float32)


def _spoken(text: str) -> list[list[str]]:
    return [
        [part for part in plain(word.text).replace("’", "'").split("-") if part] for word in words_of(text)
    ]


def _said(engines: Engines, voice: Voice, request: VoicingRequest) -> tuple[Take, Sound]:
    return make_take(engines.of(voice), voice, request)


def _pause_off(engines: Engines, voice: Voice, text: str) -> float:
    """Milliseconds by which the silence heard after the middle word is off the pause that was set there.

    A closure of a plosive beside it is heard as silence too, and makes it longer than what was put in.
    """
    middle = (len(words_of(text)) - 1) // 2
    written = (WrittenPause(after_word=middle, samples=round(ASKED_S * 48_000)),)
    request = VoicingRequest(text=text, voice_id=voice.id, pace=1.0, pitch_semitones=0.0, written=written)
    take, sound = _said(engines, voice, request)
    put_in = next(pause for pause in take.pauses if pause.written)
    heard = [(a, b) for a, b in find_shape(sound).pauses if a < put_in.end_sample and b > put_in.start_sample]
    return abs(heard[0][1] - heard[0][0] - written[0].samples) / 48


def _told(sound: Sound, text: str) -> int:
    """1 when the longest word of a line, replaced by another in the text, is told as said otherwise."""
    words = _spoken(text)
    longest = max(range(len(words)), key=lambda place: len("".join(words[place])))
    wrong = [[SWAPPED] if place == longest else parts for place, parts in enumerate(words)]
    try:
        return int(longest in align_english(_room(sound), wrong, {}, no_progress).doubtful)
    except OtherTextError:
        return 1

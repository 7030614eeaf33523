"""Words of recordings against where they begin, in rooms and after breaths; and draft words without a
script."""

import difflib
import time

import numpy as np
from numpy.typing import NDArray

from bench.clock import quantile
from bench.corpus import NARRATED
from fox_cadence.core.takes import Take, VoicingRequest
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.core.words import plain, words_of
from fox_cadence.media.audio import Sound
from fox_cadence.media.isolated import no_progress
from fox_cadence.voices.alignment import align_english, draft_words, stretches_of
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.recorded import Cut, recorded_take
from fox_cadence.voices.takes import EDGE_PAD, make_take

VOICES = ("wren", "holt", "maeve")
LINES = 5
ROOMS = ((-70, False), (-70, True), (-40, True), (-32, False), (-26, False))
"""Noise in dB against about the level of the speech, and whether somebody breathes in before the first word.
"""

LEAD, AFTER, BREATH = 24_000, 20_000, 12_000
DRAFTED = 6


def rows() -> list[str]:
    engines = Engines()
    try:
        said = [_said(engines, voice_id, text) for voice_id in VOICES for text in NARRATED[:LINES]]
        drafted = [_said(engines, voice_id, text) for voice_id in VOICES[:2] for text in NARRATED[:DRAFTED]]
    finally:
        engines.close()
    found = [
        f"{len(said)} lines of {len(VOICES)} voices:",
        "",
        "| room | first word, median and worst | other words, median and p95 |",
        "| --- | --- | --- |",
    ]
    rng = np.random.default_rng(3)
    for noise_db, breathes in ROOMS:
        first: list[float] = []
        others: list[float] = []
        for take, sound in said:
            off = _off(take, sound, noise_db, breathes, rng)
            first.append(off[0])
            others += off[1:]
        room = f"−{-noise_db} dB" + (", a breath" if breathes else "")
        found.append(
            f"| {room} | {quantile(first, 0.5):.0f}, {max(first):.0f} ms "
            f"| {quantile(others, 0.5):.0f}, {quantile(others, 0.95):.0f} ms |"
        )
    return [*found, "", _draft(drafted, rng)]


def _said(engines: Engines, voice_id: str, text: str) -> tuple[Take, Sound]:
    voice = voice_by_id(voice_id)
    assert voice is not None
    return make_take(
        engines.of(voice), voice, VoicingRequest(text=text, voice_id=voice_id, pace=1, pitch_semitones=0)
    )


def _off(take: Take, sound: Sound, noise_db: float, breathes: bool, rng: np.random.Generator) -> list[float]:
    """By how many milliseconds each word of a take cut out of a recording begins beside where it was said."""
    peak = float(np.max(np.abs(sound)))
    laid = np.pad(sound, (LEAD, AFTER)).astype(np.float64)
    if breathes:
        laid[LEAD - 16_000 : LEAD - 4_000] += rng.normal(0, 0.03 * peak, BREATH) * np.hanning(BREATH)
    laid += rng.normal(0, peak * 0.35 * 10 ** (noise_db / 20), len(laid))
    recording = laid.astype(np.float32)
    words = [[plain(word.text)] for word in words_of(take.text)]
    made, heard = recorded_take(
        recording, Cut(take.text, align_english(recording, words, {}, no_progress).words)
    )
    begins = _place(heard, recording) - LEAD
    pairs = zip(made.words, take.words, strict=True)
    return [
        abs(begins + word.start_sample - true.start_sample) * 1000 / SAMPLE_RATE_HZ for word, true in pairs
    ]


def _place(part: Sound, whole: Sound) -> int:
    """The sample of a recording at which a take that was cut out of it begins, by correlation of its
    middle."""
    inside = EDGE_PAD + 2000
    probe: NDArray[np.float32] = part[inside : len(part) - inside]
    size = 1 << (len(whole) + len(probe)).bit_length()
    product = np.fft.irfft(np.fft.rfft(whole, size) * np.conj(np.fft.rfft(probe, size)), size)
    return int(np.argmax(product[: len(whole)])) - inside


def _draft(said: list[tuple[Take, Sound]], rng: np.random.Generator) -> str:
    rest = np.zeros(SAMPLE_RATE_HZ // 2, np.float32)
    sound = np.concatenate([part for _, spoken in said for part in (spoken, rest)])
    heard = (sound + rng.normal(0, 0.0008, len(sound))).astype(np.float32)
    began = time.process_time()
    words = draft_words(heard, stretches_of(heard), no_progress)
    seconds = time.process_time() - began
    true = [plain(word.text) for take, _ in said for word in words_of(take.text)]
    right = difflib.SequenceMatcher(None, true, [word.text for word in words]).ratio()
    return (
        f"Draft words of {len(heard) / SAMPLE_RATE_HZ:.0f} s of speech: {seconds:.1f} s of CPU, "
        f"{right:.2f} of them right (difflib's ratio)."
    )

"""How long a line will last, told before there is any sound, against the take that is made of it later."""

import time

import numpy as np

from bench.corpus import NARRATED, WRITTEN
from fox_cadence.core.languages import primary
from fox_cadence.core.takes import VoicingRequest
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.takes import foresee_take, make_take
from fox_cadence.voices.voice import Voice

VOICES = ("en-maren", "en-finch", "es-alba", "holt", "wren", "orla")
LINES = 22
_MS = SAMPLE_RATE_HZ / 1000


def rows() -> list[str]:
    """A table, a row a voice."""
    engines = Engines()
    found = [
        "| voice | lines | length: median off | p95 | of its length: median | p95 | words: median off | p95 "
        "| answer: median | longest |",
        "| --- " * 10 + "|",
    ]
    try:
        found += [_row(engines, voice) for voice in (voice_by_id(each) for each in VOICES) if voice]
    finally:
        engines.close()
    return found


def _row(engines: Engines, voice: Voice) -> str:
    engine = engines.of(voice)
    texts = NARRATED[:LINES] if primary(voice.language) == "en" else WRITTEN[primary(voice.language)][:LINES]
    off: list[float] = []
    share: list[float] = []
    words: list[float] = []
    took: list[float] = []
    for text in texts:
        request = VoicingRequest(text=text, voice_id=voice.id, pace=1.0, pitch_semitones=0)
        began = time.perf_counter()
        known = foresee_take(engine, voice, request)
        took.append(time.perf_counter() - began)
        take, _ = make_take(engine, voice, request)
        length = take.end_sample - take.onset_sample
        off.append(abs(known.end - known.onset - length) / _MS)
        share.append(abs(known.end - known.onset - length) / length)
        words += [
            abs((start - known.onset) - (word.start_sample - take.onset_sample)) / _MS
            for (start, _), word in zip(known.words, take.words, strict=True)
        ]
    told = [
        *(f"{np.quantile(off, q):.1f} ms" for q in (0.5, 0.95)),
        *(f"{np.quantile(share, q):.2%}" for q in (0.5, 0.95)),
        *(f"{np.quantile(words, q):.1f} ms" for q in (0.5, 0.95)),
        f"{np.median(took[1:]) * 1000:.0f} ms",
        f"{max(took[1:]) * 1000:.0f} ms",
    ]
    return f"| {voice.name} ({voice.engine}) | {len(texts)} | {' | '.join(told)} |"

"""Natural voices beside espeak-ng: how soon a line is heard, and how near it lands to a length that was asked
for."""

import time

import numpy as np

from bench.clock import quantile
from bench.corpus import NARRATED
from fox_cadence.core.takes import SpanTarget, Take, VoicingRequest
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.engine import Utterance
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.neural_engine import NeuralEngine
from fox_cadence.voices.takes import make_take
from fox_cadence.voices.voice import Voice

VOICES = ("wren", "holt", "en-maren", "en-finch", "orla")
PACES = (0.93, 1.08, 1.15)


def rows() -> list[str]:
    """A table, a row a voice; lines of `bench.corpus.NARRATED` at their natural pace and at three others."""
    engines = Engines()
    found = [
        "| voice | first line, with loading | a line: median | p95 | bare engine: median | off its length, "
        "worst "
        "| stretch: median | largest |",
        "| --- | --- | --- | --- | --- | --- | --- | --- |",
    ]
    try:
        found += [_row(engines, voice) for voice in (voice_by_id(voice_id) for voice_id in VOICES) if voice]
    finally:
        engines.close()
    return found


def _row(engines: Engines, voice: Voice) -> str:
    began = time.perf_counter()
    _natural(engines, voice, "Low water.")
    first = time.perf_counter() - began
    whole: list[float] = []
    bare: list[float] = []
    off: list[float] = []
    stretch: list[float] = []
    for text in NARRATED:
        began = time.perf_counter()
        take = _natural(engines, voice, text)
        whole.append(time.perf_counter() - began)
        began = time.perf_counter()
        engine = engines.of(voice)
        said = Utterance(text, voice.engine_voice, 1.0, voice.pitch, voice.liveliness)
        # what was said before is kept, and would be no measure of the engine
        engine._speak(said) if isinstance(engine, NeuralEngine) else engine.say(said)
        bare.append(time.perf_counter() - began)
        for pace in PACES:
            missed, stretched = _at_pace(engines, voice, take, pace)
            off.append(missed)
            stretch.append(stretched)
    each = (quantile(whole, 0.5), quantile(whole, 0.95), quantile(bare, 0.5))
    times = " | ".join([f"{first:.1f} s", *(f"{seconds:.2f} s" for seconds in each)])
    lengths = f"{max(off):.2f} ms | {np.median(stretch):.2%} | {max(stretch):.2%}"
    return f"| {voice.name} ({voice.engine}) | {times} | {lengths} |"


def _request(voice: Voice, text: str) -> VoicingRequest:
    return VoicingRequest(text=text, voice_id=voice.id, pace=1.0, pitch_semitones=0)


def _natural(engines: Engines, voice: Voice, text: str) -> Take:
    return make_take(engines.of(voice), voice, _request(voice, text))[0]


def _at_pace(engines: Engines, voice: Voice, natural: Take, pace: float) -> tuple[float, float]:
    """Milliseconds by which a take misses its length, and how far it was stretched."""
    pauses = tuple(pause.end_sample - pause.start_sample for pause in natural.pauses)
    voiced = natural.end_sample - natural.onset_sample - sum(pauses)
    target = SpanTarget(end_word=len(natural.words), voiced_samples=round(voiced / pace), pauses=pauses)
    request = _request(voice, natural.text).changed(targets=(target,))
    take, _ = make_take(engines.of(voice), voice, request)
    wanted = target.voiced_samples + sum(pauses)
    return abs(take.end_sample - take.onset_sample - wanted) / 48, take.stretch

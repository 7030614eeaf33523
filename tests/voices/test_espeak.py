"""The engine in its process, for real."""

import os
import signal
from collections.abc import Iterator

import numpy as np
import pytest

from fox_cadence.errors import EngineError
from fox_cadence.voices.catalogue import VOICES, sample_text
from fox_cadence.voices.engine import Utterance
from fox_cadence.voices.espeak import EspeakEngine
from fox_cadence.voices.voice import Voice


@pytest.fixture(scope="module")
def engine() -> Iterator[EspeakEngine]:
    made = EspeakEngine()
    yield made
    made.close()


def say(engine: EspeakEngine, text: str, voice: str = "gmw/en+f3", pace: float = 1.0) -> np.ndarray:
    return engine.say(Utterance(text, voice, pace, 50, 50)).samples


@pytest.mark.parametrize("voice", [v for v in VOICES if v.engine == "espeak-ng"], ids=lambda voice: voice.id)
def test_every_voice_speaks(engine: EspeakEngine, voice: Voice) -> None:
    speech = engine.say(Utterance(sample_text(voice), voice.engine_voice, 1.0, voice.pitch, voice.liveliness))
    assert len(speech.samples) > speech.rate_hz / 2
    assert np.abs(speech.samples).max() > 0.05
    assert speech.onsets


def test_the_same_words_give_the_same_samples(engine: EspeakEngine) -> None:
    first = say(engine, "A hermit crab tries on a shell.")
    say(engine, "Something else in between, louder!", "gmw/de+m3", 1.6)
    assert np.array_equal(first, say(engine, "A hermit crab tries on a shell."))


def test_pace_changes_the_length(engine: EspeakEngine) -> None:
    lengths = [len(say(engine, "The tide turns twice a day.", pace=pace)) for pace in (0.8, 1.0, 1.3)]
    assert lengths[0] > lengths[1] > lengths[2]


@pytest.mark.parametrize(
    "text", ["a\0b", "<audio src='/etc/passwd'>x</audio>", "[[h@l'oU]]", "é" * 400, "..."]
)
def test_odd_text_is_spoken_or_silent_and_never_kills_the_engine(engine: EspeakEngine, text: str) -> None:
    say(engine, text)
    assert len(say(engine, "Still here.")) > 1000


def test_an_unknown_voice_is_refused_by_name(engine: EspeakEngine) -> None:
    with pytest.raises(EngineError, match="gmw/none"):
        say(engine, "x", "gmw/none")


def test_a_text_without_end_is_refused(engine: EspeakEngine) -> None:
    with pytest.raises(EngineError, match="too long"):
        say(engine, "tide " * 10_000)


def test_a_worker_that_was_killed_is_started_again(engine: EspeakEngine) -> None:
    before = say(engine, "Still here.")
    worker = engine._worker._workers[0]._process
    assert worker is not None
    os.kill(worker.pid, signal.SIGKILL)
    worker.wait()
    assert np.array_equal(before, say(engine, "Still here."))

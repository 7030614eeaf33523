from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context

import numpy as np
import pytest

from fox_cadence.core.takes import VoicingRequest
from fox_cadence.errors import EngineError
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.making import make


@pytest.fixture(scope="module")
def engines() -> Engines:
    return Engines()


def test_a_take_made_in_another_process_is_the_same_to_the_sample(engines: Engines) -> None:
    voice = voice_by_id("orla")
    assert voice is not None
    request = VoicingRequest(
        text="The tide goes out. A crab waits.", voice_id="orla", pace=1.1, pitch_semitones=0
    )
    here = make(engines, voice, request)
    with ProcessPoolExecutor(1, get_context("spawn")) as elsewhere:
        there = elsewhere.submit(make, engines, voice, request).result(timeout=60)
    assert there.take == here.take
    assert np.array_equal(there.sound, here.sound)
    assert there.seconds > 0


def test_what_a_line_has_no_words_for_is_an_error_of_that_line(engines: Engines) -> None:
    voice = voice_by_id("orla")
    assert voice is not None
    with pytest.raises(EngineError, match="nothing to say"):
        make(engines, voice, VoicingRequest(text="…", voice_id="orla", pace=1, pitch_semitones=0))
    engines.close()

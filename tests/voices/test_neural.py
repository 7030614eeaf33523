"""Natural voices in their processes, for real; and what they are made of."""

import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bench.pitch import median_pitch_hz
from fox_cadence.core.takes import VoicingRequest
from fox_cadence.core.words import words_of
from fox_cadence.errors import EngineError
from fox_cadence.voices.catalogue import NATURAL, voice_for_language
from fox_cadence.voices.duration_graph import brought_to
from fox_cadence.voices.engine import Speech, Utterance
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.takes import make_take
from fox_cadence.voices.voice import Voice
from fox_cadence.voices.word_borders import STRESS, word_begins

every_natural_voice = pytest.mark.parametrize("voice", NATURAL, ids=lambda voice: voice.id)
TEXT = "For the 12 limpets, the tide is a door. Then it shuts."


def say(engines: Engines, voice: Voice, text: str = TEXT, pace: float = 1.0) -> Speech:
    return engines.of(voice).say(Utterance(text, voice.engine_voice, pace, 50, 50))


@every_natural_voice
def test_every_word_has_an_event_in_order(engines: Engines, voice: Voice) -> None:
    speech = say(engines, voice)
    assert [at for at, _ in speech.onsets] == [word.start for word in words_of(TEXT)]
    begins = [sample for _, sample in speech.onsets]
    assert all(a < b for a, b in itertools.pairwise(begins))
    assert np.abs(speech.samples[begins[0] :]).max() > 0.05


@every_natural_voice
def test_pace_changes_the_length_and_each_gives_the_same_samples_again(
    engines: Engines, voice: Voice
) -> None:
    slow, natural, fast = (say(engines, voice, pace=pace) for pace in (0.8, 1.0, 1.25))
    length = len(natural.samples)
    assert len(slow.samples) == pytest.approx(length / 0.8, rel=0.03)
    assert len(fast.samples) == pytest.approx(length / 1.25, rel=0.03)
    assert np.array_equal(natural.samples, say(engines, voice).samples)


@every_natural_voice
@pytest.mark.parametrize("text", ["a\0b <break time='9s'/> [[h@l'oU]]", "潮だまり", "é" * 300])
def test_odd_text_is_spoken_or_silent_and_never_kills_the_engine(
    engines: Engines, voice: Voice, text: str
) -> None:
    say(engines, voice, text)
    assert len(say(engines, voice, "Still here.").samples) > 5000


@every_natural_voice
def test_a_role_may_have_another_pitch_though_the_engine_has_none(engines: Engines, voice: Voice) -> None:
    def pitch(semitones: float) -> float:
        wanted = VoicingRequest(text=TEXT, voice_id=voice.id, pace=1.0, pitch_semitones=semitones)
        take, sound = make_take(engines.of(voice), voice, wanted)
        return median_pitch_hz(sound[take.onset_sample : take.end_sample])

    assert 12 * np.log2(pitch(4) / pitch(0)) == pytest.approx(4, abs=0.7)


def test_what_cannot_be_said_is_an_error_in_words_and_the_next_line_is_said(engines: Engines) -> None:
    wren = NATURAL[0]
    with pytest.raises(EngineError, match="no neural voice"):
        engines.of(wren).say(Utterance("Hello.", "hibari:nobody", 1.0, 50, 50))
    with pytest.raises(EngineError, match="longer than 300 s"):
        say(engines, wren, "The tide turns twice a day. " * 200)
    with pytest.raises(EngineError, match="engine elsewhere is not installed"):
        engines.of(wren.model_copy(update={"engine": "elsewhere"}))
    assert len(say(engines, wren, "Still here.").samples) > 5000


def test_english_is_spoken_by_a_natural_voice_unless_its_region_has_a_voice_of_its_own() -> None:
    assert voice_for_language("en").natural
    assert voice_for_language("en-AU").natural
    assert voice_for_language("en-GB").region == "Britain"
    assert voice_for_language("es").language.startswith("es")


@given(st.lists(st.integers(0, 20), min_size=1, max_size=60), st.floats(0.4, 2.5))
def test_lengths_come_to_the_total_and_no_phoneme_is_lost(steps: list[int], factor: float) -> None:
    made = brought_to(np.array(steps), factor)
    assert ((made > 0) == (np.array(steps) > 0)).all()
    least = sum(step > 0 for step in steps)
    assert abs(made.sum() - max(sum(steps) * factor, least)) <= 3


sounds = st.text("tdsaiəɹln", min_size=1, max_size=6)


@given(st.lists(sounds, min_size=1, max_size=12), st.sampled_from([" ", ", ", " ˈ"]))
def test_words_that_are_said_as_they_are_alone_begin_where_they_begin(words: list[str], between: str) -> None:
    begins = word_begins(list(between.join(words)), [list(f"ˈ{word}") for word in words])
    starts = list(itertools.accumulate((len(word) + len(between) for word in words), initial=0))[:-1]
    behind = between[:-1] if between[-1] in STRESS else between
    assert begins == [at - (len(between) - len(behind) if at else 0) for at in starts]


def test_words_that_run_into_one_another_are_told_apart() -> None:
    begins = word_begins(
        list("fɚðə tˈaɪd, ænd"), [list("fˈɔːɹ"), list("ðˈə"), list("tˈaɪd"), list("ˈænd"), []]
    )
    assert begins == [0, 2, 5, 12, None]

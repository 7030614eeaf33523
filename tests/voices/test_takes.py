import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.takes import SpanTarget, VoicingRequest, WrittenPause
from fox_cadence.core.words import words_of
from fox_cadence.errors import EngineError
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.speech_shape import find_shape, pause_of, stretch
from fox_cadence.voices.takes import EDGE_PAD, HIGHEST_PEAK, _Joined, make_take

TEXT = "Turn a starfish over and it rights itself. Slowly. For the 5 km, it has all the time in the world."


def request(text: str = TEXT, **change: object) -> VoicingRequest:
    return VoicingRequest(text=text, voice_id="orla", pace=1.0, pitch_semitones=0).changed(**change)


def take(engines: Engines, wanted: VoicingRequest):  # type: ignore[no-untyped-def]
    voice = voice_by_id(wanted.voice_id)
    assert voice is not None
    return make_take(engines.of(voice), voice, wanted)


@pytest.mark.parametrize("voice", ["orla", "pell", "bruno", "remi", "greta", "wren", "holt"])
def test_every_word_has_its_time_in_order(engines: Engines, voice: str) -> None:
    made, sound = take(engines, request(voice_id=voice))
    assert [word.text for word in made.words] == [word.text for word in words_of(TEXT)]
    edges = [edge for word in made.words for edge in (word.start_sample, word.end_sample)]
    assert edges == sorted(edges)
    assert made.words[0].start_sample == made.onset_sample
    assert made.words[-1].end_sample <= made.end_sample <= len(sound)
    assert sum(word.end_sample > word.start_sample for word in made.words) == len(made.words)


def test_words_are_loud_and_pauses_are_quiet(engines: Engines) -> None:
    made, sound = take(engines, request())
    assert made.pauses
    peak = np.abs(sound).max()
    for pause in made.pauses:
        assert np.abs(sound[pause.start_sample + 480 : pause.end_sample - 480]).max() < peak * 0.02
    for word in made.words:
        assert np.abs(sound[word.start_sample : word.end_sample]).max() > peak * 0.02


@pytest.mark.parametrize("voice", ["orla", "pell", "elodie", "wren", "holt"])
@pytest.mark.parametrize("pace", [0.94, 1.04, 1.15])
def test_a_paced_take_lasts_what_the_plan_says_to_the_sample(
    engines: Engines, voice: str, pace: float
) -> None:
    natural, _ = take(engines, request(voice_id=voice))
    paused = sum(pause.end_sample - pause.start_sample for pause in natural.pauses)
    voiced = natural.end_sample - natural.onset_sample - paused
    each = tuple(round((pause.end_sample - pause.start_sample) * 0.6) for pause in natural.pauses)
    target = SpanTarget(end_word=len(natural.words), voiced_samples=round(voiced / pace), pauses=each)
    made, sound = take(engines, request(voice_id=voice, targets=(target,)))
    assert abs(made.end_sample - made.onset_sample - target.voiced_samples - sum(each)) <= len(each) + 1
    assert made.stretch <= 0.025
    shape = find_shape(sound)
    assert abs(shape.onset - made.onset_sample) <= 240 + 48
    assert abs(shape.end - made.end_sample) <= 480


def test_the_same_request_gives_the_same_sound_and_another_gives_another_key(engines: Engines) -> None:
    first, sound = take(engines, request())
    again, same = take(engines, request())
    assert np.array_equal(sound, same)
    assert first.key == again.key
    keys = {
        request().key,
        request("Other words.").key,
        request(voice_id="pell").key,
        request(pace=1.1).key,
        request(pitch_semitones=1.0).key,
        request(written=(WrittenPause(after_word=0, samples=9000),)).key,
        request(targets=(SpanTarget(end_word=2, voiced_samples=9000),)).key,
    }
    assert len(keys) == 7


@pytest.mark.parametrize("text", ["", "   ", "...", "—"])
def test_nothing_to_say_is_an_error_in_words(engines: Engines, text: str) -> None:
    with pytest.raises(EngineError, match="nothing to say"):
        take(engines, request(text))


@given(st.integers(2000, 90_000), st.floats(0.8, 1.25))
def test_stretching_is_exact_to_the_sample(length: int, factor: float) -> None:
    sound = np.sin(np.arange(length) * 0.05).astype(np.float32)
    assert len(stretch(sound, round(length * factor))) == round(length * factor)


@given(st.integers(500, 20_000), st.integers(0, 30_000))
def test_pauses_get_just_the_length_asked(have: int, wanted: int) -> None:
    tone = np.random.default_rng(1).normal(0, 0.001, have).astype(np.float32)
    assert len(pause_of(tone, wanted)) == wanted


def test_written_pauses_last_what_was_asked_and_nothing_else_moves(engines: Engines) -> None:
    plain, _ = take(engines, request("The whole pool holds its breath, then lets it go."))
    marks = (WrittenPause(after_word=2, samples=24_000), WrittenPause(after_word=5, samples=4_800))
    made, sound = take(engines, request("The whole pool holds its breath, then lets it go.", written=marks))
    written = [pause for pause in made.pauses if pause.written]
    assert [pause.end_sample - pause.start_sample for pause in written] == [24_000, 4_800]
    for pause, after in zip(written, (2, 5), strict=True):
        assert made.words[after].end_sample <= pause.start_sample
        assert made.words[after + 1].start_sample == pause.end_sample
        assert (
            np.abs(sound[pause.start_sample + 480 : pause.end_sample - 480]).max()
            < 0.02 * np.abs(sound).max()
        )
    voiced = [
        t.end_sample - t.onset_sample - sum(p.end_sample - p.start_sample for p in t.pauses)
        for t in (plain, made)
    ]
    assert abs(voiced[0] - voiced[1]) < 48 * 60


def test_spans_each_last_what_they_were_told_and_meet_at_the_word(engines: Engines) -> None:
    text = "Turn a starfish over and it rights itself without any hurry."
    natural, _ = take(engines, request(text))
    cut = 5
    first = natural.words[cut].start_sample - natural.onset_sample
    rest = natural.end_sample - natural.words[cut].start_sample
    targets = (
        SpanTarget(end_word=cut, voiced_samples=round(first / 1.1)),
        SpanTarget(end_word=len(natural.words), voiced_samples=round(rest / 0.95)),
    )
    made, _ = take(engines, request(text, targets=targets))
    assert abs(made.words[cut].start_sample - made.onset_sample - round(first / 1.1)) <= 2
    assert abs(made.end_sample - made.words[cut].start_sample - round(rest / 0.95)) <= 2
    assert made.stretch < 0.025


def test_the_shape_of_a_sound_is_found() -> None:
    rate = 48000
    tone = np.sin(np.arange(rate) * 0.3).astype(np.float32)
    silence = np.zeros(rate // 2, np.float32)
    shape = find_shape(np.concatenate([silence, tone, silence[: rate // 4], tone, silence]))
    assert abs(shape.onset - rate // 2) <= 240
    assert abs(shape.end - (rate // 2 + 2 * rate + rate // 4)) <= 240
    assert len(shape.pauses) == 1
    assert abs(shape.pauses[0][0] - 3 * rate // 2) <= 240


def test_a_hiss_after_the_last_word_is_no_part_of_it_and_a_quiet_end_is() -> None:
    rate, rng = 48000, np.random.default_rng(1)
    tone = np.sin(np.arange(rate) * 0.3).astype(np.float32)
    quiet_end = tone[: rate // 10] * 0.02  # 34 dB down for a tenth of a second, as a last consonant may be
    hiss = rng.normal(0, 0.0068, rate // 2).astype(np.float32)  # about the floor: some frames are over it
    hiss[-480:] *= 1.5
    shape = find_shape(np.concatenate([tone, quiet_end, hiss * 0.6, hiss]))
    assert abs(shape.end - (rate + rate // 10)) <= 240
    assert shape.pauses == ()


def test_a_sound_over_full_scale_is_turned_down_and_not_cut() -> None:
    loud = (1.3 * np.sin(np.arange(4_800) / 20)).astype(np.float32)
    joined = _Joined()
    joined.add(loud)
    made = joined.padded()
    assert np.abs(made).max() == pytest.approx(HIGHEST_PEAK)
    assert np.allclose(made[EDGE_PAD:-EDGE_PAD], loud * (HIGHEST_PEAK / np.abs(loud).max()), atol=1e-6)
    quiet = _Joined()
    quiet.add((loud / 2).astype(np.float32))
    assert np.array_equal(quiet.padded()[EDGE_PAD:-EDGE_PAD], loud / 2)

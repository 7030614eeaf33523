"""Recorded takes: aligned to their words, cut, trimmed, told from another text, and brought to the lengths of a fit."""

from collections.abc import Iterator

import numpy as np
import pytest

from fox_cadence.core.takes import SpanTarget, Take, VoicingRequest, WrittenPause
from fox_cadence.core.words import plain, words_of
from fox_cadence.media.audio import Sound
from fox_cadence.media.isolated import no_progress
from fox_cadence.voices.alignment import OtherTextError, align_english, arpabet, draft_words
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.recorded import Cut, brought_to_lengths, recorded_take
from fox_cadence.voices.takes import EDGE_PAD, make_take
from fox_cadence.voices.warping import warped

ONE = "Twice a day, the sea leaves Marrow Bay."
TWO = "A hermit crab tries on a shell, then another."


@pytest.fixture(scope="module")
def engines() -> Iterator[Engines]:
    made = Engines()
    yield made
    made.close()


def spoken(engines: Engines, text: str, voice_id: str) -> tuple[Take, Sound]:
    voice = voice_by_id(voice_id)
    assert voice is not None
    return make_take(engines.of(voice), voice, VoicingRequest(text=text, voice_id=voice_id, pace=1, pitch_semitones=0))


def room(sound: Sound, before: int, after: int) -> Sound:
    """As a microphone has it: quiet noise before, under and after."""
    padded = np.pad(sound, (before, after))
    return (padded + np.random.default_rng(5).normal(0, 0.0008, len(padded))).astype(np.float32)


def parts(text: str) -> list[list[str]]:
    return [[plain(word.text)] for word in words_of(text)]


@pytest.mark.parametrize("voice_id", ["wren", "holt"])
def test_the_words_of_an_english_recording_are_found(engines: Engines, voice_id: str) -> None:
    take, sound = spoken(engines, ONE, voice_id)
    found = align_english(room(sound, 30_000, 20_000), parts(ONE), {}, no_progress)
    assert found.doubtful == ()
    off = [(start - 30_000 - word.start_sample) / 48 for (start, _), word in zip(found.words, take.words, strict=True)]
    assert float(np.median(np.abs(off))) < 40  # milliseconds


def test_a_word_that_was_said_otherwise_is_told(engines: Engines) -> None:
    _, sound = spoken(engines, TWO.replace("shell", "jacket"), "wren")
    found = align_english(room(sound, 20_000, 20_000), parts(TWO), {}, no_progress)
    assert [words_of(TWO)[place].text for place in found.doubtful] == ["shell,"]


def test_a_recording_of_another_text_is_refused(engines: Engines) -> None:
    _, sound = spoken(engines, "Nothing of this is in the script, whatever it may be.", "wren")
    with pytest.raises(OtherTextError):
        align_english(room(sound, 9600, 9600), parts(ONE), {}, no_progress)


def test_words_no_dictionary_has_are_spelled_out_from_their_sound(engines: Engines) -> None:
    assert arpabet("vɹˈækshəʊlm") == "V R AE K S HH OW L M"
    _, sound = spoken(engines, "The ferry goes to Vraxholm twice.", "wren")
    words = [["the"], ["ferry"], ["goes"], ["to"], ["vraxholm"], ["twice"]]
    assert len(align_english(room(sound, 9600, 9600), words, {"vraxholm": "vɹækshoʊlm"}, no_progress).words) == 6


def test_a_recording_in_any_language_is_found_by_a_reading_of_another_voice(engines: Engines) -> None:
    text = "Dos veces al día, el mar se va de la bahía."
    reading, read = spoken(engines, text, "ines")
    take, sound = spoken(engines, text, "anselmo")
    moments = [word.start_sample for word in reading.words]
    found = warped(read, room(sound, 24_000, 24_000), moments)
    off = [abs(place - 24_000 - word.start_sample) / 48 for place, word in zip(found, take.words, strict=True)]
    assert float(np.median(off)) < 60


def test_a_long_recording_is_cut_into_trimmed_lines(engines: Engines) -> None:
    (first, one), (second, two) = spoken(engines, ONE, "wren"), spoken(engines, TWO, "wren")
    sound = room(np.concatenate([one, np.zeros(40_000, np.float32), two]), 48_000, 48_000)
    found = align_english(sound, [*parts(ONE), *parts(TWO)], {}, no_progress)
    cut = len(words_of(ONE))
    take, heard = recorded_take(sound, Cut(TWO, found.words[cut:]), before=found.words[cut - 1][1])
    assert take.recorded
    assert (take.onset_sample, take.sample_count) == (EDGE_PAD, len(heard))
    assert take.end_sample - take.onset_sample == pytest.approx(second.end_sample - second.onset_sample, abs=1500)
    assert take.words[0].start_sample == EDGE_PAD
    assert take.words[-1].end_sample == take.end_sample
    assert len(take.pauses) == len(second.pauses)
    starts = [word.start_sample for word in take.words]
    assert starts == sorted(starts)
    assert first.text == ONE


def test_a_recorded_take_lands_on_the_length_of_a_fit_and_takes_written_pauses(engines: Engines) -> None:
    _, sound = spoken(engines, ONE, "wren")
    quiet = room(sound, 9600, 9600)
    found = align_english(quiet, parts(ONE), {}, no_progress)
    take, heard = recorded_take(quiet, Cut(ONE, found.words))
    pauses = tuple(12_000 for pause in take.pauses)
    request = VoicingRequest(
        text=ONE,
        voice_id="recorded x",
        pace=1,
        pitch_semitones=0,
        written=(WrittenPause(after_word=4, samples=9600),),
        targets=(SpanTarget(end_word=8, voiced_samples=80_000, pauses=pauses),),
    )
    made, _ = brought_to_lengths(take, heard, request)
    assert made.recorded
    assert made.end_sample - made.onset_sample == 80_000 + 12_000 * len(pauses) + 9600
    assert [p.end_sample - p.start_sample for p in made.pauses if p.written] == [9600]


def test_a_recording_without_a_script_gives_draft_words(engines: Engines) -> None:
    _, sound = spoken(engines, "The first one came back again.", "wren")
    words = draft_words(room(sound, 9600, 9600), no_progress)
    assert len({"the", "first", "one", "came", "back", "again"} & {word.text for word in words}) >= 4
    assert all(word.start < word.end for word in words)

"""Recorded takes: aligned to their words, cut, trimmed, told from another text, and brought to the lengths of
a fit."""

import itertools
from collections.abc import Iterator

import numpy as np
import pytest

from fox_cadence.core.takes import SpanTarget, Take, VoicingRequest, WrittenPause
from fox_cadence.core.words import plain, words_of
from fox_cadence.media.audio import Sound
from fox_cadence.media.isolated import no_progress
from fox_cadence.voices.alignment import OtherTextError, align_english, arpabet, draft_words, stretches_of
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
    return make_take(
        engines.of(voice), voice, VoicingRequest(text=text, voice_id=voice_id, pace=1, pitch_semitones=0)
    )


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
    off = [
        (start - 30_000 - word.start_sample) / 48
        for (start, _), word in zip(found.words, take.words, strict=True)
    ]
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
    assert (
        len(align_english(room(sound, 9600, 9600), words, {"vraxholm": "vɹækshoʊlm"}, no_progress).words) == 6
    )


def test_a_recording_in_any_language_is_found_by_a_reading_of_another_voice(engines: Engines) -> None:
    text = "Dos veces al día, el mar se va de la bahía."
    reading, read = spoken(engines, text, "ines")
    take, sound = spoken(engines, text, "anselmo")
    moments = [word.start_sample for word in reading.words]
    found = warped(read, room(sound, 24_000, 24_000), moments)
    off = [
        abs(place - 24_000 - word.start_sample) / 48 for place, word in zip(found, take.words, strict=True)
    ]
    assert float(np.median(off)) < 60


def test_a_long_recording_is_cut_into_trimmed_lines(engines: Engines) -> None:
    (first, one), (second, two) = spoken(engines, ONE, "wren"), spoken(engines, TWO, "wren")
    sound = room(np.concatenate([one, np.zeros(40_000, np.float32), two]), 48_000, 48_000)
    found = align_english(sound, [*parts(ONE), *parts(TWO)], {}, no_progress)
    cut = len(words_of(ONE))
    take, heard = recorded_take(sound, Cut(TWO, found.words[cut:]), before=found.words[cut - 1][1])
    assert take.recorded
    assert (take.onset_sample, take.sample_count) == (EDGE_PAD, len(heard))
    assert take.end_sample - take.onset_sample == pytest.approx(
        second.end_sample - second.onset_sample, abs=1500
    )
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
    heard = room(sound, 9600, 9600)
    words = draft_words(heard, stretches_of(heard), no_progress)
    assert len({"the", "first", "one", "came", "back", "again"} & {word.text for word in words}) >= 4
    assert all(word.start < word.end for word in words)


def breath(length: int, level: float) -> Sound:
    noise = np.random.default_rng(7).normal(0, level, length)
    return (noise * np.hanning(length)).astype(np.float32)


@pytest.mark.parametrize("room_db", [-70, -40, -34])
@pytest.mark.parametrize("breathing", [False, True])
def test_words_of_a_recording_begin_where_they_are_heard(
    engines: Engines, room_db: float, breathing: bool
) -> None:
    """The first words too: neither the room nor a breath before them is given to them."""
    first: list[float] = []
    others: list[float] = []
    lead = 24_000
    for voice_id in ("wren", "holt"):
        for text in (ONE, TWO, "Home is a groove and I ground it myself."):
            take, sound = spoken(engines, text, voice_id)
            peak = float(np.max(np.abs(sound)))
            laid = np.pad(sound, (lead, 20_000))
            if breathing:
                laid[lead - 16_000 : lead - 4_000] += breath(12_000, peak * 0.03)
            room = np.random.default_rng(9).normal(0, peak * 0.35 * 10 ** (room_db / 20), len(laid))
            found = align_english((laid + room).astype(np.float32), parts(text), {}, no_progress)
            made, heard = recorded_take(laid.astype(np.float32), Cut(text, found.words))
            begins = place_of(heard, laid)
            off = [
                (begins + word.start_sample - lead - true.start_sample) / 48
                for word, true in zip(made.words, take.words, strict=True)
            ]
            first.append(abs(off[0]))
            others += [abs(each) for each in off[1:]]
    assert float(np.median(first)) < 30  # milliseconds
    assert max(first) < 120
    assert float(np.median(others)) < 30


def place_of(part: Sound, whole: np.ndarray) -> int:
    """The sample of a recording at which a take cut out of it begins."""
    probe = part[EDGE_PAD + 2000 : len(part) - EDGE_PAD - 2000]
    size = 1 << (len(whole) + len(probe)).bit_length()
    product = np.fft.irfft(np.fft.rfft(whole, size) * np.conj(np.fft.rfft(probe, size)), size)
    return int(np.argmax(product[: len(whole)])) - (EDGE_PAD + 2000)


def test_a_recording_is_listened_to_in_stretches_that_cover_it_and_begin_in_rests() -> None:
    rng = np.random.default_rng(2)
    spoken_part = rng.normal(0, 0.1, 48_000 * 4).astype(np.float32)
    rest = np.zeros(48_000, np.float32)
    sound = np.concatenate(
        [*[part for _ in range(9) for part in (spoken_part, rest)], np.tile(spoken_part, 8)]
    )
    found = stretches_of(sound + rng.normal(0, 1e-4, len(sound)).astype(np.float32))
    assert (found[0][0], found[-1][1]) == (0, len(sound))
    assert all(one[1] == other[0] for one, other in itertools.pairwise(found))
    assert all(end - start <= 15 * 48_000 for start, end in found)
    cuts = [start for start, _ in found[1:] if start < 45 * 48_000]
    assert all(not np.any(sound[cut - 2400 : cut + 2400]) for cut in cuts)

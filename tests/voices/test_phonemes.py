"""The sounds of a take: which, in order, inside their words; they move along when a take is brought to other
lengths or recorded."""

import itertools
from collections.abc import Iterator

import numpy as np
import pytest

from fox_cadence.core.figures.visemes import visemes_of
from fox_cadence.core.marks import Pronunciation
from fox_cadence.core.takes import ProsodySpan, SpanTarget, Take, VoicingRequest, WrittenPause
from fox_cadence.media.isolated import no_progress
from fox_cadence.voices.alignment import align_english
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.recorded import Cut, brought_to_lengths, recorded_take
from fox_cadence.voices.takes import make_take

TEXT = "Maybe the people of the bay bought a pot."
LIPS = [1]
"""The number of the shape in which lips meet."""


@pytest.fixture(scope="module")
def engines() -> Iterator[Engines]:
    made = Engines()
    yield made
    made.close()


def said(engines: Engines, voice_id: str, text: str = TEXT, **change: object) -> Take:
    voice = voice_by_id(voice_id)
    assert voice is not None
    plain = VoicingRequest(text=text, voice_id=voice_id, pace=1, pitch_semitones=0)
    return make_take(engines.of(voice), voice, plain.changed(**change))[0]


def lips_by_word(take: Take) -> list[int]:
    """How many sounds with shut lips begin within each word."""
    meets = [each.start_sample for each in take.phonemes if [v.number for v in visemes_of(each.ipa)] == LIPS]
    return [sum(word.start_sample <= at < word.end_sample for at in meets) for word in take.words]


@pytest.mark.parametrize("voice_id", ["orla", "wren", "en-maren", "holt"])
def test_the_sounds_of_a_take_lie_in_order_within_their_words(engines: Engines, voice_id: str) -> None:
    take = said(engines, voice_id)
    begins = [each.start_sample for each in take.phonemes]
    assert begins == sorted(begins)
    assert take.onset_sample - 2_400 <= begins[0] <= take.onset_sample + 4_800
    assert begins[-1] < take.end_sample
    wanted = [2, 0, 2, 0, 0, 1, 1, 0, 1]  # maybe, people, bay, bought, pot
    off = [abs(found - number) for found, number in zip(lips_by_word(take), wanted, strict=True)]
    assert sum(off) <= 2  # a border of words may fall a little to either side of a sound


@pytest.mark.parametrize("voice_id", ["orla", "en-maren"])
def test_they_move_along_when_a_take_is_made_longer_paused_or_directed(
    engines: Engines, voice_id: str
) -> None:
    plain = said(engines, voice_id)
    voiced = plain.end_sample - plain.onset_sample
    for change in (
        {"targets": (SpanTarget(end_word=9, voiced_samples=round(voiced * 1.2)),)},
        {"written": (WrittenPause(after_word=3, samples=24_000),)},
        {"touches": (ProsodySpan(first_word=2, end_word=4, pace=0.8),)},
    ):
        made = said(engines, voice_id, **change)
        assert len(made.phonemes) == len(plain.phonemes)
        old, new = (_within_words(take) for take in (plain, made))
        assert np.median(np.abs(old - new)) < 0.1
        assert np.abs(old - new).max() < 1  # beside a pause that was put in, one may come to its other side


def _within_words(take: Take) -> np.ndarray:
    """Where sounds lie among the begins of words: 2.5 is halfway from the third to the fourth."""
    edges = [*(word.start_sample for word in take.words), take.words[-1].end_sample]
    return np.interp([each.start_sample for each in take.phonemes], edges, range(len(edges)))


def test_a_pronunciation_is_seen_in_the_sounds(engines: Engines) -> None:
    spelled = (Pronunciation(first_word=5, end_word=6, ipa="ki"),)
    plain, changed = said(engines, "orla"), said(engines, "orla", pronunciations=spelled)
    assert lips_by_word(plain)[5] == 1
    assert lips_by_word(changed)[5] == 0


def test_a_recording_has_its_sounds_from_its_alignment_and_keeps_them_at_other_lengths(
    engines: Engines,
) -> None:
    voice = voice_by_id("en-maren")
    assert voice is not None
    request = VoicingRequest(text=TEXT, voice_id="en-maren", pace=1, pitch_semitones=0)
    take, sound = make_take(engines.of(voice), voice, request)
    words = [[word.text.lower().strip(".")] for word in take.words]
    noise = np.random.default_rng(5).normal(0, 0.0008, len(sound) + 40_000)
    heard = (np.pad(sound, (24_000, 16_000)) + noise).astype(np.float32)
    found = align_english(heard, words, {}, no_progress)
    recorded, own = recorded_take(heard, Cut(TEXT, found.words, found.phonemes))
    meets, others = (
        [e.start_sample for e in each.phonemes if [v.number for v in visemes_of(e.ipa)] == LIPS]
        for each in (take, recorded)
    )
    assert len(meets) == len(others) == 7
    shift = recorded.onset_sample - take.onset_sample
    off = [abs(a + shift - b) / 48 for a, b in zip(meets, others, strict=True)]
    assert float(np.median(off)) < 45  # milliseconds
    longer = request.changed(
        targets=(
            SpanTarget(
                end_word=9, voiced_samples=round((recorded.end_sample - recorded.onset_sample) * 1.15)
            ),
        )
    )
    made, _ = brought_to_lengths(recorded, own, longer)
    assert len(made.phonemes) == len(recorded.phonemes)
    gaps = np.diff([each.start_sample for each in made.phonemes])
    before = np.diff([each.start_sample for each in recorded.phonemes])
    assert np.median(gaps[before > 0] / before[before > 0]) == pytest.approx(1.15, abs=0.05)


def test_languages_have_sounds_that_are_seen(engines: Engines) -> None:
    for voice_id, text in (
        ("es-alba", "Mañana llueve en la bahía."),
        ("ja-mio", "海は静かです。"),
        ("cmn-anqi", "海很平静。"),
    ):
        take = said(engines, voice_id, text)
        seen = list(itertools.chain.from_iterable(visemes_of(each.ipa) for each in take.phonemes))
        assert len(seen) >= 6

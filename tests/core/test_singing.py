"""Tunes, syllables, and where a vowel falls."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.sound.singing import TUNES, TuneNote, as_recorded, sung, syllables_of, typed_tune
from fox_cadence.core.takes import Pause, PhonemeTime, Take, WordTime

SECOND = 48_000
Said = tuple[str, list[tuple[str, float]], float, float]


def take(
    *words: tuple[str, list[tuple[str, float]], float, float], pauses: tuple[tuple[float, float], ...] = ()
) -> Take:
    """A take of words: text, sounds with the second each begins at, from when to when."""
    return Take(
        id="t",
        key="k",
        text=" ".join(word[0] for word in words),
        voice_id="v",
        pace=1.0,
        sound_hash="h",
        sample_count=round(words[-1][3] * SECOND) + 2_400,
        onset_sample=round(words[0][2] * SECOND),
        end_sample=round(words[-1][3] * SECOND),
        words=tuple(
            WordTime(text=text, start_sample=round(a * SECOND), end_sample=round(b * SECOND))
            for text, _, a, b in words
        ),
        phonemes=tuple(
            PhonemeTime(ipa=ipa, start_sample=round(at * SECOND))
            for _, sounds, _, _ in words
            for ipa, at in sounds
        ),
        pauses=tuple(Pause(start_sample=round(a * SECOND), end_sample=round(b * SECOND)) for a, b in pauses),
        loudness_lufs=-20,
    )


TIDE_POOL = take(
    ("Tide", [("t", 0.1), ("ˈa", 0.18), ("ɪ", 0.24), ("d", 0.3)], 0.1, 0.35),
    ("pool", [("p", 0.5), ("ˈuː", 0.58), ("l", 0.75)], 0.5, 0.85),
    ("open", [("ˈoʊ", 0.85), ("p", 1.0), ("ə", 1.05), ("n", 1.12)], 0.85, 1.2),
    pauses=((0.35, 0.5),),
)


def test_each_vowel_is_a_syllable_with_the_consonant_before_it() -> None:
    found = syllables_of(TIDE_POOL)
    assert [round(each.vowel / SECOND, 2) for each in found] == [0.18, 0.58, 0.85, 1.05]
    assert [round(each.start / SECOND, 2) for each in found] == [0.1, 0.5, 0.85, 1.0]
    bare = TIDE_POOL.changed(phonemes=())
    assert len(syllables_of(bare)) == 3


@given(st.sampled_from(TUNES), st.floats(0.25, 1.5))
def test_vowels_fall_on_the_beats_and_nothing_runs_backwards(tune: object, beat_s: float) -> None:
    plan = sung(TIDE_POOL, tune, beat_s)  # type: ignore[arg-type]
    was, now = zip(*plan.moments, strict=True)
    assert list(was) == sorted(set(was))
    assert list(now) == sorted(set(now))
    starts = [start for start, _, _ in plan.notes]
    placed = dict(plan.moments)
    vowels = [each.vowel for each in syllables_of(TIDE_POOL)]
    assert [placed[vowel] for vowel in vowels if vowel in placed] == [
        start for vowel, start in zip(vowels, starts, strict=True) if vowel in placed
    ]
    assert starts[0] == plan.first_vowel
    beats = [note.beats for note in tune.notes]  # type: ignore[attr-defined]
    assert starts[1] - starts[0] == pytest.approx(beats[0] * beat_s * SECOND, abs=1)


def test_typed_notes_are_read_and_what_is_none_is_named() -> None:
    assert typed_tune("c D e:2 f# Bb3 c").notes == (
        TuneNote(0), TuneNote(2), TuneNote(4, 2.0), TuneNote(6), TuneNote(-2), TuneNote(-12),
    )  # fmt: skip
    for wrong, said in (
        ("", "some notes"),
        ("c h", "“h” is no note"),
        ("c:99", "16 beats"),
        ("c:0", "16 beats"),
    ):
        with pytest.raises(ValueError, match=said):
            typed_tune(wrong)


def test_words_go_to_where_a_recording_has_them() -> None:
    recorded = take(("Tide", [], 0.05, 0.5), ("pool", [], 0.9, 1.4), ("open", [], 1.4, 2.0))
    moments = dict(as_recorded(TIDE_POOL, recorded))
    shift = TIDE_POOL.onset_sample - recorded.onset_sample
    for word, other in zip(TIDE_POOL.words, recorded.words, strict=True):
        assert moments[word.start_sample] == other.start_sample + shift
    with pytest.raises(ValueError, match="other words"):
        as_recorded(TIDE_POOL, recorded.changed(words=recorded.words[:2]))

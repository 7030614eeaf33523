"""Mouths: the shapes of sounds, how they run into one another, where they are shut."""

import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.figures.mouth import LEAD_S, Pull, mouths, pulls_of, spread
from fox_cadence.core.figures.visemes import SHAPES, visemes_of
from fox_cadence.core.takes import Pause, PhonemeTime, Take, WordTime

SAMPLES = 48_000


def numbers(ipa: str) -> list[int]:
    return [each.number for each in visemes_of(ipa)]


@pytest.mark.parametrize(
    ("ipa", "wanted"),
    [
        ("p", [1]), ("v", [2]), ("ð", [3]), ("t", [4]), ("ŋ", [5]), ("tʃ", [6]), ("z", [7]), ("l", [8]),
        ("ɹ", [9]), ("ɑː", [10]), ("ɛ", [11]), ("ɪ", [12]), ("ɒ", [13]), ("ʊ", [14]),
        ("aɪ", [10, 12]), ("oʊ", [13, 14]), ("ˈeɪ", [11, 12]), ("tɕh", [6]), ("ã", [10]), ("o̞", [13]),
        ("ː", []), ("h", []), ("", []), ("☃", []),
    ],
)  # fmt: skip
def test_sounds_have_the_shapes_of_the_table(ipa: str, wanted: list[int]) -> None:
    assert numbers(ipa) == wanted


def take(phonemes: list[tuple[str, float]], end_s: float, pauses: list[tuple[float, float]] = []) -> Take:  # noqa: B006
    """A take whose sounds begin at these seconds; it begins after a tenth."""
    end = round(end_s * SAMPLES)
    return Take(
        id="t", key="k", text="x", voice_id="orla", pace=1, sound_hash="0" * 64, sample_count=end + 480,
        onset_sample=4800, end_sample=end, words=(WordTime(text="x", start_sample=4800, end_sample=end),),
        loudness_lufs=-20,
        pauses=tuple(
            Pause(start_sample=round(a * SAMPLES), end_sample=round(b * SAMPLES)) for a, b in pauses
        ),
        phonemes=tuple(PhonemeTime(ipa=ipa, start_sample=round(at * SAMPLES)) for ipa, at in phonemes),
    )  # fmt: skip


def jaw(spoken: Take, moments: np.ndarray) -> np.ndarray:
    return mouths(pulls_of(spoken, spoken.phonemes), moments)[:, 0]


@pytest.mark.parametrize("rate", [6, 12, 18])
@pytest.mark.parametrize("lips", ["p", "b", "m"])
def test_lips_meet_at_every_sound_that_needs_it_however_fast_somebody_speaks(rate: int, lips: str) -> None:
    sounds = [
        (lips if n % 2 else vowel, 0.1 + n / rate)
        for n, vowel in enumerate(itertools.islice("aeɒuai" * 9, 24))
    ]
    spoken = take(sounds, 0.1 + len(sounds) / rate)
    closed = np.array([at + 0.5 / rate - LEAD_S for sound, at in sounds if sound == lips])
    open_ = np.array([at + 0.5 / rate - LEAD_S for sound, at in sounds if sound == "a"])
    assert jaw(spoken, closed).max() < 0.15
    assert jaw(spoken, open_).min() > 0.3


def test_a_mouth_moves_without_jumps() -> None:
    sounds = [("a" if n % 2 else "m", 0.1 + n * 0.09) for n in range(30)]
    frames = np.arange(90) / 30
    assert np.abs(np.diff(jaw(take(sounds, 2.9), frames))).max() < 0.6


def test_a_mouth_is_shut_before_in_pauses_and_after() -> None:
    sounds = [("a", 0.1), ("n", 0.3), ("a", 0.4), ("a", 1.2), ("a", 1.4)]
    spoken = take(sounds, 1.6, [(0.6, 1.2)])
    assert jaw(spoken, np.array([-0.3, 0.86, 2.0])).max() < 0.05
    assert jaw(spoken, np.array([0.18, 0.45, 1.3])).min() > 0.6


def test_a_sound_that_is_not_known_leaves_the_one_before_it() -> None:
    plain, marked = (
        take([("a", 0.1), ("i", 0.5)], 0.9),
        take([("a", 0.1), ("ː", 0.3), ("i", 0.5)], 0.9),
    )
    moments = np.linspace(0, 1, 30)
    assert np.array_equal(jaw(plain, moments), jaw(marked, moments))


pulls = st.lists(
    st.builds(
        lambda viseme, at, weight: Pull(viseme, at, at, weight),
        st.integers(0, 14), st.floats(0, 5), st.floats(0.1, 5),
    ),
    min_size=1, max_size=30,
)  # fmt: skip


@given(pulls, st.lists(st.floats(-2, 9), min_size=1, max_size=20))
def test_every_mixture_of_shapes_is_a_mouth(made: list[Pull], moments: list[float]) -> None:
    found = mouths(made, np.array(moments))
    assert np.all(np.isfinite(found))
    shapes = np.array(SHAPES)
    assert np.all(found >= shapes.min(axis=0) - 1e-9)
    assert np.all(found <= shapes.max(axis=0) + 1e-9)
    # teeth and tongue stay inside the opening: nothing is cut off where they are drawn
    assert np.all(found[:, 3] + found[:, 4] <= 0.82 * found[:, 0] + 1e-9)


def test_nothing_known_is_a_mouth_at_rest() -> None:
    assert not mouths([], np.array([0.0, 1.0])).any()


def test_words_without_times_of_their_sounds_share_theirs_evenly() -> None:
    found = spread([(100, 400), (500, 600)], [["m", "ˈa", "ː", "i"], ["☃"]])
    assert [(each.ipa, each.start_sample) for each in found] == [("m", 100), ("ˈa", 200), ("i", 300)]

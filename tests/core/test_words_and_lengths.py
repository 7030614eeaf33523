import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.length_model import LETTERS, rests_of
from fox_cadence.core.phoneme_model import FEATURES, VoiceModel, features
from fox_cadence.core.script_layout import split_long_text
from fox_cadence.core.words import pieces_of, share_words, words_of


@given(st.text(max_size=200))
def test_words_are_the_runs_of_text_where_they_stand(text: str) -> None:
    words = words_of(text)
    assert all(text[word.start : word.end_exclusive] == word.text for word in words)
    assert all(a.end_exclusive <= b.start for a, b in itertools.pairwise(words))


@given(st.lists(st.integers(0, 20), min_size=1, max_size=6), st.integers(0, 60))
def test_sharing_covers_every_word_once(weights: list[int], count: int) -> None:
    ranges = share_words(weights, count)
    assert ranges[0][0] == 0
    assert ranges[-1][1] == count
    assert all(a[1] == b[0] for a, b in itertools.pairwise(ranges))
    if sum(weights) == count:
        assert [end - start for start, end in ranges] == weights


@given(st.lists(st.sampled_from(["tide", "pool,", "rests.", "a", "anemones;", "5"]), min_size=1, max_size=80))
def test_a_long_text_is_cut_without_losing_a_word(words: list[str]) -> None:
    text = " ".join(words)
    pieces = split_long_text(text)
    assert " ".join(pieces).split() == words


def test_a_long_text_is_cut_at_sentences() -> None:
    sentence = "The sea leaves the bay twice a day and forgets a little each time it goes."
    assert split_long_text(f"{sentence} {sentence}") == [sentence, sentence]


@given(st.sampled_from(["the tide turns", "Slowly. It rests, then goes.", "5 km of sand"]), st.floats(0.5, 2))
def test_more_words_last_longer_and_a_faster_pace_shorter(text: str, pace: float) -> None:
    length = LETTERS.estimate(text, "orla", pace).ticks
    assert LETTERS.estimate(text + " once more", "orla", pace).ticks > length
    assert LETTERS.estimate(text, "orla", pace * 1.1).ticks < length


@pytest.mark.parametrize(
    ("text", "rests"),
    [
        ("Slowly. It rests, then goes.", {0: ".", 2: ","}),
        ("“Stay,” she said – and stayed.", {0: ",", 2: "–"}),
        ("no rest at all", {}),
        ("", {}),
    ],
)
def test_rests_stand_after_the_words_their_signs_follow(text: str, rests: dict[int, str]) -> None:
    assert rests_of(text) == rests


def shares(noise: float, chance: np.random.Generator) -> VoiceModel:
    model = VoiceModel(voice_id="orla", language="en-GB")
    wanted = model.shares() * 1.2
    for _ in range(120):
        counted = chance.integers(0, 8, len(FEATURES)).astype(float)
        seconds = max(0.3, float(wanted @ counted)) * (1 + noise * chance.normal())
        model = model.learnt(tuple(counted), seconds)
    return model


def test_a_voice_that_is_slower_than_its_language_is_learnt_and_its_error_known() -> None:
    model = shares(0.02, np.random.default_rng(3))
    assert abs(np.mean(model.errors[:3])) > 0.1
    assert abs(np.mean(model.errors[-20:])) < 0.02
    assert model.error < 0.05


def test_phonemes_are_counted_by_their_kind() -> None:
    counted = dict(
        zip(FEATURES, features(["t_w_ˈaɪ_s ɐ d_ˈeɪ", "ð_ə s_ˈiː"], "Twice a day, the sea."), strict=True)
    )
    assert counted["word"] == 5
    assert counted["inner clause"] == 1
    assert counted["diphthong"] == 2
    assert counted["long vowel"] == 1
    assert counted["stress"] == 3
    assert counted["clause pause"] == 1


UNSPACED = {
    "海は、マロウ湾から引いていく。": ["海は、", "マロウ湾から", "引いていく。"],
    "「潮」が満ちる！": ["「潮」が", "満ちる！"],
    "海水每天离开。": ["海水", "每", "天", "离开。"],
    "Foxは 3月に": ["Foxは", "3月に"],
}


@pytest.mark.parametrize("text", UNSPACED)
def test_what_is_written_without_spaces_is_divided_into_words(text: str) -> None:
    assert [word.text for word in words_of(text)] == UNSPACED[text]
    assert "".join(pieces_of(text)) == text


@given(st.lists(st.text("海は湾、引く。水天 aを「」", min_size=1, max_size=12), min_size=1, max_size=4))
def test_captions_one_after_the_other_have_the_words_they_have_alone(texts: list[str]) -> None:
    joined = " ".join(texts)
    assert [word.text for word in words_of(joined)] == [
        word.text for text in texts for word in words_of(text)
    ]


def test_a_long_text_without_spaces_is_cut_at_its_stops() -> None:
    sentence = "海は一日に二度、湾から引いていく。忘れたものは、潮だまりに残る。"
    assert split_long_text(sentence, 20) == [
        "海は一日に二度、湾から引いていく。",
        "忘れたものは、潮だまりに残る。",
    ]

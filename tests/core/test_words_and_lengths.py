import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.arrange import split_long_text
from fox_cadence.core.length_model import estimate_ticks
from fox_cadence.core.words import share_words, words_of


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
    length = sum(estimate_ticks(text, "en", pace))
    assert sum(estimate_ticks(text + " once more", "en", pace)) > length
    assert sum(estimate_ticks(text, "en", pace * 1.1)) < length


def test_a_pace_of_nothing_is_refused() -> None:
    with pytest.raises(ValueError, match="more than 0"):
        estimate_ticks("tide", "en", 0)

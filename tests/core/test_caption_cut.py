"""Cutting captions at phrases, and saying it in fewer words."""

import itertools

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from fox_cadence.core.caption_cut import _EVENNESS, _HURRIED, Limits, break_cost, cut_places, wraps
from fox_cadence.core.edits import CutCaption, SetHouse, apply_all
from fox_cadence.core.fewer_words import shortened, shortenings
from fox_cadence.core.words import words_of
from tests.builders import simple_project

TEXT = st.lists(
    st.sampled_from(["tide", "pool,", "and", "the", "rests.", "5", "km", "anemones", "because", "a"]),
    min_size=1,
    max_size=14,
)
SMALL = Limits(2, 14, 6)


@given(TEXT)
def test_captions_hold_every_word_once_within_the_limits(words: list[str]) -> None:
    ends = cut_places(words, SMALL, "en")
    assert ends == sorted(set(ends))
    assert ends[-1] == len(words)
    for start, end in itertools.pairwise([0, *ends]):
        assert end - start == 1 or wraps(words[start:end], SMALL.lines, SMALL.characters)


@given(TEXT)
def test_the_cut_is_the_cheapest_of_all(words: list[str]) -> None:
    """Against every way to cut: the dynamic program must not miss one."""
    assume(not wraps(words, SMALL.lines, SMALL.characters))
    sizes = [len(word) + 1 for word in words]
    ideal = sum(sizes) / max(2, -(-sum(sizes) // (SMALL.lines * SMALL.characters)))

    def cost(ends: tuple[int, ...]) -> float:
        total = 0.0
        for start, end in itertools.pairwise((0, *ends)):
            if end - start > 1 and not wraps(words[start:end], SMALL.lines, SMALL.characters):
                return float("inf")
            size = sum(sizes[start:end])
            total += _EVENNESS * (size / ideal - 1) ** 2 + (_HURRIED if size < SMALL.fewest else 0)
            total += break_cost(words[end - 1], words[end], "en") if end < len(words) else 0
        return total

    inner = range(1, len(words))
    ways = (
        (*chosen, len(words))
        for count in range(len(words))
        for chosen in itertools.combinations(inner, count)
    )
    best = min(cost(way) for way in ways)
    if best < float("inf"):
        assert cost(tuple(cut_places(words, SMALL, "en"))) == pytest.approx(best)


@pytest.mark.parametrize(
    ("before", "after", "language"),
    [("5", "km", "en"), ("1,200", "metres", "en"), ("7", "Meter", "de")],
)
def test_a_number_is_never_cut_from_its_unit(before: str, after: str, language: str) -> None:
    assert break_cost(before, after, language) == float("inf")


def test_phrases_are_cut_before_words_are() -> None:
    ends = ["rests.", "rests,", "rests"]
    costs = [break_cost(word, "The", "en") for word in ends] + [break_cost("the", "tide", "en")]
    assert costs == sorted(costs)
    assert break_cost("slowly", "and", "en") < break_cost("slowly", "tide", "en")


def test_a_cut_caption_keeps_its_line_and_its_words() -> None:
    text = "The hermit crab tries on a shell, then another, "
    text += "and then it goes back to the very first one it tried on."
    project = simple_project([text, "Next."], 6.0)
    cut, label = apply_all(project, [SetHouse(caption_line_characters=20), CutCaption(caption_id="c1")])
    line = cut.lines[0]
    shown = [cut.caption(caption_id) for caption_id in line.caption_ids]
    assert "cut into" in label
    assert len(shown) >= 3
    assert " ".join(caption.text for caption in shown) == text
    assert [word.text for caption in shown for word in words_of(caption.text)] == [
        w.text for w in words_of(text)
    ]
    for before, after in itertools.pairwise(shown):
        assert before.out_frames <= after.in_frames


@pytest.mark.parametrize(
    ("text", "shorter"),
    [
        ("It has all the time in the world, until the tide.", "It has all the time, until the tide."),
        ("It is really very very cold.", "It's very cold."),
        ("The pool, you know, is deep. Of course, it is.", "The pool is deep. It is."),
        ("You know that the pool is deep.", "You know that the pool is deep."),
        ("One hundred and twenty metres, in order to rest.", "One hundred twenty metres, to rest."),
        ("Slowly.", "Slowly."),
    ],
)
def test_the_rules_say_it_in_fewer_words(text: str, shorter: str) -> None:
    assert shortened(text, shortenings(text, "en")) == shorter


@given(st.text(alphabet="abc ,.!it's really very of course\n", max_size=80))
def test_shortenings_never_overlap_and_never_lengthen(text: str) -> None:
    found = shortenings(text, "en")
    for one, other in itertools.combinations(found, 2):
        assert one.end <= other.start or other.end <= one.start
    assert len(words_of(shortened(text, found))) <= len(words_of(text))


@pytest.mark.parametrize("language", ["es", "fr", "de", "pl"])
def test_other_languages_have_their_own_rules_or_none(language: str) -> None:
    texts = {
        "es": "Es realmente muy tarde.",
        "fr": "C'est vraiment tard.",
        "de": "Es ist wirklich spät.",
        "pl": "Late.",
    }
    found = shortenings(texts[language], language)
    assert bool(found) is (language != "pl")

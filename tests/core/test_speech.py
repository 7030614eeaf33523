import itertools

from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.marks import PauseMark, SyncPoint, carried
from fox_cadence.core.project import SpanLength
from fox_cadence.core.speech import LineSpeech, position, shared_pauses, speech_of, word_times

SHORTEST = 56_448_000


@st.composite
def spoken(draw: st.DrawFn) -> tuple[list[tuple[int, int]], list[tuple[int, int, bool]], int, list[int]]:
    """Words with rests between some of them, and words at which new spans begin."""
    words: list[tuple[int, int]] = []
    rests: list[tuple[int, int, bool]] = []
    at = 0
    count = draw(st.integers(1, 8))
    for n in range(count):
        length = draw(st.integers(10, 400)) * 1_000_000
        words.append((at, at + length))
        at += length
        if n + 1 < count and draw(st.integers(0, 2)) == 0:
            rest = draw(st.integers(1, 300)) * 1_000_000
            rests.append((at, at + rest, draw(st.booleans())))
            at += rest
    cuts = draw(st.lists(st.integers(1, max(1, count - 1)), max_size=2)) if count > 1 else []
    return words, rests, at, cuts


def made(parts: tuple[list[tuple[int, int]], list[tuple[int, int, bool]], int, list[int]]) -> LineSpeech:
    return speech_of(*parts)


@given(spoken())
def test_at_their_natural_lengths_words_lie_where_they_were(
    parts: tuple[list[tuple[int, int]], list[tuple[int, int, bool]], int, list[int]],
) -> None:
    speech = made(parts)
    assert sum(length.ticks for length in speech.natural) == parts[2]
    assert list(word_times(speech, speech.natural, 7, SHORTEST)) == [(a + 7, b + 7) for a, b in parts[0]]


@given(spoken(), st.floats(0.8, 1.2), st.floats(0, 1))
def test_at_other_lengths_words_keep_their_order_and_fill_the_line(
    parts: tuple[list[tuple[int, int]], list[tuple[int, int, bool]], int, list[int]],
    pace: float,
    closed: float,
) -> None:
    speech = made(parts)
    lengths = [
        SpanLength(
            voiced_ticks=round(length.voiced_ticks * pace),
            pause_ticks=round(length.pause_ticks * closed),
            written_ticks=length.written_ticks,
        )
        for length in speech.natural
    ]
    times = word_times(speech, lengths, 0, SHORTEST)
    edges = [edge for word in times for edge in word]
    assert edges == sorted(edges)
    assert abs(edges[-1] - sum(length.ticks for length in lengths)) <= len(times)


@given(spoken())
def test_a_word_s_place_is_linear_in_the_lengths_of_its_span(
    parts: tuple[list[tuple[int, int]], list[tuple[int, int, bool]], int, list[int]],
) -> None:
    speech = made(parts)
    starts = [0, *itertools.accumulate(length.ticks for length in speech.natural)]
    for word, (begin, end) in enumerate(parts[0]):
        for is_end, at in ((False, begin), (True, end)):
            place = position(speech, word, is_end)
            length = speech.natural[place.span]
            found = (
                starts[place.span]
                + place.voiced_share * length.voiced_ticks
                + place.pause_share * length.pause_ticks
                + place.written_ticks
            )
            assert abs(found - at) < 10


@given(st.lists(st.integers(1, 600), min_size=1, max_size=6), st.floats(0, 1))
def test_pauses_share_a_total_and_none_falls_under_the_shortest_before_all_do(
    natural: list[int], share: float
) -> None:
    ticks = [pause * 1_000_000 for pause in natural]
    total = round(sum(ticks) * share)
    found = shared_pauses(ticks, total, SHORTEST)
    assert sum(found) == total
    floors = [min(pause, SHORTEST) for pause in ticks]
    if total >= sum(floors):
        assert all(a >= b - 1 for a, b in zip(found, floors, strict=True))
        assert all(a <= b for a, b in zip(found, ticks, strict=True))


def test_marks_go_with_their_words() -> None:
    marks = (
        PauseMark(after_word=1, ticks=5),
        SyncPoint(word=3, shot_id="s1"),
        PauseMark(after_word=2, ticks=9),
    )
    before = ["the", "tide", "turns", "slowly", "today"]
    after = ["Now", "the", "tide,", "it", "turns", "so", "slowly"]
    kept = carried(marks, before, after)
    assert [
        (type(mark).__name__, getattr(mark, "after_word", getattr(mark, "word", None))) for mark in kept
    ] == [
        ("PauseMark", 2),
        ("SyncPoint", 6),
        ("PauseMark", 4),
    ]
    assert carried(marks, before, before) == marks
    assert carried(marks, before, []) == ()

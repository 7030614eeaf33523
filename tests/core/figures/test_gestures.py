"""Blinks, nods and looks: the same each time, and in their place."""

import numpy as np

from fox_cadence.core.figures.gestures import blinks, looks, nods, stressed_words
from fox_cadence.core.marks import Emphasis
from fox_cadence.core.ticks import TICKS_PER_SECOND
from tests.builders import simple_project, take_of
from tests.core.figures.speaking import spoken

MOMENTS = np.arange(3_000) / 30


def test_eyes_close_now_and_then_never_for_long_and_the_same_each_time() -> None:
    closed = blinks("g1", MOMENTS, 100.0)
    assert np.array_equal(closed, blinks("g1", MOMENTS, 100.0))
    assert not np.array_equal(closed, blinks("g2", MOMENTS, 100.0))
    begins = np.flatnonzero(np.diff((closed > 0.5).astype(int)) == 1)
    assert 15 < len(begins) < 45
    gaps = np.diff(begins)
    assert gaps.std() > 15  # no metronome
    assert (closed > 0.5).mean() < 0.08
    later = blinks("g1", MOMENTS[900:930], 100.0)
    assert np.array_equal(later, closed[900:930])  # whichever part is asked for


def test_a_figure_looks_about_only_while_it_is_silent() -> None:
    speaking = [(10.0, 30.0), (50.0, 60.0)]
    aside = looks("g1", MOMENTS, 100.0, speaking)
    assert np.abs(aside).max() == 1
    assert aside.min() == -1
    for begin, end in speaking:
        assert not aside[(begin <= MOMENTS) & (end >= MOMENTS)].any()


def test_a_head_bows_at_the_words_the_editor_stressed_and_else_at_the_last_long_one() -> None:
    project = simple_project(["the tide pool rests under weed", "a crab slowly"])
    marked = project.lines[0].changed(marks=(Emphasis(first_word=1, end_word=2, level="strong"),))
    project = project.changed(lines=(marked, project.lines[1]))
    takes = {n: take_of(project, line, 2.0) for n, line in enumerate(project.lines)}
    timeline = spoken(project, list(takes.values()))
    first, second = timeline.lines
    assert stressed_words(first) == {1: 1.0}
    assert stressed_words(second) == {2: 0.45}
    bowed = nods(timeline.lines, 1 / TICKS_PER_SECOND, MOMENTS)
    deepest = MOMENTS[int(np.argmax(bowed))]
    stressed = first.word_times_ticks()[1][0] / TICKS_PER_SECOND
    assert abs(deepest - stressed - 0.05) < 0.05
    assert bowed.max() > 0.9

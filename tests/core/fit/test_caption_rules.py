"""Captions that lead hold their words, to the end of the last of them and with the pauses written between
them."""

from fox_cadence.core.fit.plan import planned_words
from fox_cadence.core.fit.proposal import propose
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.marks import PauseMark
from fox_cadence.core.project import Caption, Line, Project
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.timeline import Timeline
from fox_cadence.core.timeline_builder import build_timeline
from tests.builders import simple_project, take_of


def two_captions(out_frames: int, marks: tuple[PauseMark, ...] = ()) -> tuple[Timeline, Project]:
    """A line of four words on one shot: its first two are on a pinned caption, the others on one that follows
    them."""
    project = simple_project(["one two"], 8.0)
    first = project.captions[0].changed(in_frames=0, out_frames=out_frames, pinned=True)
    second = Caption(id="c2", shot_id="s1", in_frames=out_frames, out_frames=240, text="three four")
    line = Line(
        id="l1", role_id="r1", first_shot_id="s1", last_shot_id="s1", caption_ids=("c1", "c2"), marks=marks,
        take_id="take-l1",
    )  # fmt: skip
    project = project.changed(captions=(first, second), lines=(line,))
    take = take_of(project, line, 4.0)
    return build_timeline(project, {take.id: take}), project


def first_words_end_s(timeline: Timeline) -> float:
    proposal = propose(timeline)
    assert proposal.status is Status.SOLVED
    return planned_words(timeline, proposal.lines)["l1"][1][1] / seconds_to_ticks(1)


def test_the_last_word_of_a_pinned_caption_ends_before_it_goes_out() -> None:
    """Four seconds of even words: the second ends at 2.1 s, the caption goes at 2 s, so the words are said
    faster."""
    timeline, _ = two_captions(60)
    natural = timeline.lines[0].word_times_ticks()[1][1] / seconds_to_ticks(1)
    assert natural > 2.05
    assert first_words_end_s(timeline) <= 2.0 + 1e-3


def test_a_pause_written_among_the_words_of_a_pinned_caption_counts() -> None:
    pause = PauseMark(after_word=0, ticks=seconds_to_ticks(0.3))
    timeline, _ = two_captions(68, (pause,))
    natural = timeline.lines[0].word_times_ticks()[1][1] / seconds_to_ticks(1)
    assert natural > 2.3
    assert first_words_end_s(timeline) <= 68 / 30 + 1e-3

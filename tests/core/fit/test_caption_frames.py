"""Caption times that follow the words: rules that hold for any words on any shots."""

import itertools

from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.fit.captions import SpokenCaption, caption_frames, needed_frames
from fox_cadence.core.project import Project
from fox_cadence.core.ticks import FRAME_RATES, FrameRate, seconds_to_ticks
from fox_cadence.core.timeline import shot_spans
from tests.builders import simple_project


def framed(
    project: Project, words: list[tuple[float, float] | None], lanes: list[int] | None = None
) -> list[tuple[int, int]]:
    """The frames of the captions of a project whose words sound from and until these seconds."""
    spans = {span.shot.id: span for span in shot_spans(project)}
    spoken = [
        SpokenCaption(caption, (seconds_to_ticks(each[0]), seconds_to_ticks(each[1])) if each else None, lane)
        for caption, each, lane in zip(project.captions, words, lanes or [0] * len(words), strict=True)
    ]
    found = caption_frames(project, spoken, spans, spans)
    return [found[caption.id] for caption in project.captions]


@st.composite
def spoken_pieces(draw: st.DrawFn) -> tuple[Project, list[tuple[float, float] | None]]:
    count = draw(st.integers(1, 6))
    seconds = draw(st.floats(1.0, 5.0))
    rate = draw(st.sampled_from(list(FRAME_RATES.values())))
    texts = [" ".join(["word"] * draw(st.integers(1, 8))) for _ in range(count)]
    project = simple_project(texts, seconds, rate)
    words: list[tuple[float, float] | None] = []
    for n in range(count):
        begin = n * seconds + draw(st.floats(0.1, seconds * 0.4))
        words.append((begin, begin + draw(st.floats(0.1, seconds * 0.55))))
    return project, words


@given(spoken_pieces())
def test_every_word_is_shown_and_no_two_captions_overlap(
    made: tuple[Project, list[tuple[float, float] | None]],
) -> None:
    project, words = made
    times = framed(project, words)
    for (start, end), each in zip(times, words, strict=True):
        assert each is not None
        assert start * project.rate.frame_ticks <= seconds_to_ticks(each[0])
        assert end * project.rate.frame_ticks >= seconds_to_ticks(each[1])
    for (_, end), (start, _) in itertools.pairwise(times):
        assert start >= end
        assert start - end != 1  # a gap of one frame is a flash


@given(
    st.sampled_from(list(FRAME_RATES.values())),
    st.lists(st.tuples(st.floats(0.005, 0.2), st.integers(1, 8)), min_size=2, max_size=6),
)
def test_captions_whose_words_begin_within_one_frame_all_show_their_first_word(
    rate: FrameRate, followers: list[tuple[float, int]]
) -> None:
    project = simple_project([" ".join(["word"] * count) for _, count in followers], 1.5, rate)
    begins = [1.0 + sum(step for step, _ in followers[:n]) for n in range(len(followers))]
    times = framed(project, [(begin, begin + 0.005) for begin in begins])
    for (start, end), begin in zip(times, begins, strict=True):
        assert start * rate.frame_ticks <= seconds_to_ticks(begin)
        assert end > start
    for (_, end), (start, _) in itertools.pairwise(times):
        assert start >= end


def test_a_near_cut_does_not_take_a_caption_away_before_it_can_be_read() -> None:
    project = simple_project(["tide tide tide tide tide slowly,", "pool"], 1.5, FRAME_RATES["23.976"])
    project = project.changed(captions=project.captions[:1], lines=project.lines[:1])
    needed, cut = needed_frames(project, project.captions[0].text), shot_spans(project)[0].end_frame
    assert cut < needed < cut + project.rate.frames_floor(project.house.caption_snap_ticks)
    assert framed(project, [(0.1, 1.1)]) == [(0, needed)]


@given(spoken_pieces())
def test_a_caption_with_room_can_be_read(made: tuple[Project, list[tuple[float, float] | None]]) -> None:
    project, words = made
    times = framed(project, words)
    total = sum(shot.length_frames for shot in project.shots)
    for n, (start, end) in enumerate(times):
        next_start = times[n + 1][0] if n + 1 < len(times) else total
        if next_start - end >= 2:
            assert end - start >= needed_frames(project, project.captions[n].text)


def test_a_caption_comes_with_its_words_and_goes_after_them() -> None:
    project = simple_project(["one two"], 4.0)
    assert framed(project, [(1.0, 2.0)]) == [(27, 69)]  # 0.1 s before, 0.3 s after, at 30 frames a second


def test_an_edge_near_a_cut_goes_to_the_cut_but_never_over_its_words() -> None:
    project = simple_project(["one two", "three"], 4.0)
    assert framed(project, [(1.0, 3.6), None])[0] == (27, 120)  # 3.9 s is nearer to the cut than the snap
    assert framed(project, [(1.0, 4.1), (4.8, 5.2)])[0][1] >= 123  # its last word sounds over the cut


def test_a_short_caption_stays_until_it_can_be_read() -> None:
    project = simple_project(["an anemone closes like a fist when a shadow comes"], 6.0)
    ((start, end),) = framed(project, [(1.0, 1.4)])
    assert end - start == needed_frames(project, project.captions[0].text) == 74
    assert start == 27


def test_one_that_nobody_says_keeps_its_place_inside_its_shot() -> None:
    project = simple_project(["one", "two"], 2.0)
    long = project.captions[1].changed(in_frames=10, out_frames=400)
    project = project.changed(captions=(project.captions[0], long))
    assert framed(project, [(0.2, 0.9), None])[1] == (70, 120)


def test_a_pinned_caption_keeps_its_frames_whatever_its_words_do() -> None:
    project = simple_project(["one", "two"], 2.0)
    pinned = project.captions[0].changed(pinned=True, in_frames=5, out_frames=31)
    project = project.changed(captions=(pinned, project.captions[1]))
    assert framed(project, [(0.9, 1.7), (2.4, 3.0)])[0] == (5, 31)


def test_captions_of_two_lanes_may_be_shown_together() -> None:
    project = simple_project(["one", "two"], 4.0)
    first, second = framed(project, [(1.0, 3.0), (2.0, 2.5)], [0, 1])
    assert second[0] < first[1]
    first, second = framed(project, [(1.0, 3.0), (2.0, 2.5)], [0, 0])
    assert second[0] >= first[1]
